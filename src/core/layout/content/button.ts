import type { IndexedElement } from '../../css/selectors/element-index.js';
import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import { sides } from '../../css/values/properties.js';
import { pixelsOf } from '../../css/values/value.js';
import type { TreeNode } from '../../html/tree.js';
import { boxStyle, fourValues, noExtra, paddingOf } from '../boxes/box-style.js';
import type { Box, TextBox, Styled } from '../boxes/boxes.js';
import { inStates, type BoxInState } from '../boxes/box-in-state.js';
import { passedAttributes, type EmitContext, type Room } from './room.js';
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
  const states = inStates({ styles });
  const hasMargins = states.some((own) => sides.some((side) => own.length(`margin-${side}`) !== 0));
  return !hasMargins && states.every((own) => fitsLine(box, own)) ? link : null;
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

function fitsLine(box: TextBox, link: BoxInState<Styled>): boolean {
  const around = textStyleOf(link.of(box).style);
  const own = textStyleOf(link.style);
  const [lineAround, lineOwn, sizeAround, sizeOwn] = [
    around.get('line-height'),
    own.get('line-height'),
    around.get('font-size'),
    own.get('font-size'),
  ].map((value) => pixelsOf(value ?? ''));
  if (typeof lineAround !== 'number' || typeof lineOwn !== 'number')
    return around.get('line-height') === own.get('line-height') && sizeAround === sizeOwn;
  const shift = BASELINE_SHARE * Math.abs((sizeAround ?? 0) - (sizeOwn ?? 0));
  return (lineAround - lineOwn) / 2 + shift <= Math.min(link.edge('top'), link.edge('bottom'));
}

/** A table of one cell around the link; the cell carries paint and padding for the `word` engine too. */
export function emitButton(box: TextBox, link: IndexedElement, room: Room): OutElement {
  const styles = room.styles(link);
  const states = inStates({ styles });
  const text = styles.map(textStyleOf);
  const label = emitInline(link.node.children, { ...room, text });
  const anchor = element(
    'a',
    passedAttributes(link),
    states.map(
      (own, state) =>
        new Map([
          ...style([['display', 'block']]),
          ...boxStyle(own),
          ['text-decoration', own.style.take('text-decoration')],
          ...fullText(text[state] ?? new Map()),
        ]),
    ),
    label,
  );
  const cell = element('td', {}, states.map(cellStyle), [anchor]);
  // Alone in its line, it stands as it would with any alignment.
  for (const own of styles) own.take('vertical-align');
  const alignments = states.map((own) => alignment(own.of(box), own.style.take('display')));
  const align = alignments[0]?.align ?? '';
  return layoutTable(
    alignments.map(({ width, margin }) =>
      style([
        ['width', width],
        ['margin', margin],
      ]),
    ),
    [tableRow([cell])],
    align === 'center' ? { align } : {},
  );
}

function cellStyle(link: BoxInState<Styled>): Map<string, string> {
  const own = boxStyle(link);
  const result = new Map<string, string>([['padding', '0']]);
  for (const property of ['background-color', 'border-radius']) {
    const value = own.get(property);
    if (value !== undefined) result.set(property, value);
  }
  if (link.state === 0) result.set('mso-padding-alt', paddingOf(link, noExtra));
  return result;
}

function alignment(box: BoxInState<TextBox>, display: string): { align: string; width: string | null; margin: string } {
  const own = box.style;
  const align = physicalAlign(own.take('text-align'), own.take('direction'));
  const margin = align === 'center' ? '0 auto' : align === 'right' ? '0 0 0 auto' : fourValues([0, 0, 0, 0]);
  return { align, width: display === 'block' ? '100%' : 'auto', margin };
}
