import type { Declared } from './cascade.js';
import type { FontSize } from './font-size.js';
import type { ElementIndex } from '../selectors/element-index.js';
import type { ComputedValue } from '../values/computed-value.js';
import type { ColorContext } from '../values/mixed-color.js';
import type { Inherited } from '../values/variables.js';

/** What an element's declarations come to, before anybody takes of it. */
export interface ComputedElement {
  readonly own: ReadonlyMap<string, ComputedValue>;
  readonly inherited: ReadonlyMap<string, ComputedValue>;
  readonly variables: Inherited<string>;
  readonly authored: ReadonlyMap<string, Declared>;
  /** Its uses of custom properties that have no value. */
  readonly unresolved: readonly Declared[];
  readonly font: FontSize;
  /** Whether a value of it follows the size of the window. */
  readonly followsWindow: boolean;
}

/** What an element is computed from: nothing else decides what comes of it. */
export interface ComputedFrom {
  readonly declared: readonly Declared[];
  readonly parent: ComputedElement | null;
  /** That of the root above it, in px. */
  readonly rootFontSize: number;
  readonly viewportWidth: number | undefined;
  readonly scheme: ColorContext['scheme'];
}

interface Kept {
  readonly from: ComputedFrom;
  readonly computed: ComputedElement;
}

/** So many results are kept of an element: those of the states that a layout looks at by turns. */
const MOST_KEPT = 4;

const memories = new WeakMap<ElementIndex, ComputedMemory>();

/** The memory of the elements of a document. */
export function memoryOf(index: ElementIndex): ComputedMemory {
  const known = memories.get(index);
  if (known !== undefined) return known;
  const memory = new ComputedMemory();
  memories.set(index, memory);
  return memory;
}

/**
 * What was computed of the elements of a document under other conditions. Most elements come to the same under all of them:
 * with the same declarations and the same parent there is nothing to compute.
 */
class ComputedMemory {
  readonly #ofElement = new Map<number, readonly Kept[]>();
  /** By the parent and the list of declarations: elements that match alike, in the same parent, come to the same. */
  readonly #alike = new Map<ComputedElement | null, Map<readonly Declared[], readonly Kept[]>>();

  /** What came of an element, or what `compute` gives, which is kept. @param order the number of the element */
  recall(order: number, from: ComputedFrom, compute: () => ComputedElement): ComputedElement {
    const kept = this.#ofElement.get(order) ?? [];
    const known = kept.find((item) => isSame(item, from));
    if (known !== undefined) return known.computed;
    const inParent = this.alikeIn(from.parent);
    const alike = inParent.get(from.declared) ?? [];
    const computed = alike.find((item) => isSame(item, from))?.computed ?? compute();
    const now = { from, computed };
    this.#ofElement.set(order, [now, ...kept.slice(0, MOST_KEPT - 1)]);
    if (!alike.some((item) => item.computed === computed))
      inParent.set(from.declared, [now, ...alike.slice(0, MOST_KEPT - 1)]);
    return computed;
  }

  private alikeIn(parent: ComputedElement | null): Map<readonly Declared[], readonly Kept[]> {
    const known = this.#alike.get(parent);
    if (known !== undefined) return known;
    const fresh = new Map<readonly Declared[], readonly Kept[]>();
    this.#alike.set(parent, fresh);
    return fresh;
  }
}

function isSame(
  { from, computed }: Kept,
  { declared, parent, rootFontSize, viewportWidth, scheme }: ComputedFrom,
): boolean {
  return (
    from.parent === parent &&
    from.rootFontSize === rootFontSize &&
    from.scheme === scheme &&
    (from.viewportWidth === viewportWidth || !computed.followsWindow) &&
    (from.declared === declared ||
      (from.declared.length === declared.length && from.declared.every((item, index) => item === declared[index])))
  );
}
