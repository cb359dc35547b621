import type { Place } from '../../findings/finding.js';
import type { SourceText } from '../../text/source-text.js';
import type { Span } from '../../text/span.js';

/** `property: value`, as written. */
export interface Declaration {
  readonly kind: 'declaration';
  /** Lower case, but for custom properties, whose case counts. */
  readonly property: string;
  /** The text of the value, without `!important`, comments and outer white space. */
  readonly value: string;
  readonly important: boolean;
  readonly place: Place;
  /** From the value's first to its last character, `!important` left out. */
  readonly valueSpan: Span;
}

/** A qualified rule: selectors (not yet read) and a block. */
export interface RawRule {
  readonly kind: 'rule';
  readonly prelude: Span;
  readonly items: readonly CssItem[];
  readonly place: Place;
}

/** `@name prelude;` or `@name prelude { … }`. */
export interface AtRule {
  readonly kind: 'at-rule';
  /** Lower case, without the `@`. */
  readonly name: string;
  readonly prelude: Span;
  /** Null where the rule ends with a semicolon. */
  readonly items: readonly CssItem[] | null;
  readonly place: Place;
}

export type CssItem = Declaration | RawRule | AtRule;

/** A style sheet in a file of its own. */
export function wholeSheet(source: SourceText): CssInput {
  return { source, text: source.text, span: source.whole, tags: [] };
}

/** CSS to read. */
export interface CssInput {
  readonly source: SourceText;
  /** The text to read at the source's offsets; differs from the source only where template tags are masked. */
  readonly text: string;
  readonly span: Span;
  /** The template tags of the source, in order: in values and properties they stand as sentinels with their number here. */
  readonly tags: readonly Span[];
}
