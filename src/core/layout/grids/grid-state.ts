import { layoutAdvice } from '../../findings/wording/layout.js';
import { hasOwnHeight, type Box, type GridBox } from '../boxes/boxes.js';
import { inState, inStates, type BoxInState } from '../boxes/box-in-state.js';
import { blockGaps, laysOutItems } from '../boxes/margins.js';
import { narrowestWidth, type Room } from '../content/room.js';
import { problemIn, pushesColumn, type LayoutProblem } from '../content/problems.js';
import { spillsAt } from '../content/spill.js';
import { holdsItsWidth } from '../rows/row-plan.js';
import { estimatedWidth, longestWord } from '../rows/text-width.js';
import type { Placed } from './bands.js';
import { itemBeyond, placeItems } from './placement.js';
import { growingRows, readTracks, tracksWidth, type Track } from './tracks.js';

/** The grid in one state; no tracks where it is shown as blocks. */
export interface GridState {
  readonly tracks: readonly Track[];
  readonly columnGap: number;
  readonly rowGap: number;
  /** Where the items stand, in rows from top to bottom. */
  readonly placed: readonly Placed[];
  /** The space above an item that stands below another as a block. */
  readonly above: (item: Box) => number;
}

export function hasContentTracks(state: GridState | undefined): boolean {
  return state?.tracks.some(({ kind }) => kind === 'content') === true;
}

/** How a state shows the cells of the desktop: as they are, as blocks, or laid out anew. */
export type Flow = 'same' | 'blocks' | 'regrouped';

export function flowOf(state: GridState, desktop: GridState): Flow {
  const inOrder = state.placed.every(({ item }, index) => desktop.placed[index]?.item === item);
  const isWhole = state.placed.length === desktop.placed.length;
  const isAlike = state.placed.every(
    ({ row, rows, column, span }, index) =>
      desktop.placed[index]?.row === row &&
      desktop.placed[index]?.rows === rows &&
      desktop.placed[index]?.column === column &&
      desktop.placed[index]?.span === span,
  );
  if (state.tracks.length <= 1) {
    if (desktop.tracks.length <= 1) return 'same';
    // Some may be hidden.
    const shown = desktop.placed.filter(({ item }) => state.placed.some((placed) => placed.item === item));
    const keepsOrder = state.placed.every(({ item }, index) => shown[index]?.item === item);
    return keepsOrder ? 'blocks' : 'regrouped';
  }
  const isSame = state.tracks.length === desktop.tracks.length && inOrder && isWhole && isAlike;
  return isSame && hasContentTracks(state) === hasContentTracks(desktop) ? 'same' : 'regrouped';
}

export function readState(box: BoxInState<GridBox>, room: Room, problems: LayoutProblem[]): GridState {
  const own = box.style;
  const shown = box.children.filter((item) => !item.isHidden);
  const inColumn = shown.map(({ itself }, row): Placed => ({ item: itself, row, rows: 1, column: 0, span: 1 }));
  if (own.take('display') !== 'grid') {
    const margins = blockGaps(box);
    const above = (item: Box): number => Math.max(0, margins.get(item) ?? 0);
    return { tracks: [], columnGap: 0, rowGap: 0, placed: inColumn, above };
  }
  const rowGap = box.takeLength('row-gap');
  const tracks = readTracks(own.take('grid-template-columns'));
  const others = new Set(shown.slice(1).map(({ itself }) => itself));
  const above = (item: Box): number => (tracks?.length !== 1 || others.has(item) ? rowGap : 0);
  const gaps = { columnGap: box.takeLength('column-gap'), rowGap, above };
  const say = (property: string, advice: string): GridState => {
    problems.push(problemIn(box, property, advice));
    return { tracks: [], ...gaps, placed: [] };
  };
  if (tracks === null || !fillsWidth(tracks, gaps.columnGap)) return say('grid-template-columns', layoutAdvice.tracks);
  const width = narrowestWidth(room, box.state);
  const isTooNarrow = tracks.some(
    ({ least }, first) =>
      (tracksWidth(tracks, { first, span: 1, gap: gaps.columnGap, room: width }) ?? least) < least - 0.5,
  );
  if (isTooNarrow) return say('grid-template-columns', layoutAdvice.trackLeast);
  const placed = placeItems(box, tracks.length);
  if (placed === null) {
    const beyond = itemBeyond(box, tracks.length);
    const item = beyond ?? shown.find((one) => askedOf(one).length > 0);
    const property = item === undefined ? 'grid-row' : placeProperty(item);
    const advice = beyond === null ? layoutAdvice.gridPlace : layoutAdvice.gridColumns;
    problems.push(problemIn(item ?? box, property, advice));
    return { tracks: [], ...gaps, placed: [] };
  }
  const areaOf = ({ item, column, span }: Placed): number => {
    const area = tracksWidth(tracks, { first: column, span, gap: gaps.columnGap, room: width });
    const own = box.of(item);
    return area !== null && holdsItsWidth(own) ? area : Infinity;
  };
  const pushing = placed.find((one) => spillsAt(box.of(one.item), room, areaOf(one)));
  if (pushing !== undefined) problems.push(pushesColumn(box.of(pushing.item)));
  const worded = placed.find((one) => {
    const own = box.of(one.item);
    return longestWord(own, room) > areaOf(one) - own.sideEdges;
  });
  if (worded !== undefined && pushing === undefined)
    problems.push(problemIn(box, 'grid-template-columns', layoutAdvice.longWord));
  const tooLong = placed.find(
    ({ item, column }) => tracks[column]?.kind === 'content' && estimatedWidth(box.of(item), room) > width / 2,
  );
  if (tooLong !== undefined) return say('grid-template-columns', layoutAdvice.tracks);
  return { tracks, ...gaps, placed };
}

