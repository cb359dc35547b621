import { open, readFile, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { finding, type Finding } from '../../core/findings/finding.js';

const LOCK_FILE = '.deliveries.lock';

/** A lock that is held, or why it is not. */
export type LockResult =
  | { readonly release: () => Promise<void>; readonly problem: null }
  | { readonly release: null; readonly problem: Finding };

/** Sees to it that one push of a project runs at a time: two would make templates twice. */
export async function lockDeliveries(folder: string): Promise<LockResult> {
  const path = join(folder, LOCK_FILE);
  for (;;)
    try {
      const file = await open(path, 'wx');
      await file.writeFile(`${process.pid}\n`);
      await file.close();
      const release = (): Promise<void> => rm(path, { force: true });
      return { release, problem: null };
    } catch (error) {
      // Where nothing can be written the record cannot be either, and says so.
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST')
        return { release: () => Promise.resolve(), problem: null };
      const holder = Number(await readFile(path, 'utf8').catch(() => ''));
      if (holder > 0 && isRunning(holder))
        return { release: null, problem: finding('push-running', null, { process: String(holder) }) };
      // Whoever held it was ended in the middle.
      await rm(path, { force: true });
    }
}

function isRunning(process_: number): boolean {
  if (process_ === process.pid) return true;
  try {
    process.kill(process_, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}
