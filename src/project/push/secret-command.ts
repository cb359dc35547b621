import { execFile } from 'node:child_process';
import type { Refuse } from '../../core/findings/finding.js';

/** A keyring may ask a person for leave. */
const PATIENCE = 60_000;

/** What a command prints on its first line, or null where there is none. What it prints is shown nowhere. */
export function secretOf(command: string, folder: string, refuse: Refuse): Promise<string | null> {
  const [shell, option] = process.platform === 'win32' ? ['cmd.exe', '/c'] : ['/bin/sh', '-c'];
  return new Promise((resolve) => {
    execFile(shell, [option, command], { cwd: folder, timeout: PATIENCE, encoding: 'utf8' }, (error, stdout) => {
      const [first = ''] = stdout.split(/\r?\n/);
      const secret = first.trim();
      if (error !== null)
        resolve(refuse(error.killed === true ? 'it takes too long' : `it ends with ${String(error.code)}`));
      else resolve(secret === '' ? refuse('it prints nothing') : secret);
    });
  });
}
