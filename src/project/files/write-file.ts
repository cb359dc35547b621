import {
  accessSync,
  constants,
  existsSync,
  mkdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { threadId } from 'node:worker_threads';
import { finding, type Finding } from '../../core/findings/finding.js';
import type { PendingSlot } from './pending-slot.js';
import { describeError, errorCode } from './text-file.js';

let counter = 0;

/** Temporary files that this thread is writing. */
const pendingFiles: Set<string> = new Set();

/** Where threads beside this one say what they are writing. */
export const pendingSlots: Set<PendingSlot> = new Set();

let ownSlot: PendingSlot | null = null;

/** Has this thread say what it is writing, one file at a time: whoever ends the process has to know of it. */
export function tellPending(slot: PendingSlot): void {
  ownSlot = slot;
}

/** Removes what is half written: for whoever ends the process early. */
export function removePending(): void {
  for (const path of [...pendingFiles, ...[...pendingSlots].map((slot) => slot.read())])
    if (path !== null) rmSync(path, { force: true });
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
  ownSlot?.write(temporary);
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

/** Makes a folder that files are to be written into later. Returns a finding where it cannot be made, or nothing be written in it. */
export function readyFolder(path: string, name = path): Finding | null {
  try {
    makeFolder(path);
    accessSync(path, constants.W_OK);
    return null;
  } catch (error) {
    return finding('file-unwritable', null, { path: name, detail: describeError(error) });
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
