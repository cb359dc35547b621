import { execFile } from 'node:child_process';
import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { finding, type Report } from '../../core/findings/finding.js';

const run = promisify(execFile);

/**
 * Puts the project of a folder into another one as it was at a revision, by git's own commands. They work on an index of their
 * own: neither the work tree nor the index of its user is touched.
 * @param into an empty folder, outside the repository
 * @returns the folder of the project there; null, and reported, where there is no such revision
 */
export async function checkOutRevision(
  revision: string,
  project: string,
  into: string,
  report: Report,
): Promise<string | null> {
  const git = async (words: readonly string[], environment: Readonly<Record<string, string>> = {}): Promise<string> => {
    const { stdout } = await run('git', ['-C', project, ...words], { env: { ...process.env, ...environment } });
    return stdout.trim();
  };
  try {
    // A revision that begins like an option is none.
    const commit = await git(['rev-parse', '--verify', '--quiet', '--end-of-options', `${revision}^{commit}`]).catch(
      (error: unknown) => {
        if (isMissing(error)) throw error;
        return null;
      },
    );
    if (commit === null) {
      const isRepository = await git(['rev-parse', '--git-dir']).then(
        () => true,
        () => false,
      );
      report(finding(isRepository ? 'unknown-revision' : 'no-repository', null, { name: revision }));
      return null;
    }
    const prefix = await git(['rev-parse', '--show-prefix']);
    const folder = join(into, 'project');
    await mkdir(folder, { recursive: true });
    const own = {
      GIT_INDEX_FILE: join(into, 'index'),
      GIT_WORK_TREE: folder,
      GIT_DIR: await git(['rev-parse', '--absolute-git-dir']),
    };
    await git(['read-tree', `${commit}:${prefix}`], own);
    await git(['-C', folder, 'checkout-index', '--all', '--force'], own);
    return folder;
  } catch (error) {
    const detail = isMissing(error) ? 'git is not installed' : firstLine(error);
    report(finding('git-failed', null, { name: revision, detail }));
    return null;
  }
}

function isMissing(error: unknown): boolean {
  return (error as NodeJS.ErrnoException).code === 'ENOENT';
}

function firstLine(error: unknown): string {
  const { stderr } = error as { stderr?: string };
  const said = stderr ?? (error instanceof Error ? error.message : String(error));
  return said.trim().split('\n')[0] ?? '';
}
