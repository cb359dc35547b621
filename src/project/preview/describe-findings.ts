import { relative } from 'node:path';
import { plainPaint, renderFinding } from '../../core/findings/code-frame.js';
import { fixOf, reasonOf, severityOf, type Finding, type Place } from '../../core/findings/finding.js';
import { textWidth } from '../../core/text/text-width.js';
import type { MessageState, PreviewFinding } from '../../core/views/model.js';

/** Findings as a preview shows them, led to the elements that they are about. */
export function describeFindings(
  findings: readonly Finding[],
  places: readonly (Place | null)[],
  folder: string,
): PreviewFinding[] {
  const nameOf = (name: string): string => relative(folder, name) || name;
  return findings.map((item) => {
    const { place } = item;
    const lines = renderFinding(item, { paint: plainPaint, width: textWidth, nameOf }).split('\n');
    return {
      code: item.code,
      severity: severityOf(item),
      message: reasonOf(item),
      fix: fixOf(item),
      place: place === null ? null : placeName(place, nameOf, 'column'),
      frame: place === null ? '' : lines.slice(1, 3).join('\n'),
      mark: place === null ? null : markOf(place, places),
    };
  });
}

/** `messages/a.html:12`, with the column where it is asked for. */
function placeName({ source, span }: Place, nameOf: (name: string) => string, to: 'line' | 'column'): string {
  const { line, column } = source.lineColumn(span.start);
  return `${nameOf(source.name)}:${line}${to === 'column' ? `:${column}` : ''}`;
}

/** The element that a place stands in, or that begins last before it in the same file. */
function markOf({ source, span }: Place, places: readonly (Place | null)[]): number | null {
  let best: number | null = null;
  let start = -1;
  for (const [mark, place] of places.entries()) {
    if (place === null || place.source.name !== source.name || place.span.start > span.start) continue;
    // Of elements at one place, as a loop makes them, the first.
    if (place.span.start > start) [best, start] = [mark, place.span.start];
  }
  return best;
}

/** How a message stands by what was found in it. */
export function stateOf(findings: readonly PreviewFinding[], isBuilt: boolean): MessageState {
  if (!isBuilt) return 'broken';
  return findings.some(({ severity }) => severity !== 'note') ? 'findings' : 'fine';
}

/** How many findings there are of each severity. */
export function countsOf(findings: readonly PreviewFinding[]): Record<'error' | 'warning' | 'note', number> {
  const count = (wanted: string): number => findings.filter(({ severity }) => severity === wanted).length;
  return { error: count('error'), warning: count('warning'), note: count('note') };
}
