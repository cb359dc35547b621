import { join, relative, sep } from 'node:path';
import { watch, type FSWatcher } from 'chokidar';

/** A project that is being watched. */
export interface ProjectWatch {
  readonly close: () => Promise<void>;
}

/** Editors save in several steps. */
const QUIET_TIME = 50;

/**
 * Watches the files of a project, but for its outputs and hidden files. `onChange` is told of changed, new and removed
 * files by their full paths; it is not told again before it is done.
 * @param quietTime changes that come within so many milliseconds are told together
 */
export async function watchProject(
  folder: string,
  outFolder: string,
  onChange: (paths: readonly string[]) => Promise<void>,
  quietTime = QUIET_TIME,
): Promise<ProjectWatch> {
  const ignored = (path: string): boolean => isIgnored(path, folder, outFolder);
  return telling(watch(folder, { ignored, ignoreInitial: true }), onChange, quietTime);
}

/** Watches the files of folders, but not what lies in folders in them: a folder may be one that everything lies below. */
export async function watchFolders(
  folders: readonly string[],
  onChange: (paths: readonly string[]) => Promise<void>,
  quietTime = QUIET_TIME,
): Promise<ProjectWatch> {
  return telling(watch([...folders], { depth: 0, ignoreInitial: true }), onChange, quietTime);
}

async function telling(
  watcher: FSWatcher,
  onChange: (paths: readonly string[]) => Promise<void>,
  quietTime: number,
): Promise<ProjectWatch> {
  const pending = new Set<string>();
  let timer: NodeJS.Timeout | null = null;
  let running: Promise<void> | null = null;
  const run = async (): Promise<void> => {
    timer = null;
    if (running !== null || pending.size === 0) return;
    const paths = [...pending].sort();
    pending.clear();
    running = onChange(paths);
    await running;
    running = null;
    if (pending.size > 0) schedule();
  };
  const schedule = (): void => {
    if (timer !== null) clearTimeout(timer);
    timer = setTimeout(() => void run(), quietTime);
  };
  watcher.on('all', (event, path) => {
    if (event === 'addDir' || event === 'unlinkDir') return;
    pending.add(path);
    schedule();
  });
  await ready(watcher);
  // What cannot be watched any more is not told of.
  watcher.on('error', () => undefined);
  return {
    close: async () => {
      if (timer !== null) clearTimeout(timer);
      await watcher.close();
      await running;
    },
  };
}

function isIgnored(path: string, folder: string, outFolder: string): boolean {
  if (path === outFolder || path.startsWith(outFolder + sep)) return true;
  const inside = relative(folder, path);
  return inside
    .split(sep)
    .some((name) => name === 'node_modules' || (name.startsWith('.') && name !== '.' && name !== '..'));
}

function ready(watcher: FSWatcher): Promise<void> {
  return new Promise((resolve, reject) => {
    watcher.once('ready', () => resolve());
    watcher.once('error', reject);
  });
}

/** The files that decide about all messages: the configuration and the project's own dialects. */
export function concernsAll(path: string, folder: string): boolean {
  return path === join(folder, 'inscriba.yaml') || path.startsWith(join(folder, 'dialects') + sep);
}
