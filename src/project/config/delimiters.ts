import { adviceForName, finding, type Finding } from '../../core/findings/finding.js';
import type { TagDelimiters } from '../../core/html/tags.js';
import { delimitersOf, type Dialect } from '../../core/dialects/dialect.js';
import { nearestName } from '../../core/text/nearest.js';
import { dialectNames, dialectNamed } from './dialects.js';

/** Delimiters that are found in finished HTML, and what was wrong on the way to them. */
export interface DelimiterResult {
  readonly delimiters: readonly TagDelimiters[];
  readonly dialects: readonly Dialect[];
  readonly findings: readonly Finding[];
}

/** The delimiters of template tags: those of one dialect, or of all that are known. */
export async function knownDelimiters(folder: string, only: string | null): Promise<DelimiterResult> {
  const known = (await dialectNames(folder)).sort();
  if (only !== null && !known.includes(only)) {
    const advice = adviceForName(nearestName(only, known), known, '');
    return { delimiters: [], dialects: [], findings: [finding('unknown-dialect', null, { name: only, advice })] };
  }
  const names = only === null ? known : [only];
  const loaded = await Promise.all(names.map((name) => dialectNamed(name, folder)));
  const dialects = loaded.flatMap(({ dialect }) => (dialect === null ? [] : [dialect]));
  return {
    delimiters: delimitersOf(dialects),
    dialects,
    findings: only === null ? [] : loaded.flatMap(({ findings }) => [...findings]),
  };
}
