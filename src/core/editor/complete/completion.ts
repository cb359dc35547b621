import type { Span } from '../../text/span.js';

/** What kind of thing is offered. */
export type CompletionKind =
  'part' | 'attribute' | 'value' | 'field' | 'filter' | 'block' | 'class' | 'file' | 'folder' | 'key' | 'word';

/** Something that may be written at a place. */
export interface Completion {
  readonly label: string;
  readonly kind: CompletionKind;
  /** In a few words what it is, or an example. */
  readonly detail: string;
  /** What is written: in place of `span`, with `$1`, `$0` where the caret may go. */
  readonly insert: string;
  /** What it takes the place of, up to the caret. */
  readonly span: Span;
}

/** A file to be named: what is offered stands on the disk, which others read. */
export interface FileWish {
  /** What is written so far, and where. */
  readonly written: string;
  readonly span: Span;
  readonly endings: RegExp;
}

/** What may be written at a place. */
export interface Offer {
  readonly items: readonly Completion[];
  readonly files: FileWish | null;
}

export const nothingOffered: Offer = { items: [], files: null };

export function offered(items: readonly Completion[]): Offer {
  return { items, files: null };
}
