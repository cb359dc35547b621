import type { Removal } from './blocks.js';
import type { Expression } from '../../expressions/expression.js';
import type { MergeTag } from '../model.js';

/** How well a tag could be said: as it is, in other words, if something holds that is not certain, or not. */
export type TagVerdict = 'exact' | 'rewritten' | 'assumed' | 'removed' | 'loss';

/** Where in the HTML a tag is written; quotes must not end an attribute. */
export type TagContext = 'text' | 'attribute' | 'single-quoted attribute';

/** Merge tags, ready to be written in one dialect. */
export interface TagTexts {
  /** The text of the tag with this number. */
  readonly write: (index: number, context: TagContext) => string;
  readonly verdict: (index: number) => TagVerdict;
  /** What there is to say about the verdict; empty where it needs no words. */
  readonly note: (index: number) => string;
  /** What of the text is left out, where losses are allowed. */
  readonly removed: readonly Removal[];
}

/** What stands in for what a dialect cannot say; `null` where such a tag is an error. */
export interface LossAnswers {
  /** Whether a condition holds for the sample recipient. */
  readonly holds: (condition: Expression) => boolean;
  /** What a value is for the sample recipient, as text. */
  readonly sample: (value: Expression) => string;
}

/** A tag for the value of an attribute: its own quotes do not end the value. */
export function withinQuotes(text: string, quote: string): string {
  if (quote === '' || !text.includes(quote)) return text;
  const other = quote === '"' ? "'" : '"';
  return text.replaceAll(quote, text.includes(other) ? `&#${quote.charCodeAt(0)};` : other);
}

/** Writes tags as they stand in the source: the neutral notation itself. */
export function tagsAsWritten(tags: readonly MergeTag[]): TagTexts {
  return {
    write: (index, context) => withinQuotes(writtenTag(tags[index]), quotes[context]),
    verdict: () => 'exact',
    note: () => '',
    removed: [],
  };
}

function writtenTag(tag: MergeTag | undefined): string {
  return tag === undefined ? '' : tag.place.source.slice(tag.place.span);
}

export const quotes: Readonly<Record<TagContext, '' | '"' | "'">> = {
  text: '',
  attribute: '"',
  'single-quoted attribute': "'",
};
