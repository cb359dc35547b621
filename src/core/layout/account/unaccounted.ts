import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import type { Declared } from '../../css/cascade/cascade.js';
import type { ElementIndex, IndexedElement } from '../../css/selectors/element-index.js';
import type { Report } from '../../findings/finding.js';
import { layoutAdvice } from '../../findings/wording/layout.js';
import { refusal } from '../content/refusal.js';
import { standsInRaw } from '../content/native.js';
import type { End } from './matrix.js';
import { hasEffect } from './applies.js';

/**
 * Properties that are judged by themselves, whatever writes them: what a box is, whether and where it shows, and what is
 * told by the rules of what tables cannot do.
 */
const judgedElsewhere: ReadonlySet<string> = new Set(
  (
    'display visibility position top right bottom left min-width max-height aspect-ratio object-fit object-position ' +
    'opacity content counter-reset counter-increment counter-set --row'
  ).split(' '),
);

/**
 * Refuses what an author says, what does something for a box of its kind, and what no emitter took: nothing that the
 * compiler does not write goes without a word. It is asked once tables are made.
 * @param states the styles of all elements, in each state
 */
export function reportUntaken(
  { elements, doc }: ElementIndex,
  states: readonly (readonly ComputedStyle[])[],
  report: Report,
): void {
  const seen = new Set<Declared['declaration']>();
  for (const styles of states) {
    const styleOf = (element: IndexedElement): ComputedStyle | null => styles[element.order] ?? null;
    for (const element of shownElements(elements, styleOf)) {
      const style = styleOf(element);
      if (style === null) continue;
      const shown = { element, style, around: element.parent === null ? null : styleOf(element.parent), styleOf };
      for (const property of style.authoredProperties()) {
        const declared = style.declaredBy(property);
        if (declared === null || style.isTaken(property) || seen.has(declared.declaration)) continue;
        if (judgedElsewhere.has(property) || !hasEffect(property, shown)) continue;
        seen.add(declared.declaration);
        const { node } = element;
        const { value } = declared.declaration;
        const advice = layoutAdvice.notTaken(node.tag);
        report(refusal({ declared, property, value, node, message: doc.source, advice }));
      }
    }
  }
}

/** The elements that show in a state and that the layout is about. */
function shownElements(
  elements: readonly IndexedElement[],
  styleOf: (element: IndexedElement) => ComputedStyle | null,
): IndexedElement[] {
  const hidden = new Set<IndexedElement>();
  return elements.filter((element) => {
    const isHidden =
      styleOf(element)?.get('display') === 'none' || (element.parent !== null && hidden.has(element.parent));
    if (isHidden) hidden.add(element);
    return !isHidden && !standsInRaw(element);
  });
}

/**
 * How each declaration of a message ended: `carried` where an emitter took it, for any element in any state; else as it was
 * reported, and without effect where nothing was said.
 */
export function declarationEnds(
  { elements }: ElementIndex,
  declared: readonly (readonly Declared[])[],
  states: readonly (readonly ComputedStyle[])[],
  reported: ReadonlyMap<Declared['declaration']['place'], End>,
): ReadonlyMap<Declared['declaration'], End> {
  const taken = new Set<Declared['declaration']>();
  for (const styles of states)
    for (const { order } of elements)
      for (const property of styles[order]?.authoredProperties() ?? []) {
        const from = styles[order]?.declaredBy(property);
        if (from !== null && from !== undefined && styles[order]?.isTaken(property) === true)
          taken.add(from.declaration);
      }
  const authored = declared.flat().filter(({ origin }) => origin === 'author' || origin === 'style-attribute');
  return new Map(
    authored.map(({ declaration }) => [
      declaration,
      reported.get(declaration.place) ?? (taken.has(declaration) ? 'carried' : 'without effect'),
    ]),
  );
}
