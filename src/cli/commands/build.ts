import { dirname, join, relative, resolve } from 'node:path';
import { exitCodeOf, type Finding } from '../../core/findings/finding.js';
import {
  buildMessages,
  type BuildOutcome,
  type BuildRequest,
  type BuildResult,
  type PackRequest,
} from '../../project/build/build.js';
import { writeBuildRecord } from '../../project/build/build-record.js';
import { loadConfig } from '../../project/config/config.js';
import { refreshEditorFiles } from '../../project/new/editor-files.js';
import type { Io } from '../io/io.js';
import { noProgress } from '../output/progress.js';
import { countFindings, printFindings } from '../output/print-findings.js';
import type { CommonOptions } from '../run.js';
import { kilobytes } from '../output/tables.js';

export interface BuildOptions extends CommonOptions {
  readonly messages: readonly string[];
  readonly to: readonly string[];
  readonly out: string | null;
  readonly pack: PackRequest | null;
  readonly watch: boolean;
}

/** `build` and `pack`. */
export async function buildCommand(options: BuildOptions, io: Io): Promise<number> {
  const { config, findings: problems } = await loadConfig(io.folder);
  if (config === null) {
    printFindings(problems, io, options.color);
    return exitCodeOf(problems);
  }
  const outFolder = options.out === null ? join(config.folder, 'out') : resolve(io.folder, options.out);
  const request = { config, messages: options.messages, destinations: options.to, outFolder, pack: options.pack };
  const bar = options.quiet ? noProgress : await io.progress();
  const result = await buildMessages(request, {
    progress: bar.show,
    done: (outcomes) => {
      if (options.quiet) return;
      bar.clear();
      for (const line of describeOutcomes(outcomes, io.folder)) io.err(`${line}\n`);
    },
  });
  bar.clear();
  const { outcomes } = result;
  const recorded = await recordBuild(request, result);
  const findings = [...result.findings, ...recorded];
  if (findings.length > 0 && outcomes.some(({ written }) => written !== null)) io.err('\n');
  printFindings(findings, io, options.color);
  const failures = outcomes.filter(({ written }) => written === null);
  if (!options.quiet && findings.length > 0)
    io.err(
      `${countFindings(findings)}.${failures.length > 0 ? ` Not built: ${describeFailures(failures)}; earlier output stays as it was.` : ''}\n`,
    );
  if (options.watch && exitCodeOf(findings) !== 2) {
    const { watchCommand } = await import('./watch.js');
    return watchCommand(request, result, options, io);
  }
  return exitCodeOf(findings);
}

/** Keeps what later commands want to know of a build, and what editors read. */
async function recordBuild(request: BuildRequest, { outcomes, inputs }: BuildResult): Promise<Finding[]> {
  const { folder } = request.config;
  if (outcomes.every(({ written }) => written === null)) return refreshEditorFiles(folder);
  const problem = await writeBuildRecord(request.outFolder, folder, outcomes, inputs);
  return [...(problem === null ? [] : [problem]), ...(await refreshEditorFiles(folder))];
}

/** So many outputs that were not built are named; of more there is the number. */
const MOST_NAMES = 12;

/** A line for each destination of a message; its editions share one. */
export function describeOutcomes(outcomes: readonly BuildOutcome[], folder: string): string[] {
  const written = outcomes.filter((outcome) => outcome.written !== null);
  const destinations = [...new Set(written.map(({ destination }) => destination))];
  return destinations.flatMap((destination) => {
    const own = written.filter((outcome) => outcome.destination === destination);
    return own.some(({ edition }) => edition !== null)
      ? [describeEditions(own, folder)]
      : own.map((item) => describeOutcome(item, folder));
  });
}

function describeEditions(outcomes: readonly BuildOutcome[], folder: string): string {
  const [first] = outcomes;
  if (!first?.written) return '';
  const average =
    outcomes.reduce((sum, { written }) => sum + sizeOf(written?.files ?? [], 'index.html'), 0) / outcomes.length;
  const count = `${outcomes.length.toLocaleString('en')} ${outcomes.length === 1 ? 'edition' : 'editions'}`;
  return `${first.destination}: ${first.message}  ${count}, ${kilobytes(average)} HTML each  ${relative(folder, dirname(first.written.folder))}`;
}

/** "may-newsletter for members, branch-notice (mill-yard) for archive". */
export function describeFailures(failures: readonly BuildOutcome[]): string {
  const names = failures.map(
    ({ message, edition, destination }) => `${message}${edition === null ? '' : ` (${edition})`} for ${destination}`,
  );
  return names.length > MOST_NAMES
    ? `${names.slice(0, MOST_NAMES).join(', ')} and ${names.length - MOST_NAMES} more`
    : names.join(', ');
}

/** `members: may-newsletter  23.4 KB HTML, 1.8 KB text, 6 pictures (41.2 KB, before 81.0 KB)  out/members/may-newsletter.zip`. */
function describeOutcome({ message, destination, written, pictures }: BuildOutcome, folder: string): string {
  const files = written?.files ?? [];
  const where = relative(folder, written?.package ?? written?.folder ?? '');
  return `${destination}: ${message}  ${kilobytes(sizeOf(files, 'index.html'))} HTML, ${kilobytes(sizeOf(files, 'index.txt'))} text, ${describePictures(pictures)}  ${where}`;
}

function describePictures(pictures: BuildOutcome['pictures']): string {
  if (pictures === null || pictures.count === 0) return 'no pictures';
  const { count, bytes, bytesBefore, uploaded } = pictures;
  const [now, before] = [kilobytes(bytes), kilobytes(bytesBefore)];
  const sizes = now === before ? now : `${now}, before ${before}`;
  return `${count} ${count === 1 ? 'picture' : 'pictures'} (${sizes}${uploaded === 0 ? '' : `; ${uploaded} uploaded`})`;
}

function sizeOf(files: readonly { path: string; size: number }[], suffix: string): number {
  return files.filter(({ path }) => path.endsWith(suffix)).reduce((sum, { size }) => sum + size, 0);
}
