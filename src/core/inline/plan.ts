import { compareCascade, type Declared } from '../css/cascade/cascade.js';
import type { IndexedElement } from '../css/selectors/element-index.js';
import type { Declaration } from '../css/syntax/css-items.js';
import type { InlineEntry } from './element-styles.js';
import { holdsTag } from '../html/tags.js';
import { overlaps, PropertyIndex } from './property-sets.js';

/** An element, with what goes into its style attribute and what stays in the head for it. Both weakest first. */
export interface StyledElement {
  readonly element: IndexedElement;
  /** False for an element without a tag of its own: nothing can be inlined into it. */
  readonly hasTag: boolean;
  readonly inline: readonly InlineEntry[];
  readonly head: readonly Declared[];
  /** Those of `head` that are inlined as well: their rule stays for the sake of elements without a tag. */
  readonly remaining: ReadonlySet<Declared>;
}

/** What must change so that the cascade comes out as before. */
export interface Plan {
  /** Declarations in the head that must be marked important. */
  readonly important: ReadonlySet<Declaration>;
  /** Inlined declarations that must be marked important, by element. */
  readonly marked: ReadonlyMap<StyledElement, ReadonlySet<InlineEntry>>;
  /** For elements on which that does not do: what is written into the head again for them alone, weakest first. */
  readonly restated: ReadonlyMap<StyledElement, readonly Contender[]>;
  /** Elements for which no exact result was found: without a tag, or with template tags in their style attribute. */
  readonly unsolved: readonly Unsolved[];
}

/** An element whose styles cannot be kept exactly, and what is in the way. */
export interface Unsolved {
  readonly element: StyledElement;
  readonly cause: 'no-tag' | 'filled-in' | 'nested-deep' | 'reverted';
}

/** A declaration that competes on an element: an inlined one or one in the head. */
export type Contender =
  { readonly kind: 'inline'; readonly entry: InlineEntry } | { readonly kind: 'head'; readonly declared: Declared };

/**
 * Decides what must be important. Inline declarations beat every normal rule, so a rule that stays in the head and used to
 * beat what is now inline needs `!important`; where that makes it win what it used to lose, the stronger side becomes
 * important too; where both are needed at once, the element gets its own copy of all contenders, in cascade order.
 */
export function planImportance(elements: readonly StyledElement[], isFixed: (declared: Declared) => boolean): Plan {
  const contested = elements.filter(({ head, inline }) => head.length > 0 || inline.some(isForHead));
  const pairs = pairsOf(contested).filter(
    ({ element, headOverInline, inlineOverHead, ordered }) =>
      headOverInline.length + inlineOverHead.length + ordered.length > 0 || element.inline.some(isForHead),
  );
  const forbidden = new Set<Declaration>();
  for (;;) {
    const important = settleImportance(pairs, (declared) => isFixed(declared) || forbidden.has(declared.declaration));
    const offenders = tagless(pairs)
      .flatMap((pair) => brokenWithoutTag(pair, important))
      .filter((declaration) => !forbidden.has(declaration));
    if (offenders.length === 0) return finish(pairs, important);
    for (const declaration of offenders) forbidden.add(declaration);
  }
}

/** Elements that are styled alike share their lists, and so their pairs. */
function pairsOf(elements: readonly StyledElement[]): Pairs[] {
  const known = new Map<StyledElement['head'], Pairs>();
  return elements.map((element) => {
    const shared = known.get(element.head);
    if (shared !== undefined && shared.element.inline === element.inline && shared.element.hasTag === element.hasTag)
      return { ...shared, element };
    const pairs = findPairs(element);
    known.set(element.head, pairs);
    return pairs;
  });
}

/** The pairs of declarations on one element that have an effect in common. */
interface Pairs {
  readonly element: StyledElement;
  /** A head declaration that beats an inlined one. */
  readonly headOverInline: readonly (readonly [Declared, InlineEntry])[];
  readonly inlineOverHead: readonly (readonly [InlineEntry, Declared])[];
  /** Two head declarations, the weaker first. */
  readonly ordered: readonly (readonly [Declared, Declared])[];
}

function findPairs(element: StyledElement): Pairs {
  const { inline, head, remaining } = element;
  const headOverInline: [Declared, InlineEntry][] = [];
  const inlineOverHead: [InlineEntry, Declared][] = [];
  const index = new PropertyIndex(inline, ({ property }) => property);
  for (const declared of head) {
    for (const entry of index.overlapping(declared.declaration.property)) {
      // What is inlined as well wins there already.
      if (compareCascade(declared, entry.declared) > 0) {
        if (!remaining.has(declared)) headOverInline.push([declared, entry]);
      } else inlineOverHead.push([entry, declared]);
    }
  }
  return { element, headOverInline, inlineOverHead, ordered: neighbours(head) };
}

