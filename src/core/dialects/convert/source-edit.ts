import type { Span } from '../../text/span.js';

/** What a report says of a change that is no conversion of a tag. */
export interface ChangeEntry {
  /** What is changed: the mark of a region, or a block of the page (a footer, a badge). */
  readonly kind: 'region' | 'block';
  readonly verdict: 'exact' | 'rewritten' | 'removed';
  readonly message: string;
}

/** A change of a text that is no conversion of a tag: a footer put in, a badge taken out, the mark of a region. */
export interface SourceEdit {
  readonly span: Span;
  /** What stands there instead, in the target's dialect. */
  readonly text: string;
  /** What the report says; null where the change needs no entry of its own. */
  readonly entry: ChangeEntry | null;
}

/** Whether a place lies in what an edit takes out. */
export function isTakenOut(span: Span, edits: readonly SourceEdit[]): boolean {
  return edits.some(
    (edit) => edit.span.start <= span.start && span.end <= edit.span.end && edit.span.end > edit.span.start,
  );
}
