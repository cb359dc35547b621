import { textWidth } from '../../project/build/text-width.js';
import { exitCodeOf, type Finding } from '../../core/findings/finding.js';
import { parseHtml } from '../../core/html/parse.js';
import { tagRoles } from '../../core/dialects/tag-role.js';
import { plainText } from '../../core/plaintext/plain-text.js';
import type { LinkStyle } from '../../core/plaintext/options.js';
import { knownDelimiters } from '../../project/config/delimiters.js';
import { planOutputs, readInputFile, writeOutputs } from '../output/file-outputs.js';
import type { Io } from '../io/io.js';
import { printFindings } from '../output/print-findings.js';
import type { CommonOptions } from '../run.js';

export interface TextCommandOptions extends CommonOptions {
  readonly files: readonly string[];
  readonly out: string | null;
  readonly width: number;
  readonly links: LinkStyle;
}

/** `text`. */
export async function textCommand(options: TextCommandOptions, io: Io): Promise<number> {
  const { plan, findings: wrong } = await planOutputs(options.files, options.out, io, (name) =>
    name.replace(/(?:\.html?)?$/i, '.txt'),
  );
  if (wrong.length > 0) return finish(wrong, options, io);
  const { delimiters, dialects } = await knownDelimiters(io.folder, null);
  const tagRole = tagRoles(dialects);
  const findings: Finding[] = [];
  const results: string[] = [];
  for (const input of options.files) {
    const { file, finding } = await readInputFile(input, io);
    if (file === null) {
      findings.push(finding);
      continue;
    }
    const { doc } = parseHtml(file.source, delimiters);
    results.push(plainText(doc, { width: options.width, links: options.links, measure: textWidth, tagRole }));
  }
  if (findings.length === 0) findings.push(...(await writeOutputs(results, plan, io)));
  return finish(findings, options, io);
}

function finish(findings: readonly Finding[], options: TextCommandOptions, io: Io): number {
  printFindings(findings, io, options.color);
  return exitCodeOf(findings);
}
