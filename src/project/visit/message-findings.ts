import { atOrigin, withoutRepeats, type Finding } from '../../core/findings/finding.js';

/** All that was found in a message, in the order in which it is read. */
export function findingsOf<Outcome extends { readonly findings: readonly Finding[] }>({
  own,
  outcomes,
}: {
  readonly own: readonly Finding[];
  readonly outcomes: readonly Outcome[];
}): Finding[] {
  return inReadingOrder(withoutRepeats([...own, ...outcomes.flatMap(({ findings }) => findings)].map(atOrigin)));
}

/** By file, as they first come up, then by place. */
function inReadingOrder(findings: readonly Finding[]): Finding[] {
  const files = [...new Set(findings.map(({ place }) => place?.source.name ?? ''))];
  const key = (item: Finding): number => files.indexOf(item.place?.source.name ?? '');
  return [...findings].sort((a, b) => key(a) - key(b) || (a.place?.span.start ?? 0) - (b.place?.span.start ?? 0));
}
