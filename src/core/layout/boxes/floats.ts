import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import type { IndexedElement } from '../../css/selectors/element-index.js';
import { layoutAdvice } from '../../findings/wording/layout.js';
import type { BoxReader, Box } from './boxes.js';
import { sideEdges } from './box-style.js';
import { framed } from './flex-items.js';

/** Floats that stand beside each other, and what is around them. */
export interface FloatGroup {
  readonly floats: readonly IndexedElement[];
  readonly around: IndexedElement;
  /** A block that keeps beside the floats, whatever it holds; null where none follows. */
  readonly beside: IndexedElement | null;
  /** What comes after all of them; null at the end of what is around. */
  readonly next: IndexedElement | null;
}

/**
 * Neighbouring floats that say how wide they are stand side by side as the items of a row do, and a block that keeps beside
 * them takes what they leave. What they cannot be a row for is refused: text that flows around them, and a container that
 * does not hold them.
 * @param read the box of an element
 */
export function floatRow(group: FloatGroup, reader: BoxReader, read: (element: IndexedElement) => Box): Box {
  const { floats, around, beside, next } = group;
  const parent = reader.styles(around);
  const own = floats.map((element) => reader.styles(element));
  const isCleared =
    next === null
      ? containsFloats(around, reader)
      : reader.styles(next).every((style) => style.take('clear') !== 'none');
  const modes = parent.map((_, state) => floatMode(own.map((styles) => styles[state])));
  const [first] = floats;
  if (first !== undefined && (!isCleared || modes.includes(null)))
    reader.refuse(first, 'float', isCleared ? layoutAdvice.floatWidth : layoutAdvice.floatCleared);
  if (next !== null && isCleared) restAtFloats(next, modes, reader);
  // A block that keeps beside floats at the right comes before them.
  const isTurned = beside !== null && own.every((styles) => styles.some((style) => style.get('float') === 'right'));
  const styles = parent.map((style, state) =>
    style.anonymous().with(
      new Map([
        ['display', modes[state] === 'block' ? 'block' : 'flex'],
        ['flex-direction', modes[state] === 'column' ? 'column' : isTurned ? 'row-reverse' : 'row'],
        ['align-items', modes[state] === 'row' ? 'flex-start' : 'normal'],
      ]),
    ),
  );
  const children = floats.map((element, index): Box => {
    const isFirstRight = own[index]?.map((style, state) => {
      const isRight = style.take('float') === 'right';
      return isRight && !isTurned && modes[state] === 'row' && own[index - 1]?.[state]?.take('float') !== 'right';
    });
    // A picture that floats would do so in its cell.
    if (element.node.tag === 'img')
      reader.restyle(
        element,
        (own[index] ?? []).map((style) => style.with(standing)),
      );
    const box = read(element);
    const pushed = box.styles.map((style, state) =>
      isFirstRight?.[state] === true && style.get('margin-left') === '0px'
        ? style.with(new Map([['margin-left', 'auto']]))
        : style,
    );
    return framed({ ...box, styles: pushed }, styles, reader);
  });
  if (beside !== null) children.push(framed(read(beside), styles, reader));
  return { kind: 'row', element: null, styles, children };
}

const standing: ReadonlyMap<string, string> = new Map([
  ['float', 'none'],
  ['flex-shrink', '0'],
]);

/** What clears floats stands right below them: its margin above is within the clearance (CSS 2.2, 9.5.2). */
function restAtFloats(next: IndexedElement, modes: readonly (string | null)[], reader: BoxReader): void {
  const styles = reader.styles(next).map((style, state) => {
    if (modes[state] === 'block') return style;
    style.take('margin-top');
    return style.with(new Map([['margin-top', '0px']]));
  });
  reader.restyle(next, styles);
}

/** How floats stand in a state: side by side, one below the other, or as blocks. Null where that is not known. */
function floatMode(styles: readonly (ComputedStyle | undefined)[]): 'row' | 'column' | 'block' | null {
  const shown = styles.filter((style) => style !== undefined).filter((style) => style.get('display') !== 'none');
  const sides = shown.map((style) => style.take('float'));
  if (sides.every((side) => side === 'none')) return 'block';
  if (shown.every((style) => style.get('width') === '100%')) return 'column';
  const lastLeft = sides.lastIndexOf('left');
  if (sides.includes('none') || sides.filter((side) => side === 'right').length > 1) return null;
  if (sides.indexOf('right') >= 0 && sides.indexOf('right') < lastLeft) return null;
  const widths = shown.map((style) => style.quantity('width'));
  if (widths.some((width) => width === null)) return null;
  const percent = widths.reduce((sum, width) => sum + (width?.unit === '%' ? width.number : 0), 0);
  return percent <= 100.02 ? 'row' : null;
}

