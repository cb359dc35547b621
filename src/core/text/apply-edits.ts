import type { Span } from './span.js';

/** Replaces the characters of `span` by `text`; an empty span inserts. */
export interface Edit {
  readonly span: Span;
  readonly text: string;
}

/** What the applier made of a list of edits. */
export interface EditResult {
  readonly text: string;
  /** Edits that overlap an earlier one, or lie outside the text, and were left out. */
  readonly rejected: readonly Edit[];
}

/**
 * Applies edits to a text, all at once: every span refers to the text as it was given.
 * Insertions at the same offset keep the order of the list. This is the only place that builds
 * a changed text from an original, so that whatever no edit names stays byte for byte.
 */
export function applyEdits(text: string, edits: readonly Edit[]): EditResult {
  const ordered = edits
    .map((edit, index) => ({ edit, index }))
    .sort((a, b) => a.edit.span.start - b.edit.span.start || a.edit.span.end - b.edit.span.end || a.index - b.index);
  const pieces: string[] = [];
  const rejected: Edit[] = [];
  let position = 0;
  for (const { edit } of ordered) {
    const { start, end } = edit.span;
    if (start < position || end < start || end > text.length) {
      rejected.push(edit);
      continue;
    }
    pieces.push(text.slice(position, start), edit.text);
    position = end;
  }
  pieces.push(text.slice(position));
  return { text: pieces.join(''), rejected };
}
