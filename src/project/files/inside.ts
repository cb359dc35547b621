import { realpath } from 'node:fs/promises';
import { join, relative, sep } from 'node:path';

/** Where the folders of projects really lie: asked once, since every file asks for it. */
const roots = new Map<string, Promise<string>>();

/** Whether a path lies in a project: neither `..` nor a symbolic link may lead out of it. The file need not be there. */
export async function isInside(path: string, projectFolder: string): Promise<boolean> {
  const known = roots.get(projectFolder) ?? realpath(projectFolder);
  roots.set(projectFolder, known);
  const [root, real] = await Promise.all([known, realpath(path).catch(() => null)]);
  return (real ?? join(root, relative(projectFolder, path))).startsWith(root + sep);
}
