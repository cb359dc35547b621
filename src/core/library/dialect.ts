import type { Dialect } from '../dialects/dialect.js';
import { readDialect as readDialectFile } from '../dialects/file/read-dialect.js';
import { sourceOf, type Result, type Text } from './result.js';

/**
 * Reads the text of a dialect file. Null, with findings at their lines, where it says what no dialect can.
 * @example
 * const { value: dialect, findings } = readDialect(await readFile('dialects/ours.yaml', 'utf8'));
 */
export function readDialect(yaml: Text): Result<Dialect | null> {
  const { dialect, findings } = readDialectFile(sourceOf(yaml, 'dialect.yaml'));
  return { value: dialect, findings };
}
