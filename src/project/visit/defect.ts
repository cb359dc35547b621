import { basename } from 'node:path';
import { finding, type Finding } from '../../core/findings/finding.js';

/** A defect on the way through one message is told with its name, and ends nothing for the others. */
export function defectIn(path: string, error: unknown): Finding {
  const [what = '', ...where] = (error instanceof Error ? (error.stack ?? error.message) : String(error)).split('\n');
  const at = where.map((line) => line.trim()).find((line) => line.startsWith('at '));
  const detail = at === undefined ? what : `${what} (${at})`;
  return finding('message-defect', null, { message: basename(path), detail });
}
