import { isAcceptable, linkCodes, withAcceptances, type AcceptedFinding } from '../../core/check/accept.js';
import { ruleCodes } from '../../core/check/rule-codes.js';
import { withSettings, type CheckSettings } from '../../core/check/settings.js';
import { catalogue } from '../../core/findings/catalogue.js';
import { atOrigin, identityOf, type Finding } from '../../core/findings/finding.js';
import { findingsOf } from '../visit/message-findings.js';
import type { VisitedMessage } from '../visit/visit-messages.js';
import type { SourceText } from '../../core/text/source-text.js';

/** Findings that keep nothing from being made. */
const rules: ReadonlySet<string> = new Set([...ruleCodes, ...linkCodes]);

/** Every code that a finding can have. */
const findingCodes: readonly string[] = [...ruleCodes, ...Object.keys(catalogue)];

/** Whether a finding is one of the check's rules. */
export function isOfRule({ code }: Finding): boolean {
  return rules.has(code);
}

/** Whether an author may accept a finding. */
export function canAccept(item: Finding): boolean {
  return isAcceptable(item, rules);
}

/** Findings without what their authors have accepted; what is wrong with the comments that accept is among them. */
export function withoutAccepted(
  findings: readonly Finding[],
  sources: readonly SourceText[],
): { readonly standing: Finding[]; readonly accepted: readonly AcceptedFinding[] } {
  if (sources.length === 0) return { standing: [...findings], accepted: [] };
  const problems: Finding[] = [];
  const { standing, accepted } = withAcceptances(
    findings.map(atOrigin),
    sources,
    { codes: findingCodes, canAccept },
    (item) => problems.push(item),
  );
  return { standing: [...standing, ...problems], accepted };
}

/** Findings as a project wants them. */
export function asSet(findings: readonly Finding[], settings: CheckSettings, strict = false): Finding[] {
  return withSettings(findings, { settings, strict, ruleCodes: rules });
}

/** What was found in a message, without what its authors have accepted. */
export function settledMessage(
  { own, outcomes, sources }: VisitedMessage<{ readonly findings: readonly Finding[] }>,
  settings: CheckSettings,
  strict = false,
): { readonly findings: readonly Finding[]; readonly accepted: readonly AcceptedFinding[] } {
  const all = findingsOf({ own: asSet(own, settings, strict), outcomes });
  const { standing, accepted } = withoutAccepted(all, sources);
  // What is wrong with the comments is set like anything else.
  const known = new Set(all.map(identityOf));
  const comments = standing.filter((item) => !known.has(identityOf(item)));
  const findings = [...standing.filter((item) => known.has(identityOf(item))), ...asSet(comments, settings, strict)];
  return { findings: findingsOf({ own: findings, outcomes: [] }), accepted };
}
