import { basename, extname, relative, sep } from 'node:path';
import { CONFIG_FILE, OUT_FOLDER } from '../files/project-folder.js';

/** What a file of a project is. */
export type FileKind = 'config' | 'dialect' | 'message' | 'part' | 'frame' | 'style sheet' | 'data' | 'text';

/** What a file is, by where it lies in its project; null for what no message is made of. */
export function fileKind(path: string, folder: string): FileKind | null {
  const inside = relative(folder, path).split(sep);
  const [first = ''] = inside;
  const ending = extname(path);
  if (first === '..' || first === OUT_FOLDER || inside.some((name) => name.startsWith('.') || name === 'node_modules'))
    return null;
  if (inside.length === 1) return first === CONFIG_FILE ? 'config' : ending === '.css' ? 'style sheet' : null;
  if (ending === '.css') return 'style sheet';
  if (inside.length === 2) {
    if (first === 'dialects' && ending === '.yaml') return 'dialect';
    if (first === 'messages' && (ending === '.html' || ending === '.md')) return 'message';
    if (first === 'messages' && ending === '.txt') return 'text';
    if (first === 'parts' && ending === '.html') return 'part';
    if (first === 'frames' && ending === '.html') return 'frame';
  }
  const isPlan = basename(path).endsWith('.slices.yaml');
  return /^\.(?:ya?ml|json|csv)$/.test(ending) && !isPlan ? 'data' : null;
}
