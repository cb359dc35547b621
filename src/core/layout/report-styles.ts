import { cssDetail } from '../findings/wording/css.js';
import { layoutAdvice } from '../findings/wording/layout.js';
import { type Declared } from '../css/cascade/cascade.js';
import { type ElementIndex, type IndexedElement } from '../css/selectors/element-index.js';
import type { StyleRule } from '../css/cascade/rules.js';
import { judgeValue } from '../css/values/validity.js';
import { finding, type Report } from '../findings/finding.js';
import { holdsTag } from '../html/tags.js';
import { standsInRaw } from './content/native.js';
import { judgeDeclaration } from './support.js';
import { isOwnHover } from './boxes/variants.js';

/** What of no shown element tables can carry. What never shows may say what it likes. */
export function reportUnsupported(
  index: ElementIndex,
  declared: readonly Declared[][],
  isShown: (order: number) => boolean,
  report: Report,
): void {
  const seen = new Set<Declared['declaration']>();
  for (const candidate of index.elements) {
    if (standsInRaw(candidate) || !showsAnywhere(candidate, isShown)) continue;
    for (const { declaration, origin, selector, stateful } of declared[candidate.order] ?? []) {
      if (origin === 'browser' || origin === 'attribute-hint' || seen.has(declaration)) continue;
      seen.add(declaration);
      const { property, value } = declaration;
      if (holdsTag(property + value) || property === '') {
        reportFilledIn(declaration, report);
        continue;
      }
      const judged =
        stateful && !isOwnHover(selector)
          ? { verdict: 'refused', advice: layoutAdvice.ownHover }
          : judgeDeclaration(property, value, candidate.node.tag);
      const data = { property, value, selector: selector === '' ? `style of <${candidate.node.tag}>` : selector };
      if (judged?.verdict === 'refused')
        report(finding('css-unsupported', declaration.place, { ...data, advice: judged.advice }));
      else if (judged !== null) report(finding('css-decoration-lost', declaration.place, data));
    }
  }
}

function showsAnywhere(candidate: IndexedElement, isShown: (order: number) => boolean): boolean {
  for (let at: IndexedElement | null = candidate; at !== null && at.node.tag !== 'html'; at = at.parent)
    if (!isShown(at.order)) return false;
  return true;
}

/** Colours may be filled in; what decides on sizes must be known when the message is compiled. */
function reportFilledIn({ property, place }: Declared['declaration'], report: Report): void {
  if (/^(?:color|background|background-color)$/.test(property)) return;
  report(finding('css-filled-in', place, { declaration: place.source.slice(place.span) }));
}

/** What is wrong with rules whether or not they match: values that no browser takes, parts of elements that get no style. */
export function reportRules(rules: readonly StyleRule[], report: Report): void {
  for (const { selectors, declarations, place } of rules) {
    const other = selectors.find(
      ({ pseudoElement }) => pseudoElement !== null && !/^::(?:before|after)$/.test(pseudoElement),
    );
    if (other !== undefined)
      report(finding('css-decoration-lost', place, { property: other.pseudoElement ?? '', selector: other.text }));
    for (const { property, value, place: at } of declarations) {
      if (/var\(/i.test(value) || judgeValue(property, value, holdsTag(property + value)) !== 'invalid') continue;
      report(finding('css-ignored', at, { detail: cssDetail.noValueOf(value, property) }));
    }
  }
}
