import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import { sides } from '../../css/values/properties.js';
import type { IndexedElement } from '../../css/selectors/element-index.js';
import { phrasingTags } from './element-kinds.js';
import { sideEdges } from './box-style.js';
import { layoutAdvice } from '../../findings/wording/layout.js';
import { hasOwnWidth, isPainted, needsCell, withoutFrame, type Box, type BoxReader } from './boxes.js';
import { holdsBlocks } from './levels.js';

/**
 * A link or another phrase that is an item and says how wide it is or what is around it: a box around it has that, and the
 * phrase fills the box. Null for any other element.
 */
export function phraseItem(element: IndexedElement, parent: readonly ComputedStyle[], reader: BoxReader): Box | null {
  const styles = reader.styles(element);
  const display = reader.shownDisplay(element) ?? 'block';
  if (!phrasingTags.has(element.node.tag) || /flex|grid/.test(display) || holdsBlocks(element, reader)) return null;
  const says = styles.some(
    (style) =>
      sides.some((side) => style.get(`margin-${side}`) !== '0px') ||
      hasOwnWidth(style) ||
      style.get('width') === '100%' ||
      (style.pixels('flex-basis') ?? 0) > 0,
  );
  const isClear = styles.every((style) => sides.every((side) => (style.pixels(`margin-${side}`) ?? 0) >= 0));
  if (!says || !isClear) return null;
  if (!styles.every(isMeasurable)) reader.refuse(element, 'width', layoutAdvice.borderBox);
  reader.restyle(
    element,
    styles.map((style) =>
      style.with(
        new Map([
          ...sides.map((side): [string, string] => [`margin-${side}`, '0px']),
          ['width', 'auto'],
          ['max-width', 'none'],
        ]),
      ),
    ),
  );
  const frames = styles.map((style) => style.frame(frameValues(style, 'item')));
  const phrase = reader.styles(element);
  return asItem({ kind: 'text', element: null, styles: frames, content: [element.node], phrase }, parent);
}

/** In a column, the basis of an item is the least height that it takes (CSS Flexible Box Layout 1, 4.5 and 7.2). */
export function asItem(item: Box, parent: readonly ComputedStyle[]): Box {
  const styles = item.styles.map((style, state) => {
    const around = parent[state];
    const isColumn = around?.get('display') === 'flex' && around.get('flex-direction').startsWith('column');
    const basis = style.pixels('flex-basis') ?? 0;
    if (!isColumn || basis === 0 || style.get('display') === 'none') return style;
    const least = Math.max(basis, style.pixels('min-height') ?? 0);
    return style.with(
      new Map([
        ['min-height', `${least}px`],
        ['flex-basis', 'auto'],
      ]),
    );
  });
  return styles.every((style, state) => style === item.styles[state]) ? item : { ...item, styles };
}

/**
 * An item with margins in a box of its own, whose padding they are: margins of items do not collapse (CSS Flexible Box
 * Layout 1, 4.2), and the cells of a row are as large as the margin boxes of its items.
 */
export function framed(item: Box, parent: readonly ComputedStyle[], reader: BoxReader): Box {
  const hasMargins = item.styles.some(
    (style, state) => isItemIn(parent, state) && sides.some((side) => (style.pixels(`margin-${side}`) ?? 0) !== 0),
  );
  const hasOwnBox = statesItself(item);
  if (!hasMargins && !hasOwnBox) return item;
  const frame = withFrame(item, parent);
  if (hasOwnBox && !item.styles.every(isMeasurable) && item.element !== null)
    reader.refuse(item.element, 'width', layoutAdvice.borderBox);
  const inner = withoutFrame(frame);
  // A list or a table is emitted with the styles of its element, which the frame has taken over.
  if (inner !== item && inner?.kind === 'native') reader.restyle(inner.element, inner.styles);
  return frame;
}

function hasPadding(style: ComputedStyle): boolean {
  return sides.some((side) => style.pixels(`padding-${side}`) !== 0);
}

/** Whether a picture, a list or a table has a box of its own, which the cell around it would show a second time. */
function statesItself(item: Box): boolean {
  if (item.kind === 'picture') return isPainted(item) || item.styles.some(hasPadding);
  if (item.kind !== 'native' || item.element.node.attributes.has('data-raw')) return false;
  return (
    needsCell(item) || item.element.node.tag === 'table' || item.styles.some((style) => style.get('float') !== 'none')
  );
}

/**
 * The items of a row, those that grow with a frame each where one of them has one: their padding is then within what they
 * share alike, and the margins are around it.
 */
