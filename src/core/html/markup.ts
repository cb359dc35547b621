import { Tokenizer, TokenizerMode, type Token } from 'parse5';
import { spanAt, type Span } from '../text/span.js';
import { isConditionalComment } from './conditional-comment.js';

/** An attribute as it stands in a text. */
export interface WrittenAttribute {
  /** In lower case. */
  readonly name: string;
  /** What stands between the quotes, as it is written; empty where there is no value. */
  readonly value: Span;
}

/** A start tag as it stands in a text. */
export interface WrittenTag {
  /** In lower case, with its prefix. */
  readonly tag: string;
  readonly attributes: readonly WrittenAttribute[];
  readonly span: Span;
}

/** The markup of a text, as it is written: whether elements fit together does not matter. */
export interface Markup {
  /** Start tags in order, those in conditional comments among them. */
  readonly tags: readonly WrittenTag[];
  /** What stands in `<style>` elements. */
  readonly styles: readonly Span[];
}

/** Comments in comments do not nest; what claims to is not followed further. */
const DEEPEST = 3;

/**
 * Reads the tags of a text by the tokenizer of the HTML standard (13.2.5), without building a tree: pieces in conditional
 * comments, rows outside of tables and unclosed elements keep their place.
 * @param masked the text with its template tags hidden
 */
export function readMarkup(masked: string): Markup {
  const tags: WrittenTag[] = [];
  const styles: Span[] = [];
  new MarkupReader(tags, styles).read(masked, 0, 0);
  tags.sort((a, b) => a.span.start - b.span.start);
  return { tags, styles };
}

class MarkupReader {
  constructor(
    private readonly tags: WrittenTag[],
    private readonly styles: Span[],
  ) {}

  read(text: string, offset: number, depth: number): void {
    let style: number | null = null;
    const nothing = (): void => undefined;
    const tokenizer = new Tokenizer(
      { sourceCodeLocationInfo: true },
      {
        onStartTag: (token) => {
          if (token.location === null) return;
          this.tags.push(writtenTag(text, token, token.location, offset));
          enterText(tokenizer, token.tagName);
          if (token.tagName === 'style') style = offset + token.location.endOffset;
        },
        onEndTag: ({ tagName, location }) => {
          if (tagName !== 'style' || style === null) return;
          this.styles.push({ start: style, end: offset + (location?.startOffset ?? text.length) });
          style = null;
        },
        onComment: ({ data, location }) => {
          const isShown = location !== null && text.startsWith('<!--', location.startOffset);
          if (!isShown || depth >= DEEPEST || !isConditionalComment(data)) return;
          const start = location.startOffset + '<!--'.length;
          this.read(text.slice(start, start + data.length), offset + start, depth + 1);
        },
        onDoctype: nothing,
        onEof: nothing,
        onCharacter: nothing,
        onNullCharacter: nothing,
        onWhitespaceCharacter: nothing,
      },
    );
    tokenizer.write(text, true);
    if (style !== null) this.styles.push({ start: style, end: offset + text.length });
  }
}

/** Elements whose content is text to the tokenizer, which the tree builder would tell it. */
export function enterText(tokenizer: Tokenizer, tag: string): void {
  const mode = ['style', 'xmp', 'iframe', 'noembed', 'noframes'].includes(tag)
    ? TokenizerMode.RAWTEXT
    : ['title', 'textarea'].includes(tag)
      ? TokenizerMode.RCDATA
      : tag === 'script'
        ? TokenizerMode.SCRIPT_DATA
        : null;
  if (mode !== null) tokenizer.state = mode;
}

function writtenTag(
  text: string,
  { tagName, attrs }: Token.TagToken,
  location: Token.LocationWithAttributes,
  offset: number,
): WrittenTag {
  const attributes = attrs.flatMap(({ name }): WrittenAttribute[] => {
    const at = location.attrs?.[name];
    return at === undefined ? [] : [writtenAttribute(text, name, at, offset)];
  });
  return {
    tag: tagName,
    attributes,
    span: { start: offset + location.startOffset, end: offset + location.endOffset },
  };
}

function writtenAttribute(text: string, name: string, at: Token.Location, offset: number): WrittenAttribute {
  const raw = text.slice(at.startOffset, at.endOffset);
  const [before = raw, mark] = /^[^=]*=\s*(["']?)/.exec(raw.slice(name.length)) ?? [];
  const start = at.startOffset + (mark === undefined ? raw.length : name.length + before.length);
  const end = Math.max(start, at.endOffset - (mark ?? '').length);
  return { name, value: spanAt(offset + start, end - start) };
}
