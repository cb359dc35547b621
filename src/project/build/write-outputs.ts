import { existsSync, statSync } from 'node:fs';
import { readdir, readFile, rm } from 'node:fs/promises';
import { isAbsolute, join } from 'node:path';
import type { Report } from '../../core/findings/finding.js';
import type { PackageFile } from '../../core/packages/package-file.js';
import type { ShapeName } from '../../core/dialects/package-shapes.js';
import { outputFolder, type OutputPlace } from '../visit/output-folder.js';
import { digestOf } from '../files/digest.js';
import { writeWhole } from '../files/write-file.js';
import { zipFiles } from '../files/zip.js';

/** A file as it was written. */
export interface StoredFile {
  readonly path: string;
  readonly size: number;
  /** Its SHA-256. */
  readonly digest: string;
  /** When it was last changed, in milliseconds since 1970. */
  readonly time: number;
}

/** What was written. */
export interface Written {
  readonly folder: string;
  /** The files on the disk, by their full paths. */
  readonly stored: readonly StoredFile[];
  readonly files: readonly { readonly path: string; readonly size: number }[];
  /** The package, where one was made. */
  readonly package: string | null;
}

/** The files of an output. */
export interface OutputFiles {
  /** The message as a page, to be looked at. */
  readonly page: readonly PackageFile[];
  /** What its manifest lists, with the manifest and the card. */
  readonly packed: readonly PackageFile[];
  /** How they are packed for import; null where they are not. */
  readonly shape: ShapeName | null;
}

/**
 * Writes the files of an output, each whole or not at all. A zip stands beside the folder, all else in it. Null, and reported,
 * where one cannot be written.
 */
export async function writeOutputs(
  place: OutputPlace,
  { page, packed, shape }: OutputFiles,
  report: Report,
): Promise<Written | null> {
  const folder = outputFolder(place);
  const isZip = shape === 'zip';
  const loose = isZip ? packed.filter(({ path }) => path !== 'import-card.txt') : packed;
  const files = new Map([...page, ...loose].map((item) => [item.path, item]));
  const before = existsSync(folder) ? await listedFiles(folder) : null;
  const stored: StoredFile[] = [];
  for (const { path, bytes } of files.values()) {
    const file = await writeAt(join(folder, path), bytes, report);
    if (file === null) return null;
    stored.push(file);
  }
  if (before !== null) await removeStaleFiles(folder, before, files);
  const archive = isZip ? `${folder}.zip` : null;
  if (archive !== null) {
    const file = await writeAt(archive, zipFiles(packed), report);
    if (file === null) return null;
    stored.push(file);
  }
  const sizes = [...new Map([...page, ...packed].map(({ path, bytes }) => [path, bytes.length]))];
  const main =
    shape === 'eml' || shape === 'single' ? packed.find(({ path }) => /\.(?:eml|html)$/.test(path)) : undefined;
  return {
    folder,
    stored,
    files: sizes.map(([path, size]) => ({ path, size })),
    package: shape === null ? null : (archive ?? (main === undefined ? folder : join(folder, main.path))),
  };
}

/** Writes a file; null, and reported, where it cannot be written. */
async function writeAt(path: string, bytes: Uint8Array, report: Report): Promise<StoredFile | null> {
  const problem = await writeWhole(path, bytes);
  if (problem !== null) {
    report(problem);
    return null;
  }
  const { mtimeMs } = statSync(path);
  return { path, size: bytes.length, digest: digestOf(bytes), time: mtimeMs };
}

/** The files of a folder that its manifest lists: those of an earlier build or package. */
async function listedFiles(folder: string): Promise<string[]> {
  const manifest = await readFile(join(folder, 'manifest.json'), 'utf8').catch(() => '');
  return [...pathsIn(manifest), 'import-card.txt'].filter(
    (path) => !isAbsolute(path) && !path.split(/[\\/]/).includes('..'),
  );
}

function pathsIn(manifest: string): string[] {
  try {
    const { files } = JSON.parse(manifest) as { files?: unknown };
    return (Array.isArray(files) ? files : []).flatMap((entry: unknown) => {
      const path = typeof entry === 'object' && entry !== null && 'path' in entry ? entry.path : null;
      return typeof path === 'string' && path !== '' ? [path] : [];
    });
  } catch {
    return [];
  }
}

/** Removes what an earlier build or package wrote and this one no longer has. */
async function removeStaleFiles(
  folder: string,
  before: readonly string[],
  current: ReadonlyMap<string, PackageFile>,
): Promise<void> {
  const inner = ['images', 'attachments'].map(async (name) =>
    (await readdir(join(folder, name)).catch(() => [])).map((path) => `${name}/${path}`),
  );
  const stale = [...before, ...(await Promise.all(inner)).flat()].filter((path) => !current.has(path));
  await Promise.all(stale.map((path) => rm(join(folder, path), { force: true }).catch(() => undefined)));
}

/** Removes editions of an earlier build whose rows are gone. Only what a manifest says to be such an edition is touched. */
export async function removeStaleEditions(place: OutputPlace, current: ReadonlySet<string>): Promise<void> {
  const folder = outputFolder({ ...place, edition: null });
  const entries = await readdir(folder, { withFileTypes: true }).catch(() => []);
  for (const entry of entries) {
    if (!entry.isDirectory() || current.has(entry.name) || entry.name === 'images') continue;
    const manifest = await readFile(join(folder, entry.name, 'manifest.json'), 'utf8').catch(() => '');
    if (!isEdition(manifest, place.message, entry.name)) continue;
    await rm(join(folder, entry.name), { recursive: true, force: true });
    await rm(join(folder, `${entry.name}.zip`), { force: true });
  }
}

function isEdition(manifest: string, message: string, edition: string): boolean {
  try {
    const read = JSON.parse(manifest) as { message?: unknown; edition?: unknown };
    return read.message === message && read.edition === edition;
  } catch {
    return false;
  }
}
