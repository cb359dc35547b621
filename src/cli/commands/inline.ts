import { dirname, resolve } from 'node:path';
import { attribute, elementsOf, type Doc, type ElementNode } from '../../core/html/tree.js';
import { exitCodeOf, finding, type Finding, type Report } from '../../core/findings/finding.js';
import { parseHtml } from '../../core/html/parse.js';
import type { TagDelimiters } from '../../core/html/tags.js';
import { inlineDocument } from '../../core/library/inline.js';
import { isStyleLink, type SheetFile } from '../../core/css/cascade/sheets.js';
import { knownDelimiters } from '../../project/config/delimiters.js';
import { readTextFile } from '../../project/files/text-file.js';
import { planOutputs, readInputFile, writeOutputs } from '../output/file-outputs.js';
import type { Io } from '../io/io.js';
import { printFindings } from '../output/print-findings.js';
import { command, flag, oneOfOr, text, texts, words, type CommonOptions, type Told } from '../io/command.js';
import { spanAt } from '../../core/text/span.js';

const options = {
  out: text('--out <path>', 'the output file, or the folder for several (default: standard output)'),
  css: texts('--css <file...>', 'style sheets to add before those of the document'),
  keepHead: flag('--keep-head', 'leave in the head what was inlined, too'),
  unused: oneOfOr(
    'keep',
    ['keep', 'drop'],
    '--unused <what>',
    'what becomes of rules, fonts, keyframes and custom properties in the head that nothing uses',
  ),
  dialect: text('--dialect <name>', 'the dialect of the template tags in the file (default: all that are known)'),
};

type InlineOptions = Told<typeof options> & CommonOptions & { readonly files: readonly string[] };

/** `inline`. */
export const inline = command({
  name: 'inline',
  description:
    'Moves what style sheets say into style attributes, in any HTML file. Every byte that has no part in that stays as it is.',
  arguments: { files: words('<file.html...>', 'HTML files; - reads standard input') },
  options,
  examples: [
    'inscriba inline messages/may-newsletter.html --out inlined.html',
    'inscriba inline exported.html --unused drop > inlined.html',
  ],
  run,
});

async function run(options: InlineOptions, io: Io): Promise<number> {
  const { plan, findings: wrong } = await planOutputs(options.files, options.out, io, (name) => name);
  const { delimiters, findings: unknown } = await knownDelimiters(io.folder, options.dialect);
  const findings: Finding[] = [...wrong, ...unknown];
  const report = (item: Finding): unknown => findings.push(item);
  const added = await readAdded(options.css, io, report);
  if (findings.length > 0) return finish(findings, options, io);
  const results: string[] = [];
  for (const input of options.files) {
    const result = await inlineFile(input, { ...options, added, delimiters }, io, report);
    if (result !== null) results.push(result);
  }
  if (results.length === options.files.length) findings.push(...(await writeOutputs(results, plan, io)));
  return finish(findings, options, io);
}

async function readAdded(paths: readonly string[], io: Io, report: Report): Promise<SheetFile[]> {
  const sheets: SheetFile[] = [];
  for (const path of paths) {
    const file = await readTextFile(resolve(io.folder, path), path, report);
    if (file !== null) sheets.push({ source: file.source, base: '' });
  }
  return sheets;
}

/** What all files are inlined with. */
interface InlineTask extends InlineOptions {
  /** Style sheets to add before those of each document. */
  readonly added: readonly SheetFile[];
  readonly delimiters: readonly TagDelimiters[];
}

async function inlineFile(
  input: string,
  { added, delimiters, keepHead, unused }: InlineTask,
  io: Io,
  report: Report,
): Promise<string | null> {
  const file = await readInputFile(input, io, report);
  if (file === null) return null;
  const { doc } = parseHtml(file.source, delimiters);
  const folder = input === '-' ? io.folder : dirname(resolve(io.folder, input));
  const linked = await readLinked(doc, folder, report);
  const sheet = (element: ElementNode): SheetFile | null => linked.get(element) ?? null;
  const text = inlineDocument(doc, { added, linked: sheet, keepHead, unused, delimiters }, report);
  return file.hasByteOrderMark ? `\ufeff${text}` : text;
}

/** The linked style sheets that are files here; others stay linked, with a finding. */
async function readLinked(doc: Doc, folder: string, report: Report): Promise<Map<ElementNode, SheetFile>> {
  const sheets = new Map<ElementNode, SheetFile>();
  for (const element of elementsOf(doc.root)) {
    const path = isStyleLink(element) ? (attribute(element, 'href') ?? '') : '';
    if (path === '') continue;
    const place = { source: doc.source, span: element.attributes.get('href')?.span ?? spanAt(0, 0) };
    if (/^(?:[a-z][a-z\d+.-]*:|\/\/)/i.test(path)) {
      report(finding('style-sheet-remote', place, { path }));
      continue;
    }
    const full = resolve(folder, path.replace(/[?#].*$/, ''));
    const file = await readTextFile(full, full, (problem) =>
      report(problem.code === 'file-missing' ? finding('style-sheet-missing', place, { path }) : problem),
    );
    if (file !== null) sheets.set(element, { source: file.source, base: path.replace(/[^/]*$/, '') });
  }
  return sheets;
}

function finish(findings: readonly Finding[], options: InlineOptions, io: Io): number {
  printFindings(findings, io, options.color);
  return exitCodeOf(findings);
}
