import { readdirSync, rmSync, statSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { isDeepStrictEqual } from 'node:util';
import { digestOf, undamagedLine, withDigest } from './digest.js';
import { writeWhole } from './write-file.js';

/**
 * What a text came to when it was read before: to take in what reads YAML and validates it is most of what a short command does.
 * Null where nothing is kept of this very text.
 * @param kind what the text was read as
 * @param path its file, by which it is kept: of each there is one
 */
export async function readKept<T>(kind: string, path: string, text: string): Promise<T | null> {
  const file = fileFor(kind, path);
  if (file === null) return null;
  const content = undamagedLine(await readFile(file, 'utf8').catch(() => ''));
  if (content === null) return null;
  const kept = fromJson(content) as Kept;
  return kept.text === text ? (kept.value as T) : null;
}

/** Keeps what a text came to, unless JSON cannot hold it. Where it cannot be written nothing is kept. */
export async function keep(kind: string, path: string, text: string, value: unknown): Promise<void> {
  const file = fileFor(kind, path);
  if (file === null) return;
  const kept: Kept = { text, value };
  const content = toJson(kept);
  if (!isDeepStrictEqual(fromJson(content), kept)) return;
  await writeWhole(file, withDigest(content));
  forgetOldest(dirname(file), `${kind}-`);
}

/** So many files of a kind are kept: those that are read in folders for a while are not read again. */
const MOST_KEPT = 40;

function forgetOldest(folder: string, prefix: string): void {
  try {
    const files = readdirSync(folder).filter((name) => name.startsWith(prefix));
    if (files.length <= MOST_KEPT) return;
    const timed = files.map((name) => ({ path: join(folder, name), time: statSync(join(folder, name)).mtimeMs }));
    for (const { path } of timed.sort((a, b) => b.time - a.time).slice(MOST_KEPT)) rmSync(path, { force: true });
  } catch {
    // Another run may be at the same work.
  }
}

interface Kept {
  readonly text: string;
  readonly value: unknown;
}

/** The file that keeps what was read of another; null where nothing is kept. */
function fileFor(kind: string, path: string): string | null {
  const folder = keptFolder();
  return folder === null ? null : join(folder, `${kind}-${digestOf(path).slice(0, 16)}`);
}

/** The folder of the compiled code of this build of the program, as what starts the program from its parts tells it. */
function keptFolder(): string | null {
  const folder = (globalThis as Readonly<Record<symbol, unknown>>)[Symbol.for('inscriba.kept')];
  return typeof folder === 'string' && isOwn(folder) ? folder : null;
}

/** Whether a folder is there, and nobody else's: what lies in it is believed. */
function isOwn(folder: string): boolean {
  try {
    const stats = statSync(folder);
    return stats.isDirectory() && (process.getuid === undefined || stats.uid === process.getuid());
  } catch {
    // What is not there, or nobody may look at, holds nothing for us.
    return false;
  }
}

/** How a map stands in JSON. */
const MAP = '[map]';

function toJson(value: unknown): string {
  return JSON.stringify(value, (_, inner: unknown) => (inner instanceof Map ? { [MAP]: [...inner] } : inner));
}

function fromJson(content: string): unknown {
  return JSON.parse(content, (_, inner: unknown) =>
    typeof inner === 'object' && inner !== null && MAP in inner ? new Map(inner[MAP] as [unknown, unknown][]) : inner,
  );
}
