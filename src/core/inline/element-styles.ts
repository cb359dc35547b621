import { compareCascade, type Declared } from '../css/cascade/cascade.js';
import { reduceCalc } from '../css/values/calc.js';
import type { Declaration } from '../css/syntax/css-items.js';
import { judgeForCascade, judgeValue, type Validity } from '../css/values/validity.js';
import {
  declaredVariables,
  Inherited,
  resolveOwnVariables,
  substituteVariables,
  variableNames,
} from '../css/values/variables.js';
import { covers, overlaps, PropertyIndex } from './property-sets.js';
import { rebaseAddresses } from '../css/values/addresses.js';
import type { Sheet } from '../css/cascade/sheets.js';

/** A declaration that goes into an element's style attribute. */
export interface InlineEntry {
  readonly declared: Declared;
  readonly property: string;
  /** The value as it is written: custom properties substituted, addresses seen from the document. */
  readonly value: string;
  /** A value for clients that know custom properties, where a condition changes one of them; else null. */
  readonly live: string | null;
  /**
   * True where the live value can only stand in the head: a condition may leave a custom property without a value, and
   * a fallback, which the style attribute needs for when the head is gone, would then come up.
   */
  readonly liveInHead: boolean;
}

/** What is known of the custom properties on an element. */
export interface Variables {
  /** Their unconditional values. */
  readonly values: Inherited<string>;
  /** Those whose value depends on a condition. */
  readonly changing: Inherited<boolean>;
  /** Those that a condition may leave without a value. */
  readonly vanishing: Inherited<boolean>;
}

/**
 * The custom properties around the root: none has a value, but what a first line sets may change anywhere.
 * @param ofLines what rules for `::first-line` set, which the elements in that line inherit
 */
export function outermostVariables(ofLines: readonly Declaration[]): Variables {
  const marked = (list: readonly Declaration[]): Inherited<boolean> =>
    new Inherited<boolean>(null, new Map(list.map(({ property }) => [property, true])));
  return {
    values: new Inherited<string>(null, new Map()),
    changing: marked(ofLines),
    vanishing: marked(ofLines.filter(({ value }) => mayVanish(value))),
  };
}

/**
 * The custom properties of an element, from those of its parent and its own declarations (weakest first).
 * @param ofLines as for the root: a first line stands between an element and those in it
 */
export function variablesOf(
  parent: Variables,
  unconditional: readonly Declared[],
  conditional: readonly Declared[],
  ofLines: readonly Declaration[],
): Variables {
  const own = unconditional.filter(({ declaration }) => isCustom(declaration.property));
  const changed = conditional.map(({ declaration }) => declaration).filter(({ property }) => isCustom(property));
  if (own.length === 0 && changed.length === 0) return parent;
  const raw = declaredVariables(own.map(({ declaration }) => declaration));
  const values = resolveOwnVariables(parent.values, raw);
  const open = [...changed, ...ofLines];
  const changing = markReaders(parent.changing, raw, open);
  const vanishing = markReaders(
    parent.vanishing,
    raw,
    open.filter(({ value }) => mayVanish(value)),
  );
  return { values, changing, vanishing };
}

/** Marks those of `marked`, and all own properties that read, directly or by way of others, one that is marked. */
function markReaders(
  inherited: Inherited<boolean>,
  raw: ReadonlyMap<string, string | null>,
  marked: readonly Declaration[],
): Inherited<boolean> {
  const own = new Map([...raw.keys()].map((name) => [name, false]));
  const readers = new Map<string, string[]>();
  const open = marked.map(({ property }) => property);
  for (const [name, value] of raw) {
    for (const read of variableNames(value ?? '')) {
      if (!raw.has(read) && inherited.get(read) === true) open.push(name);
      const list = readers.get(read);
      if (list === undefined) readers.set(read, [name]);
      else list.push(name);
    }
  }
  for (let name = open.pop(); name !== undefined; name = open.pop()) {
    if (own.get(name) === true) continue;
    own.set(name, true);
    open.push(...(readers.get(name) ?? []));
  }
  return new Inherited(inherited, own);
}

