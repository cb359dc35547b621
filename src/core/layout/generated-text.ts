import type { ComputedStyle } from '../css/cascade/computed-style.js';
import type { IndexedElement } from '../css/selectors/element-index.js';
import { decodeString } from '../css/syntax/css-tree.js';
import { counterText } from '../css/values/counter-styles.js';
import { splitValue } from '../css/values/value.js';
import { attribute } from '../html/tree.js';

/** A counter and the element whose children may use it (CSS Lists and Counters 3, 4.4). */
interface Counter {
  readonly name: string;
  readonly scope: IndexedElement | null;
  value: number;
}

/**
 * The texts of generated boxes in one state, by the order of their elements: nothing for a box without content, null for
 * content that is no text. Counters and quotes count through the document as it is shown.
 * @param elements of the document, generated boxes among them, in the order in which they stand
 */
export function generatedTexts(
  elements: readonly IndexedElement[],
  styleOf: (element: IndexedElement) => ComputedStyle | null,
  generated: ReadonlyMap<number, unknown>,
): ReadonlyMap<number, string | null> {
  const texts = new Map<number, string | null>();
  const counters: Counter[] = [];
  const hidden = new Set<IndexedElement>();
  let depth = 0;
  for (const element of elements) {
    const { parent } = element;
    const style = styleOf(element);
    // A counter ends where the element ends in which it was made.
    while (counters.length > 0 && !isWithin(element, counters.at(-1)?.scope ?? null)) counters.pop();
    const isGenerated = generated.has(element.order);
    const content = style?.take('content') ?? 'normal';
    const isNothing = isGenerated && /^(?:none|normal)$/i.test(content.trim());
    if (style === null || style.get('display') === 'none' || isNothing || (parent !== null && hidden.has(parent))) {
      hidden.add(element);
      continue;
    }
    count(style, parent, counters);
    if (!isGenerated) continue;
    const read = readContent(content, { parent, style, counters, depth });
    depth = read?.depth ?? depth;
    texts.set(element.order, read?.text ?? null);
  }
  return texts;
}

function isWithin(element: IndexedElement, scope: IndexedElement | null): boolean {
  if (scope === null) return true;
  for (let at = element.parent; at !== null; at = at.parent) if (at === scope) return true;
  return false;
}

function count(style: ComputedStyle, scope: IndexedElement | null, counters: Counter[]): void {
  for (const [name, value] of pairs(style.take('counter-reset'), 0)) {
    const sibling = counters.findIndex((counter) => counter.name === name && counter.scope === scope);
    if (sibling >= 0) counters.splice(sibling, 1);
    counters.push({ name, scope, value });
  }
  for (const [name, value] of pairs(style.take('counter-increment'), 1))
    counterOf(name, scope, counters).value += value;
  for (const [name, value] of pairs(style.take('counter-set'), 0)) counterOf(name, scope, counters).value = value;
}

function counterOf(name: string, scope: IndexedElement | null, counters: Counter[]): Counter {
  const known = counters.findLast((counter) => counter.name === name);
  if (known !== undefined) return known;
  const made = { name, scope, value: 0 };
  counters.push(made);
  return made;
}

/** `section 2 item` as names with numbers. */
function pairs(value: string, fallback: number): [name: string, value: number][] {
  if (value === 'none') return [];
  const words = splitValue(value);
  return words.flatMap((word, index): [string, number][] => {
    if (/^[-+]?\d+$/.test(word)) return [];
    const next = Number(words[index + 1]);
    return [[word, Number.isInteger(next) ? next : fallback]];
  });
}

interface Around {
  readonly parent: IndexedElement | null;
  readonly style: ComputedStyle;
  readonly counters: readonly Counter[];
  readonly depth: number;
}

/** Reads a value of `content` (CSS Generated Content 3, 2); null for pictures and what else is no text. */
function readContent(value: string, around: Around): { text: string; depth: number } | null {
  const [shown = ''] = splitValue(value, '/');
  let { depth } = around;
  const texts: string[] = [];
  for (const word of splitValue(shown)) {
    const quote = /^(no-)?(open|close)-quote$/i.exec(word);
    if (quote !== null) {
      const isOpen = quote[2]?.toLowerCase() === 'open';
      if (!isOpen) depth = Math.max(0, depth - 1);
      if (quote[1] === undefined) texts.push(quoteMark(around.style.take('quotes'), depth, isOpen));
      if (isOpen) depth += 1;
      continue;
    }
    const text = textOf(word, around);
    if (text === null) return null;
    texts.push(text);
  }
  return { text: texts.join(''), depth };
}

function textOf(word: string, { parent, counters }: Around): string | null {
  if (/^["']/.test(word)) return decodeString(word);
  const call = /^(attr|counters?)\(\s*(.*?)\s*\)$/is.exec(word);
  if (call === null) return null;
  const [, name = '', inner = ''] = call;
  const [first = '', ...rest] = splitValue(inner, ',');
  if (name.toLowerCase() === 'attr')
    return rest.length > 0 || /\s/.test(first) || parent === null
      ? null
      : (attribute(parent.node, first.toLowerCase()) ?? '');
  const isNested = name.toLowerCase() === 'counters';
  const [separator, style = 'decimal'] = isNested ? [rest[0] ?? "''", rest[1]] : ["''", rest[0]];
  const found = counters.filter((counter) => counter.name === first);
  const values = (isNested ? found : found.slice(-1)).map(({ value }) => value);
  return (values.length === 0 ? [0] : values).map((number) => counterText(style, number)).join(decodeString(separator));
}

/** The quotation mark of a depth; deeper than the list goes, its last pair is repeated. */
function quoteMark(value: string, depth: number, isOpen: boolean): string {
  if (value === 'none') return '';
  const own = splitValue(value)
    .filter((word) => /^["']/.test(word))
    .map(decodeString);
  const marks = own.length >= 2 ? own : ['“', '”', '‘', '’'];
  const pair = Math.min(depth, marks.length / 2 - 1) * 2;
  return marks[isOpen ? pair : pair + 1] ?? '';
}
