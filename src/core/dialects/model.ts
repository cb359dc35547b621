import type { Place } from '../findings/finding.js';
import type { Expression } from '../expressions/expression.js';

/** What a merge tag is, by itself; blocks are tags that open, divide and close. */
export type MergeTag = { readonly place: Place } & (
  | { readonly kind: 'output'; readonly value: Expression; readonly raw: boolean }
  | { readonly kind: 'if' | 'else-if'; readonly condition: Expression }
  | { readonly kind: 'else' | 'end' }
  | { readonly kind: 'each'; readonly list: Expression; readonly item: string }
  | { readonly kind: 'comment'; readonly text: string }
  /** Text that looks like a tag and is none. */
  | { readonly kind: 'literal'; readonly text: string }
  /** A tag that cannot be read; it has been reported. */
  | { readonly kind: 'broken' }
);

/** The values that a platform knows by itself, by their neutral names. */
export const systemValues: ReadonlyMap<string, string> = new Map([
  ['link.unsubscribe', 'the unsubscribe link'],
  ['link.preferences', 'the link to the reader’s preferences'],
  ['link.browser', 'the link to the message as a page'],
  ['link.forward', 'the link that forwards the message'],
  ['sender.company', 'the name of the sending company'],
  ['sender.postal_address', 'the postal address of the sender'],
  ['date.year', 'the current year'],
]);

/** What kind of datum a merge field is. */
export type FieldType = 'text' | 'number' | 'flag' | 'date' | 'list';

/** What a field holds; of a list also what its items are, where that is known. */
export interface FieldShape {
  readonly type: FieldType;
  /** Of a list whose items have fields the shape of each field, of a list of plain values their shape. */
  readonly item?: ItemShape | undefined;
}

export type ItemShape = { readonly plain: FieldShape } | { readonly fields: ReadonlyMap<string, FieldShape> };

/** A merge field as a project declares it. */
export interface MergeField extends FieldShape {
  /** A value for previews; undefined where the project gives none. */
  readonly sample: unknown;
  /** What stands in for an empty value where a tag says nothing else. */
  readonly fallback: string | null;
}

/** The merge fields of a project, by name. */
export type MergeFields = ReadonlyMap<string, MergeField>;
