/**
 * The only file that knows the borrowed CSS library: its tokenizer, its selector and media query grammars, and its
 * dictionary of property values. Offsets that leave this file count from where our texts count.
 */
import {
  definitionSyntax,
  lexer,
  parse,
  string,
  toPlainObject,
  tokenize as borrowedTokenize,
  tokenTypes,
  url,
  type CssNodePlain,
} from 'css-tree';

/** The library's type definitions leave out its dictionary and the node for `&`. */
const { properties: dictionary, types } = lexer as unknown as Readonly<
  Record<'properties' | 'types', Readonly<Record<string, Definition>>>
>;

interface Definition {
  readonly syntax: object | null;
}

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
  // The library takes an empty list, and a comma with nothing behind it.
  if (/(?:^|,)(?:\s|\/\*[\s\S]*?\*\/)*$/.test(text)) return null;
  return parseStrictly(text, 'selectorList');
}

/** True where the value fits the property's grammar; null where the library does not know the property, or gives up. */
export function matchesGrammar(property: string, value: string): boolean | null {
  if (!Object.hasOwn(dictionary, property)) return null;
  const node = parseStrictly(value, 'value', 'tree');
  if (node === null) return false;
  try {
    const { error, iterations } = lexer.matchProperty(property, node as never) as unknown as GrammarMatch;
    return error === null ? true : iterations >= MOST_ITERATIONS ? null : false;
  } catch {
    // The matcher runs out of stack on some values.
    return null;
  }
}

/** The names of all properties that the dictionary knows, but for those of one engine. */
export const propertyNames: ReadonlySet<string> = new Set(
  Object.keys(dictionary).filter((name) => !name.startsWith('-')),
);

/** The keywords that may stand in a property's value, without those that any property takes. */
export function keywordsOf(property: string): string[] {
  const keywords = new Set<string>();
  const seen = new Set<object>();
  const collect = (definition: Definition | undefined): void => {
    const syntax = definition?.syntax ?? null;
    if (syntax === null || seen.has(syntax)) return;
    seen.add(syntax);
    definitionSyntax.walk(syntax as never, (node: { type: string; name?: string }) => {
      const { type, name = '' } = node;
      if (type === 'Keyword' && !name.startsWith('-')) keywords.add(name);
      if (type === 'Type') collect(types[name]);
      if (type === 'Property') collect(dictionary[name]);
    });
  };
  collect(Object.hasOwn(dictionary, property) ? dictionary[property] : undefined);
  return [...keywords];
}

interface GrammarMatch {
  readonly error: unknown;
  readonly iterations: number;
}

/** Where the library's matcher gives up; the value may fit all the same. */
const MOST_ITERATIONS = 15_000;

/**
 * The one place where the library parses. It throws for most of what it cannot read and tells of the rest, and so do
 * its own slips on odd input: whatever it throws means that the text is not valid.
 */
function parseStrictly(text: string, context: string, shape: 'plain' | 'tree' = 'plain'): CssNode | null {
  if (isTooDeep(text)) return null;
  let failed = false;
  try {
    const tree = parse(text, {
      context: context,
      positions: true,
      onParseError: () => {
        failed = true;
      },
    });
    if (failed) return null;
    return shape === 'tree' ? (tree as never) : toPlainObject(tree);
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
