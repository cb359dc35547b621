import { zipSync, type Zippable } from 'fflate';
import type { PackageFile } from '../../core/packages/package-file.js';

/** ZIP's earliest time, in local time as the format stores it, so that the bytes depend on the content alone. */
const fixedTime = (): Date => new Date(1980, 0, 1);

/** Packs files; the same files give the same bytes. */
export function zipFiles(files: readonly PackageFile[]): Uint8Array {
  const sorted = [...files].sort((a, b) => (a.path < b.path ? -1 : 1));
  const entries: Zippable = Object.fromEntries(
    sorted.map(({ path, bytes }) => [path, [bytes, { mtime: fixedTime(), level: 9 }]]),
  );
  return zipSync(entries);
}
