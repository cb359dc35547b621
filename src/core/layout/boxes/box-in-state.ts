import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import { childrenOf, type Box, type Styled } from './boxes.js';

/** A box as it is in one state of the window: what is asked of it there needs no state beside it. */
export class BoxInState<Kind extends Styled = Box> {
  constructor(
    /** The box itself, with what is the same in all states. */
    readonly itself: Kind,
    readonly state: number,
  ) {}

  /** Its computed style. */
  get style(): ComputedStyle {
    const found = this.itself.styles[this.state];
    if (found === undefined) throw new Error(`A box has no style for state ${this.state}.`);
    return found;
  }

  /** Whether it does not show. */
  get isHidden(): boolean {
    return this.style.get('display') === 'none';
  }

  /** Another box in the same state. */
  of<Other extends Styled>(other: Other): BoxInState<Other> {
    return new BoxInState(other, this.state);
  }

  /** The boxes in it, in the same state; none in one that holds text, a picture or markup. */
  get children(): BoxInState[] {
    return childrenOf(this.itself).map((child) => this.of(child));
  }

  /** A length property in px, to look at; 0 where it is none (auto, a percentage). */
  length(property: string): number {
    return this.style.pixels(property) ?? 0;
  }

  /** A length property in px, to be written; 0 where it is none. */
  takeLength(property: string): number {
    return this.style.takePixels(property) ?? 0;
  }

  /** Padding and border of one side, in px. */
  edge(side: string): number {
    return this.length(`padding-${side}`) + this.length(`border-${side}-width`);
  }

  /** Padding and border at the left and the right together, in px. */
  get sideEdges(): number {
    return this.edge('left') + this.edge('right');
  }
}

/** A box as it is in a state. */
export function inState<Kind extends Styled>(box: Kind, state: number): BoxInState<Kind> {
  return new BoxInState(box, state);
}

/** A box as it is in each state. */
export function inStates<Kind extends Styled>(box: Kind): BoxInState<Kind>[] {
  return box.styles.map((_, state) => inState(box, state));
}
