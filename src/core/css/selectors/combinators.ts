import type { IndexedElement, Matcher } from './element-index.js';
import { type SelectorContext, InvalidSelector, readingOf } from './part.js';
import { hasOpenSiblings, siblingsOf } from './static-pseudo-class.js';

/** Asks once for each element: chains of descendants would otherwise climb the same ancestors again for each link. */
export function remembered(matches: Matcher): Matcher {
  const answers = new WeakMap<IndexedElement, boolean>();
  return (element) => {
    const known = answers.get(element);
    if (known !== undefined) return known;
    const answer = matches(element);
    answers.set(element, answer);
    return answer;
  };
}

export function combinedMatcher(
  left: Matcher,
  combinator: string,
  right: Matcher,
  isAnchored: boolean,
  context: SelectorContext,
): Matcher {
  const isOpen = (element: IndexedElement): boolean =>
    readingOf(context) !== 'matches' && hasOpenSiblings(element, context);
  switch (combinator) {
    case ' ': {
      const isInside = ancestorMatcher(left, !isAnchored);
      return (element) => right(element) && isInside(element);
    }
    case '>':
      return (element) => right(element) && element.parent !== null && left(element.parent);
    case '+':
      return (element) =>
        right(element) &&
        (isOpen(element)
          ? context.reading === 'may' && siblingsOf(element).some(left)
          : element.previous !== null && left(element.previous));
    case '~':
      return (element) =>
        right(element) &&
        (isOpen(element) ? context.reading === 'may' && siblingsOf(element).some(left) : somePrevious(element, left));
    default:
      throw new InvalidSelector();
  }
}

/** How far ancestors are climbed for each element anew; few messages are deeper. */
const NEAR = 64;

/**
 * Whether some ancestor matches. Where elements are nested very deep, the answer for those far up is kept, so that a chain of
 * them is not climbed again from each.
 * @param isLasting whether an element always matches or never does
 */
function ancestorMatcher(matches: Matcher, isLasting: boolean): Matcher {
  const answers = new WeakMap<IndexedElement, boolean>();
  const inOrAround = (from: IndexedElement): boolean => {
    const climbed: IndexedElement[] = [];
    let answer = false;
    for (let at: IndexedElement | null = from; at !== null && !answer; at = at.parent) {
      const known = answers.get(at);
      answer = known ?? matches(at);
      climbed.push(at);
      if (known !== undefined) break;
    }
    for (const element of climbed) answers.set(element, answer);
    return answer;
  };
  return (element) => {
    let at = element.parent;
    for (let steps = 0; at !== null && (steps < NEAR || !isLasting); steps += 1, at = at.parent)
      if (matches(at)) return true;
    return at !== null && inOrAround(at);
  };
}

function somePrevious(element: IndexedElement, matches: Matcher): boolean {
  for (let at = element.previous; at !== null; at = at.previous) if (matches(at)) return true;
  return false;
}
