import type { Span } from '../../text/span.js';

/** A change of a text that is no conversion of a tag: a footer put in, a badge taken out, the mark of a region. */
export interface SourceEdit {
  readonly span: Span;
  /** What stands there instead, in the target's dialect. */
  readonly text: string;
  /** What the report says; null where the change needs no entry of its own. */
  readonly entry: { readonly verdict: 'exact' | 'rewritten' | 'removed'; readonly message: string } | null;
}

/** Whether a place lies in what an edit takes out. */
export function isTakenOut(span: Span, edits: readonly SourceEdit[]): boolean {
  return edits.some(
    (edit) => edit.span.start <= span.start && span.end <= edit.span.end && edit.span.end > edit.span.start,
  );
}
