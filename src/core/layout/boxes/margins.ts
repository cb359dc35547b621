import { CLOSED_SIDES, type BlockEnds, type Box, type GridBox, type RowBox, type Styled } from './boxes.js';
import type { BoxInState } from './box-in-state.js';

/** Adjoining margins: the largest positive and the most negative of them (CSS 2.2, 8.3.1). */
interface MarginSet {
  positive: number;
  negative: number;
}

/** What collapsing comes to in one state. */
export interface Spacing {
  /** The space above each shown item. */
  readonly above: ReadonlyMap<Box, number>;
  /** The space between the last item and the end of the container. */
  readonly below: number;
}

/** On which sides a container keeps the margins of its children inside. */
export interface ClosedSides {
  readonly top: boolean;
  readonly bottom: boolean;
}

/** Decides whether a box becomes an item of its own; one that does not lends its children to the sequence around it. */
export type IsItem = (box: Box) => boolean;

/**
 * Collapses the margins of a sequence of boxes in one state (CSS 2.2, 8.3.1). The margins of boxes that are no items join
 * those of their children; margins that leave an open side of the container are left to whoever holds the container.
 */
export function collapseMargins(boxes: readonly BoxInState[], closed: ClosedSides, isItem: IsItem): Spacing {
  const above = new Map<Box, number>();
  let pending: MarginSet = { positive: 0, negative: 0 };
  let first = true;
  walk(boxes, isItem, {
    margin: (value) => addMargin(pending, value),
    item: (box) => {
      merge(pending, leadingMargins(box, isItem));
      above.set(box.itself, first && !closed.top ? 0 : total(pending));
      pending = trailingMargins(box, isItem);
      first = false;
    },
    float: (box) => above.set(box.itself, first && !closed.top ? 0 : total(pending)),
  });
  const keepsEnd = closed.bottom && (!first || closed.top);
  return { above, below: keepsEnd ? total(pending) : 0 };
}

interface Visitor {
  readonly margin: (value: number) => void;
  readonly item: (box: BoxInState) => void;
  /** Pictures that float: margins adjoin as if they were not there (CSS 2.2, 9.5). */
  readonly float?: (box: BoxInState) => void;
}

function walk(boxes: readonly BoxInState[], isItem: IsItem, visitor: Visitor): void {
  for (const box of boxes) {
    const { itself } = box;
    if (box.isHidden || itself.kind === 'comment') continue;
    if (itself.kind === 'text' && itself.floats?.[box.state] === true) visitor.float?.(box);
    else if (isItem(itself)) {
      visitor.item(box);
    } else {
      visitor.margin(box.takeLength('margin-top'));
      if (itself.kind === 'flow') walk(box.children, isItem, visitor);
      visitor.margin(box.takeLength('margin-bottom'));
    }
  }
}

/** The margins that adjoin the top edge of an item: its own, and its first children's where that side is open. */
function leadingMargins(box: BoxInState, isItem: IsItem): MarginSet {
  const set = marginSet(box.takeLength('margin-top'));
  addMargin(set, endsOf(box)?.top[box.state] ?? 0);
  if (holdsBlocks(box) && !closedSides(box).top) {
    let done = false;
    walk(box.children, isItem, {
      margin: (value) => {
        if (!done) addMargin(set, value);
      },
      item: (child) => {
        if (!done) merge(set, leadingMargins(child, isItem));
        done = true;
      },
    });
  }
  return set;
}

function trailingMargins(box: BoxInState, isItem: IsItem): MarginSet {
  const set = marginSet(box.takeLength('margin-bottom'));
  addMargin(set, endsOf(box)?.bottom[box.state] ?? 0);
  if (holdsBlocks(box) && !closedSides(box).bottom) {
    let pending = marginSet(0);
    walk(box.children, isItem, {
      margin: (value) => addMargin(pending, value),
      item: (child) => {
        pending = trailingMargins(child, isItem);
      },
    });
    merge(set, pending);
  }
  return set;
}

/** What sticks out of markup that is emitted as it is, and of lines. */
export function endsOf({ itself }: BoxInState): BlockEnds | undefined {
  return itself.kind === 'native' || itself.kind === 'text' ? itself.ends : undefined;
}

/** A block around blocks: a flow, and a row or a grid in a state in which it is none. */
function holdsBlocks(box: BoxInState): boolean {
  const { kind } = box.itself;
  return kind === 'flow' || ((kind === 'row' || kind === 'grid') && !laysOutItems(box));
}

/** Whether a box is a flex or grid container in a state, so that its children are items. */
export function laysOutItems(box: BoxInState<Styled>): boolean {
  return /flex|grid/.test(box.style.get('display'));
}

/**
 * The space above each shown child of a row or a grid that is a plain block in a state, where they stand one below the other:
 * their margins collapse.
 */
export function blockGaps(box: BoxInState<RowBox | GridBox>): ReadonlyMap<Box, number> {
  return collapseMargins(box.children, { top: false, bottom: false }, () => true).above;
}

/**
 * A side is closed by padding, a border, an empty box at its end, or a box that contains its floats and margins (overflow, a
 * height).
 */
export function closedSides(box: BoxInState): ClosedSides {
  const style = box.style;
  const contains =
    style.get('overflow') !== 'visible' ||
    style.get('display') === 'flow-root' ||
    style.get('display') === 'inline-block';
  const sized = style.get('height') !== 'auto' || !/^(?:auto|0px)$/.test(style.get('min-height'));
  const byBoxes = style.get(CLOSED_SIDES);
  return {
    top: contains || byBoxes.includes('top') || box.edge('top') > 0,
    bottom: contains || sized || byBoxes.includes('bottom') || box.edge('bottom') > 0,
  };
}

function marginSet(value: number): MarginSet {
  const set = { positive: 0, negative: 0 };
  addMargin(set, value);
  return set;
}

function addMargin(set: MarginSet, value: number): void {
  set.positive = Math.max(set.positive, value);
  set.negative = Math.min(set.negative, value);
}

function merge(into: MarginSet, from: MarginSet): void {
  addMargin(into, from.positive);
  addMargin(into, from.negative);
}

function total(set: MarginSet): number {
  return set.positive + set.negative;
}
