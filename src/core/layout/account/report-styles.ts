import { cssDetail } from '../../findings/wording/css.js';
import { layoutAdvice } from '../../findings/wording/layout.js';
import type { Declared } from '../../css/cascade/cascade.js';
import type { DeclaredByOrder } from '../../css/cascade/document-cascade.js';
import type { ElementIndex, IndexedElement } from '../../css/selectors/element-index.js';
import type { StyleRule } from '../../css/cascade/rules.js';
import { misspeltProperty, nearestValue } from '../../css/values/misspelt.js';
import { judgeValue } from '../../css/values/validity.js';
import { finding, type Finding, type Report } from '../../findings/finding.js';
import { holdsTag } from '../../html/tags.js';
import type { SourceText } from '../../text/source-text.js';
import { refusal } from '../content/refusal.js';
import { standsInRaw } from '../content/native.js';
import { isHeadPart } from '../print/parts.js';
import { judgeDeclaration } from './support.js';
import { isOwnHover } from '../boxes/variants.js';

/** What is known of elements in all states. */
interface Surroundings {
  /** Whether an element shows anywhere, by its order number. */
  readonly isShown: (order: number) => boolean;
  /** Whether a property is about boxes of its kind. */
  readonly applies: (property: string, element: IndexedElement) => boolean;
}

/** What of no shown element tables can carry. What never shows may say what it likes. */
export function reportUnsupported(
  index: ElementIndex,
  declared: DeclaredByOrder,
  { isShown, applies }: Surroundings,
  report: Report,
): void {
  const said = new Set<Declared['declaration']>();
  const { source } = index.doc;
  for (const candidate of index.elements) {
    if (standsInRaw(candidate) || !showsAnywhere(candidate, isShown)) continue;
    for (const item of declared[candidate.order] ?? []) {
      const { declaration, origin } = item;
      if (origin === 'browser' || origin === 'attribute-hint' || said.has(declaration)) continue;
      if (origin === 'style-attribute') misspellings(declaration).forEach(report);
      if (!applies(declaration.property, candidate)) continue;
      const found = judge(item, candidate, source);
      if (found === null) continue;
      said.add(declaration);
      report(found);
    }
  }
}

/** What is wrong with a declaration on an element; null where nothing is. */
function judge(declared: Declared, { node }: IndexedElement, message: SourceText): Finding | null {
  const { declaration, selector, stateful } = declared;
  const { property, value, place } = declaration;
  if (holdsTag(property + value) || property === '') return filledIn(declaration);
  const judged =
    stateful && !isOwnHover(selector)
      ? ({ verdict: 'refused', advice: layoutAdvice.ownHover } as const)
      : judgeDeclaration(property, value, node.tag);
  if (judged === null) return null;
  if (misspeltProperty(property) !== null) return null;
  if (judged.verdict === 'refused') return refusal({ declared, property, value, node, message, advice: judged.advice });
  const at = selector === '' ? `style of <${node.tag}>` : selector;
  return finding('css-decoration-lost', place, { property, value, selector: at });
}

function showsAnywhere(candidate: IndexedElement, isShown: (order: number) => boolean): boolean {
  for (let at: IndexedElement | null = candidate; at !== null && at.node.tag !== 'html'; at = at.parent)
    if (!isShown(at.order)) return false;
  return true;
}

/** Colours may be filled in; what decides on sizes must be known when the message is compiled. */
function filledIn({ property, place }: Declared['declaration']): Finding | null {
  if (/^(?:color|background|background-color)$/.test(property)) return null;
  return finding('css-filled-in', place, { declaration: place.source.slice(place.span) });
}

/** What is wrong with rules whether or not they match: values that no browser takes, parts of elements that get no style. */
export function reportRules(rules: readonly StyleRule[], report: Report): void {
  for (const { selectors, declarations, place } of rules) {
    for (const { pseudoElement, text } of selectors)
      if (isHeadPart(pseudoElement))
        report(finding('css-part-in-head', place, { property: pseudoElement, selector: text }));
      else if (pseudoElement !== null && !/^::(?:before|after)$/.test(pseudoElement))
        report(finding('css-decoration-lost', place, { property: pseudoElement, selector: text }));
    for (const declaration of declarations) misspellings(declaration).forEach(report);
  }
}

/** A property or a value that no browser knows. */
function misspellings({ property, value, place }: Declared['declaration']): Finding[] {
  const meant = misspeltProperty(property);
  if (meant !== null) return [finding('css-ignored', place, { detail: cssDetail.noProperty(property, meant) })];
  if (/var\(/i.test(value) || judgeValue(property, value, holdsTag(property + value)) !== 'invalid') return [];
  const detail = cssDetail.noValueOf(value, property, nearestValue(property, value));
  return [finding('css-ignored', place, { detail })];
}
