import { basisOf } from './flex-basis.js';
import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import type { ElementIndex, IndexedElement } from '../../css/selectors/element-index.js';
import { pixelsWithinMath } from '../../css/values/math.js';
import { readQuantity, splitValue } from '../../css/values/value.js';

import { sideEdges } from '../boxes/box-style.js';
import { isPainted } from '../boxes/boxes.js';

/** What boxes come to in one state, and how wide their content is: null where that is not known before it is laid out. */
export interface UsedState {
  readonly styles: readonly ComputedStyle[];
  readonly widths: readonly (number | null)[];
}

/**
 * Settles how many columns there are where that follows from a width: `repeat(auto-fit, …)`, columns of a grid that would be
 * narrower than they may, and items of a flex container that wrap in lines of equally wide ones, which are a grid then.
 * What cannot be settled in every state stays as it is.
 */
export function withSettledColumns(
  index: ElementIndex,
  states: readonly UsedState[],
): readonly (readonly ComputedStyle[])[] {
  const changed = states.map(({ styles }) => [...styles]);
  for (const element of index.elements) {
    const own = states.map(({ styles }) => styles[element.order]);
    if (own.some((style) => style?.get('display') === 'grid')) settleGrid(element, states, changed);
    else if (own.some((style) => style?.get('display') === 'flex' && style.get('flex-wrap') === 'wrap'))
      settleLines(element, states, changed);
  }
  return changed;
}

/** The columns of a state in words: where they differ between two windows, a layout changes between them. */
export function columnsKey(index: ElementIndex, state: UsedState): string {
  const [settled = []] = withSettledColumns(index, [state]);
  return index.elements
    .flatMap(({ order }) => {
      const style = settled[order];
      return style !== undefined && style !== state.styles[order]
        ? [`${order}:${style.get('grid-template-columns')}`]
        : [];
    })
    .join(';');
}

function settleGrid(element: IndexedElement, states: readonly UsedState[], changed: ComputedStyle[][]): void {
  states.forEach(({ styles, widths }, state) => {
    const style = styles[element.order];
    const width = widths[element.order] ?? null;
    if (style?.get('display') !== 'grid' || width === null) return;
    const template = settledTemplate(style, width, shownChildren(element, styles).length);
    const list = changed[state];
    if (template !== null && list !== undefined)
      list[element.order] = style.with(new Map([['grid-template-columns', template]]));
  });
}

function settledTemplate(style: ComputedStyle, width: number, items: number): string | null {
  const value = style.get('grid-template-columns');
  const gap = style.pixels('column-gap') ?? 0;
  const auto = /^repeat\(\s*auto-(fit|fill)\s*,\s*(.*)\)$/.exec(value);
  if (auto !== null) {
    const [, kind = '', track = ''] = auto;
    const [low = track, high = track] = splitValue(/^minmax\((.*)\)$/.exec(track)?.[1] ?? track, ',');
    const least = pixelsWithinMath(low, width) ?? pixelsWithinMath(high, width);
    if (least === null || least <= 0) return null;
    const fitting = Math.max(1, Math.floor((width + gap + 0.01) / (least + gap)));
    const count = kind === 'fit' ? Math.min(fitting, Math.max(1, items)) : fitting;
    return `repeat(${count}, ${/fr$/.test(high) ? high : `${least}px`})`;
  }
  return value.includes('minmax(') ? withLeastWidths(value, width, gap) : null;
}

