import { Tokenizer } from 'parse5';
import { enterText } from '../markup.js';

/** What is open at the end of a text of HTML: where somebody who types is. */
export type OpenEnd =
  | { readonly kind: 'text' | 'comment' }
  | { readonly kind: 'style'; readonly start: number }
  /** Within the name of a tag, which begins at `start`. */
  | { readonly kind: 'tag'; readonly start: number; readonly isEnd: boolean }
  | (OpenTag & { readonly kind: 'attribute'; readonly start: number })
  | (OpenTag & { readonly kind: 'value'; readonly attribute: string; readonly start: number; readonly quote: string });

/** A start tag that is not closed yet, with the attributes that it has so far. */
export interface OpenTag {
  readonly tag: string;
  readonly attributes: ReadonlyMap<string, string>;
}

/**
 * Tells what is open at the end of a text, by the tokenizer of the HTML standard (13.2.5).
 * @param masked the text with its template tags hidden
 */
export function openEnd(masked: string): OpenEnd {
  const { end, open } = lastToken(masked);
  if (open === 'style') return { kind: 'style', start: end };
  const tail = masked.slice(end);
  const comment = tail.lastIndexOf('<!--');
  if (comment >= 0 && !tail.includes('-->', comment)) return { kind: 'comment' };
  const match = /<(\/?)([a-z][^\s/>]*)?(?=$|[\s/])|<(\/?)$/i.exec(tail);
  if (match === null) return { kind: 'text' };
  const nameStart = end + match.index + 1 + (match[1] ?? match[3] ?? '').length;
  const name = match[2] ?? '';
  if (nameStart + name.length === masked.length)
    return { kind: 'tag', start: nameStart, isEnd: (match[1] ?? match[3]) === '/' };
  if (match[1] === '/' || name === '') return { kind: 'text' };
  return inTag(masked, name.toLowerCase(), nameStart + name.length);
}

/** Where the last token ends that is whole, and the element whose text comes behind it. */
function lastToken(masked: string): { readonly end: number; readonly open: string | null } {
  let end = 0;
  let open: string | null = null;
  const passed = ({ location }: { readonly location: { readonly endOffset: number } | null }): void => {
    // The last comment may be one that is not closed.
    if (location !== null) end = location.endOffset;
  };
  const nothing = (): void => undefined;
  const tokenizer = new Tokenizer(
    { sourceCodeLocationInfo: true },
    {
      onStartTag: (token) => {
        passed(token);
        enterText(tokenizer, token.tagName);
        open = token.tagName;
      },
      onEndTag: (token) => {
        passed(token);
        open = null;
      },
      onComment: (token) => {
        if (masked.slice(0, token.location?.endOffset).endsWith('>')) passed(token);
      },
      onDoctype: passed,
      onEof: nothing,
      onCharacter: nothing,
      onNullCharacter: nothing,
      onWhitespaceCharacter: nothing,
    },
  );
  tokenizer.write(masked, true);
  return { end, open };
}

const attributeName = /[^\s"'<>/=]*/y;

function inTag(text: string, tag: string, from: number): OpenEnd {
  const attributes = new Map<string, string>();
  let at = from;
  for (;;) {
    at = skip(text, at, /[\s/"'<]*/y);
    const start = at;
    at = skip(text, at, attributeName);
    if (at === text.length) return { kind: 'attribute', tag, attributes, start };
    const name = text.slice(start, at).toLowerCase();
    const equals = skip(text, at, /\s*=\s*/y);
    if (equals === at) {
      attributes.set(name, '');
      // A character that no attribute begins with.
      if (at === start) at += 1;
      continue;
    }
    const quote = /["']/.exec(text[equals] ?? '')?.[0] ?? '';
    const valueStart = equals + quote.length;
    const close = quote === '' ? skip(text, valueStart, /[^\s>]*/y) : text.indexOf(quote, valueStart);
    if (close < 0 || (quote === '' && close === text.length))
      return { kind: 'value', tag, attributes, attribute: name, start: valueStart, quote };
    attributes.set(name, text.slice(valueStart, close));
    at = close + quote.length;
  }
}

function skip(text: string, from: number, pattern: RegExp): number {
  pattern.lastIndex = from;
  return pattern.test(text) ? pattern.lastIndex : from;
}
