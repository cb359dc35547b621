import type { Span } from '../text/span.js';

/**
 * A name in a file that means something elsewhere: a part, what it accepts, a slot, a build value, a merge field, a class,
 * a region. Those of the same `id` mean the same, in whatever file they stand.
 */
export interface CodeSymbol {
  readonly id: string;
  /** The name as it is written at this place. */
  readonly name: string;
  readonly span: Span;
  /** Whether it is declared here. */
  readonly isDefinition: boolean;
}

/** The symbol that an offset stands in or behind; the shortest where several do. */
export function symbolAt(symbols: readonly CodeSymbol[], offset: number): CodeSymbol | null {
  const around = symbols.filter(({ span }) => span.start <= offset && offset <= span.end);
  const [first] = around.sort((a, b) => a.span.end - a.span.start - (b.span.end - b.span.start));
  return first ?? null;
}