export function evenlyFramed(items: readonly Box[], parent: readonly ComputedStyle[]): readonly Box[] {
  const grows = (item: Box): boolean => item.styles.some((style) => Number(style.get('flex-grow')) > 0);
  const hasFrame = items.some((item) => item.kind === 'flow' && item.isFrame === true && grows(item));
  if (!hasFrame) return items;
  return items.map((item) =>
    grows(item) && withoutFrame(item) === item && item.styles.some((style) => sideEdges(style) > 0)
      ? withFrame(item, parent)
      : item,
  );
}

function isItemIn(parent: readonly ComputedStyle[], state: number): boolean {
  return /flex|grid/.test(parent[state]?.get('display') ?? '');
}

/** Whether a frame can have the width of an item: a share of the row that holds its padding and border, or no share. */
function isMeasurable(style: ComputedStyle): boolean {
  return !/%/.test(style.get('width')) || style.get('box-sizing') === 'border-box' || sideEdges(style) === 0;
}

function withFrame(item: Box, parent: readonly ComputedStyle[]): Box {
  const isItem = (state: number): boolean => isItemIn(parent, state);
  const isClear = item.styles.every((style) => sides.every((side) => (style.pixels(`margin-${side}`) ?? 0) >= 0));
  if (!isClear || !item.styles.every(isMeasurable) || item.kind === 'comment') return item;
  // A picture in a line of a plain block has its margins in that line.
  const isInLine = (style: ComputedStyle, state: number): boolean =>
    item.kind === 'picture' && !isItem(state) && /^inline/.test(style.get('display'));
  const frames = item.styles.map((style, state) =>
    isInLine(style, state) ? style.wrapper() : style.frame(frameValues(style, isItem(state) ? 'item' : 'block')),
  );
  const inner = item.styles.map((style, state) =>
    style.with(
      new Map([
        ...(isInLine(style, state) ? [] : sides.map((side): [string, string] => [`margin-${side}`, '0px'])),
        ['flex-grow', '0'],
        ['flex-basis', 'auto'],
        ['align-self', 'auto'],
        ['order', '0'],
        ...(item.kind === 'picture'
          ? style.get('width').endsWith('%')
            ? [['width', '100%'] as const]
            : []
          : ([
              ['width', item.element?.node.tag === 'table' && isAsWideAsFrame(style, parent[state]) ? '100%' : 'auto'],
              ['max-width', 'none'],
              ['float', 'none'],
            ] as const)),
        ...(item.kind === 'flow' && isItem(state) && style.get('display') !== 'none'
          ? [['display', 'flow-root'] as const]
          : []),
      ]),
    ),
  );
  return { kind: 'flow', isFrame: true, element: null, styles: frames, children: [{ ...item, styles: inner }] };
}

/** Whether a table, which is else as wide as its content, is as wide as the frame of an item. */
function isAsWideAsFrame(table: ComputedStyle, parent: ComputedStyle | undefined): boolean {
  const isGrid = parent?.get('display') === 'grid' && /^(?:normal|stretch)$/.test(parent.get('justify-items'));
  const isColumn = parent?.get('display') === 'flex' && parent.get('flex-direction').startsWith('column');
  const isStretched = isColumn && /^(?:normal|stretch)$/.test(parent.get('align-items'));
  return table.get('width') !== 'auto' || Number(table.get('flex-grow')) > 0 || isGrid || isStretched;
}

/** @param as what the box is: in a plain block its margins above and below collapse as ever */
function frameValues(style: ComputedStyle, as: 'item' | 'block'): [string, string][] {
  const outer = style.get('box-sizing') === 'border-box' ? 0 : sideEdges(style);
  const grown = (property: string): [string, string] => {
    const pixels = style.takePixels(property);
    return [property, pixels === null ? style.take(property) : `${pixels + outer}px`];
  };
  return [
    ...sides.flatMap((side): [string, string][] => {
      const margin = style.take(`margin-${side}`);
      const collapses = as === 'block' && (side === 'top' || side === 'bottom');
      return margin === 'auto' || collapses ? [[`margin-${side}`, margin]] : [[`padding-${side}`, margin]];
    }),
    grown('width'),
    grown('max-width'),
    // What grows from nothing shares what the edges of all leave.
    style.pixels('flex-basis') === 0 && Number(style.get('flex-grow')) > 0
      ? ['flex-basis', '0px']
      : grown('flex-basis'),
    ['box-sizing', 'content-box'],
  ];
}
