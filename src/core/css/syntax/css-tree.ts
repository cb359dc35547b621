/**
 * The only file that knows the parser of the borrowed CSS library: its tokenizer and its grammars of selectors and values.
 * Offsets that leave this file count from where our texts count.
 */
import type { CssNode as ParsedNode, CssNodePlain } from 'css-tree';
import convertor from 'css-tree/convertor';
import parse from 'css-tree/parser';
import { tokenize as borrowedTokenize, tokenTypes } from 'css-tree/tokenizer';
import { string, url } from 'css-tree/utils';

export interface CssToken {
  readonly type: number;
  readonly start: number;
  readonly end: number;
}

/** Token types of CSS Syntax Level 3, section 4, by the names used there. */
export const tokenType = {
  ident: tokenTypes.Ident,
  function: tokenTypes.Function,
  atKeyword: tokenTypes.AtKeyword,
  hash: tokenTypes.Hash,
  string: tokenTypes.String,
  badString: tokenTypes.BadString,
  url: tokenTypes.Url,
  badUrl: tokenTypes.BadUrl,
  delim: tokenTypes.Delim,
  number: tokenTypes.Number,
  percentage: tokenTypes.Percentage,
  dimension: tokenTypes.Dimension,
  whiteSpace: tokenTypes.WhiteSpace,
  cdo: tokenTypes.CDO,
  cdc: tokenTypes.CDC,
  colon: tokenTypes.Colon,
  semicolon: tokenTypes.Semicolon,
  comma: tokenTypes.Comma,
  openSquare: tokenTypes.LeftSquareBracket,
  closeSquare: tokenTypes.RightSquareBracket,
  openRound: tokenTypes.LeftParenthesis,
  closeRound: tokenTypes.RightParenthesis,
  openCurly: tokenTypes.LeftCurlyBracket,
  closeCurly: tokenTypes.RightCurlyBracket,
  comment: tokenTypes.Comment,
} as const;

/** The value of a string token (CSS Syntax Level 3, 4.3.5). */
export function decodeString(token: string): string {
  return string.decode(token);
}

/** The address of a token `url(…)` without quotes (CSS Syntax Level 3, 4.3.6). */
export function decodeUrl(token: string): string {
  return url.decode(token);
}

/** The tokens of a CSS text, with offsets moved by `base`. */
export function tokenizeCss(text: string, base: number): CssToken[] {
  const tokens: CssToken[] = [];
  borrowedTokenize(text, (type: number, start: number, end: number) => {
    tokens.push({ type, start: start + base, end: end + base });
  });
  return tokens;
}

/** A plain syntax tree node of the library. */
export type CssNode = CssNodePlain | { readonly type: 'NestingSelector' };

/** Parses a selector list; null where it is not valid (Selectors Level 4, 3.9: the whole list is then invalid). */
export function parseSelectorList(text: string): CssNode | null {
  const plain = plainSelectorList(text);
  if (plain !== null) return plain;
  // The library takes an empty list, and a comma with nothing behind it.
  if (/(?:^|,)(?:\s|\/\*[\s\S]*?\*\/)*$/.test(text)) return null;
  const tree = parseStrictly(text, 'selectorList');
  return tree === null ? null : convertor.toPlainObject(tree);
}

/** A list of types and classes, as most are; the rest of the grammar takes longer than to make what it would of them. */
function plainSelectorList(text: string): CssNode | null {
  if (!/^[ \t\n\r\f]*\.?[a-z][\w-]*(?:[ \t\n\r\f]*,[ \t\n\r\f]*\.?[a-z][\w-]*)*[ \t\n\r\f]*$/i.test(text)) return null;
  const children = [...text.matchAll(/(\.?)([a-z][\w-]*)/gi)].map(
    ({ 0: written, 1: dot, 2: name = '', index }): CssNodePlain => {
      const loc = { source: '', start: placeOn(index), end: placeOn(index + written.length) };
      return { type: 'Selector', children: [{ type: dot === '' ? 'TypeSelector' : 'ClassSelector', name }], loc };
    },
  );
  return { type: 'SelectorList', children };
}

/** Offsets alone are asked for. */
const placeOn = (offset: number): { offset: number; line: number; column: number } => ({ offset, line: 0, column: 0 });

/** Parses a value of a declaration, as the library's own dictionary takes it; null where it is not valid. */
export function parseValue(text: string): ParsedNode | null {
  return parseStrictly(text, 'value');
}

/**
 * The one place where the library parses. It throws for most of what it cannot read and tells of the rest, and so do
 * its own slips on odd input: whatever it throws means that the text is not valid.
 */
function parseStrictly(text: string, context: 'selectorList' | 'value'): ParsedNode | null {
  if (isTooDeep(text)) return null;
  let failed = false;
  try {
    const tree = parse(text, {
      context,
      positions: true,
      onParseError: () => {
        failed = true;
      },
    });
    return failed ? null : tree;
  } catch {
    return null;
  }
}

/** The library reads brackets by recursion: text that would exhaust the stack counts as not valid. */
const DEEPEST = 200;

function isTooDeep(text: string): boolean {
  if (text.length < DEEPEST) return false;
  let depth = 0;
  for (const character of text) {
    if (character === '(' || character === '[' || character === '{') depth += 1;
    else if (character === ')' || character === ']' || character === '}') depth -= 1;
    if (depth > DEEPEST) return true;
  }
  return false;
}
