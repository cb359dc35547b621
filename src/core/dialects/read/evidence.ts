import { spellingsOf, type Dialect, type TagConstruct } from '../dialect.js';
import { patternReader } from '../pattern.js';
import type { ScannedTag } from './scan-tags.js';

/** What the tags of a text show about its data before any of them is understood. */
export interface Evidence {
  /** Names that are printed anywhere: they hold no lists. */
  readonly printed: ReadonlySet<string>;
  /** Names that stand outside all blocks: the recipient has them. */
  readonly shownNames: ReadonlySet<string>;
  /** Names of blocks that print their item itself. */
  readonly itself: ReadonlySet<string>;
  /** Names that are written as the recipient's within loops. */
  readonly rootNames: ReadonlySet<string>;
  /** All words of all tags. */
  readonly words: ReadonlySet<string>;
  /** Whether a block prints names that stand nowhere else and that nobody declares: a sign that they are its items'. */
  readonly namesOwnFields: (name: string, isDeclared: (word: string) => boolean) => boolean;
}

const NAME = '[^\\s{}#/^&!>]+?';

/** Collects what the tags of a text show. */
export function evidenceOf(scanned: readonly ScannedTag[], dialect: Dialect): Evidence {
  const texts = scanned.filter(({ kind }) => kind === 'tag').map(({ text }) => text);
  const words = new Set(texts.flatMap((text) => text.match(/[\p{L}_][\p{L}\d_]*/gu) ?? []));
  const roots = dialect.paths.field_in_loop.concat(dialect.paths.outer).flatMap((pattern) => {
    const prefix = pattern.slice(0, pattern.indexOf('{'));
    if (prefix === '') return [];
    return texts.flatMap((text) => text.split(prefix).slice(1));
  });
  const rootNames = new Set(roots.flatMap((rest) => /^(?:\.\.\/)*([\p{L}_][\p{L}\d_]*)/u.exec(rest)?.[1] ?? []));
  const blocks = dialect.paths.lookup === 'outward' ? blocksOf(texts, dialect) : new Blocks();
  return {
    printed: blocks.printed,
    shownNames: blocks.shown,
    itself: blocks.itself,
    rootNames,
    words,
    namesOwnFields: (name, isDeclared) =>
      [...(blocks.within.get(name) ?? [])].some((word) => !blocks.shown.has(word) && !isDeclared(word)),
  };
}

/** What stands where, by the names as they are written. */
class Blocks {
  readonly printed = new Set<string>();
  readonly shown = new Set<string>();
  readonly itself = new Set<string>();
  /** By the names of blocks the names that are printed directly within them. */
  readonly within = new Map<string, Set<string>>();
}

function blocksOf(texts: readonly string[], dialect: Dialect): Blocks {
  const blocks = new Blocks();
  const open: string[] = [];
  const named = (construct: TagConstruct, text: string): string | null => {
    for (const { pattern } of spellingsOf(dialect, construct)) {
      const holes = { value: NAME, field: NAME, condition: NAME, list: NAME };
      const found = patternReader(pattern, holes, dialect.delimiters).read(text);
      const name = found?.get('value') ?? found?.get('field') ?? found?.get('condition') ?? found?.get('list');
      if (name !== undefined) return name.text.trim();
    }
    return null;
  };
  for (const text of texts) {
    const block = named('if', text) ?? named('unless', text);
    const printed = block === null ? (named('raw', text) ?? named('field', text)) : null;
    const around = open[open.length - 1];
    const name = block ?? printed;
    if (block !== null) open.push(block);
    else if (named('end_if', text) !== null) open.pop();
    if (name === null) continue;
    const first = name.split('.')[0] ?? '';
    if (around === undefined && first !== '') blocks.shown.add(first);
    if (printed === null) continue;
    if (dialect.paths.plain_item.includes(printed)) {
      if (around !== undefined) blocks.itself.add(around);
      continue;
    }
    blocks.printed.add(printed);
    if (around !== undefined) blocks.within.set(around, (blocks.within.get(around) ?? new Set()).add(first));
  }
  return blocks;
}
