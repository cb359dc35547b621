import { open, readFile, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { finding, type Report } from '../../core/findings/finding.js';

const LOCK_FILE = '.deliveries.lock';

/**
 * Sees to it that one push of a project runs at a time: two would make templates twice.
 * @returns what lets the next one in; null, and reported, where one is running
 */
export async function lockDeliveries(folder: string, report: Report): Promise<(() => Promise<void>) | null> {
  const path = join(folder, LOCK_FILE);
  for (;;)
    try {
      const file = await open(path, 'wx');
      await file.writeFile(`${process.pid}\n`);
      await file.close();
      return () => rm(path, { force: true });
    } catch (error) {
      // Where nothing can be written the record cannot be either, and says so.
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') return () => Promise.resolve();
      const holder = Number(await readFile(path, 'utf8').catch(() => ''));
      if (holder > 0 && isRunning(holder)) {
        report(finding('push-running', null, { process: String(holder) }));
        return null;
      }
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
