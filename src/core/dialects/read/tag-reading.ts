import type { Expression } from '../../expressions/expression.js';
import type { Span } from '../../text/span.js';
import type { Dialect } from '../dialect.js';
import type { MergeTag } from '../model.js';
import type { Filling } from '../pattern.js';
import { readCondition, readValue } from './read-expression.js';
import type { Fillings, TagSpellings } from './tag-spellings.js';

/** A tag of a dialect's text, and how it was come by. */
export interface ReadTag {
  readonly tag: MergeTag;
  readonly verdict: 'exact' | 'rewritten' | 'assumed' | 'repaired' | 'unknown';
  /** What there is to say about the verdict; empty where it needs no words. */
  readonly note: string;
  /** Markup that stood within the tag, to be written behind it. */
  readonly markup: string;
}

/** What reading a tag needs to know, and whom it tells how sure it is of what it read. */
export interface TagReading {
  readonly dialect: Dialect;
  readonly spellings: TagSpellings;
  /** What a path means where the tag stands; null where it cannot be one. */
  path(text: string, span: Span): Expression | null;
  /** @param note what there is to say about the verdict; empty where it needs no words */
  note(verdict: ReadTag['verdict'], note: string): void;
}

/** Where a filling stands in the source. */
export type PlaceOf = (filling: Filling) => Span;

/** The value that a tag prints; null where it names none that can be read. */
export function valueIn(fillings: Fillings, at: PlaceOf, reading: TagReading): Expression | null {
  const field = fillings.get('field');
  if (field !== undefined) return reading.path(field.text, at(field));
  const value = fillings.get('value');
  if (value === undefined) return null;
  const read = readValue(reading.dialect, value.text, at(value).start, (text, span) => reading.path(text, span));
  if (read === null) return null;
  reading.note(read.verdict, '');
  return read.expression;
}

/** The condition of a tag; null where it names none that can be read. */
export function conditionIn(fillings: Fillings, at: PlaceOf, reading: TagReading): Expression | null {
  const condition = fillings.get('condition');
  if (condition === undefined) return null;
  const resolve = (text: string, span: Span): Expression | null => reading.path(text, span);
  const read = readCondition(reading.dialect, condition.text, at(condition).start, resolve);
  if (read === null) return null;
  reading.note(read.verdict, '');
  return read.expression;
}
