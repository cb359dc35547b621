import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import type { ElementIndex, IndexedElement } from '../../css/selectors/element-index.js';
import { pixelsWithinMath } from '../../css/values/math.js';
import { pixelsOf, readQuantity, splitValue } from '../../css/values/value.js';

import { sideEdges } from './box-style.js';

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
  const gap = pixelsOf(style.get('column-gap')) ?? 0;
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
    const columns = lines[state] ?? 1;
    if (list === undefined || style === undefined || style.get('display') === 'none') return;
    list[element.order] = style.with(
      new Map([
        ['display', 'grid'],
        ['grid-template-columns', `repeat(${columns}, 1fr)`],
        ['justify-content', 'normal'],
      ]),
    );
    for (const { order } of element.children) {
      const item = styles[order];
      if (item !== undefined)
        list[order] = item.with(
          new Map([
            ['width', 'auto'],
            ['max-width', 'none'],
            ['flex-grow', '0'],
            ['flex-basis', 'auto'],
          ]),
        );
    }
  });
}

/** How many items a line of a flex container holds, where all lines are full of equally wide ones; else null. */
function linesIn(element: IndexedElement, { styles, widths }: UsedState): number | null {
  const style = styles[element.order];
  const display = style?.get('display');
  if (style === undefined || display === 'none') return 1;
  const items = shownChildren(element, styles).flatMap(({ order }) => styles[order] ?? []);
  if (display !== 'flex' || items.length === 0) return null;
  const isStretched = /^(?:normal|stretch)$/.test(style.get('align-items'));
  if (style.get('flex-direction') === 'column') return isStretched ? 1 : null;
  const width = widths[element.order] ?? null;
  if (style.get('flex-direction') !== 'row' || style.get('flex-wrap') !== 'wrap') return null;
  const gap = pixelsOf(style.get('column-gap')) ?? 0;
  const grows = new Set(items.map((item) => item.get('flex-grow')));
  const bases = new Set(items.map(basisOf));
  const [grow = '0'] = grows;
  const [basis = 'auto'] = bases;
  if (grows.size > 1 || bases.size > 1) return null;
  const share = readQuantity(basis);
  if (grow === '0' && share?.unit === '%' && gap === 0 && items.every((item) => isWhole(item))) {
    const columns = Math.floor(100.02 / share.number);
    const isFull = columns >= 1 && Math.abs(columns * share.number - 100) < 0.1;
    return isFull ? columns : null;
  }
  if (!(Number(grow) > 0) || width === null) return null;
  const outer = new Set(items.map((item) => outerWidth(item, pixelsWithinMath(basis, width))));
  const [least = null] = outer;
  if (outer.size > 1 || least === null || least <= 0) return null;
  const columns = Math.max(1, Math.min(items.length, Math.floor((width + gap + 0.01) / (least + gap))));
  return items.length % columns === 0 ? columns : null;
}

function basisOf(item: ComputedStyle): string {
  const basis = item.get('flex-basis');
  return basis === 'auto' ? item.get('width') : basis;
}

/** Whether a share of the row is all that an item takes of it. */
function isWhole(item: ComputedStyle): boolean {
  const margins = ['margin-left', 'margin-right'].map((side) => pixelsOf(item.get(side)) ?? Infinity);
  return margins.every((margin) => margin === 0) && (item.get('box-sizing') === 'border-box' || sideEdges(item) === 0);
}

function outerWidth(item: ComputedStyle, basis: number | null): number | null {
  if (basis === null) return null;
  const margins = ['margin-left', 'margin-right'].reduce((sum, side) => sum + (pixelsOf(item.get(side)) ?? 0), 0);
  return (
    margins + (item.get('box-sizing') === 'border-box' ? Math.max(basis, sideEdges(item)) : basis + sideEdges(item))
  );
}
