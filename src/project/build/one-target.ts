import { finding, type Finding } from '../../core/findings/finding.js';
import type { Target } from './target.js';

/** The one destination that is meant; where there are several, the user is asked. */
export function oneTarget(targets: readonly Target[], findings: Finding[]): readonly Target[] {
  const names = targets.map(({ destination }) => destination.name);
  if (names.length > 1)
    findings.push(finding('destination-needed', null, { names: names.join(', '), example: names[0] ?? '' }));
  return targets;
}
