import type { IndexedElement } from '../../css/selectors/element-index.js';
import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import { pixelsOf } from '../../css/values/value.js';
import type { TreeNode } from '../../html/tree.js';
import { boxStyle, fourValues, noExtra, paddingOf } from '../boxes/box-style.js';
import { edgeIn, lengthIn, styleIn, type Box, type TextBox } from '../boxes/boxes.js';
import { forStates, passedAttributes, type EmitContext, type Room } from './room.js';
import { emitInline } from './inline.js';
import { element, layoutTable, style, tableRow, type OutElement } from '../print/output.js';
import { fullText, physicalAlign, textStyleOf } from '../print/text-style.js';

/**
 * The link of a block that holds nothing else and looks like a button; null for any other block. A table equals such a
 * link only where the line of the block is not taller than the link (its line height would stretch the line).
 */
export function buttonIn(box: Box, context: EmitContext): IndexedElement | null {
  if (box.kind !== 'text') return null;
  const [only, ...others] = box.content.filter((node) => !isBlank(node));
  if (only === undefined || others.length > 0 || only.kind !== 'element' || only.tag !== 'a') return null;
  const link = context.lookup(only);
  if (link === null) return null;
  const styles = context.styles(link);
  const looksLikeButton =
    styles[0]?.take('display') === 'inline-block' &&
    styles.every((own) => /^(?:inline-block|block)$/.test(own.take('display')) && isAsHighAsItsText(own));
  if (!looksLikeButton || !styles.every((own) => own.get('width') === 'auto' && own.get('max-width') === 'none'))
    return null;
  const framed = { element: link, styles };
  const hasMargins = styles.some((_, state) =>
    ['top', 'right', 'bottom', 'left'].some((side) => lengthIn(framed, state, `margin-${side}`) !== 0),
  );
  return !hasMargins && styles.every((_, state) => fitsLine(box, framed, state)) ? link : null;
}

function isAsHighAsItsText(own: ComputedStyle): boolean {
  const isFree = own.get('overflow') === 'visible' && own.get('float') === 'none';
  return isFree && own.get('height') === 'auto' && /^(?:auto|0px)$/.test(own.get('min-height'));
}

function isBlank(node: TreeNode): boolean {
  return node.kind === 'text' && /^[ \t\n\f\r]*$/.test(node.value);
}

/** How far a baseline may move for each pixel that two font sizes differ; common fonts stay well below. */
const BASELINE_SHARE = 0.4;

function fitsLine(box: TextBox, link: { readonly styles: TextBox['styles'] }, state: number): boolean {
  const around = textStyleOf(styleIn(box, state));
  const own = textStyleOf(styleIn(link, state));
  const [lineAround, lineOwn, sizeAround, sizeOwn] = [
    around.get('line-height'),
    own.get('line-height'),
    around.get('font-size'),
    own.get('font-size'),
  ].map((value) => pixelsOf(value ?? ''));
  if (typeof lineAround !== 'number' || typeof lineOwn !== 'number')
    return around.get('line-height') === own.get('line-height') && sizeAround === sizeOwn;
  const shift = BASELINE_SHARE * Math.abs((sizeAround ?? 0) - (sizeOwn ?? 0));
  return (lineAround - lineOwn) / 2 + shift <= Math.min(edgeIn(link, state, 'top'), edgeIn(link, state, 'bottom'));
}

/** A table of one cell around the link; the cell carries paint and padding for the `word` engine too. */
export function emitButton(box: TextBox, link: IndexedElement, room: Room): OutElement {
  const styles = room.styles(link);
  const framed = { element: link, styles };
  const text = styles.map(textStyleOf);
  const label = emitInline(link.node.children, { ...room, text });
  const anchor = element(
    'a',
    passedAttributes(link),
    forStates(
      room,
      (state) =>
        new Map([
          ...style([['display', 'block']]),
          ...boxStyle(framed, state),
          ['text-decoration', styleIn(framed, state).take('text-decoration')],
          ...fullText(text[state] ?? new Map()),
        ]),
    ),
    label,
  );
  const cell = element(
    'td',
    {},
    forStates(room, (state) => cellStyle(framed, state)),
    [anchor],
  );
  // Alone in its line, it stands as it would with any alignment.
  for (const own of styles) own.take('vertical-align');
  const sides = forStates(room, (state) => alignment(box, styleIn(framed, state).take('display'), state));
  const align = sides[0]?.align ?? '';
  return layoutTable(
    sides.map((side) =>
      style([
        ['width', side.width],
        ['margin', side.margin],
      ]),
    ),
    [tableRow([cell])],
    align === 'center' ? { align } : {},
  );
}

function cellStyle(link: { readonly styles: TextBox['styles'] }, state: number): Map<string, string> {
  const own = boxStyle(link, state);
  const result = new Map<string, string>([['padding', '0']]);
  for (const property of ['background-color', 'border-radius']) {
    const value = own.get(property);
    if (value !== undefined) result.set(property, value);
  }
  if (state === 0) result.set('mso-padding-alt', paddingOf(link, state, noExtra));
  return result;
}

function alignment(
  box: TextBox,
  display: string,
  state: number,
): { align: string; width: string | null; margin: string } {
  const own = styleIn(box, state);
  const align = physicalAlign(own.take('text-align'), own.take('direction'));
  const margin = align === 'center' ? '0 auto' : align === 'right' ? '0 0 0 auto' : fourValues([0, 0, 0, 0]);
  return { align, width: display === 'block' ? '100%' : 'auto', margin };
}
