import MarkdownIt, { type Token } from 'markdown-it';
import { MappedText, type Piece } from '../text/mapped-text.js';
import type { SourceText } from '../text/source-text.js';
import { type Span, spanAt } from '../text/span.js';
import { buildDelimiters, findTags, neutralDelimiters, sentinel, splitAtSentinels } from './tags.js';
import { lineStartsOf } from '../text/source-text.js';

/** CommonMark, with tables, as they are common in notices. */
function parser({ html }: { readonly html: boolean }): ReturnType<typeof MarkdownIt> {
  const markdown = new MarkdownIt('commonmark', { html }).enable('table');
  // Addresses are encoded as the standard says, but template tags in them stay what they are.
  const plain = new MarkdownIt('commonmark');
  markdown.normalizeLink = (address) => aroundTags(address, (text) => plain.normalizeLink(text));
  markdown.normalizeLinkText = (address) => address;
  markdown.validateLink = (address) => plain.validateLink(address.replace(/[\uFDD0\uFDD1]/g, ''));
  return markdown;
}

function aroundTags(text: string, change: (text: string) => string): string {
  return splitAtSentinels(text)
    .map((piece) => (typeof piece === 'number' ? sentinel(piece) : change(piece)))
    .join('');
}

/**
 * Markdown (CommonMark 0.31) as HTML. Template tags that stand as sentinels are kept.
 * @param html whether HTML in the text is taken as HTML; otherwise it is escaped
 */
export function markdownToHtml(text: string, options: { readonly html: boolean }): string {
  return parser(options).render(text).trim();
}

/**
 * The body of a Markdown message as HTML that knows where it came from: build values, merge tags and the tags of parts
 * to the character, all else by its block.
 * @param span of the body in its source, behind the front matter
 */
export function markdownBody(source: SourceText, span: Span): MappedText {
  const text = source.slice(span);
  const tags = findTags(text, [neutralDelimiters, buildDelimiters]);
  let position = 0;
  const hidden: string[] = [];
  tags.forEach((tag, index) => {
    hidden.push(text.slice(position, tag.start), sentinel(index));
    position = tag.end;
  });
  hidden.push(text.slice(position));
  const markdown = parser({ html: true });
  const environment = {};
  const lines = lineStartsOf(hidden.join(''));
  const placed = new Placer(source, span, tags);
  const tokens = markdown.parse(hidden.join(''), environment);
  unwrapParts(tokens);
  const pieces = topLevelBlocks(tokens).flatMap((block) => {
    const [from, to] = block[0]?.map ?? [0, lines.length - 1];
    const written = { start: lines[from] ?? 0, end: lines[to] ?? hidden.join('').length };
    return placed.pieces(markdown.renderer.render(block, markdown.options, environment), hidden.join(''), written);
  });
  return new MappedText(source.name, pieces);
}

/** A paragraph that is a part and nothing else is no paragraph: the part says itself what it is. */
function unwrapParts(tokens: readonly Token[]): void {
  tokens.forEach((token, index) => {
    const inline = tokens[index + 1];
    const closing = tokens[index + 2];
    if (token.type !== 'paragraph_open' || !inline?.children || closing === undefined) return;
    const children = inline.children.filter(({ type, content }) => type !== 'text' || content.trim() !== '');
    const opened = /^<([a-z][a-z\d]*-[\w-]*)/.exec(
      children[0]?.type === 'html_inline' ? (children[0].content ?? '') : '',
    );
    const last = children[children.length - 1];
    if (opened === null || last?.type !== 'html_inline' || last.content !== `</${opened[1]}>`) return;
    token.hidden = true;
    closing.hidden = true;
  });
}

function topLevelBlocks(tokens: readonly Token[]): Token[][] {
  const blocks: Token[][] = [];
  let depth = 0;
  for (const token of tokens) {
    if (depth === 0) blocks.push([]);
    blocks[blocks.length - 1]?.push(token);
    depth += token.nesting;
  }
  return blocks;
}

/** Places the HTML of Markdown blocks in their source. */
class Placer {
  constructor(
    private readonly source: SourceText,
    private readonly body: Span,
    private readonly tags: readonly Span[],
  ) {}

  /** @param written the block in the text in which sentinels stand for tags */
  pieces(html: string, hidden: string, written: Span): Piece[] {
    const block = { start: this.original(hidden, written.start), end: this.original(hidden, written.end) };
    let from = block.start;
    return splitAtSentinels(html).flatMap((piece): Piece[] => {
      if (typeof piece === 'number') {
        const tag = this.tags[piece] ?? spanAt(0, 0);
        const span = { start: this.body.start + tag.start, end: this.body.start + tag.end };
        from = Math.max(from, span.end);
        return [this.exactPiece(this.source.slice(span), span)];
      }
      const markup = piece.split(/(<\/?[a-z][\w-]*(?:[^<>"']|"[^"]*"|'[^']*')*>?)/);
      return markup.map((run) => {
        const at = run.length > 2 ? this.source.text.indexOf(run, from) : -1;
        if (at < 0 || at + run.length > block.end)
          return { ...this.exactPiece(run, this.trimmed(block)), exact: false };
        from = at + run.length;
        return this.exactPiece(run, { start: at, end: from });
      });
    });
  }

  private exactPiece(text: string, span: Span): Piece {
    return { text, origin: { source: this.source, span }, exact: true, uses: [] };
  }

  /** A block without the line ends behind it. */
  private trimmed({ start, end }: Span): Span {
    return { start, end: start + this.source.slice({ start, end }).trimEnd().length };
  }

  /** The offset in the source of an offset in the text with sentinels. */
  private original(hidden: string, offset: number): number {
    let shift = 0;
    for (const match of hidden.slice(0, offset).matchAll(/\uFDD0(\d+)\uFDD1/g)) {
      const tag = this.tags[Number(match[1])] ?? spanAt(0, 0);
      shift += tag.end - tag.start - match[0].length;
    }
    return this.body.start + offset + shift;
  }
}
