import { realpathSync } from 'node:fs';
import { join, relative, sep } from 'node:path';

/** Where the folders of projects really lie: asked once, since every file asks for it. */
const roots = new Map<string, string>();

/** Whether a path lies in a project: neither `..` nor a symbolic link may lead out of it. The file need not be there. */
export function isInside(path: string, projectFolder: string): boolean {
  const root = roots.get(projectFolder) ?? realpathSync.native(projectFolder);
  roots.set(projectFolder, root);
  return realPath(path, join(root, relative(projectFolder, path))).startsWith(root + sep);
}

function realPath(path: string, otherwise: string): string {
  try {
    return realpathSync.native(path);
  } catch {
    return otherwise;
  }
}
