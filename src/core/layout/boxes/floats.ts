import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import type { IndexedElement } from '../../css/selectors/element-index.js';
import { layoutAdvice } from '../../findings/wording/layout.js';
import { type BoxReader, type Box } from './boxes.js';
import { framed } from './flex-items.js';

/**
 * Neighbouring floats that say how wide they are stand side by side as the items of a row do. What they cannot be a row for
 * is refused: text that flows around them, and a container that does not hold them.
 * @param read the box of an element
 */
export function floatRow(
  floats: readonly IndexedElement[],
  around: IndexedElement,
  next: IndexedElement | null,
  reader: BoxReader,
  read: (element: IndexedElement) => Box,
): Box {
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
  const styles = parent.map((style, state) =>
    style.anonymous().with(
      new Map([
        ['display', modes[state] === 'block' ? 'block' : 'flex'],
        ['flex-direction', modes[state] === 'column' ? 'column' : 'row'],
        ['align-items', modes[state] === 'row' ? 'flex-start' : 'normal'],
      ]),
    ),
  );
  const children = floats.map((element, index): Box => {
    const isFirstRight = own[index]?.map((style, state) => {
      const isRight = style.take('float') === 'right';
      return isRight && modes[state] === 'row' && own[index - 1]?.[state]?.take('float') !== 'right';
    });
    const box = read(element);
    const pushed = box.styles.map((style, state) =>
      isFirstRight?.[state] === true && style.get('margin-left') === '0px'
        ? style.with(new Map([['margin-left', 'auto']]))
        : style,
    );
    return framed({ ...box, styles: pushed }, styles);
  });
  return { kind: 'row', element: null, styles, children };
}

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

/** Whether an element holds the floats in it: it is a context of its own, or something clears them behind its content. */
function containsFloats(element: IndexedElement, reader: BoxReader): boolean {
  const last = element.node.children.findLast((node) => node.kind === 'element');
  const indexed = last === undefined ? null : reader.lookup(last);
  const isClearing = indexed !== null && reader.styles(indexed).every((style) => style.take('clear') !== 'none');
  const own = reader.styles(element);
  return (
    isClearing ||
    own.every(
      (style) => style.get('overflow') !== 'visible' || /^(?:flow-root|inline-block)$/.test(style.get('display')),
    )
  );
}