/** What an item says of its place. */
function askedOf(item: BoxInState): string[] {
  return ['grid-area', 'grid-row', 'grid-column'].filter((property) => item.style.take(property) !== 'auto');
}

/** The property by which an item says its place. */
export function placeProperty(item: BoxInState): string {
  return askedOf(item)[0] ?? 'grid-row';
}

/** Whether columns fill their grid, as those of a table do: shares of the whole leave no room for gaps. */
function fillsWidth(tracks: readonly Track[], gap: number): boolean {
  const of = (kind: Track['kind']): Track[] => tracks.filter((track) => track.kind === kind);
  const percent = of('percent').reduce((sum, { size }) => sum + size, 0);
  const hasFraction = of('fraction').length > 0;
  if (percent === 0) return hasFraction;
  if (of('content').length > 0 || gap > 0 || (of('pixels').length > 0 && !hasFraction)) return false;
  return hasFraction ? of('fraction').length === 1 && percent < 100 : Math.abs(percent - 100) < 0.1;
}

export function gridProblems(box: GridBox, items: readonly Box[]): LayoutProblem[] {
  const problems: LayoutProblem[] = [];
  for (const grid of inStates(box)) {
    const { style: own } = grid;
    const say = (of: Box, property: string, advice: string): number =>
      problems.push(problemIn(grid.of(of), property, advice));
    if (own.take('display') === 'flex') say(box, 'display', layoutAdvice.gridEverywhere);
    if (own.take('display') === 'grid' && own.take('row-gap').includes('%'))
      say(box, 'row-gap', layoutAdvice.gapInPixels);
    if (own.take('grid-auto-flow') !== 'row') say(box, 'grid-auto-flow', layoutAdvice.gridFlow);
    if (growingRows(own.take('grid-template-rows'), hasOwnHeight(own) ? 'stated' : 'of content') === null)
      say(box, 'grid-template-rows', layoutAdvice.gridRows);
    if (!/^(?:normal|start|stretch)$/.test(own.take('justify-content')))
      say(box, 'justify-content', layoutAdvice.fillRow);
    for (const item of items.map((one) => grid.of(one))) {
      if (!grid.isHidden && item.isHidden && inState(item.itself, 0).isHidden)
        say(item.itself, 'display', layoutAdvice.hideGrid);
      for (const side of ['margin-top', 'margin-right', 'margin-bottom', 'margin-left'])
        if (
          (item.style.take(side) === 'auto' || item.length(side) !== 0) &&
          (laysOutItems(grid) || /left|right/.test(side))
        )
          say(item.itself, side, layoutAdvice.gridGap);
    }
  }
  return problems;
}
