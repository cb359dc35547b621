import { dialectAdvice } from '../../findings/wording/dialects.js';
import type { LossWording } from '../../findings/wording/losses.js';

/** A construct that a dialect lacks. Thrown within the writer alone, which catches it where it began a tag. */
export class Loss extends Error {
  readonly what: string;
  readonly advice: string;

  constructor({ what, advice = dialectAdvice.sayWithout }: LossWording) {
    super(what);
    this.what = what;
    this.advice = advice;
  }
}
