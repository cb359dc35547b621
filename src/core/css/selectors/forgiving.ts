import { parseSelectorList, type CssNode } from '../syntax/css-tree.js';

/** Nothing is in no namespace and called so: a selector that stands for one that is broken, and matches nothing. */
const NOTHING = '|x';

/**
 * Parses a selector list. `:is()` and `:where()` forgive: what is broken in them counts for nothing, and the rest holds
 * (Selectors Level 4, 4.2). Offsets are those of the text that is given.
 */
export function parseForgiving(text: string): CssNode | null {
  return parseSelectorList(text) ?? (forgives(text) ? parseSelectorList(withoutBroken(text)) : null);
}

const opening = /:(?:is|where)\(/i;

/** In a longer list nothing is looked for: each level of it is read anew. */
const LONGEST = 2000;

function forgives(text: string): boolean {
  return text.length <= LONGEST && opening.test(text);
}

/** A text of the same length, with what matches nothing in place of what is broken and forgiven. */
function withoutBroken(text: string): string {
  const found = opening.exec(text);
  if (found === null) return text;
  const from = found.index + found[0].length;
  const to = closingOffset(text, from);
  const inner = text.slice(from, to);
  const pieces: string[] = [];
  for (let at = 0; at <= inner.length;) {
    const end = endOfPiece(inner, at);
    const piece = inner.slice(at, end);
    const ready = withoutBroken(piece);
    const isBroken = piece.length >= NOTHING.length && parseSelectorList(ready) === null;
    pieces.push(isBroken ? NOTHING.padEnd(piece.length) : ready);
    at = end + 1;
  }
  return text.slice(0, from) + pieces.join(',') + text.slice(to, to + 1) + withoutBroken(text.slice(to + 1));
}

/** Where the parenthesis closes that opens right before an offset; the end of the text where it does not. */
function closingOffset(text: string, from: number): number {
  return scan(text, from, (character, depth) => character === ')' && depth === 0);
}

function endOfPiece(text: string, from: number): number {
  return scan(text, from, (character, depth) => character === ',' && depth === 0);
}

/** The offset of the first character that ends something, strings and escapes left out. */
function scan(text: string, from: number, isEnd: (character: string, depth: number) => boolean): number {
  let depth = 0;
  let quote = '';
  for (let at = from; at < text.length; at += 1) {
    const character = text.charAt(at);
    if (character === '\\') at += 1;
    else if (quote !== '') quote = character === quote ? '' : quote;
    else if (isEnd(character, depth)) return at;
    else if (character === '"' || character === "'") quote = character;
    else if (character === '(' || character === '[') depth += 1;
    else if (character === ')' || character === ']') depth -= 1;
  }
  return text.length;
}
