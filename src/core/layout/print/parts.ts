import { declaredBy, RuleIndex } from '../../css/cascade/cascade.js';
import type { StyleRule } from '../../css/cascade/rules.js';
import type { ElementIndex, IndexedElement } from '../../css/selectors/element-index.js';

/** Parts of elements that no style attribute can say anything about (CSS Pseudo-Elements 4, 2 and 3.3). */
const headParts = ['::first-letter', '::first-line', '::marker'] as const;
export type HeadPart = (typeof headParts)[number];

/** What a rule says of a part of an element: written into the head, under its conditions. */
export interface PartRule {
  readonly part: HeadPart;
  /** At-rules without their blocks, the outermost first. */
  readonly conditions: readonly string[];
  /** `property:value;property:value` */
  readonly declarations: string;
}

/** What rules say of parts of elements, weakest first, by the order number of the element. */
export function partRules(index: ElementIndex, rules: readonly StyleRule[]): ReadonlyMap<number, readonly PartRule[]> {
  const found = new Map<number, PartRule[]>();
  const about = rules.filter(({ selectors }) => selectors.some(({ pseudoElement }) => isHeadPart(pseudoElement)));
  if (about.length === 0) return found;
  const candidates = new RuleIndex(about);
  for (const element of index.elements) {
    const own = headParts.flatMap((part) => rulesOf(element, part, candidates));
    if (own.length > 0) found.set(element.order, own);
  }
  return found;
}

/** Whether a pseudo-element is one that is kept in the head. */
export function isHeadPart(name: string | null): name is HeadPart {
  return headParts.some((part) => part === name);
}

function rulesOf(element: IndexedElement, part: HeadPart, candidates: RuleIndex): PartRule[] {
  const declared = declaredBy(candidates.matchingPart(element, part), 'author');
  const said = new Map<string, PartRule>();
  for (const { declaration, conditions: asked } of declared) {
    const conditions = asked.map(({ kind, text }) => `@${kind} ${text.trim()}`);
    const before = said.get(conditions.join(' '));
    const own = `${declaration.property}:${declaration.value}`;
    said.set(conditions.join(' '), {
      ...{ part, conditions },
      declarations: before === undefined ? own : `${before.declarations};${own}`,
    });
  }
  return [...said.values()];
}

/**
 * The same for an element whose line height is said in px: a part of another size has lines of the height that the number
 * of its element makes of that (CSS Inline Layout 3, 4.3).
 */
export function withLineHeight(rules: readonly PartRule[], lineHeight: string): readonly PartRule[] {
  const isNumber = /^[\d.]+$/.test(lineHeight);
  return rules.map((rule) => {
    const isSized = /(?:^|;)font-size:/.test(rule.declarations) && !/(?:^|;)line-height:/.test(rule.declarations);
    return isNumber && isSized ? { ...rule, declarations: `${rule.declarations};line-height:${lineHeight}` } : rule;
  });
}
