import { readdir } from 'node:fs/promises';
import { extname, join } from 'node:path';

/** A message's file. */
export interface MessageFile {
  readonly name: string;
  readonly path: string;
}

/** The messages of a project, by their names. A name that two files have comes up twice. */
export async function messageFiles(projectFolder: string): Promise<MessageFile[]> {
  const folder = join(projectFolder, 'messages');
  const entries = await readdir(folder).catch(() => []);
  return entries
    .filter((entry) => /\.(?:html|md)$/.test(entry) && !entry.startsWith('.'))
    .map((entry) => ({ name: entry.slice(0, -extname(entry).length), path: join(folder, entry) }))
    .sort((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : 0));
}

/** The names of a project's HTML files in a folder (`parts`, `frames`), without their ending. */
export async function htmlNames(projectFolder: string, folder: string): Promise<string[]> {
  const entries = await readdir(join(projectFolder, folder)).catch(() => []);
  return entries
    .filter((entry) => entry.endsWith('.html') && !entry.startsWith('.'))
    .map((entry) => entry.slice(0, -'.html'.length))
    .sort();
}

/** Whether a file name can be that of a part: it is the name of an element with a hyphen. */
export function isPartName(name: string): boolean {
  return /^[a-z][\p{Ll}\d._]*-[\p{Ll}\d._-]*$/u.test(name);
}
