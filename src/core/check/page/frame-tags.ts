import { spanAt, type Span } from '../../text/span.js';

/** A start tag that gives a page or a table its frame. */
export interface FrameTag {
  /** `html`, `body`, `tr`, `td` or `th`. */
  readonly tag: string;
  readonly span: Span;
}

/** The start tags of pages, rows and cells as they are written, without those in comments and style sheets. */
export function frameTagsIn(masked: string): FrameTag[] {
  const pattern =
    /<!--[\s\S]*?(?:-->|$)|<style\b[\s\S]*?(?:<\/style|$)|<(html|body|tr|td|th)(?=[\s/>])(?:"[^"]*"|'[^']*'|[^'">])*>/gi;
  return [...masked.matchAll(pattern)].flatMap((match) =>
    match[1] === undefined ? [] : [{ tag: match[1].toLowerCase(), span: spanAt(match.index, match[0].length) }],
  );
}
