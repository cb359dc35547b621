import { spawnSync } from 'node:child_process';
import { programFile, type Run } from './project.js';

/** Whether the tests may do all; where not, they are that in a name space of their own. */
export const isRoot = process.getuid?.() === 0;

/** A command of the program, for a shell. */
export const quotedCommand = (words: readonly string[]): string =>
  [process.execPath, programFile, ...words].map((word) => `'${word}'`).join(' ');

let mounts: boolean | null = null;

/** Whether this system lets a test mount what nobody else sees; some containers do not. */
export function mayMount(): boolean {
  mounts ??= unshared('/', 'mount -t tmpfs none /mnt').code === 0;
  return mounts;
}

/** Runs a script of a shell that may mount what nobody else sees. */
export function unshared(folder: string, script: string): Run {
  const words = [...(isRoot ? [] : ['--user', '--map-root-user']), '--mount', 'sh', '-c', script];
  const { status, stdout, stderr } = spawnSync('unshare', words, {
    cwd: folder,
    encoding: 'utf8',
    env: { ...process.env, NO_COLOR: '1' },
  });
  return { code: status, out: stdout, err: stderr };
}
