import { spanAt, type Span } from '../../text/span.js';
import { optionalEndTag, voidElements } from '../vocabulary.js';

/** A tag that stands without the other of its pair. */
export interface UnpairedTag {
  readonly kind: 'open' | 'stray';
  /** In lower case. */
  readonly tag: string;
  readonly span: Span;
  /** The end tag before which an open element should have ended, at the latest; null at the end of the text. */
  readonly before: { readonly tag: string; readonly span: Span } | null;
  /** Whether HTML lets its end tag be left out. */
  readonly isOptional: boolean;
}

interface Token {
  readonly tag: string;
  readonly isEnd: boolean;
  readonly span: Span;
}

/** What decides how a tag that fits nowhere is meant: as many tags behind it are looked at. */
const LOOK_AHEAD = 80;

/**
 * Pairs the tags of a text as they are written, and finds those that are left over. Where a tag fits nowhere, that is taken
 * to be wrong which leaves the least wrong behind it: one tag that is left out gives one finding.
 * @param masked the text with its template tags hidden
 */
export function unpairedTags(masked: string): UnpairedTag[] {
  const tokens = tokensOf(masked);
  const closed = closedShare(tokens);
  const found: UnpairedTag[] = [];
  const open: Token[] = [];
  for (const [at, token] of tokens.entries())
    step(tokens, at, { open, found: (item) => found.push(item), mayLook: true }, token);
  for (const { tag, span } of open.reverse()) found.push(unpaired('open', tag, span, null));
  return found.filter((item) => !item.isOptional || (closed.get(item.tag) ?? 0) >= MOSTLY);
}

/** An end tag that may be left out is missed where nearly all others of its kind are written. */
const MOSTLY = 0.9;

interface Pairing {
  readonly open: Token[];
  readonly found: (item: UnpairedTag) => unknown;
  /** Whether what follows may be tried out. */
  readonly mayLook: boolean;
}

function step(tokens: readonly Token[], at: number, pairing: Pairing, token: Token): void {
  const { open, found } = pairing;
  if (!token.isEnd) {
    closeImplied(token, pairing);
    open.push(token);
    return;
  }
  const index = open.findLastIndex(({ tag }) => tag === token.tag);
  if (index === open.length - 1 && index >= 0) {
    open.pop();
    return;
  }
  const left = index < 0 ? [] : open.slice(index + 1);
  const isMeant =
    index >= 0 && (left.every(({ tag }) => optionalEndTag.has(tag)) || isBetterClosed(tokens, at, pairing, index));
  if (!isMeant) {
    found(unpaired('stray', token.tag, token.span, null));
    return;
  }
  for (const item of left.reverse()) found(unpaired('open', item.tag, item.span, token));
  open.length = index;
}

/** Whether an end tag ends the element of its name, with all in it that is open, rather than nothing at all. */
function isBetterClosed(tokens: readonly Token[], at: number, { open, mayLook }: Pairing, index: number): boolean {
  if (!mayLook) return open.length - index <= 2;
  const costly = open.slice(index + 1).filter(({ tag }) => !optionalEndTag.has(tag)).length;
  const closing = costly + costOf(tokens, at + 1, open.slice(0, index));
  const straying = 1 + costOf(tokens, at + 1, [...open]);
  return closing <= straying;
}

/** How much is wrong in the next tags, where these are open. */
function costOf(tokens: readonly Token[], from: number, open: Token[]): number {
  let cost = 0;
  const pairing: Pairing = { open, found: () => (cost += 1), mayLook: false };
  for (let at = from; at < Math.min(tokens.length, from + LOOK_AHEAD); at += 1) {
    const token = tokens[at];
    if (token !== undefined) step(tokens, at, pairing, token);
  }
  return from + LOOK_AHEAD >= tokens.length ? cost + open.filter(({ tag }) => !optionalEndTag.has(tag)).length : cost;
}

const blocks =
  /^(?:address|article|aside|blockquote|center|div|dl|fieldset|figure|footer|form|h[1-6]|header|hr|main|nav|ol|p|pre|section|table|ul)$/;

/** Ends what a start tag ends by itself (HTML standard, 13.1.2.4). */
function closeImplied({ tag, span }: Token, { open, found }: Pairing): void {
  for (let top = open[open.length - 1]; top !== undefined; top = open[open.length - 1]) {
    const ends =
      (top.tag === 'p' && blocks.test(tag)) ||
      (top.tag === 'li' && tag === 'li') ||
      (/^d[td]$/.test(top.tag) && /^d[td]$/.test(tag)) ||
      (/^t[dh]$/.test(top.tag) && /^(?:t[dhr]|tbody|thead|tfoot)$/.test(tag)) ||
      (top.tag === 'tr' && /^(?:tr|tbody|thead|tfoot)$/.test(tag)) ||
      (/^(?:tbody|thead|tfoot)$/.test(top.tag) && /^(?:tbody|thead|tfoot)$/.test(tag));
    if (!ends) return;
    open.pop();
    found(unpaired('open', top.tag, top.span, { tag, isEnd: false, span }));
  }
}

function unpaired(kind: UnpairedTag['kind'], tag: string, span: Span, before: Token | null): UnpairedTag {
  const isOptional = kind === 'open' && optionalEndTag.has(tag);
  return { kind, tag, span, before: before?.isEnd === true ? before : null, isOptional };
}

/** Of each kind the share of the others that have an end tag, where one has none; 0 where there are too few to tell. */
function closedShare(tokens: readonly Token[]): ReadonlyMap<string, number> {
  const counts = new Map<string, { starts: number; ends: number }>();
  for (const { tag, isEnd } of tokens) {
    const count = counts.get(tag) ?? { starts: 0, ends: 0 };
    count[isEnd ? 'ends' : 'starts'] += 1;
    counts.set(tag, count);
  }
  return new Map([...counts].map(([tag, { starts, ends }]) => [tag, starts < 3 ? 0 : ends / (starts - 1)]));
}

/** The tags of a text in order, without those in comments, in style sheets and the like, and those of elements without content. */
function tokensOf(masked: string): Token[] {
  const tokens: Token[] = [];
  const pattern = /<!--[\s\S]*?(?:-->|$)|<(\/?)([a-z][^\s/>]*)((?:"[^"]*"|'[^']*'|[^'">])*)>/gi;
  for (let match = pattern.exec(masked); match !== null; match = pattern.exec(masked)) {
    const tag = match[2]?.toLowerCase();
    if (tag === undefined || voidElements.has(tag) || /^(?:html|head|body)$/.test(tag)) continue;
    const isEnd = match[1] === '/';
    // An element of drawings may end in its start tag.
    if (!isEnd && match[3]?.endsWith('/') === true && /:|^(?:svg|path|g|rect|circle|line|use|image)$/.test(tag))
      continue;
    tokens.push({ tag, isEnd, span: spanAt(match.index, match[0].length) });
    if (isEnd || !/^(?:style|script|title|textarea|xmp|iframe|noembed|noframes)$/.test(tag)) continue;
    const end = masked.toLowerCase().indexOf(`</${tag}`, pattern.lastIndex);
    if (end >= 0) pattern.lastIndex = end;
  }
  return tokens;
}
