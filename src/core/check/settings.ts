import { entryOf, isError, type Finding, type Severity } from '../findings/finding.js';

/** What a project makes of findings, by their codes. */
export type CheckSettings = Readonly<Record<string, Severity | 'off'>>;

/** What a setting may say. */
export const settingWords = ['error', 'warning', 'note', 'off'] as const;

/**
 * Findings as a project wants them: graver, less grave, or not at all. What keeps a message from being built stays an error,
 * whatever is set.
 * @param strict whether warnings count as errors
 */
export function withSettings(
  findings: readonly Finding[],
  {
    settings,
    strict,
    ruleCodes,
  }: { readonly settings: CheckSettings; readonly strict: boolean; readonly ruleCodes: ReadonlySet<string> },
): Finding[] {
  return findings.flatMap((item) => {
    const isFixed = isError(item) && !ruleCodes.has(item.code);
    const wanted = isFixed || !Object.hasOwn(settings, item.code) ? entryOf(item).severity : settings[item.code];
    if (wanted === 'off' || wanted === undefined) return [];
    const severity = strict && wanted === 'warning' ? 'error' : wanted;
    return severity === entryOf(item).severity ? [item] : [{ ...item, entry: { ...entryOf(item), severity } }];
  });
}
