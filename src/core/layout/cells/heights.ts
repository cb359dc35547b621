import { layoutAdvice } from '../../findings/wording/layout.js';
import { hasOwnHeight, type Box, type GridBox } from '../boxes/boxes.js';
import { inStates, type BoxInState } from '../boxes/box-in-state.js';
import { problemIn, reportProblems, type LayoutProblem } from '../content/problems.js';
import { narrowestWidth, type Room } from '../content/room.js';
import { spillsAt } from '../content/spill.js';
import { guessedHeight } from '../content/text-height.js';
import { readTracks } from '../grids/tracks.js';

/** A cell is never lower than its content: a height that the content runs over is refused. */
export function reportHeights(box: Box, inner: Room): void {
  const states = inStates(box);
  const uneven = box.kind === 'grid' ? inStates(box).find(isUneven) : undefined;
  const height = uneven?.style.get('height') === 'auto' ? 'min-height' : 'height';
  const low = states.find((own) => isTooLow(own, inner));
  const open = states.find((own) => losesLastMargin(own, inner));
  const scrolled = states.find((own) => scrolls(own, inner));
  // Of two that one declaration has, the first is told.
  const problems = [
    problemOf(uneven, height, layoutAdvice.unevenRows),
    problemOf(low, 'height', layoutAdvice.lowBox),
    problemOf(open, 'min-height', layoutAdvice.lastMargin),
    problemOf(scrolled, 'overflow', layoutAdvice.noScrolling),
  ];
  reportProblems(problems.flat(), inner);
}

function problemOf(box: BoxInState | undefined, property: string, advice: string): LayoutProblem[] {
  return box === undefined ? [] : [problemIn(box, property, advice)];
}

/** Whether content may be higher than the height that a box says. */
function isTooLow(box: BoxInState, inner: Room): boolean {
  const height = box.length('height');
  if (height === 0 || box.isHidden) return false;
  const edges = box.edge('top') + box.edge('bottom');
  const available = box.style.get('box-sizing') === 'border-box' ? height : height + edges;
  return guessedHeight(box, inner, narrowestWidth(inner, box.state) + box.sideEdges) > available + 1;
}

/** Whether content may be higher than the least height, so that the margin of its last block stands below the box (CSS 2.2, 8.3.1). */
function losesLastMargin(box: BoxInState, inner: Room): boolean {
  if (box.itself.kind !== 'flow' || box.isHidden || box.edge('bottom') > 0) return false;
  const own = box.style;
  const least = own.pixels('min-height') ?? 0;
  const last = box.children.filter((child) => child.itself.kind !== 'comment' && !child.isHidden).at(-1);
  const isOpen = own.get('height') === 'auto' && own.get('overflow') === 'visible' && own.get('display') === 'block';
  if (least === 0 || !isOpen || last === undefined || last.length('margin-bottom') <= 0) return false;
  return guessedHeight(box, inner, narrowestWidth(inner, box.state) + box.sideEdges) > least - box.edge('top');
}

/** Whether content is wider than a box that would let a reader scroll to it. */
function scrolls(box: BoxInState, inner: Room): boolean {
  if (!/auto|scroll/.test(box.style.get('overflow')) || box.isHidden) return false;
  // What there is for the content is known already, whatever the box says of its own width.
  const free = new Map([
    ['width', 'auto'],
    ...['left', 'right'].flatMap((side) => [
      [`padding-${side}`, '0px'] as const,
      [`border-${side}-width`, '0px'] as const,
    ]),
  ]);
  const content = { ...box.itself, styles: box.itself.styles.map((own) => own.with(free)) };
  return spillsAt(box.of(content), inner, narrowestWidth(inner, box.state));
}

/** Whether a grid of several rows has a height, which a table would share out otherwise. */
function isUneven(box: BoxInState<GridBox>): boolean {
  const own = box.style;
  const columns = readTracks(own.take('grid-template-columns'))?.length ?? 1;
  return own.take('display') === 'grid' && hasOwnHeight(own) && box.itself.children.length > columns;
}
