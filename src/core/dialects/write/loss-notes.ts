import { losses, type LossWording } from '../../findings/wording/losses.js';

/**
 * What a dialect cannot say of one tag. Whoever writes a part and cannot notes here why and returns null, and so does whoever
 * needed that part; whoever has another way to say it tries that one. Of several notes the first counts: the others follow
 * from it, or are of a way that was only a second choice.
 */
export class LossNotes {
  #first: LossWording | null = null;

  /** Notes what cannot be said. It gives null, for its caller to return. */
  add(loss: LossWording): null {
    this.#first ??= loss;
    return null;
  }

  /** What stands in the way of the tag that was given up; the next one begins without notes. */
  take(): LossWording {
    const loss = this.#first ?? losses.anything;
    this.#first = null;
    return loss;
  }

  /** Tries one way of saying a thing, and forgets what was in its way. */
  attempt<Result>(say: () => Result | null): Result | null {
    const before = this.#first;
    const result = say();
    this.#first = before;
    return result;
  }

  /** The first of several ways to say a thing that the dialect has; where it has none, what was in the way of the first stays. */
  firstOf<Result>(ways: readonly (() => Result | null)[]): Result | null {
    const before = this.#first;
    for (const say of ways) {
      const result = say();
      if (result === null) continue;
      this.#first = before;
      return result;
    }
    return null;
  }
}

/** What all the parts of a thing come to; null as soon as one of them cannot be said. */
export function allSaid<Part, Result>(parts: readonly Part[], say: (part: Part) => Result | null): Result[] | null {
  const results: Result[] = [];
  for (const part of parts) {
    const result = say(part);
    if (result === null) return null;
    results.push(result);
  }
  return results;
}
