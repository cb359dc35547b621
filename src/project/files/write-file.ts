import { mkdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { threadId } from 'node:worker_threads';
import { finding, type Finding } from '../../core/findings/finding.js';
import { describeError } from './text-file.js';

let counter = 0;

/** Temporary files that are being written; whoever ends the process early removes them. */
export const pendingFiles: Set<string> = new Set();

/** Whether a temporary file is being written, or no longer. */
export type Writing = 'pending' | 'settled';

let watcher: (path: string, writing: Writing) => void = () => undefined;

/** Has a worker tell of the temporary files that it writes: whoever ends the process knows its own alone. */
export function watchPendingFiles(told: (path: string, writing: Writing) => void): void {
  watcher = told;
}

function mark(path: string, writing: Writing): void {
  if (writing === 'pending') pendingFiles.add(path);
  else pendingFiles.delete(path);
  watcher(path, writing);
}

/**
 * Writes a file whole or not at all: to a temporary name beside it, which then takes its place. A file that already
 * holds these bytes is left alone. Returns a finding where it cannot be written; what was there before then stays.
 * @param name what a finding calls the file
 */
export async function writeWhole(path: string, bytes: Uint8Array | string, name = path): Promise<Finding | null> {
  const content = typeof bytes === 'string' ? Buffer.from(bytes) : bytes;
  const there = await present(path, content);
  if (there === 'same') return null;
  counter += 1;
  const temporary = join(dirname(path), `.${basename(path)}.${process.pid}-${threadId}-${counter}.part`);
  mark(temporary, 'pending');
  try {
    if (there === 'device') {
      await writeFile(path, content);
      return null;
    }
    await mkdir(dirname(path), { recursive: true });
    await writeFile(temporary, content);
    await rename(temporary, path);
    return null;
  } catch (error) {
    await rm(temporary, { force: true }).catch(() => undefined);
    return finding('file-unwritable', null, { path: name, detail: describeError(error) });
  } finally {
    mark(temporary, 'settled');
  }
}

/** What stands at a path: a file with these very bytes, something else than a file (a device, a pipe), or anything else. */
async function present(path: string, content: Uint8Array): Promise<'same' | 'device' | 'other'> {
  try {
    const stats = await stat(path);
    if (!stats.isFile()) return stats.isDirectory() ? 'other' : 'device';
    return stats.size === content.length && Buffer.compare(await readFile(path), content) === 0 ? 'same' : 'other';
  } catch {
    return 'other';
  }
}
