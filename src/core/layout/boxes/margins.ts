import { CLOSED_SIDES, edgeIn, isHidden, takeLength, styleIn, type Box, type Styled } from './boxes.js';

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
export function collapseMargins(boxes: readonly Box[], state: number, closed: ClosedSides, isItem: IsItem): Spacing {
  const above = new Map<Box, number>();
  let pending: MarginSet = { positive: 0, negative: 0 };
  let first = true;
  walk(boxes, state, isItem, {
    margin: (value) => addMargin(pending, value),
    item: (box) => {
      merge(pending, leadingMargins(box, state, isItem));
      above.set(box, first && !closed.top ? 0 : total(pending));
      pending = trailingMargins(box, state, isItem);
      first = false;
    },
    float: (box) => above.set(box, first && !closed.top ? 0 : total(pending)),
  });
  const keepsEnd = closed.bottom && (!first || closed.top);
  return { above, below: keepsEnd ? total(pending) : 0 };
}

interface Visitor {
  readonly margin: (value: number) => void;
  readonly item: (box: Box) => void;
  /** Pictures that float: margins adjoin as if they were not there (CSS 2.2, 9.5). */
  readonly float?: (box: Box) => void;
}

function walk(boxes: readonly Box[], state: number, isItem: IsItem, visitor: Visitor): void {
  for (const box of boxes) {
    if (isHidden(box, state) || box.kind === 'comment') continue;
    if (box.kind === 'text' && box.floats?.[state] === true) visitor.float?.(box);
    else if (isItem(box)) {
      visitor.item(box);
    } else {
      visitor.margin(takeLength(box, state, 'margin-top'));
      if (box.kind === 'flow') walk(box.children, state, isItem, visitor);
      visitor.margin(takeLength(box, state, 'margin-bottom'));
    }
  }
}

/** The margins that adjoin the top edge of an item: its own, and its first children's where that side is open. */
function leadingMargins(box: Box, state: number, isItem: IsItem): MarginSet {
  const set = marginSet(takeLength(box, state, 'margin-top'));
  if (box.kind === 'native') addMargin(set, box.ends?.top[state] ?? 0);
  if (holdsBlocks(box, state) && !closedSides(box, state).top) {
    let done = false;
    walk(box.children, state, isItem, {
      margin: (value) => {
        if (!done) addMargin(set, value);
      },
      item: (child) => {
        if (!done) merge(set, leadingMargins(child, state, isItem));
        done = true;
      },
    });
  }
  return set;
}

function trailingMargins(box: Box, state: number, isItem: IsItem): MarginSet {
  const set = marginSet(takeLength(box, state, 'margin-bottom'));
  if (box.kind === 'native') addMargin(set, box.ends?.bottom[state] ?? 0);
  if (holdsBlocks(box, state) && !closedSides(box, state).bottom) {
    let pending = marginSet(0);
    walk(box.children, state, isItem, {
      margin: (value) => addMargin(pending, value),
      item: (child) => {
        pending = trailingMargins(child, state, isItem);
      },
    });
    merge(set, pending);
  }
  return set;
}

/** A block around blocks: a flow, and a row or a grid in a state in which it is none. */
function holdsBlocks(box: Box, state: number): box is Extract<Box, { readonly children: readonly Box[] }> {
  if (box.kind === 'flow') return true;
  return (box.kind === 'row' || box.kind === 'grid') && !laysOutItems(box, state);
}

/** Whether a box is a flex or grid container in a state, so that its children are items. */
export function laysOutItems(box: Styled, state: number): boolean {
  return /flex|grid/.test(styleIn(box, state).get('display'));
}

/**
 * The space above each shown child of a row or a grid that is a plain block in a state, where they stand one below the other:
 * their margins collapse.
 */
export function blockGaps(children: readonly Box[], state: number): ReadonlyMap<Box, number> {
  return collapseMargins(children, state, { top: false, bottom: false }, () => true).above;
}

/**
 * A side is closed by padding, a border, an empty box at its end, or a box that contains its floats and margins (overflow, a
 * height).
 */
export function closedSides(box: Box, state: number): ClosedSides {
  const style = styleIn(box, state);
  const contains =
    style.get('overflow') !== 'visible' ||
    style.get('display') === 'flow-root' ||
    style.get('display') === 'inline-block';
  const sized = style.get('height') !== 'auto' || !/^(?:auto|0px)$/.test(style.get('min-height'));
  const byBoxes = style.get(CLOSED_SIDES);
  return {
    top: contains || byBoxes.includes('top') || edgeIn(box, state, 'top') > 0,
    bottom: contains || sized || byBoxes.includes('bottom') || edgeIn(box, state, 'bottom') > 0,
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
