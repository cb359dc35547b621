import { dirname, relative, resolve, sep } from 'node:path';
import { exitCodeOf, finding, type Finding, type Report } from '../../core/findings/finding.js';
import { parseHtml } from '../../core/html/parse.js';
import type { Doc } from '../../core/html/tree.js';
import { withAddress } from '../../core/pictures/references.js';
import { checkTags } from '../../core/html/structure/tag-check.js';
import { applyEdits } from '../../core/text/apply-edits.js';
import { countPictures } from '../../pictures/count-pictures.js';
import { shownAddress } from '../../web/web-address.js';
import { knownDelimiters } from '../../project/config/delimiters.js';
import { boundsOf, readFinishedPictures, type FinishedPictures } from '../../project/load/finished-pictures.js';
import { planOutputs, readInputFile, writeOutputs, type OutputPlan } from './file-outputs.js';
import type { Io } from '../io/io.js';
import { printFindings } from './print-findings.js';
import { flag, text, words, type CommonOptions, type Told } from '../io/command.js';

/** What all commands on the pictures of finished HTML take. */
export const filesArgument = words('<file.html...>', 'files of finished HTML; - reads standard input');
export const filesOptions = {
  out: text('--out <path>', 'the output file, or the folder for several (default: standard output)'),
  dryRun: flag('--dry-run', 'say what would be done, and write nothing'),
};

/** What all commands on the pictures of finished HTML are told. */
export type ImagesOptions = Told<typeof filesOptions> & CommonOptions & { readonly files: readonly string[] };

/** The largest weight in KB, and the longest time in seconds, that an option takes. */
const MOST_KB = 100_000;
const MOST_SECONDS = 600;

export const kilobytesRange = [1, MOST_KB] as const;
export const secondsRange = [1, MOST_SECONDS] as const;

/** A file of finished HTML, read, with its pictures. */
export interface FinishedFile {
  readonly input: string;
  readonly doc: Doc;
  readonly pictures: FinishedPictures;
  /** The folder of the result, which its paths count from. */
  readonly outFolder: string;
}

/** What a command makes of a file: addresses in place of addresses. Null where nothing may be written. */
export type Readdressed = ReadonlyMap<string, string> | null;

/**
 * Reads files of finished HTML, lets `work` give their pictures other addresses, and writes them: every byte outside of
 * these addresses stays.
 */
export async function readdressFiles(
  options: ImagesOptions,
  io: Io,
  work: (file: FinishedFile, report: Report) => Promise<Readdressed>,
): Promise<number> {
  const { plan, findings } = await planOutputs(options.files, options.out, io, (name) => name);
  const { delimiters } = await knownDelimiters(io.folder, null);
  const finish = (): number => {
    printFindings(findings, io, options.color);
    return exitCodeOf(findings);
  };
  if (findings.length > 0 && !(options.dryRun && onlyNeedsFolder(findings))) return finish();
  if (options.dryRun) findings.length = 0;
  const report = (item: Finding): unknown => findings.push(item);
  const results: string[] = [];
  for (const [index, input] of options.files.entries()) {
    const file = await readInputFile(input, io, report);
    if (file === null) continue;
    const { doc } = parseHtml(file.source, delimiters);
    const bounds = await boundsOf(input === '-' ? null : resolve(io.folder, input), io.folder);
    const pictures = await readFinishedPictures(doc, bounds, report);
    if (pictures.references.length === 0 && !options.quiet) io.err(`${input} names no pictures.\n`);
    const outFolder = outFolderOf(plan, index, io);
    const addresses = await work({ input, doc, pictures, outFolder }, report);
    if (addresses === null) continue;
    const edits = pictures.references.flatMap((reference) => {
      const address = addresses.get(reference.path);
      return address === undefined || address === reference.path ? [] : [withAddress(reference, address)];
    });
    const { text } = applyEdits(doc.source.text, edits);
    checkTags(doc, text, report);
    results.push(file.hasByteOrderMark ? `\ufeff${text}` : text);
  }
  if (!options.dryRun && results.length === options.files.length)
    findings.push(...(await writeOutputs(results, plan, io)));
  return finish();
}

function onlyNeedsFolder(findings: readonly Finding[]): boolean {
  return findings.every(({ code }) => code === 'out-needs-folder');
}

function outFolderOf(plan: OutputPlan, index: number, io: Io): string {
  return plan.kind === 'files' ? dirname(plan.paths[index] ?? io.folder) : io.folder;
}

/** The path of a file as HTML in a folder names it. */
export function pathTo(file: string, folder: string): string {
  return relative(folder, file).split(sep).map(encodeURIComponent).join('/');
}

/** Says which pictures lie on the web, where a command works on those that lie here. */
export function reportRemote({ remote }: FinishedPictures, report: Report): void {
  if (remote.length === 0) return;
  const count = countPictures(remote.length);
  report(finding('picture-remote', null, { count, addresses: remote.slice(0, 5).map(shownAddress).join(', ') }));
}
