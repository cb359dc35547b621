import { compareCascade, type Declared } from '../css/cascade.js';
import { reduceCalc } from '../css/calc.js';
import { judgeValue, type Validity } from '../css/validity.js';
import { declaredVariables, resolveOwnVariables, substituteVariables, variableNames } from '../css/variables.js';
import { covers, overlaps } from './property-sets.js';
import { rebaseAddresses } from '../css/addresses.js';
import type { Sheet } from './sheets.js';

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
  readonly values: ReadonlyMap<string, string>;
  /** Those whose value depends on a condition. */
  readonly changing: ReadonlySet<string>;
  /** Those that a condition may leave without a value. */
  readonly vanishing: ReadonlySet<string>;
}

/** No custom properties at all. */
export const noVariables: Variables = { values: new Map(), changing: new Set(), vanishing: new Set() };

/** The custom properties of an element, from those of its parent and its own declarations (weakest first). */
export function variablesOf(
  parent: Variables,
  unconditional: readonly Declared[],
  conditional: readonly Declared[],
): Variables {
  const own = unconditional.filter(({ declaration }) => isCustom(declaration.property));
  const changed = conditional.filter(({ declaration }) => isCustom(declaration.property));
  if (own.length === 0 && changed.length === 0) return parent;
  const raw = declaredVariables(own.map(({ declaration }) => declaration));
  const values = resolveOwnVariables(parent.values, raw);
  const changing = markReaders(parent.changing, raw, changed);
  const vanishing = markReaders(
    parent.vanishing,
    raw,
    changed.filter(({ declaration }) => mayVanish(declaration.value)),
  );
  return { values, changing, vanishing };
}

/** The names of the parent that are not declared anew, those of `marked`, and all that read one of them. */
function markReaders(
  inherited: ReadonlySet<string>,
  raw: ReadonlyMap<string, string | null>,
  marked: readonly Declared[],
): Set<string> {
  const names = new Set(inherited);
  for (const name of raw.keys()) names.delete(name);
  for (const [name, value] of raw) if (reads(raw, value, names)) names.add(name);
  for (const { declaration } of marked) names.add(declaration.property);
  for (const [name, value] of raw) if (reads(raw, value, names)) names.add(name);
  return names;
}

/** Whether a custom property with this value may come out without one; told from the value alone, so on the safe side. */
function mayVanish(value: string): boolean {
  return /var\(/i.test(value) || /^(?:initial|inherit|unset|revert|revert-layer)$/i.test(value.trim());
}

/** Whether a value refers, directly or by way of the element's own properties, to one that depends on a condition. */
function reads(raw: ReadonlyMap<string, string | null>, value: string | null, changing: ReadonlySet<string>): boolean {
  const seen = new Set<string>();
  const open = variableNames(value ?? '');
  for (let name = open.pop(); name !== undefined; name = open.pop()) {
    if (changing.has(name)) return true;
    if (seen.has(name)) continue;
    seen.add(name);
    open.push(...variableNames(raw.get(name) ?? ''));
  }
  return false;
}

function isCustom(property: string): boolean {
  return property.startsWith('--');
}

/** What the composition of an element's style needs from the document. */
export interface CompositionContext {
  readonly quirks: boolean;
  /** Custom properties that style attributes set: without the head, those of rules must still come between. */
  readonly ownVariables: ReadonlySet<string>;
  readonly holdsTag: (declared: Declared) => boolean;
  readonly onUnresolved: (declared: Declared) => void;
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
): InlineEntry[] {
  const kept: { entry: InlineEntry; validity: Validity }[] = [];
  const reverted: Declared[] = [];
  for (const declared of [...unconditional].sort(compareCascade).reverse()) {
    const { property } = declared.declaration;
    // The author's own stay: what is in the head may read them.
    if (isCustom(property) && declared.origin !== 'style-attribute' && !context.ownVariables.has(property)) continue;
    if (reverted.some((stronger) => sameLayer(stronger, declared) && covers(stronger.declaration.property, property)))
      continue;
    const entry = resolveEntry(declared, variables, context);
    const validity = judgeIn(context, declared, entry);
    if (validity === 'invalid') continue;
    const coveredBy = kept.find(
      (stronger) => stronger.validity === 'valid' && covers(stronger.entry.property, property),
    );
    if (coveredBy !== undefined && !isFallback(entry, coveredBy.entry)) continue;
    if (entry.value.toLowerCase() === 'revert-layer') {
      reverted.push(declared);
      continue;
    }
    kept.push({ entry, validity });
  }
  const entries = kept.reverse().map(({ entry }) => entry);
  return reverted.reduceRight(
    (list, declared) => (beatsConditional(declared, conditional) ? raiseTo(declared, list) : list),
    entries,
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

/** What `revert-layer` uncovers takes over its rank. */
function raiseTo(reverting: Declared, entries: readonly InlineEntry[]): InlineEntry[] {
  const { property } = reverting.declaration;
  const isBelow = (entry: InlineEntry): boolean =>
    overlaps(entry.property, property) && compareCascade(entry.declared, reverting) < 0;
  const below = entries.filter(isBelow);
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
  const base = { declared: reverting, property, value: 'revert', live: null, liveInHead: false };
  const isUncovered = !below.some((entry) => covers(entry.property, property));
  const rest = entries.filter((entry) => !isBelow(entry));
  return [...rest, ...(isUncovered ? [base] : []), ...raised].sort((a, b) => compareCascade(a.declared, b.declared));
}

/** In quirks mode browsers take lengths without units and colours without `#`, which the dictionary does not. */
function judgeIn(context: CompositionContext, declared: Declared, entry: InlineEntry): Validity {
  const validity = judgeValue(entry.property, entry.value, context.holdsTag(declared) || entry.value === 'unset');
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
  const invalid = substituted !== null && judgeValue(property, value, false) === 'invalid';
  const names = variableNames(written);
  const changes = names.some((name) => variables.changing.has(name));
  // The author's own important style cannot be beaten from the head.
  const movable = declared.origin !== 'style-attribute' || !declared.declaration.important;
  const liveInHead = changes && movable && names.some((name) => variables.vanishing.has(name));
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
