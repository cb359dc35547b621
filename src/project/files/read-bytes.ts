import { readFileSync, statSync } from 'node:fs';
import { readFile } from 'node:fs/promises';

/** Reads the bytes of a file by its full path; fails as reading from the disk does. */
export type ReadBytes = (path: string) => Promise<Uint8Array>;

/** Files of up to so many bytes are read at once. */
const SMALL = 1_000_000;

/**
 * What the disk holds. To hand a small file to other threads and to wait for them takes longer than to read it; what is no file
 * (a pipe) may keep its reader waiting, while others go on.
 */
export const fromDisk: ReadBytes = async (path) => {
  const stats = statSync(path);
  return stats.isFile() && stats.size <= SMALL ? readFileSync(path) : readFile(path);
};

/** What somebody types and has not saved comes before what the disk holds. */
export function withUnsaved(texts: ReadonlyMap<string, string>): ReadBytes {
  return (path) => {
    const text = texts.get(path);
    return text === undefined ? fromDisk(path) : Promise.resolve(Buffer.from(text));
  };
}
