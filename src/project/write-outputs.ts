import { readdir, readFile, rm } from 'node:fs/promises';
import { join, relative } from 'node:path';
import type { Finding } from '../core/finding.js';
import type { PackageFile } from '../core/package/package-file.js';
import { writeWhole } from './write-file.js';
import { zipFiles } from './zip.js';

/** Where an output goes. */
export interface OutputPlace {
  readonly outFolder: string;
  readonly destination: string;
  readonly message: string;
  readonly edition: string | null;
}

/** What was written. */
export interface Written {
  readonly folder: string;
  readonly files: readonly { readonly path: string; readonly size: number }[];
  /** The package, where one was made. */
  readonly package: string | null;
}

export type WriteResult =
  { readonly written: Written; readonly problem: null } | { readonly written: null; readonly problem: Finding };

/** The folder of an output: that of its message at its destination, and in it one for each edition. */
export function outputFolder({ outFolder, destination, message, edition }: OutputPlace): string {
  return join(outFolder, destination, message, ...(edition === null ? [] : [edition]));
}

/**
 * Writes the files of an output, each whole or not at all.
 * @param shape how they are packed for import; null where they are not
 */
export async function writeOutputs(
  place: OutputPlace,
  files: readonly PackageFile[],
  shape: 'zip' | 'folder' | null,
): Promise<WriteResult> {
  const folder = outputFolder(place);
  const built = files.filter(({ path }) => path !== 'import-card.txt');
  for (const { path, bytes } of shape === 'folder' ? files : built) {
    const problem = await writeAt(join(folder, path), bytes);
    if (problem !== null) return { written: null, problem };
  }
  await removeStaleFiles(folder, built);
  const archive = shape === 'zip' ? `${folder}.zip` : null;
  const problem = archive === null ? null : await writeAt(archive, zipFiles(files));
  if (problem !== null) return { written: null, problem };
  const sizes = (shape === null ? built : files).map(({ path, bytes }) => ({ path, size: bytes.length }));
  return { written: { folder, files: sizes, package: shape === null ? null : (archive ?? folder) }, problem: null };
}

function writeAt(path: string, bytes: Uint8Array): Promise<Finding | null> {
  return writeWhole(path, bytes, relative(process.cwd(), path));
}

/** Removes pictures and attachments of an earlier build that this one no longer has. */
async function removeStaleFiles(folder: string, files: readonly PackageFile[]): Promise<void> {
  const current = new Set(files.map(({ path }) => path));
  for (const inner of ['images', 'attachments']) {
    const names = await readdir(join(folder, inner)).catch(() => []);
    const stale = names.filter((name) => !current.has(`${inner}/${name}`));
    await Promise.all(stale.map((name) => rm(join(folder, inner, name), { force: true })));
  }
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
