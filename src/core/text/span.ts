/** A half-open range of UTF-16 offsets into one SourceText: `end` is exclusive. */
export interface Span {
  readonly start: number;
  readonly end: number;
}

/** The span that starts at `start` and is `length` code units long. */
export function spanAt(start: number, length: number): Span {
  return { start, end: start + length };
}

/** The number of the first of ordered spans that begins at or after an offset; their count where none does. */
export function firstFrom(spans: readonly Span[], offset: number): number {
  let low = 0;
  let high = spans.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((spans[middle]?.start ?? Infinity) < offset) low = middle + 1;
    else high = middle;
  }
  return low;
}
