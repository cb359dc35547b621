import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Dialect } from '../../core/dialects/dialect.js';
import { ownFile } from '../files/own-files.js';

/** The folder of the dialects that ship. */
export const builtInDialects = ownFile('dialects');

/** A dialect as it was read when the program was built, and the digest of the file that it was read from. */
interface ReadAhead {
  readonly digest: string;
  readonly dialect: Dialect;
}

/**
 * A dialect that ships, read when the program was built: reading its file takes longer than most commands do. Null where
 * there is none, or where the file is another one by now.
 */
export function shippedDialect(name: string): Dialect | null {
  try {
    readAhead ??= JSON.parse(readFileSync(ownFile('dist/dialects.json'), 'utf8')) as ReadDialects;
    const found = Object.hasOwn(readAhead, name) ? readAhead[name] : undefined;
    const text = readFileSync(join(builtInDialects, `${name}.yaml`));
    return found?.digest === createHash('sha256').update(text).digest('hex') ? found.dialect : null;
  } catch {
    // Without it the file itself is read, and says what is wrong.
    return null;
  }
}

type ReadDialects = Readonly<Record<string, ReadAhead>>;

/** Read once, whoever asks first. */
let readAhead: ReadDialects | null = null;
