/** A half-open range of UTF-16 offsets into one SourceText: `end` is exclusive. */
export interface Span {
  readonly start: number;
  readonly end: number;
}

/** The span that starts at `start` and is `length` code units long. */
export function spanAt(start: number, length: number): Span {
  return { start, end: start + length };
}