/** Columns that would be narrower than they may are as wide as they may be (CSS Grid Layout 2, 12.7.1). */
function withLeastWidths(value: string, width: number, gap: number): string | null {
  const whole = value.replace(/repeat\(\s*(\d+)\s*,\s*((?:[^()]|\([^()]*\))*)\)/g, (_, times: string, tracks: string) =>
    Array.from({ length: Math.min(24, Number(times)) }, () => tracks).join(' '),
  );
  const tracks = splitValue(whole).map((text) => {
    const [low = '', high = text] = splitValue(/^minmax\((.*)\)$/.exec(text)?.[1] ?? '', ',');
    const fraction = readQuantity(text.startsWith('minmax') ? high : text);
    return {
      text,
      least: pixelsWithinMath(low, width) ?? 0,
      fraction: fraction?.unit === 'fr' ? fraction.number : 0,
      pixels: pixelsWithinMath(text, width),
    };
  });
  if (tracks.some(({ fraction, pixels }) => fraction === 0 && pixels === null)) return null;
  const firm = new Set<number>();
  for (;;) {
    const taken = tracks.reduce(
      (sum, { pixels, least }, index) => sum + (firm.has(index) ? least : (pixels ?? 0)),
      gap * (tracks.length - 1),
    );
    const total = tracks.reduce((sum, { fraction }, index) => sum + (firm.has(index) ? 0 : fraction), 0);
    const share = total === 0 ? 0 : Math.max(0, width - taken) / total;
    const narrow = tracks.findIndex(
      ({ fraction, least }, index) => !firm.has(index) && fraction > 0 && share * fraction < least,
    );
    if (narrow < 0) break;
    firm.add(narrow);
  }
  if (firm.size === 0 || firm.size === tracks.length) return null;
  return tracks.map(({ text, least }, index) => (firm.has(index) ? `${least}px` : text)).join(' ');
}

function shownChildren(element: IndexedElement, styles: readonly ComputedStyle[]): IndexedElement[] {
  return element.children.filter(({ order }) => styles[order]?.get('display') !== 'none');
}

function settleLines(element: IndexedElement, states: readonly UsedState[], changed: ComputedStyle[][]): void {
  const lines = states.map((state) => linesIn(element, state));
  if (lines.includes(null)) return;
  states.forEach(({ styles }, state) => {
    const list = changed[state];
    const style = styles[element.order];
    const { template, places, hasGaps } = lines[state] ?? evenColumns(1);
    if (list === undefined || style === undefined || style.get('display') === 'none') return;
    list[element.order] = style.with(
      new Map([
        ['display', 'grid'],
        ['grid-template-columns', template],
        ['justify-content', 'normal'],
        ...(hasGaps ? [] : [['column-gap', '0px'] as const]),
      ]),
    );
    shownChildren(element, styles).forEach(({ order }, index) => {
      const place = places?.[index];
      const item = styles[order];
      if (item !== undefined)
        list[order] = item.with(
          new Map([
            ['width', 'auto'],
            ['max-width', 'none'],
            ['flex-grow', '0'],
            ['flex-basis', 'auto'],
            ...(place === undefined
              ? []
              : ([
                  ['grid-row', String(place.row + 1)],
                  [
                    'grid-column',
                    place.span === undefined ? String(place.column + 1) : `${place.column + 1} / span ${place.span}`,
                  ],
                ] as const)),
          ]),
        );
    });
  });
}

/** The columns that the lines of a flex container come to. */
interface Lines {
  readonly template: string;
  /** Where the items stand, from 0; null where they simply follow each other. */
  readonly places: readonly { readonly row: number; readonly column: number; readonly span?: number }[] | null;
  /** Whether the gaps of the container are those between the columns. */
  readonly hasGaps: boolean;
}

function evenColumns(count: number): Lines {
  return { template: `repeat(${count}, 1fr)`, places: null, hasGaps: true };
}

/** The columns of lines whose items grow: one that is left for the last line is as wide as all. Null where several are. */
function growingColumns(items: number, count: number): Lines | null {
  const rest = items % count;
  if (rest === 0 || count === 1) return evenColumns(count);
  if (rest > 1) return null;
  const places = Array.from({ length: items }, (_, index) => ({
    row: Math.floor(index / count),
    column: index % count,
    ...(index === items - 1 ? { span: count } : {}),
  }));
  return { ...evenColumns(count), places };
}

