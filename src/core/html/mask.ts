import type { Span } from '../text/span.js';

type State = 'text' | 'tag' | 'value-start' | 'unquoted' | '"' | "'" | 'comment' | 'style';

/**
 * Hides template tags from an HTML parser: each is replaced by filler of equal length that suits its place.
 * Between markup and between attributes the filler is white space, so that a tag between table rows is not moved out of
 * the table and a tag between attributes does not become one; inside attribute values, tag names and CSS values it is
 * letters.
 */
export function maskTags(text: string, tags: readonly Span[]): string {
  if (tags.length === 0) return text;
  const pieces: string[] = [];
  let state: State = 'text';
  let position = 0;
  for (const tag of tags) {
    const before = text.slice(position, tag.start);
    state = advance(before, state);
    pieces.push(before, filler(text.slice(tag.start, tag.end), state, before));
    if (state === 'value-start') state = 'unquoted';
    position = tag.end;
  }
  pieces.push(text.slice(position));
  return pieces.join('');
}

function filler(tag: string, state: State, before: string): string {
  return tag
    .replace(/[^\r\n]/g, needsLetters(state, before) ? 'x' : ' ')
    .replace(/[\r\n]/g, (end) => (needsLetters(state, before) ? 'x' : end));
}

function needsLetters(state: State, before: string): boolean {
  switch (state) {
    case 'text':
    case 'comment':
      return false;
    case 'tag':
      return /[^\s"'/]$/.test(before);
    case 'style':
      return /[:][^;{}]*$/.test(before) || /[.#\w-]$/.test(before);
    default:
      return true;
  }
}

/** Where in the markup the text after `piece` stands, given where `piece` begins. Follows the HTML tokenizer loosely. */
function advance(piece: string, from: State): State {
  let state = from;
  let index = 0;
  while (index < piece.length) {
    const step = next(piece, index, state);
    state = step.state;
    index = step.index;
  }
  return state;
}

function next(piece: string, index: number, state: State): { state: State; index: number } {
  const character = piece[index] ?? '';
  switch (state) {
    case 'text':
      return nextInText(piece, index);
    case 'comment':
      return until(piece, index, '-->', 'text', 'comment');
    case 'style':
      return untilPattern(piece, index, /<\/style\b/gi, 'tag', 'style');
    case '"':
    case "'":
      return until(piece, index, state, 'tag', state);
    case 'unquoted':
      if (character === '>') return { state: 'text', index: index + 1 };
      return { state: /\s/.test(character) ? 'tag' : 'unquoted', index: index + 1 };
    case 'value-start':
      if (character === '"' || character === "'") return { state: character, index: index + 1 };
      if (/\s/.test(character)) return { state, index: index + 1 };
      return { state: character === '>' ? 'text' : 'unquoted', index: index + 1 };
    case 'tag':
      if (character === '=') return { state: 'value-start', index: index + 1 };
      if (character !== '>') return { state, index: index + 1 };
      return { state: opensStyle(piece, index) ? 'style' : 'text', index: index + 1 };
  }
}

function nextInText(piece: string, index: number): { state: State; index: number } {
  const open = piece.indexOf('<', index);
  if (open < 0) return { state: 'text', index: piece.length };
  if (piece.startsWith('<!--', open)) return { state: 'comment', index: open + 4 };
  return { state: /[a-z/!?]/i.test(piece[open + 1] ?? '') ? 'tag' : 'text', index: open + 1 };
}

function opensStyle(piece: string, index: number): boolean {
  const open = piece.lastIndexOf('<', index);
  return open >= 0 && /^<style\b/i.test(piece.slice(open, open + 7));
}

function until(
  piece: string,
  index: number,
  end: string,
  after: State,
  inside: State,
): { state: State; index: number } {
  const found = piece.indexOf(end, index);
  return found < 0 ? { state: inside, index: piece.length } : { state: after, index: found + end.length };
}

function untilPattern(
  piece: string,
  index: number,
  end: RegExp,
  after: State,
  inside: State,
): { state: State; index: number } {
  end.lastIndex = index;
  const match = end.exec(piece);
  return match === null
    ? { state: inside, index: piece.length }
    : { state: after, index: match.index + match[0].length };
}
