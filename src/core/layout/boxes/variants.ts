import type { Declared } from '../../css/cascade/cascade.js';
import { splitCondition, type WidthCondition } from '../../css/cascade/media.js';
import type { Condition } from '../../css/cascade/rules.js';
import type { Place } from '../../findings/finding.js';

/**
 * Circumstances other than the width under which a message looks otherwise: a colour scheme, print, the pointer over a
 * link. What holds then is written as rules over what holds always.
 */
export interface Variant {
  /** Conditions as at-rules without their blocks: `@media (prefers-color-scheme: dark)`. */
  readonly conditions: readonly string[];
  /** True for what holds under the pointer. */
  readonly hover: boolean;
  /** Where the message first asks for it. */
  readonly place: Place;
}

/** A condition, read; null where it is neither about widths nor can be written over what holds always. */
interface ReadCondition {
  readonly width: WidthCondition | null;
  readonly rest: string | null;
}

/** Whether a condition asks for a way to lay boxes out that becomes tables: it holds wherever tables do. */
function carriesDisplay(text: string): boolean {
  return /^\(\s*(?:display\s*:\s*(?:flex|grid)|gap\s*:\s*[\d.]+(?:px|em|rem))\s*\)$/i.test(text.trim());
}

/** Reads a condition; null for one that is not compiled. */
export function readCondition(condition: Condition): ReadCondition | null {
  if (condition.kind === 'supports') {
    const isCarried = carriesDisplay(condition.text);
    return { width: null, rest: isCarried ? null : `@supports ${condition.text.trim()}` };
  }
  if (condition.kind !== 'media') return null;
  const split = splitCondition(condition.text);
  return split === null ? null : { width: split.width, rest: split.rest === null ? null : `@media ${split.rest}` };
}

/** Whether a state in a selector is `:hover` on the very element that it styles: all that can be written as a class. */
export function isOwnHover(selector: string): boolean {
  // In brackets a state may be asked for, or be denied: `:not(:hover)`.
  const outside = selector.trim().replace(/\([^()]*\)/g, '');
  const last = /[^\s>+~]*$/.exec(outside)?.[0] ?? '';
  const states = /:(?:hover|active|focus|visited|focus-within|focus-visible|target|checked)\b/g;
  return /:hover\b/.test(last) && selector.match(states)?.length === 1;
}

/** All circumstances that declarations ask for; those that ask for most come last. */
export function variantsOf(declared: readonly (readonly Declared[])[]): Variant[] {
  const found = new Map<string, Variant>();
  for (const item of declared.flat()) {
    const variant = circumstancesOf(item);
    const key = variant === null ? '' : JSON.stringify([variant.conditions, variant.hover]);
    if (variant !== null && (variant.hover || variant.conditions.length > 0) && !found.has(key))
      found.set(key, variant);
  }
  const asks = declared.flat().find(({ declaration }) => asksForDark(declaration));
  const isKnown = [...found.values()].some(({ conditions, hover }) => !hover && isDarkScheme(conditions));
  if (asks !== undefined && !isKnown)
    found.set('dark', {
      conditions: ['@media (prefers-color-scheme: dark)'],
      hover: false,
      place: asks.declaration.place,
    });
  return [...found.values()].sort(
    (a, b) => Number(a.hover) - Number(b.hover) || a.conditions.length - b.conditions.length,
  );
}

/** Whether a value is another one in a dark scheme, without any condition (CSS Color Adjustment 1, 2.1; CSS Color 5, 6). */
function asksForDark({ property, value }: Declared['declaration']): boolean {
  return property === 'color-scheme' ? /\bdark\b/i.test(value) : /\blight-dark\(/i.test(value);
}

/** Whether conditions ask for a dark scheme, and for nothing else. */
function isDarkScheme(conditions: readonly string[]): boolean {
  return conditions.length === 1 && prefersDark.test(conditions[0] ?? '');
}

const prefersDark = /^@media \(\s*prefers-color-scheme\s*:\s*dark\s*\)$/i;

/** Whether a variant holds for readers who prefer dark colours. */
export function isDark(variant: Variant | null): boolean {
  return variant?.conditions.some((text) => /prefers-color-scheme\s*:\s*dark/i.test(text)) === true;
}

/** What a rule's conditions ask for, read once: all declarations of the rule share them. */
interface Asked {
  readonly widths: readonly WidthCondition[];
  /** Null where a condition is not compiled. */
  readonly conditions: readonly string[] | null;
  /** Where the first condition stands that is not about widths; null where all are. */
  readonly place: Place | null;
}

const askedBefore = new WeakMap<readonly Condition[], Asked>();

function askedBy(conditions: readonly Condition[]): Asked {
  const known = askedBefore.get(conditions);
  if (known !== undefined) return known;
  const read = conditions.map(readCondition);
  const rests = read.flatMap((condition) => (typeof condition?.rest === 'string' ? [condition.rest] : []));
  const asked = {
    widths: read.flatMap((condition) => condition?.width ?? []),
    conditions: read.includes(null) ? null : [...new Set(rests)],
    place: conditions.find((_, index) => typeof read[index]?.rest === 'string')?.place ?? null,
  };
  askedBefore.set(conditions, asked);
  return asked;
}

function circumstancesOf(item: Declared): Variant | null {
  if (item.stateful && !isOwnHover(item.selector)) return null;
  const { conditions, place } = askedBy(item.conditions);
  return conditions === null ? null : { conditions, hover: item.stateful, place: place ?? item.declaration.place };
}

/** Whether a declaration applies on a screen of this width, in these circumstances or (null) in none. */
export function appliesIn(item: Declared, width: number, variant: Variant | null): boolean {
  if (item.conditions.length === 0 && !item.stateful) return true;
  if (!askedBy(item.conditions).widths.every((condition) => condition.matches(width))) return false;
  const asked = circumstancesOf(item);
  if (asked === null || (asked.hover && variant?.hover !== true)) return false;
  return asked.conditions.every((condition) => variant?.conditions.includes(condition) === true);
}
