import { stat } from 'node:fs/promises';

/** Whether something stands at a path. */
export function exists(path: string): Promise<boolean> {
  return stat(path).then(
    () => true,
    () => false,
  );
}

/** Whether a folder stands at a path. */
export function isFolder(path: string): Promise<boolean> {
  return stat(path).then(
    (stats) => stats.isDirectory(),
    () => false,
  );
}
