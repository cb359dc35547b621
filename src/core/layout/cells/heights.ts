import { layoutAdvice } from '../../findings/wording/layout.js';
import { edgeIn, hasOwnHeight, isHidden, lengthIn, styleIn, type Box, type GridBox } from '../boxes/boxes.js';
import { problemIn, reportProblems } from '../content/problems.js';
import { narrowestWidth, type Room } from '../content/room.js';
import { spillsAt } from '../content/spill.js';
import { guessedHeight } from '../content/text-height.js';
import { readTracks } from '../grids/tracks.js';

/** A cell is never lower than its content: a height that the content runs over is refused. */
export function reportHeights(box: Box, inner: Room): void {
  const low = inner.states.findIndex((_, state) => {
    const own = styleIn(box, state);
    const height = own.pixels('height');
    if (height === null || height === 0 || isHidden(box, state)) return false;
    const edges = edgeIn(box, state, 'top') + edgeIn(box, state, 'bottom');
    const room = own.get('box-sizing') === 'border-box' ? height : height + edges;
    const sides = edgeIn(box, state, 'left') + edgeIn(box, state, 'right');
    const width = narrowestWidth(inner, state) + sides;
    return guessedHeight(box, state, inner, width) > room + 1;
  });
  if (low >= 0) reportProblems([problemIn(box, low, 'height', layoutAdvice.lowBox)], inner);
  const open = inner.states.findIndex((_, state) => losesLastMargin(box, state, inner));
  if (open >= 0) reportProblems([problemIn(box, open, 'min-height', layoutAdvice.lastMargin)], inner);
  const scrolled = inner.states.findIndex((_, state) => scrolls(box, state, inner));
  if (scrolled >= 0) reportProblems([problemIn(box, scrolled, 'overflow', layoutAdvice.noScrolling)], inner);
  if (box.kind !== 'grid') return;
  const uneven = inner.states.findIndex((_, state) => isUneven(box, state));
  if (uneven >= 0) reportProblems([problemIn(box, uneven, heightOf(box, uneven), layoutAdvice.unevenRows)], inner);
}

/** Whether content may be higher than the least height, so that the margin of its last block stands below the box (CSS 2.2, 8.3.1). */
function losesLastMargin(box: Box, state: number, inner: Room): boolean {
  if (box.kind !== 'flow' || isHidden(box, state) || edgeIn(box, state, 'bottom') > 0) return false;
  const own = styleIn(box, state);
  const least = own.pixels('min-height') ?? 0;
  const last = box.children.filter((child) => child.kind !== 'comment' && !isHidden(child, state)).at(-1);
  const isOpen = own.get('height') === 'auto' && own.get('overflow') === 'visible' && own.get('display') === 'block';
  if (least === 0 || !isOpen || last === undefined || lengthIn(last, state, 'margin-bottom') <= 0) return false;
  const sides = edgeIn(box, state, 'left') + edgeIn(box, state, 'right');
  return guessedHeight(box, state, inner, narrowestWidth(inner, state) + sides) > least - edgeIn(box, state, 'top');
}

/** Whether content is wider than a box that would let a reader scroll to it. */
function scrolls(box: Box, state: number, inner: Room): boolean {
  if (!/auto|scroll/.test(styleIn(box, state).get('overflow')) || isHidden(box, state)) return false;
  // What there is for the content is known already, whatever the box says of its own width.
  const free = new Map([
    ['width', 'auto'],
    ...['left', 'right'].flatMap((side) => [
      [`padding-${side}`, '0px'] as const,
      [`border-${side}-width`, '0px'] as const,
    ]),
  ]);
  const content = { ...box, styles: box.styles.map((own) => own.with(free)) };
  return spillsAt(content, inner, state, narrowestWidth(inner, state));
}

/** Whether a grid of several rows has a height, which a table would share out otherwise. */
function isUneven(box: GridBox, state: number): boolean {
  const own = styleIn(box, state);
  const columns = readTracks(own.take('grid-template-columns'))?.length ?? 1;
  return own.take('display') === 'grid' && hasOwnHeight(own) && box.children.length > columns;
}

function heightOf(box: GridBox, state: number): 'height' | 'min-height' {
  return styleIn(box, state).get('height') === 'auto' ? 'min-height' : 'height';
}
