import { cssDetail } from '../findings/wording/css.js';
import type { Declared } from '../css/cascade/cascade.js';
import { invalidMedia } from '../css/cascade/media-validity.js';
import type { Condition, StyleRule } from '../css/cascade/rules.js';
import type { Selector } from '../css/selectors/part.js';
import { nearestValue } from '../css/values/misspelt.js';
import { judgeValue } from '../css/values/validity.js';
import { finding, type Report } from '../findings/finding.js';
import type { CompositionContext } from './element-styles.js';

/** A selector that reads the style attribute cannot stay true once styles move there. */
export function readsStyle(selector: Selector): boolean {
  const known = readers.get(selector);
  if (known !== undefined) return known;
  const reads = selector.texts().some((text) => /\[\s*style\b/i.test(text));
  readers.set(selector, reads);
  return reads;
}

/** Each selector is asked about for each element that it matches. */
const readers = new WeakMap<Selector, boolean>();

/** Values that no browser takes, and selectors that read what moves. */
export function checkSheets(
  rules: readonly StyleRule[],
  context: Pick<CompositionContext, 'quirks' | 'holdsTag'>,
  report: Report,
): void {
  const seen = new Set<Declared['declaration']>();
  checkConditions(rules, report);
  for (const rule of rules) {
    for (const declaration of rule.declarations) {
      if (seen.has(declaration)) continue;
      seen.add(declaration);
      const { property, value, place } = declaration;
      if (
        context.quirks ||
        /var\(/i.test(value) ||
        context.holdsTag(value) ||
        context.holdsTag(property) ||
        judgeValue(property, value) !== 'invalid'
      )
        continue;
      report(
        finding('css-ignored', place, { detail: cssDetail.noValueOf(value, property, nearestValue(property, value)) }),
      );
    }
    for (const selector of rule.selectors)
      if (readsStyle(selector)) report(finding('css-reads-style', rule.place, { selector: selector.text }));
  }
}

export function reportOpen(
  rules: readonly StyleRule[],
  open: ReadonlySet<Selector>,
  written: (text: string) => string,
  report: Report,
): void {
  for (const { selectors, place } of rules)
    for (const selector of selectors)
      if (open.has(selector)) report(finding('css-undecided', place, { selector: written(selector.text) }));
}

/** Media queries that never hold; their rules stay in the head. */
function checkConditions(rules: readonly StyleRule[], report: Report): void {
  const seen = new Set<Condition['place']>();
  for (const { kind, text, place } of rules.flatMap(({ conditions }) => conditions)) {
    if (kind !== 'media' || seen.has(place)) continue;
    seen.add(place);
    const invalid = invalidMedia(text);
    if (invalid === null) continue;
    const hint = invalid.nearest === null ? '' : `; did you mean "${invalid.nearest}"?`;
    report(finding('css-ignored', place, { detail: cssDetail.queryNeverHolds(invalid.query, invalid.detail, hint) }));
  }
}
