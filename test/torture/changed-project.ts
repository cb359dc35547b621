import { cpSync, readdirSync, readFileSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { TestFolder } from '../support/project.js';
import { ROUNDS } from './law.js';

let model: TestFolder | null = null;

/** A built project of three messages, and finished HTML beside it. */
export function builtProject(): TestFolder {
  if (model !== null) return model;
  model = TestFolder.demoProject();
  for (const message of ['parts-specimen.html', 'membership-receipt.html', 'branch-notice.md'])
    model.delete(`messages/${message}`);
  rmSync(join(model.path, 'out'), { recursive: true, force: true });
  const { code, err } = model.run(['build']);
  if (code !== 0) throw new Error(err);
  const page = model.read('foreign/bellmoor-export.html').replaceAll('bellmoor-files/', 'foreign/bellmoor-files/');
  return model.write({ 'page.html': page, 'other.html': page.replace('blunt edges', 'sharp edges') });
}

/** That project with every message changed since it was built. */
export function changedProject(): TestFolder {
  const folder = new TestFolder();
  cpSync(builtProject().path, folder.path, { recursive: true });
  for (const message of ['loans-due', 'may-newsletter', 'repair-day'])
    folder.change(`messages/${message}.html`, '</main>', '<p class="text">One line more</p></main>');
  return folder;
}

/** Leaves nothing behind. */
export function removeProjects(): void {
  model?.remove();
  model = null;
}

/** Every file below a folder, by its path; a mail without what says when it was written. */
export function filesIn(folder: string): Map<string, string> {
  const isFile = (path: string): boolean => statSync(join(folder, path)).isFile();
  const bytes = (path: string): string => readFileSync(join(folder, path)).toString('latin1');
  const paths = readdirSync(folder, { recursive: true, encoding: 'utf8' }).filter(isFile).sort();
  return new Map(paths.map((path) => [path, bytes(path).replace(/^(?:Date|Message-ID): .*$/gm, '')]));
}

/** What is kept beside outputs so that nothing is done twice; what it says is looked at by doing it again. */
export const isRecord = (path: string): boolean => /(?:^|\/)\.record\//.test(path);

/** Commands that are tried, one in a line; in verify alone those marked with `*`, which stand for the others. */
export function triedCommands(lines: string): (readonly [string, readonly string[]])[] {
  const all = lines
    .trim()
    .split('\n')
    .map((line) => line.trim());
  const tried = ROUNDS > 1 ? all : all.filter((line) => line.startsWith('* '));
  return tried.map((line) => line.replace(/^\* /, '')).map((line) => [line, line.split(' ')]);
}
