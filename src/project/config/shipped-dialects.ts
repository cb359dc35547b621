import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
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
export async function shippedDialect(name: string): Promise<Dialect | null> {
  try {
    readAhead ??= readFile(ownFile('dist/dialects.json'), 'utf8').then((text) => JSON.parse(text) as ReadDialects);
    const known = await readAhead;
    const found = Object.hasOwn(known, name) ? known[name] : undefined;
    const text = await readFile(join(builtInDialects, `${name}.yaml`));
    return found?.digest === createHash('sha256').update(text).digest('hex') ? found.dialect : null;
  } catch {
    // Without it the file itself is read, and says what is wrong.
    return null;
  }
}

type ReadDialects = Readonly<Record<string, ReadAhead>>;

/** Read once, whoever asks first. */
let readAhead: Promise<ReadDialects> | null = null;
