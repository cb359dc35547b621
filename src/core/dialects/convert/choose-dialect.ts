import { adviceForName, finding, type Report } from '../../findings/finding.js';
import { nearestName } from '../../text/nearest.js';
import type { SourceText } from '../../text/source-text.js';
import type { Dialect } from '../dialect.js';
import { readTags } from '../read/foreign-tags.js';
import { listed } from '../../text/amounts.js';
import { spanAt } from '../../text/span.js';

/** The dialect of a name; null, with a finding, where there is none. */
export function chosenDialect(name: string, dialects: readonly Dialect[], report: Report): Dialect | null {
  const dialect = dialects.find((candidate) => candidate.name === name);
  if (dialect === undefined) {
    const known = dialects.map((candidate) => candidate.name).sort();
    report(finding('unknown-dialect', null, { name, advice: adviceForName(nearestName(name, known), known, '') }));
  }
  return dialect ?? null;
}

/** The dialect that a text shows; null, with a finding, where it shows none, or several alike. */
export function recognizedDialect(source: SourceText, dialects: readonly Dialect[], report: Report): Dialect | null {
  const place = { source, span: spanAt(0, 0) };
  const ranking = recognizeDialects(source, dialects);
  const [first] = ranking;
  if (first === undefined) {
    report(finding('dialect-unrecognized', place, {}));
    return null;
  }
  const best = first.known - first.unknown;
  const tied = ranking.filter(({ known, unknown }) => known - unknown === best);
  if (tied.length > 1) {
    const names = listed(tied.map(({ dialect }) => dialect.name));
    report(finding('dialect-ambiguous', place, { names, count: String(first.known) }));
    return null;
  }
  const count = `${first.known} of ${first.known + first.unknown} tags`;
  report(finding('dialect-recognized', null, { file: source.name, dialect: first.dialect.name, count }));
  return first.dialect;
}

/** How many tags of a text a dialect knows, and how many it only delimits. */
export interface Recognition {
  readonly dialect: Dialect;
  readonly known: number;
  readonly unknown: number;
}

/** Ranks dialects by the tags of a text that they know; those that know none are left out. */
export function recognizeDialects(source: SourceText, dialects: readonly Dialect[]): Recognition[] {
  return dialects
    .map((dialect): Recognition => {
      const tags = readTags(source, dialect, new Map(), () => undefined);
      const known = tags.filter(
        ({ tag, verdict }) => tag.kind !== 'broken' && verdict !== 'repaired' && verdict !== 'unknown',
      ).length;
      return { dialect, known, unknown: tags.length - known };
    })
    .filter(({ known }) => known > 0)
    .sort((a, b) => b.known - b.unknown - (a.known - a.unknown));
}
