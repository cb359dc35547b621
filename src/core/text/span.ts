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
  return firstIndex(spans.length, (index) => (spans[index]?.start ?? Infinity) >= offset);
}

/**
 * The first of ordered things for which something holds, where it then holds for all behind it.
 * @param count of the things; the answer where it holds for none
 */
export function firstIndex(count: number, holds: (index: number) => boolean): number {
  let low = 0;
  let high = count;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (holds(middle)) high = middle;
    else low = middle + 1;
  }
  return low;
}
