import { counted, thousands } from '../../core/text/amounts.js';
import { dirname, relative } from 'node:path';
import type { BuildOutcome } from '../../project/build/outcome.js';
import { kilobytes } from '../../core/text/amounts.js';

/** So many outputs that were not built are named; of more there is the number. */
const MOST_NAMES = 12;

/** A line for each destination of a message that was built; its editions share one. */
export function describeOutcomes(outcomes: readonly BuildOutcome[], folder: string): string[] {
  const written = outcomes.filter((outcome) => outcome.written !== null && !outcome.isUnchanged);
  const destinations = [...new Set(written.map(({ destination }) => destination))];
  return destinations.flatMap((destination) => {
    const own = written.filter((outcome) => outcome.destination === destination);
    return own.some(({ edition }) => edition !== null)
      ? [describeEditions(own, folder)]
      : own.map((item) => describeOutcome(item, folder));
  });
}

/** `unchanged: 12`, of messages at their destinations; null where all were built. */
export function describeUnchanged(outcomes: readonly BuildOutcome[]): string | null {
  const standing = outcomes.filter(({ isUnchanged }) => isUnchanged);
  const count = new Set(standing.map(({ message, destination }) => `${destination}/${message}`)).size;
  return count === 0 ? null : `unchanged: ${thousands(count)}`;
}

function describeEditions(outcomes: readonly BuildOutcome[], folder: string): string {
  const [first] = outcomes;
  if (!first?.written) return '';
  const average =
    outcomes.reduce((sum, { written }) => sum + sizeOf(written?.files ?? [], 'index.html'), 0) / outcomes.length;
  const count = `${thousands(outcomes.length)} ${outcomes.length === 1 ? 'edition' : 'editions'}`;
  return `${first.destination}: ${first.message}  ${count}, ${kilobytes(average)} HTML each  ${relative(folder, dirname(first.written.folder))}`;
}

/** "may-newsletter for members, branch-notice (mill-yard) for archive". */
export function describeFailures(failures: readonly BuildOutcome[]): string {
  const names = failures.map(
    ({ message, edition, destination }) => `${message}${edition === null ? '' : ` (${edition})`} for ${destination}`,
  );
  return names.length > MOST_NAMES
    ? `${names.slice(0, MOST_NAMES).join(', ')} and ${names.length - MOST_NAMES} more`
    : names.join(', ');
}

/** `members: may-newsletter  23.4 KB HTML, 1.8 KB text, 6 pictures (41.2 KB, before 81.0 KB)  out/members/may-newsletter.zip`. */
function describeOutcome({ message, destination, written, pictures }: BuildOutcome, folder: string): string {
  const files = written?.files ?? [];
  const where = relative(folder, written?.package ?? written?.folder ?? '');
  return `${destination}: ${message}  ${kilobytes(sizeOf(files, 'index.html'))} HTML, ${kilobytes(sizeOf(files, 'index.txt'))} text, ${describePictures(pictures)}  ${where}`;
}

function describePictures(pictures: BuildOutcome['pictures']): string {
  if (pictures === null || pictures.count === 0) return 'no pictures';
  const { count, bytes, bytesBefore, uploaded } = pictures;
  const [now, before] = [kilobytes(bytes), kilobytes(bytesBefore)];
  const sizes = now === before ? now : `${now}, before ${before}`;
  return `${counted(count, 'picture')} (${sizes}${uploaded === 0 ? '' : `; ${uploaded} uploaded`})`;
}

function sizeOf(files: readonly { path: string; size: number }[], suffix: string): number {
  return files.filter(({ path }) => path.endsWith(suffix)).reduce((sum, { size }) => sum + size, 0);
}
