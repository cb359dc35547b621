import { identityOf, isError, type Finding, type Place } from '../findings/finding.js';

/** Errors that leave names without a meaning. */
const withoutData: ReadonlySet<string> = new Set([
  'data-missing',
  'data-outside',
  'data-syntax',
  'data-kind',
  'unknown-frame',
  'front-matter-missing',
]);

const aboutNames: ReadonlySet<string> = new Set(['unknown-build-value', 'build-value-doubtful', 'frame-value-missing']);

/**
 * What was found behind errors, without what may come of them alone: what is said of the message as a whole, of the very use of
 * a part that is wrong, or of names that nobody could read.
 * @param own whether a finding comes from before anything was written
 */
export function withoutConsequences(findings: readonly Finding[], own: ReadonlySet<string>): Finding[] {
  const errors = findings.filter((item) => isError(item) && own.has(identityOf(item)));
  const lacksData = errors.some(({ code }) => withoutData.has(code));
  return findings.filter((item) => {
    const others = errors.filter((error) => error !== item && !isOfWhole(error.place));
    if (others.length === 0) return true;
    if (item.code === 'message-defect' || item.code === 'tag-left-out' || (lacksData && aboutNames.has(item.code)))
      return false;
    if (isOfWhole(item.place)) return item.place === null && own.has(identityOf(item));
    const around = own.has(identityOf(item)) ? (item.uses ?? []) : [item.place, ...(item.uses ?? [])];
    return !others.some((error) => around.some((place) => holds(place, error.place)));
  });
}

/** What has no place of its own is told at the top, or where the page or its parts begin. */
function isOfWhole(place: Place | null): boolean {
  if (place === null) return true;
  const { start, end } = place.span;
  return end === start ? start === 0 : /^<(?:html|head|body)\b/i.test(place.source.text.slice(start, start + 6));
}

function holds(place: Place | null | undefined, inner: Place | null): boolean {
  if (place === null || place === undefined || inner === null || inner.source.name !== place.source.name) return false;
  return place.span.start <= inner.span.start && inner.span.end <= place.span.end;
}
