import { join, relative, resolve } from 'node:path';
import { exitCodeOf } from '../core/finding.js';
import { buildMessages, type BuildOutcome } from '../project/build.js';
import { loadConfig } from '../project/config.js';
import type { Io } from './io.js';
import { countFindings, printFindings } from './print-findings.js';
import type { CommonOptions } from './run.js';

export interface BuildOptions extends CommonOptions {
  readonly messages: readonly string[];
  readonly to: readonly string[];
  readonly out: string | null;
  readonly pack: boolean;
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
  const { outcomes, findings } = await buildMessages(request, (outcome) => {
    if (!options.quiet && outcome.written !== null) io.err(`${describeOutcome(outcome, io.folder)}\n`);
  });
  if (findings.length > 0 && outcomes.some(({ written }) => written !== null)) io.err('\n');
  printFindings(findings, io, options.color);
  const failures = outcomes.filter(({ written }) => written === null);
  if (!options.quiet && findings.length > 0)
    io.err(
      `${countFindings(findings)}.${failures.length > 0 ? ` Not built: ${failures.map((item) => `${item.message} for ${item.destination}`).join(', ')}; earlier output stays as it was.` : ''}\n`,
    );
  return exitCodeOf(findings);
}

/** `members: may-newsletter  23.4 KB HTML, 1.8 KB text, 6 pictures (81.0 KB)  out/members/may-newsletter.zip`. */
export function describeOutcome({ message, destination, written }: BuildOutcome, folder: string): string {
  const size = (suffix: string): string =>
    kilobytes(
      written?.files.filter(({ path }) => path.endsWith(suffix)).reduce((sum, { bytes }) => sum + bytes.length, 0) ?? 0,
    );
  const pictures = written?.files.filter(({ path }) => path.startsWith('images/')) ?? [];
  const weight = kilobytes(pictures.reduce((sum, { bytes }) => sum + bytes.length, 0));
  const count = `${pictures.length} ${pictures.length === 1 ? 'picture' : 'pictures'}`;
  const where = relative(folder, written?.package ?? written?.folder ?? '');
  return `${destination}: ${message}  ${size('index.html')} HTML, ${size('index.txt')} text, ${count} (${weight})  ${where}`;
}

function kilobytes(bytes: number): string {
  return `${(bytes / 1024).toFixed(1)} KB`;
}
