import { readFile } from 'node:fs/promises';
import { dirname, join, resolve } from 'node:path';

export const CONFIG_FILE = 'inscriba.yaml';

/** The folder of a project that its outputs go below, where none is named. */
export const OUT_FOLDER = 'out';

/** The folder of the project that a folder lies in; null where it lies in none. */
export async function projectFolderOf(from: string): Promise<string | null> {
  for (let folder = resolve(from); ; folder = dirname(folder)) {
    try {
      await readFile(join(folder, CONFIG_FILE));
      return folder;
    } catch {
      if (dirname(folder) === folder) return null;
    }
  }
}