/** Refuses items of a list that float out of it: what comes behind would stand beside them. */
export function reportFloatingItems(list: IndexedElement, reader: BoxReader): void {
  const floating = list.node.children
    .map((node) => reader.lookup(node))
    .find((item) => item?.node.tag === 'li' && reader.styles(item).some((style) => style.get('float') !== 'none'));
  if (floating && !containsFloats(list, reader)) reader.refuse(floating, 'float', layoutAdvice.floatCleared);
}

/** Whether an element holds the floats in it: it is a context of its own, or something clears them behind its content. */
function containsFloats(element: IndexedElement, reader: BoxReader): boolean {
  const last = element.node.children.findLast((node) => node.kind === 'element');
  const indexed = last === undefined ? null : reader.lookup(last);
  const isClearing = indexed !== null && reader.styles(indexed).every((style) => style.take('clear') !== 'none');
  const own = reader.styles(element);
  // Below the end of the body there is nothing that floats could reach.
  return (
    isClearing ||
    element.node.tag === 'body' ||
    own.every(
      (style) => style.get('overflow') !== 'visible' || /^(?:flow-root|inline-block)$/.test(style.get('display')),
    )
  );
}

/**
 * Whether a block keeps beside floats to its end: it is a formatting context of its own (CSS 2.2, 9.5), or its margin is as wide
 * as they are. If so it is given the styles of the item of a row that takes what they leave.
 */
export function keepsBeside(
  beside: IndexedElement,
  floats: readonly IndexedElement[],
  around: IndexedElement,
  reader: BoxReader,
): boolean {
  const own = floats.map((element) => reader.styles(element));
  const holdsMargins = reader.styles(around).every((style) => style.get('overflow') !== 'visible');
  const states = reader.styles(beside).map((style, state) => {
    const at = own.flatMap((styles) => styles[state] ?? []);
    const mode = floatMode(at);
    if (mode === 'block' || mode === 'column') return at.every(isBlock) ? style : null;
    return mode === null ? null : besideFloats(style, at, holdsMargins);
  });
  if (states.some((style) => style === null)) return false;
  reader.restyle(
    beside,
    states.filter((style) => style !== null),
  );
  return true;
}

function isBlock(style: ComputedStyle): boolean {
  return style.get('display') === 'block' || style.get('display') === 'none';
}

/** The style of what keeps beside floats in a state, as the item of a row; null where it would not keep there. */
function besideFloats(
  style: ComputedStyle,
  floats: readonly ComputedStyle[],
  holdsMargins: boolean,
): ComputedStyle | null {
  const side = floats[0]?.get('float') === 'right' ? 'right' : 'left';
  const isPlain =
    style.get('width') === 'auto' &&
    style.get('max-width') === 'none' &&
    /^(?:block|flow-root)$/.test(style.get('display')) &&
    floats.every((float) => float.get('float') === side) &&
    (holdsMargins || ['margin-top', 'margin-bottom'].every((name) => style.get(name) === '0px'));
  if (!isPlain) return null;
  const item = new Map([
    ['flex-grow', '1'],
    ['flex-basis', '0px'],
  ]);
  if (style.get('display') === 'flow-root' || style.get('overflow') !== 'visible') return style.with(item);
  const taken = floats.reduce((sum, float) => sum + marginBoxWidth(float), 0);
  const margin = style.takePixels(`margin-${side}`) ?? 0;
  return margin >= taken ? style.with(item.set(`margin-${side}`, `${margin - taken}px`)) : null;
}

/** How wide a float is with all around it, in px; no number where it does not say. */
function marginBoxWidth(style: ComputedStyle): number {
  const outer = style.get('box-sizing') === 'border-box' ? 0 : sideEdges(style);
  return (
    (style.pixels('width') ?? NaN) + outer + (style.pixels('margin-left') ?? 0) + (style.pixels('margin-right') ?? 0)
  );
}
