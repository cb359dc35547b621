import { realpath } from 'node:fs/promises';
import { join, relative, sep } from 'node:path';

/** Whether a path lies in a project: neither `..` nor a symbolic link may lead out of it. The file need not be there. */
export async function isInside(path: string, projectFolder: string): Promise<boolean> {
  const root = await realpath(projectFolder);
  const real = await realpath(path).catch(() => join(root, relative(projectFolder, path)));
  return real.startsWith(root + sep);
}
