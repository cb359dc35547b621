import { compareCascade, type Declared } from '../css/cascade.js';
import { matchesGrammar } from '../css/css-tree.js';
import { reduceCalc } from '../css/calc.js';
import { substituteVariables, variableNames } from '../css/variables.js';
import { covers } from './property-sets.js';
import { rebaseAddresses, type Sheet } from './sheets.js';

/** A declaration that goes into an element's style attribute. */
export interface InlineEntry {
  readonly declared: Declared;
  readonly property: string;
  /** The value as it is written: custom properties substituted, addresses seen from the document. */
  readonly value: string;
  /** A value for clients that know custom properties, where a condition changes one of them; else null. */
  readonly live: string | null;
}

/** What is known of the custom properties on an element. */
export interface Variables {
  /** Their unconditional values. */
  readonly values: ReadonlyMap<string, string>;
  /** Those whose value depends on a condition. */
  readonly changing: ReadonlySet<string>;
}

/** No custom properties at all. */
export const noVariables: Variables = { values: new Map(), changing: new Set() };

/** The custom properties of an element, from those of its parent and its own declarations (weakest first). */
export function variablesOf(
  parent: Variables,
  unconditional: readonly Declared[],
  conditional: readonly Declared[],
): Variables {
  const own = unconditional.filter(({ declaration }) => isCustom(declaration.property));
  const changed = conditional.filter(({ declaration }) => isCustom(declaration.property));
  if (own.length === 0 && changed.length === 0) return parent;
  const values = new Map(parent.values);
  const changing = new Set(parent.changing);
  for (const { declaration } of own) setVariable(values, changing, declaration.property, declaration.value, parent);
  for (const { declaration } of changed) changing.add(declaration.property);
  return { values, changing };
}

function setVariable(
  values: Map<string, string>,
  changing: Set<string>,
  name: string,
  value: string,
  parent: Variables,
): void {
  const keyword = value.trim().toLowerCase();
  const inherited = parent.values.get(name);
  if (keyword === 'inherit' || keyword === 'unset') {
    if (inherited === undefined) values.delete(name);
    else values.set(name, inherited);
    return;
  }
  if (keyword === 'initial') values.delete(name);
  else values.set(name, value);
  if (variableNames(value).some((used) => changing.has(used))) changing.add(name);
  else changing.delete(name);
}

function isCustom(property: string): boolean {
  return property.startsWith('--');
}

/** Whether a browser keeps a value: `unsure` where our dictionary may be older than the browser. */
type Validity = 'valid' | 'invalid' | 'unsure';

const judged = new Map<string, Validity>();

/** Judges a declaration's value. Unknown properties, and values that hold a template tag, count as valid. */
export function judgeValue(property: string, value: string, holdsTag: boolean): Validity {
  if (holdsTag || isCustom(property)) return 'valid';
  const key = `${property}:${value}`;
  const known = judged.get(key);
  if (known !== undefined) return known;
  const fits = matchesGrammar(property, value);
  const validity: Validity =
    fits === false
      ? /[(]/.test(value)
        ? 'unsure'
        : 'invalid'
      : fits === null && !property.startsWith('mso-')
        ? 'unsure'
        : 'valid';
  if (judged.size > 20_000) judged.clear();
  judged.set(key, validity);
  return validity;
}

/** What the composition of an element's style needs from the document. */
export interface CompositionContext {
  readonly quirks: boolean;
  readonly holdsTag: (declared: Declared) => boolean;
  readonly onUnresolved: (declared: Declared) => void;
}

/**
 * The declarations of an element's style attribute, weakest first: what has effect, and fallbacks for old clients.
 * A declaration goes only where a stronger one that every browser understands does all over again what it does.
 * @param unconditional everything that applies without condition, weakest first
 */
export function composeStyle(
  unconditional: readonly Declared[],
  variables: Variables,
  context: CompositionContext,
): InlineEntry[] {
  const kept: { entry: InlineEntry; validity: Validity }[] = [];
  const reverted: Declared[] = [];
  for (const declared of [...unconditional].sort(compareCascade).reverse()) {
    const { property } = declared.declaration;
    if (isCustom(property)) continue;
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
  return kept.reverse().map(({ entry }) => entry);
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
  if (!/var\(/i.test(written)) return { declared, property, value: reduceCalc(written), live: null };
  const substituted = substituteVariables(written, variables.values);
  if (substituted === null) context.onUnresolved(declared);
  const value = substituted === null ? 'unset' : reduceCalc(substituted);
  const invalid = substituted !== null && judgeValue(property, value, false) === 'invalid';
  const changes = reaches(variableNames(written), variables);
  const live = changes ? withFallbacks(written, variables) : null;
  // Invalid at computed-value time (CSS Custom Properties 1, 3.1): the declaration stays the winner, as `unset`.
  return { declared, property, value: invalid ? 'unset' : value, live };
}

/** Whether any of the names, or what their values name, depends on a condition. */
function reaches(names: readonly string[], { values, changing }: Variables): boolean {
  const seen = new Set<string>();
  const open = [...names];
  for (let name = open.pop(); name !== undefined; name = open.pop()) {
    if (changing.has(name)) return true;
    if (seen.has(name)) continue;
    seen.add(name);
    open.push(...variableNames(values.get(name) ?? ''));
  }
  return false;
}

/** `var(--x)` with the unconditional value as its fallback, for when the head is gone. */
function withFallbacks(value: string, { values }: Variables): string {
  return value.replace(/var\(\s*(--[^\s,()]+)\s*\)/gi, (whole, name: string) => {
    const base = values.get(name);
    const resolved = base === undefined ? null : substituteVariables(base, values);
    return resolved === null || resolved === '' ? whole : `var(${name},${resolved})`;
  });
}
