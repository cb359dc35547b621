import { dirname, join, relative, resolve, sep } from 'node:path';
import { exitCodeOf, finding, type Finding, type Report } from '../../core/findings/finding.js';
import { parseHtml } from '../../core/html/parse.js';
import type { Doc } from '../../core/html/tree.js';
import { withAddress } from '../../core/pictures/references.js';
import { shownWidths } from '../../core/pictures/shown-widths.js';
import { checkTags } from '../../core/html/tag-check.js';
import { applyEdits } from '../../core/text/apply-edits.js';
import { countPictures } from '../../pictures/count-pictures.js';
import { shownAddress } from '../../pictures/web-address.js';
import { knownDelimiters } from '../../project/config/delimiters.js';
import { boundsOf, readFinishedPictures, type FinishedPictures } from '../../project/load/finished-pictures.js';
import { carriedPictures, mediaTypeOf, titleOf, type CarriedPicture } from '../../project/load/message-pictures.js';
import { writeWhole } from '../../project/files/write-file.js';
import { planOutputs, readInputFile, writeOutputs, type OutputPlan } from '../output/file-outputs.js';
import type { Io } from '../io/io.js';
import { printFindings } from '../output/print-findings.js';
import type { CommonOptions } from '../run.js';
import { kilobytes, printTable } from '../output/tables.js';

/** What all commands on the pictures of finished HTML are told. */
export interface ImagesOptions extends CommonOptions {
  readonly files: readonly string[];
  readonly out: string | null;
  readonly dryRun: boolean;
}

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
  const results: string[] = [];
  for (const [index, input] of options.files.entries()) {
    const { file, finding: problem } = await readInputFile(input, io);
    if (file === null) {
      findings.push(problem);
      continue;
    }
    const { doc } = parseHtml(file.source, delimiters);
    const bounds = await boundsOf(input === '-' ? null : resolve(io.folder, input), io.folder);
    const report = (item: Finding): unknown => findings.push(item);
    const pictures = await readFinishedPictures(doc, bounds, report);
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

/** `images embed`. */
export async function embedCommand(options: ImagesOptions & { mostBytes: number | null }, io: Io): Promise<number> {
  return readdressFiles(options, io, async ({ doc, pictures }, report) => {
    const carried = await carriedPictures(
      pictures.local,
      shownWidths(doc),
      { mostBytes: null, keepsBytes: true },
      report,
    );
    const addresses = new Map<string, string>();
    let bytesOfAll = 0;
    for (const [path, { bytes, format, from }] of carried) {
      const { mostBytes } = options;
      if (mostBytes !== null && bytes.length > mostBytes) {
        const [size, most] = [(bytes.length / 1024).toFixed(1), String(mostBytes / 1024)];
        report(finding('picture-too-heavy', from.place, { path, size, most }));
        continue;
      }
      addresses.set(path, `data:${mediaTypeOf(format)};base64,${Buffer.from(bytes).toString('base64')}`);
      bytesOfAll += bytes.length;
    }
    if (addresses.size > 0)
      report(
        finding('pictures-embedded', null, {
          count: countPictures(addresses.size),
          size: (bytesOfAll / 1024).toFixed(1),
        }),
      );
    reportRemote(pictures, report);
    if (!options.quiet && options.dryRun)
      io.err(`would embed ${countPictures(addresses.size)}, ${kilobytes(bytesOfAll)}\n`);
    return addresses;
  });
}

/** `images shrink`. */
export async function shrinkCommand(
  options: ImagesOptions & { mostBytes: number | null; folder: string | null },
  io: Io,
): Promise<number> {
  return readdressFiles(options, io, async ({ input, doc, pictures, outFolder }, report) => {
    const widths = shownWidths(doc);
    const carried = await carriedPictures(pictures.local, widths, { mostBytes: options.mostBytes }, report);
    const folder = options.folder === null ? join(outFolder, 'images') : resolve(io.folder, options.folder);
    const addresses = new Map<string, string>();
    for (const [path, { name, bytes }] of carried) {
      const target = join(folder, name);
      const problem = options.dryRun ? null : await writeWhole(target, bytes, relative(io.folder, target));
      if (problem !== null) report(problem);
      else addresses.set(path, pathTo(target, outFolder));
    }
    if (!options.quiet && carried.size > 0) printTable(shrinkTable(input, carried, widths), io);
    reportRemote(pictures, report);
    return addresses.size === carried.size ? addresses : null;
  });
}

/** Each picture before and after, and all of them together. */
function shrinkTable(
  input: string,
  carried: ReadonlyMap<string, CarriedPicture>,
  widths: ReadonlyMap<string, number | null>,
): string[][] {
  const rows = [...carried].map(([path, { from, format, width, height, bytes }]) => [
    path,
    shownAs(widths.get(path) ?? null),
    `${titleOf(from.facts.format)} ${from.facts.width}×${from.facts.height}`,
    kilobytes(from.bytes.length),
    `${titleOf(format)} ${width}×${height}`,
    kilobytes(bytes.length),
    change(from.bytes.length, bytes.length),
  ]);
  const files = new Map([...carried.values()].map((picture) => [picture.name, picture]));
  const before = sum([...files.values()].map(({ from }) => from.bytes.length));
  const after = sum([...files.values()].map(({ bytes }) => bytes.length));
  return [
    [input, 'shown', 'before', '', 'after', '', ''],
    ...rows,
    [countPictures(files.size), '', '', kilobytes(before), '', kilobytes(after), change(before, after)],
  ];
}

function shownAs(width: number | null): string {
  return width === null ? '–' : `${Math.round(width)} px`;
}

function change(before: number, after: number): string {
  if (before === after) return '=';
  const percent = Math.round((100 * (after - before)) / before);
  return percent === 0 ? '=' : `${percent < 0 ? '−' : '+'}${Math.abs(percent)} %`;
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

function sum(numbers: readonly number[]): number {
  return numbers.reduce((total, number) => total + number, 0);
}
