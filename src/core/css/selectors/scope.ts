import type { IndexedElement, Matcher } from './element-index.js';
import { compileSelectorList } from './selector.js';
import type { Selector, SelectorContext } from './part.js';

/**
 * A scope (CSS Cascading Level 6, 2.5): its rules match only within its roots and not within its limits, and the nearer
 * root wins among rules of one specificity.
 */
export class Scope {
  #anchor: IndexedElement | null = null;

  private constructor(
    private readonly roots: readonly Selector[],
    private readonly limits: readonly Selector[],
  ) {}

  /** Matches the root that is being tried: what `:scope` means inside. */
  readonly isAnchor: Matcher = (element) => element === this.#anchor;

  /** Reads `(roots) to (limits)`; null for a scope that a document alone does not bound. */
  static read(prelude: string, context: SelectorContext): Scope | null {
    const match = /^\(([\s\S]*?)\)\s*(?:to\s*\(([\s\S]*)\))?$/i.exec(prelude.trim());
    if (match === null) return null;
    const roots = compileSelectorList(match[1] ?? '', { ...context, relativeToNesting: false, takesCombinator: false });
    const limits =
      match[2] === undefined
        ? []
        : compileSelectorList(match[2], { ...context, relativeToNesting: false, takesCombinator: false });
    if (roots === null || limits === null || [...roots, ...limits].some((selector) => selector.conditional))
      return null;
    return new Scope(roots, limits);
  }

  /** How many generations up the nearest root is within whose scope the selector matches the element; null where none is. */
  distance(element: IndexedElement, matches: Matcher): number | null {
    let generations = 0;
    for (let root: IndexedElement | null = element; root !== null; root = root.parent, generations += 1) {
      if (this.roots.some((selector) => selector.matches(root))) {
        this.#anchor = root;
        const found = matches(element);
        this.#anchor = null;
        if (found) return generations;
      }
      if (this.limits.some((selector) => selector.matches(root))) return null;
    }
    return null;
  }
}
