import type { SelectorContext } from './part.js';

/** Marks an `&` that is put before a leading combinator; white space that no author writes. */
const INSERTED = '&\u000c';

/** The borrowed grammar takes a leading combinator only inside `:has()`; `&` put before it says the same. */
export function readyForGrammar(text: string, context: SelectorContext): string {
  if (!context.takesCombinator) return text;
  return text.replace(/(^|,)(\s*)(?=[>+~])/g, `$1$2${INSERTED}`);
}

/** A text as its author wrote it. */
export function withoutInserted(text: string): string {
  return text.replaceAll(INSERTED, '');
}

/** Each level of nesting may double what stands for `&`. */
const LONGEST_FLAT = 20_000;

/**
 * Writes out what `&` stands for, so that the selector says the same outside of the rule (CSS Nesting 1, 3.2); null where that
 * grows too long. It is done when it is first asked for.
 */
export function flatten(written: string, context: SelectorContext): () => string | null {
  return once(() => flat(written.replace('\u000c', ''), context));
}

function flat(written: string, context: SelectorContext): string | null {
  if (context.nesting === null) return written;
  const parents = context.nesting.map((selector) => selector.flat());
  if (parents.includes(null)) return null;
  const around = `:is(${parents.join(',')})`;
  const hasNesting = written.match(NESTING)?.some((found) => found === '&') === true;
  const full = hasNesting || !context.relativeToNesting ? written : `& ${written}`;
  const whole = full.replace(NESTING, (found) => (found === '&' ? around : found));
  return whole.length > LONGEST_FLAT ? null : whole;
}

/** `&`, and the strings and escapes in which it is no selector. */
const NESTING = /"(?:[^"\\]|\\[\s\S])*"|'(?:[^'\\]|\\[\s\S])*'|\\[\s\S]|&/g;

function once<T>(make: () => T): () => T {
  let made: { readonly value: T } | null = null;
  return () => (made ??= { value: make() }).value;
}
