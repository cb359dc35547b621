import { readFile } from 'node:fs/promises';

/** Reads the bytes of a file by its full path; fails as reading from the disk does. */
export type ReadBytes = (path: string) => Promise<Uint8Array>;

/** What the disk holds. */
export const fromDisk: ReadBytes = (path) => readFile(path);

/** What somebody types and has not saved comes before what the disk holds. */
export function withUnsaved(texts: ReadonlyMap<string, string>): ReadBytes {
  return (path) => {
    const text = texts.get(path);
    return text === undefined ? readFile(path) : Promise.resolve(Buffer.from(text));
  };
}
