import { checkBlocks, withDeclaredFallbacks } from '../../core/dialects/read/read-neutral.js';
import { tagsAsWritten } from '../../core/dialects/write/tag-texts.js';
import { tagsInDialect } from '../../core/dialects/write/write-tags.js';
import type { MarkupFile } from '../../core/editor/markup-file.js';
import { reasonOf, type Finding } from '../../core/findings/finding.js';
import { loadConfig, type Config } from '../config/config.js';
import { CONFIG_FILE } from '../files/project-folder.js';
import type { ReadBytes } from '../files/read-bytes.js';
import { chooseTargets } from '../visit/choose-messages.js';
import type { Target } from '../visit/target.js';

/** A merge tag as a destination writes it, or why it cannot. */
export interface WrittenTag {
  readonly destination: string;
  readonly dialect: string;
  /** Null where it cannot be said there. */
  readonly text: string | null;
  readonly problem: string;
}

/** The destinations of a project with their dialects, as far as they can be read. */
export interface ReadTargets {
  readonly config: Config;
  readonly targets: readonly Target[];
}

/** Null where the configuration is wrong. */
export async function readTargets(folder: string, read: ReadBytes): Promise<ReadTargets | null> {
  const { config } = await loadConfig(folder, CONFIG_FILE, read);
  if (config === null) return null;
  return { config, targets: await chooseTargets({ config, messages: [], destinations: [], read }, () => undefined) };
}

/** The merge tag of a number, as each destination writes it. */
export function writtenTags({ mergeTags }: MarkupFile, number: number, { config, targets }: ReadTargets): WrittenTag[] {
  const tags = withDeclaredFallbacks(mergeTags, config.fields);
  let isWhole = true;
  checkBlocks(tags, () => {
    isWhole = false;
  });
  if (!isWhole || tags.some(({ kind }) => kind === 'broken')) return [];
  const place = tags[number]?.place;
  return targets.map(({ destination, dialect }) => {
    const problems: Finding[] = [];
    const texts = dialect.verbatim
      ? tagsAsWritten(mergeTags)
      : tagsInDialect(tags, dialect, config.fields, (item) => problems.push(item));
    const problem = problems.find((item) => item.place?.span.start === place?.span.start);
    return {
      destination: destination.name,
      dialect: dialect.title,
      text: problem === undefined ? texts.write(number, 'text') : null,
      problem: problem === undefined ? '' : reasonOf(problem),
    };
  });
}
