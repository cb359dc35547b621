import { readdir } from 'node:fs/promises';
import { dirname, resolve } from 'node:path';
import { asSnippet } from '../../core/editor/complete/complete-expression.js';
import type { Completion, FileWish } from '../../core/editor/complete/completion.js';
import { isInside } from '../files/inside.js';

/** The files and folders of a project that a path may go on with; paths count from the folder of the file that names them. */
export async function completeFileNames(
  { written, span, endings }: FileWish,
  from: string,
  projectFolder: string,
): Promise<Completion[]> {
  const begun = written.slice(written.lastIndexOf('/') + 1);
  const folder = resolve(dirname(from), written.slice(0, written.length - begun.length));
  const up: Completion[] = written === '' ? [entry('../', 'folder', span)] : [];
  if (folder !== projectFolder && !isInside(folder, projectFolder)) return up;
  const entries = await readdir(folder, { withFileTypes: true }).catch(() => []);
  const own = { start: span.end - begun.length, end: span.end };
  const found = entries.flatMap((item): Completion[] => {
    if (item.name.startsWith('.') || item.name === 'node_modules') return [];
    if (item.isDirectory()) return [entry(`${item.name}/`, 'folder', own)];
    return endings.test(item.name) ? [entry(item.name, 'file', own)] : [];
  });
  return [...found.sort((a, b) => (a.label < b.label ? -1 : 1)), ...up];
}

function entry(label: string, kind: 'file' | 'folder', span: Completion['span']): Completion {
  return { label, kind, detail: '', insert: asSnippet(label), span };
}
