import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { UploadMemory } from '../../pictures/host-pictures.js';
import { writeWhole } from '../files/write-file.js';

const RECORD_FILE = 'uploads.json';

/** What has been uploaded, kept in a file: for each base address the addresses of pictures by their SHA-256. */
interface UploadRecord {
  readonly format: 1;
  readonly uploads: Readonly<Record<string, Readonly<Record<string, string>>>>;
}

/** The memory of uploads in a folder: `uploads.json`, which is written anew after each picture. */
export async function uploadMemory(folder: string): Promise<UploadMemory> {
  const path = join(folder, RECORD_FILE);
  const uploads = new Map(
    Object.entries(await readUploads(path)).map(([base, urls]) => [base, new Map(Object.entries(urls))]),
  );
  return {
    find: (baseUrl, digest) => uploads.get(baseUrl)?.get(digest) ?? null,
    add: (baseUrl, digest, url) => {
      uploads.set(baseUrl, (uploads.get(baseUrl) ?? new Map<string, string>()).set(digest, url));
      const record: UploadRecord = {
        format: 1,
        uploads: Object.fromEntries(
          sorted([...uploads].map(([base, urls]) => [base, Object.fromEntries(sorted([...urls]))])),
        ),
      };
      return writeWhole(path, `${JSON.stringify(record, null, 2)}\n`);
    },
  };
}

/** A record that cannot be read counts as empty: the server is asked what it has. */
async function readUploads(path: string): Promise<UploadRecord['uploads']> {
  try {
    const read = JSON.parse(await readFile(path, 'utf8')) as UploadRecord;
    return read.format === 1 && typeof read.uploads === 'object' && read.uploads !== null ? read.uploads : {};
  } catch {
    return {};
  }
}

function sorted<T>(entries: [string, T][]): [string, T][] {
  return entries.sort(([a], [b]) => (a < b ? -1 : 1));
}