/**
 * Pairs of declarations with an effect in common that follow one another in cascade order. Neighbours suffice: where
 * each pair of them is in order, all are.
 */
function neighbours(head: readonly Declared[]): [Declared, Declared][] {
  const byProperty = new Map<string, Declared[]>();
  for (const declared of head) {
    const list = byProperty.get(declared.declaration.property);
    if (list === undefined) byProperty.set(declared.declaration.property, [declared]);
    else list.push(declared);
  }
  const properties = [...byProperty.keys()];
  const places = new Map(properties.map((property, place) => [property, place]));
  const index = new PropertyIndex(properties, (property) => property);
  const pairs: [Declared, Declared][] = [];
  properties.forEach((property, place) => {
    pairs.push(...consecutive(byProperty.get(property) ?? []));
    for (const other of index.overlapping(property)) {
      if ((places.get(other) ?? 0) <= place) continue;
      const both = [...(byProperty.get(property) ?? []), ...(byProperty.get(other) ?? [])].sort(compareCascade);
      pairs.push(
        ...consecutive(both).filter(([first, second]) => first.declaration.property !== second.declaration.property),
      );
    }
  });
  return pairs;
}

function consecutive(sorted: readonly Declared[]): [Declared, Declared][] {
  return sorted.slice(1).flatMap((second, index): [Declared, Declared][] => {
    const first = sorted[index];
    return first === undefined || first.declaration === second.declaration ? [] : [[first, second]];
  });
}

type IsFixed = (declared: Declared) => boolean;

/** Marks head declarations important until nothing more asks for it. */
function settleImportance(pairs: readonly Pairs[], isFixed: IsFixed): Set<Declaration> {
  const important = new Set<Declaration>();
  const isImportant = ({ declaration }: Declared): boolean => declaration.important || important.has(declaration);
  for (const { element, headOverInline } of pairs) {
    if (!element.hasTag) continue;
    for (const [declared] of headOverInline)
      if (!isImportant(declared) && !isFixed(declared)) important.add(declared.declaration);
  }
  for (let changed = true; changed;) {
    changed = false;
    for (const { ordered } of pairs) {
      for (const [weaker, stronger] of ordered) {
        if (!isImportant(weaker) || isImportant(stronger) || isFixed(stronger)) continue;
        important.add(stronger.declaration);
        changed = true;
      }
    }
  }
  return important;
}

function tagless(pairs: readonly Pairs[]): Pairs[] {
  return pairs.filter(({ element }) => !element.hasTag);
}

/** On an element that cannot carry a class, whatever comes out in the wrong order must not have been made important. */
function brokenWithoutTag({ ordered }: Pairs, important: ReadonlySet<Declaration>): Declaration[] {
  return ordered
    .filter(([weaker, stronger]) => isInverted(weaker, stronger, important))
    .flatMap(([weaker, stronger]) =>
      [weaker, stronger].map(({ declaration }) => declaration).filter((declaration) => important.has(declaration)),
    );
}

function isInverted(weaker: Declared, stronger: Declared, important: ReadonlySet<Declaration>): boolean {
  return compareCascade(asWritten(weaker, important), asWritten(stronger, important)) > 0;
}

function asWritten(declared: Declared, important: ReadonlySet<Declaration>): Declared {
  if (!important.has(declared.declaration)) return declared;
  return { ...declared, declaration: { ...declared.declaration, important: true } };
}

function finish(pairs: readonly Pairs[], important: ReadonlySet<Declaration>): Plan {
  const marked = new Map<StyledElement, Set<InlineEntry>>();
  const restated = new Map<StyledElement, Contender[]>();
  const unsolved: Unsolved[] = [];
  for (const pair of pairs) {
    const { element } = pair;
    const own = new Set<InlineEntry>();
    const conflicts = conflictsOn(pair, important, own);
    if (own.size > 0) marked.set(element, own);
    if (pair.element.head.some(isReverting)) unsolved.push({ element, cause: 'reverted' });
    if (conflicts.length === 0) continue;
    const contenders = element.hasTag ? contendersAround(element, conflicts) : [];
    const cause = element.hasTag ? causeIn(contenders) : 'no-tag';
    if (cause !== null) unsolved.push({ element, cause });
    else {
      restated.set(element, contenders);
      for (const contender of contenders) if (contender.kind === 'inline') own.delete(contender.entry);
    }
  }
  return { important, marked, restated, unsolved };
}