/** The columns of a flex container whose lines hold equally wide items; null where they are of no grid. */
function linesIn(element: IndexedElement, { styles, widths }: UsedState): Lines | null {
  const style = styles[element.order];
  const display = style?.get('display');
  if (style === undefined || display === 'none') return evenColumns(1);
  const items = shownChildren(element, styles).flatMap(({ order }) => styles[order] ?? []);
  if (display !== 'flex' || items.length === 0) return null;
  const isStretched = /^(?:normal|stretch)$/.test(style.get('align-items'));
  const fillsColumn = (item: ComputedStyle): boolean => /^(?:auto|100%)$/.test(item.get('width'));
  if (style.get('flex-direction') === 'column') return isStretched && items.every(fillsColumn) ? evenColumns(1) : null;
  const width = widths[element.order] ?? null;
  if (style.get('flex-direction') !== 'row' || style.get('flex-wrap') !== 'wrap') return null;
  const gap = style.pixels('column-gap') ?? 0;
  const grows = new Set(items.map((item) => item.get('flex-grow')));
  const bases = new Set(items.map((item) => basisOf(item).text));
  const [grow = '0'] = grows;
  const [basis = 'auto'] = bases;
  if (grows.size > 1 || bases.size > 1) return null;
  const share = items[0] === undefined ? null : basisOf(items[0]).quantity;
  const whole = share?.unit === '%' && gap === 0 && items.every((item) => isWhole(item)) ? share.number : null;
  if (grow === '0' && whole !== null) {
    const fitting = Math.max(1, Math.floor(100.02 / whole));
    const free = 100 - fitting * whole;
    if (Math.abs(free) < 0.1) return fullLines(style, items.length, fitting);
    if (!sharesLines(style, items)) return null;
    const count = Math.min(fitting, items.length);
    return linesOf(style, items.length, { count, item: `${whole}%`, free: 100 - count * whole, unit: '%', gap });
  }
  if (width === null) return null;
  const outer = new Set(items.map((item) => outerWidth(item, pixelsWithinMath(basis, width))));
  const [least = null] = outer;
  if (outer.size > 1 || least === null || least <= 0) return null;
  const fitting = Math.max(1, Math.floor((width + gap + 0.01) / (least + gap)));
  const columns = Math.min(items.length, fitting);
  if (Number(grow) > 0) return growingColumns(items.length, columns);
  if (!sharesLines(style, items) || least > width + 0.5) return null;
  if (Math.abs(fitting * (least + gap) - gap - width) < 0.6) return fullLines(style, items.length, fitting);
  const item = share?.unit === 'px' ? `${least}px` : share?.unit === '%' && items.every(isWhole) ? basis : null;
  return item === null ? null : linesOf(style, items.length, { count: columns, item, free: 1, unit: 'fr', gap });
}

/** The columns of lines that leave no space, but for the last of them. Null where that stands in none of the columns above. */
function fullLines(style: ComputedStyle, items: number, count: number): Lines | null {
  const columns = Array.from({ length: count }, (_, column) => column);
  const rest = items % count;
  const last = rest === 0 ? columns : lastLine(columns, rest, style.get('justify-content'));
  if (last === null) return null;
  if (last[0] === 0 && last.at(-1) === last.length - 1) return evenColumns(count);
  const places = Array.from({ length: items }, (_, index) => ({
    row: Math.floor(index / count),
    column: (index < items - rest ? index % count : last[index - items + rest]) ?? 0,
  }));
  return { ...evenColumns(count), places };
}

/** Whether the items of a line have to do with each other: in the space between them, or in how high they are. */
function sharesLines(style: ComputedStyle, items: readonly ComputedStyle[]): boolean {
  if (/^space-/.test(style.get('justify-content'))) return true;
  return /^(?:normal|stretch)$/.test(style.get('align-items')) && isPainted({ styles: items });
}

