import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { repository, type Run, type TestFolder } from '../support/project.js';

/** How often everything is tried in verify; `npm run torture -- --rounds 50` tries it fifty times as often. */
export const ROUNDS = Number(process.env['TORTURE_ROUNDS'] ?? 1);
export const SEED = Number(process.env['TORTURE_SEED'] ?? 23);

/** How long a command may take on a file of a few kilobytes, in milliseconds: longer in verify, where other tests run beside. */
const PATIENCE = process.env['TORTURE_ROUNDS'] === undefined ? 20_000 : 5000;

/** What is wrong with the end of a command, whatever it was given; null where nothing is. */
export function brokenLaw({ code, out, err }: Run): string | null {
  if (code === null || code < 0 || code > 3) return `exit code ${code}`;
  const stack = /^ {4}at .*$/m.exec(out + err);
  if (stack !== null) return `a stack trace: ${stack[0]}`;
  if (/\[object Object\]/.test(out + err)) return 'an object in place of a text';
  if (code !== 0 && !/ {2}error {2}|^error {2}|^error:/m.test(err + out)) return 'it failed without a word';
  return null;
}

/** Runs a command beside the test; `hang` where it does not come to an end. */
export async function runInTime(
  folder: TestFolder,
  words: readonly string[],
  {
    env = {},
    patience = PATIENCE,
  }: { readonly env?: Readonly<Record<string, string>>; readonly patience?: number } = {},
): Promise<Run | 'hang'> {
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<'hang'>((resolve) => {
    timer = setTimeout(() => resolve('hang'), patience);
  });
  const run = await Promise.race([folder.runBeside(words, env), late]);
  clearTimeout(timer);
  return run;
}

const counts = new Map<string, number>();

/** Counts what was tried, for the report. */
export function count(what: string, times = 1): void {
  counts.set(what, (counts.get(what) ?? 0) + times);
}

/** Leaves the counts of a test file where `npm run torture` finds them. */
export function keepCounts(name: string): void {
  const folder = join(repository, 'build/torture');
  mkdirSync(folder, { recursive: true });
  writeFileSync(join(folder, `${name}.json`), JSON.stringify(Object.fromEntries(counts)));
}

/** Keeps an input that breaks the law, so that somebody can look at it. */
export function keepCase(name: string, bytes: Buffer): string {
  const folder = join(repository, 'build/torture/cases');
  mkdirSync(folder, { recursive: true });
  const path = join(folder, name);
  writeFileSync(path, bytes);
  return path;
}
