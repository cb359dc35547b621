import { splitValue } from '../../css/values/value.js';
import { inTableOrder, type Placed } from './bands.js';
import type { Box, GridBox } from '../boxes/boxes.js';
import type { BoxInState } from '../boxes/box-in-state.js';

/** What an item asks for; null for a line that is left to the grid. */
interface Wish {
  readonly column: number | null;
  readonly row: number | null;
  readonly rows: number;
  readonly span: number;
}

/**
 * Places the shown items of a grid in a state, by lines, areas and in order (CSS Grid Layout 2, 8.5, `grid-auto-flow: row`), in
 * the order of a table. Null where an item asks for what is not there.
 */
export function placeItems(box: BoxInState<GridBox>, count: number): Placed[] | null {
  const areas = readAreas(box.style.take('grid-template-areas'));
  const orderOf = (item: Box): number => Number(box.of(item).style.take('order'));
  const items = box.itself.children.filter((item) => !box.of(item).isHidden).sort((a, b) => orderOf(a) - orderOf(b));
  const wishes = items.map((item) => wishOf(box.of(item), areas, count));
  if (wishes.some((wish) => wish === null || reachesBeyond(wish, count))) return null;
  const placed: Placed[] = [];
  const isFree = (row: number, column: number, { rows, span }: Pick<Wish, 'rows' | 'span'>): boolean =>
    column + span <= count &&
    placed.every(
      (other) =>
        other.row + other.rows <= row ||
        row + rows <= other.row ||
        other.column + other.span <= column ||
        column + span <= other.column,
    );
  const put = (item: Box, row: number, column: number, { rows, span }: Pick<Wish, 'rows' | 'span'>): unknown =>
    placed.push({ item, row, rows, column, span });
  const known = items.map((item, index): { item: Box; wish: Wish } => ({ item, wish: wishes[index] as Wish }));
  // What says both lines stands there whatever else does, and what says its row before all that follow each other.
  for (const { item, wish } of known)
    if (wish.row !== null && wish.column !== null) {
      if (!isFree(wish.row, wish.column, wish)) return null;
      put(item, wish.row, wish.column, wish);
    }
  for (const { item, wish } of known) {
    const { row } = wish;
    if (row === null || wish.column !== null) continue;
    const column = Array.from({ length: count }, (_, at) => at).find((at) => isFree(row, at, wish));
    if (column === undefined) return null;
    put(item, row, column, wish);
  }
  let [cursorRow, cursorColumn] = [0, 0];
  for (const { item, wish } of known) {
    if (wish.row !== null) continue;
    if (wish.column !== null) {
      if (wish.column < cursorColumn) cursorRow += 1;
      while (!isFree(cursorRow, wish.column, wish)) cursorRow += 1;
      put(item, cursorRow, wish.column, wish);
      cursorColumn = wish.column + wish.span;
      continue;
    }
    while (!isFree(cursorRow, cursorColumn, wish)) {
      cursorColumn += 1;
      if (cursorColumn + wish.span > count) [cursorRow, cursorColumn] = [cursorRow + 1, 0];
    }
    put(item, cursorRow, cursorColumn, wish);
    cursorColumn += wish.span;
  }
  return inTableOrder(placed);
}

/** The first shown item that asks for more columns than there are, to which browsers would add some. */
export function itemBeyond(box: BoxInState<GridBox>, count: number): BoxInState | null {
  const areas = readAreas(box.style.take('grid-template-areas'));
  const shown = box.children.filter((item) => !item.isHidden);
  const isBeyond = (wish: Wish | null): boolean => wish !== null && reachesBeyond(wish, count);
  return shown.find((item) => isBeyond(wishOf(item, areas, count))) ?? null;
}

function reachesBeyond({ column, span }: Wish, count: number): boolean {
  return (column ?? 0) + span > count;
}

/** An area by its name: its lines, from 0. */
type Areas = ReadonlyMap<
  string,
  { readonly row: number; readonly rows: number; readonly column: number; readonly span: number }
>;

function readAreas(value: string): Areas {
  const areas = new Map<string, { row: number; rows: number; column: number; span: number }>();
  const lines = [...value.matchAll(/"([^"]*)"|'([^']*)'/g)].map((match) =>
    (match[1] ?? match[2] ?? '').trim().split(/\s+/),
  );
  lines.forEach((names, row) =>
    names.forEach((name, column) => {
      const known = areas.get(name);
      if (/^\.+$/.test(name)) return;
      if (known === undefined) areas.set(name, { row, rows: 1, column, span: 1 });
      else
        areas.set(name, { ...known, rows: row - known.row + 1, span: Math.max(known.span, column - known.column + 1) });
    }),
  );
  return areas;
}

function wishOf(item: BoxInState, areas: Areas, count: number): Wish | null {
  const style = item.style;
  const area = splitValue(style.take('grid-area'), '/');
  const named = area.length === 1 ? areas.get(area[0] ?? '') : undefined;
  if (named !== undefined) return named;
  if (area.length === 1 && area[0] !== 'auto') return null;
  const [rowStart = 'auto', columnStart = 'auto', rowEnd = 'auto', columnEnd = 'auto'] = area;
  const lines = (property: string, start: string, end: string): string[] => {
    const own = splitValue(style.take(property), '/');
    return own[0] === 'auto' && own.length === 1 ? [start, end] : own;
  };
  const columns = readLines(lines('grid-column', columnStart, columnEnd), count);
  const rows = readLines(lines('grid-row', rowStart, rowEnd), null);
  if (columns === null || rows === null) return null;
  return { row: rows.start, rows: rows.span, column: columns.start, span: columns.span };
}

/** `2`, `1 / 3`, `span 2`, `1 / -1`, `2 / span 2`. */
function readLines(
  [first = 'auto', second = 'auto']: readonly string[],
  count: number | null,
): { start: number | null; span: number } | null {
  const line = (text: string): number | null => {
    if (!/^[+-]?\d+$/.test(text)) return null;
    const number = Number(text);
    if (number > 0) return number - 1;
    return count === null || number === 0 ? null : count + 1 + number;
  };
  const spanOf = (text: string): number | null => {
    const found = /^span\s+(\d+)$/.exec(text);
    return found === null ? null : Number(found[1]);
  };
  const [start, end] = [line(first), line(second)];
  const span = spanOf(first) ?? spanOf(second);
  const isKnown = (text: string): boolean => text === 'auto' || line(text) !== null || spanOf(text) !== null;
  if (!isKnown(first) || !isKnown(second)) return null;
  if (start !== null && end !== null)
    return start === end ? null : { start: Math.min(start, end), span: Math.abs(end - start) };
  if (start !== null) return { start, span: span ?? 1 };
  if (end !== null) return { start: Math.max(0, end - (span ?? 1)), span: span ?? 1 };
  return { start: null, span: span ?? 1 };
}