/** Whether a custom property with this value may come out without one; told from the value alone, so on the safe side. */
function mayVanish(value: string): boolean {
  return /var\(/i.test(value) || /^(?:initial|inherit|unset|revert|revert-layer)$/i.test(value.trim());
}

function isCustom(property: string): boolean {
  return property.startsWith('--');
}

/** What the composition of an element's style needs from the document. */
export interface CompositionContext {
  readonly quirks: boolean;
  /** Custom properties that style attributes set: without the head, those of rules must still come between. */
  readonly ownVariables: ReadonlySet<string>;
  /** Whether a template tag stands in a text. */
  readonly holdsTag: (text: string) => boolean;
  readonly onUnresolved: (declared: Declared) => void;
  /** Whether the element at hand has presentational attributes. */
  readonly hasHints: boolean;
  /** The styles of the element at hand cannot be kept exactly. */
  readonly onInexact: () => void;
}

/**
 * The declarations of an element's style attribute, weakest first: what has effect, and fallbacks for old clients.
 * A declaration goes only where a stronger one that every browser understands does all over again what it does.
 * @param unconditional everything that applies without condition, weakest first
 * @param conditional what stays in the head for the element, weakest first
 */
export function composeStyle(
  unconditional: readonly Declared[],
  conditional: readonly Declared[],
  variables: Variables,
  context: CompositionContext,
): readonly InlineEntry[] {
  const kept: InlineEntry[] = [];
  const certain = new PropertyIndex<InlineEntry>([], ({ property }) => property);
  const said = new Set<string>();
  const reverted: Declared[] = [];
  for (const declared of [...unconditional].sort(compareCascade).reverse()) {
    const { property } = declared.declaration;
    // The author's own stay: what is in the head may read them.
    if (isCustom(property) && declared.origin !== 'style-attribute' && !context.ownVariables.has(property)) continue;
    if (reverted.some((stronger) => sameLayer(stronger, declared) && covers(stronger.declaration.property, property)))
      continue;
    const entry = resolveEntry(declared, variables, context);
    const validity = judgeIn(context, entry);
    const isFilledIn = holdsOwnTag(declared, context);
    if (validity === 'invalid') continue;
    const coveredBy = certain.covering(property);
    // Said again by a stronger declaration, whether or not a client knows it.
    if (entry.live === null && property !== '' && said.has(`${property}:${entry.value}`)) continue;
    if (coveredBy !== undefined && !isFilledIn && !isFallback(entry, coveredBy)) continue;
    if (entry.value.toLowerCase() === 'revert-layer') {
      reverted.push(declared);
      continue;
    }
    kept.push(entry);
    if (validity === 'valid') certain.add(entry);
    if (entry.live === null) said.add(`${property}:${entry.value}`);
  }
  const entries = kept.reverse();
  return reverted.reduceRight<readonly InlineEntry[]>(
    (list, declared) =>
      leavesTrace(declared, entries, conditional) ? revertTo(declared, list, conditional, context) : list,
    entries,
  );
}

/**
 * Whether what `revert-layer` rolls back cannot just be left out: something conditional, which would come up, or a part
 * of a weaker shorthand.
 */
function leavesTrace(declared: Declared, entries: readonly InlineEntry[], conditional: readonly Declared[]): boolean {
  const { property } = declared.declaration;
  return (
    beatsConditional(declared, conditional) ||
    entries.some(
      (entry) =>
        sameLayer(entry.declared, declared) &&
        compareCascade(entry.declared, declared) < 0 &&
        overlaps(entry.property, property),
    )
  );
}

/** Whether `revert-layer` rolls back something conditional, which would come up if it went without a trace. */
function beatsConditional(declared: Declared, conditional: readonly Declared[]): boolean {
  return conditional.some(
    (weaker) =>
      sameLayer(weaker, declared) &&
      compareCascade(weaker, declared) < 0 &&
      overlaps(weaker.declaration.property, declared.declaration.property),
  );
}

/** What `revert-layer` uncovers in the layers below takes over its rank. */
function revertTo(
  reverting: Declared,
  entries: readonly InlineEntry[],
  conditional: readonly Declared[],
  context: CompositionContext,
): readonly InlineEntry[] {
  const { property } = reverting.declaration;
  const isBelow = (entry: InlineEntry): boolean =>
    overlaps(entry.property, property) &&
    compareCascade(entry.declared, reverting) < 0 &&
    !sameLayer(entry.declared, reverting);
  const below = entries.filter(isBelow);
  const isUncovered = !below.some((entry) => covers(entry.property, property));
  // `revert` takes old attributes along. From the style attribute, `revert-layer` keeps them, with all that the head says.
  const isHeadSilent = !conditional.some(({ declaration }) => overlaps(declaration.property, property));
  const keepsHints = context.hasHints && isUncovered && isHeadSilent;
  // Of a shorthand below only a part may be uncovered.
  if ((context.hasHints && !keepsHints) || below.some((entry) => !covers(property, entry.property)))
    context.onInexact();
  const { match, layerRank, specificity, proximity, order, position } = reverting;
  const raised = below.map((entry) => ({
    ...entry,
    declared: {
      ...entry.declared,
      origin: reverting.origin,
      match,
      layerRank,
      specificity,
      proximity,
      order,
      position,
    },
  }));
  const value = keepsHints ? 'revert-layer' : 'revert';
  const base = { declared: reverting, property, value, live: null, liveInHead: false };
  const rest = entries.filter((entry) => !isBelow(entry));
  return [...rest, ...(isUncovered ? [base] : []), ...raised].sort((a, b) => compareCascade(a.declared, b.declared));
}

/** What a platform fills into a style attribute stays there, whatever else does. */
function holdsOwnTag({ origin, declaration }: Declared, { holdsTag }: CompositionContext): boolean {
  return origin === 'style-attribute' && (declaration.property === '' || holdsTag(declaration.value));
}

/** In quirks mode browsers take lengths without units and colours without `#`, which the dictionary does not. */
function judgeIn(context: CompositionContext, entry: InlineEntry): Validity {
  const isOpen = entry.property === '' || context.holdsTag(entry.property) || context.holdsTag(entry.value);
  const validity = judgeForCascade(entry.property, entry.value, isOpen || entry.value === 'unset');
  return validity === 'invalid' && context.quirks ? 'unsure' : validity;
}

/** `background:#eee; background:linear-gradient(…)` in one block: the first is for clients that do not know the second. */
function isFallback(entry: InlineEntry, stronger: InlineEntry): boolean {
  return (
    entry.property === stronger.property &&
    entry.declared.match?.rule === stronger.declared.match?.rule &&
    entry.declared.origin === stronger.declared.origin &&
    entry.declared.declaration.important === stronger.declared.declaration.important &&
    entry.value !== stronger.value &&
    /[(]/.test(stronger.value)
  );
}

function sameLayer(a: Declared, b: Declared): boolean {
  return a.origin === b.origin && a.layerRank === b.layerRank;
}

function resolveEntry(declared: Declared, variables: Variables, context: CompositionContext): InlineEntry {
  const { property } = declared.declaration;
  const sheet = declared.match?.rule.sheet as Sheet | undefined;
  const written = rebaseAddresses(declared.declaration.value, sheet?.base ?? '');
  if (!/var\(/i.test(written) || isCustom(property))
    return { declared, property, value: reduceCalc(written), live: null, liveInHead: false };
  const substituted = substituteVariables(written, variables.values);
  if (substituted === null) context.onUnresolved(declared);
  const value = substituted === null ? 'unset' : reduceCalc(substituted);
  const invalid = substituted !== null && judgeValue(property, value, context.holdsTag(value)) === 'invalid';
  const names = variableNames(written);
  const changes = names.some((name) => variables.changing.get(name) === true);
  // The author's own important style cannot be beaten from the head.
  const movable = declared.origin !== 'style-attribute' || !declared.declaration.important;
  const liveInHead = changes && movable && names.some((name) => variables.vanishing.get(name) === true);
  const live = !changes ? null : liveInHead ? written : withFallbacks(written, variables);
  // Invalid at computed-value time (CSS Custom Properties 1, 3.1): the declaration stays the winner, as `unset`.
  return { declared, property, value: invalid ? 'unset' : value, live, liveInHead };
}

/** `var(--x)` with the unconditional value as its fallback, for when the head is gone. */
function withFallbacks(value: string, { values }: Variables): string {
  return value.replace(/var\(\s*(--[^\s,()]+)\s*\)/gi, (whole, name: string) => {
    const base = values.get(name);
    return base === undefined || base === '' ? whole : `var(${name},${base})`;
  });
}
