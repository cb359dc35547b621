import { exitCodeOf, type Finding } from '../../core/findings/finding.js';
import { plainText } from '../../core/library/plain-text.js';
import { knownDelimiters } from '../../project/config/delimiters.js';
import { planOutputs, readInputFile, writeOutputs } from '../output/file-outputs.js';
import type { Io } from '../io/io.js';
import { printFindings } from '../output/print-findings.js';
import { command, oneOfOr, text, wholeOr, words, type CommonOptions, type Told } from '../io/command.js';

const options = {
  out: text('--out <path>', 'the output file, or the folder for several (default: standard output)'),
  width: wholeOr(72, [20, 998], '--width <columns>', 'columns that a line may take'),
  links: oneOfOr(
    'notes',
    ['notes', 'beside', 'none'],
    '--links <how>',
    'addresses of links: numbered notes, beside the text, or none',
  ),
};

type TextOptions = Told<typeof options> & CommonOptions & { readonly files: readonly string[] };

/** `text`. */
export const plainTextOf = command({
  name: 'text',
  description:
    'Writes the plain-text version of any HTML file: what a reader sees, in order, with the addresses of its links.',
  arguments: { files: words('<file.html...>', 'HTML files; - reads standard input') },
  options,
  examples: [
    'inscriba text out/members/may-newsletter/index.html',
    'inscriba text --links beside --width 60 exported.html',
  ],
  run,
});

async function run(options: TextOptions, io: Io): Promise<number> {
  const { plan, findings: wrong } = await planOutputs(options.files, options.out, io, (name) =>
    name.replace(/(?:\.html?)?$/i, '.txt'),
  );
  if (wrong.length > 0) return finish(wrong, options, io);
  const { dialects } = await knownDelimiters(io.folder, null);
  const findings: Finding[] = [];
  const results: string[] = [];
  for (const input of options.files) {
    const file = await readInputFile(input, io, (item) => findings.push(item));
    if (file === null) continue;
    results.push(plainText(file.source, { width: options.width, links: options.links, dialects }).value);
  }
  if (findings.length === 0) findings.push(...(await writeOutputs(results, plan, io)));
  return finish(findings, options, io);
}

function finish(findings: readonly Finding[], options: TextOptions, io: Io): number {
  printFindings(findings, io, options.color);
  return exitCodeOf(findings);
}