/** How the space of a line that is left is shared out, in weights: before, between and behind its items. */
function spacesOf(justified: string, count: number): readonly [before: number, between: number, after: number] {
  switch (justified.replace('flex-', '')) {
    case 'space-between':
      return count === 1 ? [0, 0, 1] : [0, 1, 0];
    case 'space-around':
      return count === 1 ? [1, 0, 1] : [1, 2, 1];
    case 'space-evenly':
      return [1, 1, 1];
    case 'center':
      return [1, 0, 1];
    case 'end':
    case 'right':
      return [1, 0, 0];
    default:
      return [0, 0, 1];
  }
}

/**
 * The columns of lines with columns for the space that is left in them (CSS Flexible Box Layout 1, 8.2). Null where the last
 * line is shared out otherwise than the ones above it.
 * @param item how wide an item is
 * @param free the space that is left, in percent, or 1 where it is said in fractions
 */
function linesOf(
  style: ComputedStyle,
  items: number,
  { count, item, free, unit, gap }: { count: number; item: string; free: number; unit: '%' | 'fr'; gap: number },
): Lines | null {
  const justified = style.get('justify-content');
  const [before, between, after] = spacesOf(justified, count);
  const total = before + between * (count - 1) + after;
  const spaceOf = (weight: number): string[] =>
    weight === 0 ? [] : [`${unit === 'fr' ? weight : (free * weight) / total}${unit}`];
  // Space between items is at least their gap already; around them it comes on top.
  const gaps = gap > 0 && justified !== 'space-between' ? [`${gap}px`] : [];
  const tracks = spaceOf(before);
  const columns: number[] = [];
  for (let index = 0; index < count; index += 1) {
    if (index > 0) tracks.push(...spaceOf(between), ...gaps);
    columns.push(tracks.length);
    tracks.push(item);
  }
  tracks.push(...spaceOf(after));
  const rest = items % count;
  const last = rest === 0 ? columns : lastLine(columns, rest, justified);
  if (last === null) return null;
  const full = items - rest;
  const places = Array.from({ length: items }, (_, index) => ({
    row: Math.floor(index / count),
    column: (index < full ? columns[index % count] : last[index - full]) ?? 0,
  }));
  return { template: tracks.join(' '), places, hasGaps: false };
}

/** The columns of a last line of fewer items; null where these stand in none of those above. */
function lastLine(columns: readonly number[], rest: number, justified: string): readonly number[] | null {
  const missing = columns.length - rest;
  switch (justified.replace('flex-', '')) {
    case 'space-between':
      return rest === 1 ? columns.slice(0, 1) : rest === 2 ? [...columns.slice(0, 1), ...columns.slice(-1)] : null;
    case 'space-around':
    case 'space-evenly':
      return rest === 1 && missing % 2 === 0 ? columns.slice(missing / 2, missing / 2 + 1) : null;
    case 'center':
      return missing % 2 === 0 ? columns.slice(missing / 2, columns.length - missing / 2) : null;
    case 'end':
    case 'right':
      return columns.slice(missing);
    default:
      return columns.slice(0, rest);
  }
}

/** Whether a share of the row is all that an item takes of it. */
function isWhole(item: ComputedStyle): boolean {
  const margins = ['margin-left', 'margin-right'].map((side) => item.pixels(side) ?? Infinity);
  return margins.every((margin) => margin === 0) && (item.get('box-sizing') === 'border-box' || sideEdges(item) === 0);
}

function outerWidth(item: ComputedStyle, basis: number | null): number | null {
  if (basis === null) return null;
  const margins = ['margin-left', 'margin-right'].reduce((sum, side) => sum + (item.pixels(side) ?? 0), 0);
  return (
    margins + (item.get('box-sizing') === 'border-box' ? Math.max(basis, sideEdges(item)) : basis + sideEdges(item))
  );
}
