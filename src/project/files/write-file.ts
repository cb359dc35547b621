import { existsSync, mkdirSync, readFileSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { threadId } from 'node:worker_threads';
import { finding, type Finding } from '../../core/findings/finding.js';
import { describeError, errorCode } from './text-file.js';

let counter = 0;

/** Temporary files that are being written; whoever ends the process early removes them. */
export const pendingFiles: Set<string> = new Set();

let watcher: (path: string) => void = () => undefined;

/**
 * Has a worker tell of each temporary file before it writes it: whoever ends the process knows its own alone. There is one
 * at a time.
 */
export function watchPendingFiles(told: (path: string) => void): void {
  watcher = told;
}

/**
 * Writes a file whole or not at all: to a temporary name beside it, which then takes its place. A file that already
 * holds these bytes is left alone. Returns a finding where it cannot be written; what was there before then stays.
 * Nothing else goes on meanwhile: to hand small files to other threads and to wait for them takes longer than to write them.
 * @param name what a finding calls the file
 */
export async function writeWhole(path: string, bytes: Uint8Array | string, name = path): Promise<Finding | null> {
  const content = typeof bytes === 'string' ? Buffer.from(bytes) : bytes;
  const there = present(path, content);
  if (there === 'same') return null;
  if (there === 'device') return writeToDevice(path, content, name);
  counter += 1;
  const temporary = join(dirname(path), `.${basename(path)}.${process.pid}-${threadId}-${counter}.part`);
  pendingFiles.add(temporary);
  watcher(temporary);
  try {
    writeInFolder(temporary, content);
    renameSync(temporary, path);
    return null;
  } catch (error) {
    removeQuietly(temporary);
    return finding('file-unwritable', null, { path: name, detail: describeError(error) });
  } finally {
    pendingFiles.delete(temporary);
  }
}

async function writeToDevice(path: string, content: Uint8Array, name: string): Promise<Finding | null> {
  try {
    await writeFile(path, content);
    return null;
  } catch (error) {
    return finding('file-unwritable', null, { path: name, detail: describeError(error) });
  }
}

/** Writes a file, and makes its folder where that is not there. */
function writeInFolder(path: string, content: Uint8Array): void {
  try {
    writeFileSync(path, content);
  } catch (error) {
    if (errorCode(error) !== 'ENOENT') throw error;
    makeFolder(dirname(path));
    writeFileSync(path, content);
  }
}

/**
 * Makes a folder and those that it lies in. The runtime's own way to do so never comes back where a folder is there in which
 * none can be made, such as /proc.
 */
function makeFolder(path: string): void {
  try {
    mkdirSync(path);
  } catch (error) {
    const code = errorCode(error);
    if (code === 'EEXIST' && statSync(path).isDirectory()) return;
    const above = dirname(path);
    if (code !== 'ENOENT' || above === path || existsSync(above)) throw error;
    makeFolder(above);
    makeFolder(path);
  }
}

function removeQuietly(path: string): void {
  try {
    rmSync(path, { force: true });
  } catch {
    // What made the writing fail has been told.
  }
}

/** What stands at a path: a file with these very bytes, something else than a file (a device, a pipe), or anything else. */
function present(path: string, content: Uint8Array): 'same' | 'device' | 'other' {
  try {
    const stats = statSync(path, { throwIfNoEntry: false });
    if (stats === undefined) return 'other';
    if (!stats.isFile()) return stats.isDirectory() ? 'other' : 'device';
    return stats.size === content.length && Buffer.compare(readFileSync(path), content) === 0 ? 'same' : 'other';
  } catch {
    return 'other';
  }
}
