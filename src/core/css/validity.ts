import { matchesGrammar } from './css-tree.js';

/** Whether a browser keeps a declaration: `unsure` where our dictionary may be older than the browser. */
export type Validity = 'valid' | 'invalid' | 'unsure';

/** Verdicts are kept, as the same few declarations stand on many elements; a bound keeps memory bounded. */
const MOST_KEPT = 20_000;
const judged = new Map<string, Validity>();

/**
 * Judges a declaration's value by the property's grammar. Custom properties, unknown ones that the `word` engine reads, and
 * values that hold a template tag count as valid; a value with a function that the dictionary does not know is unsure.
 */
export function judgeValue(property: string, value: string, holdsTag: boolean): Validity {
  if (holdsTag || property.startsWith('--') || property.startsWith('mso-')) return 'valid';
  const key = `${property}:${value}`;
  const known = judged.get(key);
  if (known !== undefined) return known;
  const validity = judge(property, value);
  if (judged.size > MOST_KEPT) judged.clear();
  judged.set(key, validity);
  return validity;
}

/** The dictionary takes any `calc()`; colours and words do not calculate. */
function hasBrokenCalc(value: string): boolean {
  return [...value.matchAll(/(?<![\w-])calc\(([^()]*)\)/gi)].some(([, inner]) =>
    /#|(?:^|[\s*/(])(?!pi\b|e\b|infinity\b|nan\b)[a-z]/i.test(inner ?? ''),
  );
}

function judge(property: string, value: string): Validity {
  if (hasBrokenCalc(value)) return 'invalid';
  const fits = matchesGrammar(property, value);
  if (fits === null) return 'unsure';
  if (fits) return 'valid';
  return value.includes('(') ? 'unsure' : 'invalid';
}
