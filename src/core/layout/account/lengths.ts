import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import type { Declared } from '../../css/cascade/cascade.js';
import type { ElementIndex, IndexedElement } from '../../css/selectors/element-index.js';
import type { Report } from '../../findings/finding.js';
import type { SourceText } from '../../text/source-text.js';
import { refusal } from '../content/refusal.js';
import { layoutAdvice } from '../../findings/wording/layout.js';
import { standsInRaw } from '../content/native.js';
import { hasEffect } from './applies.js';
import { isBoundedShare } from '../used/used-values.js';
import { judgeComputed } from './support.js';

/** The message that is judged, and where what is found goes. */
interface Told {
  readonly message: SourceText;
  readonly report: Report;
}

/** Reports lengths whose px cannot be known, at the declarations that they come from, each once. */
export function reportLengths(
  { elements, doc }: ElementIndex,
  states: readonly (readonly ComputedStyle[])[],
  isShown: (order: number) => boolean,
  report: Report,
): void {
  const seen = new Set<Declared['declaration']>();
  for (const element of elements) {
    if (!isShown(element.order) || standsInRaw(element)) continue;
    for (const styles of states) {
      const style = styles[element.order];
      const styleOf = (other: IndexedElement): ComputedStyle | null => styles[other.order] ?? null;
      for (const property of style?.authoredProperties() ?? []) {
        const around = element.parent === null ? null : (styles[element.parent.order] ?? null);
        if (style === undefined || !matters(property, style)) continue;
        if (!hasEffect(property, { element, style, around, styleOf })) continue;
        if (property === 'width' && isBoundedShare(style)) continue;
        const judged = judgeComputed(property, style.get(property)) ?? judgeAmong(property, style, around);
        if (judged !== null)
          refuse(element, style.declaredBy(property), judged.advice, seen, { message: doc.source, report });
      }
    }
  }
}

/** Judges what depends on the box itself, or on that around it; null where tables can have it. */
function judgeAmong(
  property: string,
  style: ComputedStyle,
  around: ComputedStyle | null,
): { readonly advice: string } | null {
  const value = style.get(property);
  if (
    property === 'justify-self' &&
    !/^(?:auto|normal|stretch)$/.test(value) &&
    !/flex|grid/.test(around?.get('display') ?? '')
  )
    return { advice: layoutAdvice.alignByMargins };
  if (property === 'width' && /-content$/.test(value) && /flex|grid/.test(style.get('display')))
    return { advice: layoutAdvice.widthOfRow };
  return null;
}

/** Whether a property does anything for a box: offsets move what is positioned, and what is as high as its content scrolls nothing. */
function matters(property: string, style: ComputedStyle): boolean {
  if (style.get('display') === 'none') return false;
  if (!property.startsWith('overflow') || style.get(property).includes('scroll')) return true;
  return style.get('height') !== 'auto' || style.get('max-height') !== 'none';
}

/** Reports lengths of the widest state that differ between two windows: they would grow with the window for ever. */
export function reportGrowing(
  { elements, doc }: ElementIndex,
  wide: readonly ComputedStyle[],
  narrow: readonly ComputedStyle[],
  report: Report,
): void {
  const seen = new Set<Declared['declaration']>();
  for (const element of elements) {
    const style = wide[element.order];
    if (style === undefined || standsInRaw(element)) continue;
    for (const property of style.authoredProperties())
      if (style.get(property) !== narrow[element.order]?.get(property))
        refuse(element, style.declaredBy(property), layoutAdvice.growsWithWindow, seen, {
          message: doc.source,
          report,
        });
  }
}

function refuse(
  { node }: IndexedElement,
  declared: Declared | null,
  advice: string,
  seen: Set<Declared['declaration']>,
  { message, report }: Told,
): void {
  if (declared === null || seen.has(declared.declaration)) return;
  seen.add(declared.declaration);
  const { property, value } = declared.declaration;
  report(refusal({ declared, property, value, node, message, advice }));
}