/** Properties about which importance alone does not decide rightly; fills `marked` where it does. */
function conflictsOn(
  { element, headOverInline, inlineOverHead, ordered }: Pairs,
  important: ReadonlySet<Declaration>,
  marked: Set<InlineEntry>,
): string[] {
  const isImportant = ({ declaration }: Declared): boolean => declaration.important || important.has(declaration);
  const conflicts: string[] = [];
  for (const [weaker, stronger] of ordered) {
    if (isInverted(weaker, stronger, important))
      conflicts.push(weaker.declaration.property, stronger.declaration.property);
  }
  if (!element.hasTag) return conflicts;
  for (const entry of element.inline) if (isForHead(entry)) conflicts.push(entry.property);
  for (const [declared] of headOverInline) if (!isImportant(declared)) conflicts.push(declared.declaration.property);
  for (const [entry, declared] of inlineOverHead) {
    if (!isImportant(declared) || isImportantInAttribute(entry)) continue;
    const isBeaten = headOverInline.some(([, other]) => other === entry);
    if (isBeaten || isOpen(entry)) conflicts.push(declared.declaration.property, entry.property);
    else marked.add(entry);
  }
  // What is marked must not beat an inlined declaration that is stronger but only overlaps it.
  for (const entry of marked) {
    const later = element.inline.slice(element.inline.indexOf(entry) + 1);
    for (const other of later)
      if (overlaps(entry.property, other.property) && !marked.has(other))
        markOrConflict(other, headOverInline, marked, conflicts);
  }
  return conflicts;
}

/** A value that only the head can hold has to be written there, with all that it competes with. */
function isForHead(entry: InlineEntry): boolean {
  return entry.liveInHead;
}

function markOrConflict(
  entry: InlineEntry,
  headOverInline: Pairs['headOverInline'],
  marked: Set<InlineEntry>,
  conflicts: string[],
): void {
  if (isOpen(entry) || headOverInline.some(([, other]) => other === entry)) conflicts.push(entry.property);
  else marked.add(entry);
}

/** The author's own `!important` in a style attribute stays; one from a rule is dropped unless something must lose to it. */
function isImportantInAttribute(entry: InlineEntry): boolean {
  return entry.declared.origin === 'style-attribute' && entry.declared.declaration.important;
}

/** All that shares effects with the conflicts, directly or by way of others, weakest first. */
function contendersAround(element: StyledElement, conflicts: readonly string[]): Contender[] {
  const reached = new Set(conflicts);
  const all: Contender[] = [
    ...element.inline.map((entry): Contender => ({ kind: 'inline', entry })),
    ...element.head.map((declared): Contender => ({ kind: 'head', declared })),
  ];
  const chosen = new Set<Contender>();
  for (let grown = true; grown;) {
    grown = false;
    for (const contender of all) {
      if (chosen.has(contender) || ![...reached].some((property) => overlaps(property, propertyOf(contender))))
        continue;
      chosen.add(contender);
      reached.add(propertyOf(contender));
      grown = true;
    }
  }
  return [...chosen].sort((a, b) => compareCascade(declaredOf(a), declaredOf(b)) || (a.kind === 'inline' ? -1 : 1));
}

/** A declaration of which a template tag is more than the value: it cannot be marked important, as it may say nothing. */
function isOpen({ property }: InlineEntry): boolean {
  return property === '' || holdsTag(property);
}

/** What a platform fills into a style attribute, it may not be able to fill in in the head: there is no item of a loop there. */
function isFilledIn(contender: Contender): boolean {
  if (contender.kind === 'head') return false;
  const { declared, property, value } = contender.entry;
  return declared.origin === 'style-attribute' && (property === '' || holdsTag(property) || holdsTag(value));
}

/** What `revert-layer` uncovers depends on layers, which neither importance nor a copy of the rule keeps. */
function isReverting({ declaration }: Declared): boolean {
  return /^revert-layer$/i.test(declaration.value);
}

/** What keeps contenders from being written into the head again. */
function causeIn(contenders: readonly Contender[]): Unsolved['cause'] | null {
  if (contenders.some(isFilledIn)) return 'filled-in';
  return contenders.some(isTooLong) ? 'nested-deep' : null;
}

/** A selector so deeply nested that it cannot be written out. */
function isTooLong(contender: Contender): boolean {
  return contender.kind === 'head' && contender.declared.match?.selector.flat() === null;
}

function propertyOf(contender: Contender): string {
  return contender.kind === 'inline' ? contender.entry.property : contender.declared.declaration.property;
}

function declaredOf(contender: Contender): Declared {
  return contender.kind === 'inline' ? contender.entry.declared : contender.declared;
}
