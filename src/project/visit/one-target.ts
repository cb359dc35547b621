import { finding, type Report } from '../../core/findings/finding.js';
import type { Target } from './target.js';

/** The one destination that is meant; where there are several, the user is asked. */
export function oneTarget(targets: readonly Target[], report: Report): readonly Target[] {
  const names = targets.map(({ destination }) => destination.name);
  if (names.length > 1)
    report(finding('destination-needed', null, { names: names.join(', '), example: names[0] ?? '' }));
  return targets;
}
