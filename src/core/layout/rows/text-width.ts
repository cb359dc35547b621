import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import { splitAtSentinels } from '../../html/tags.js';
import { attribute, type TreeNode } from '../../html/tree.js';
import { shownSize } from '../content/picture.js';
import { withoutFrame, type Box, type Styled } from '../boxes/boxes.js';
import { inState, type BoxInState } from '../boxes/box-in-state.js';
import { longestWordIn, textWidthIn } from './letters.js';
import { desktopWidth, type EmitContext, type Room } from '../content/room.js';

/** The width of a character of a font that is not known, in font sizes: an upper bound for the mean of common fonts. */
const CHARACTER_WIDTH = 0.62;

/** What a merge tag is taken to print, in characters. */
const TAG_LENGTH = 12;

/**
 * An upper estimate of how wide a box would be if its text did not break, in px. Only to tell a short label from
 * a paragraph.
 */
export function estimatedWidth(box: BoxInState, room: Room): number {
  const { itself, sideEdges: edges } = box;
  const stated = box.style.pixels('width');
  if (stated !== null) return stated + edges;
  switch (itself.kind) {
    case 'comment':
      return 0;
    case 'picture':
      return (intrinsicWidth(itself, room) ?? 0) + edges;
    case 'flow':
      return edges + Math.max(0, ...box.children.map((child) => estimatedWidth(child, room)));
    case 'row':
    case 'grid': {
      const gap = box.length('column-gap') * Math.max(0, itself.children.length - 1);
      return edges + gap + box.children.reduce((sum, child) => sum + estimatedWidth(child, room), 0);
    }
    case 'text':
      return edges + textWidth(itself.content, box, room);
    case 'native':
      return edges + textWidth(itself.element.node.children, box, room);
  }
}

function textWidth(nodes: readonly TreeNode[], box: BoxInState<Styled>, context: EmitContext): number {
  const size = box.style.pixels('font-size') ?? 16;
  return nodes.reduce((sum, node) => {
    if (node.kind === 'text') {
      const widths = splitAtSentinels(node.value.replace(/\s+/g, ' ')).map((part) => {
        const count = typeof part === 'number' ? TAG_LENGTH : part.length;
        const known = typeof part === 'number' ? null : textWidthIn(part, box.style);
        return known ?? count * size * CHARACTER_WIDTH;
      });
      return widths.reduce((total, width) => total + width, sum);
    }
    const indexed = context.lookup(node);
    if (indexed === null || node.kind !== 'element') return sum;
    const inner = box.of({ styles: context.styles(indexed) });
    const content =
      node.tag === 'img' ? (inner.style.pixels('width') ?? size * 2) : textWidth(node.children, inner, context);
    return sum + inner.sideEdges + content;
  }, 0);
}

/** The width that the longest word of a box, with what is around it in there, needs at the least, in px. */
export function longestWord(box: BoxInState, context: EmitContext): number {
  const { itself } = box;
  switch (itself.kind) {
    case 'picture':
    case 'comment':
      return 0;
    case 'flow':
    case 'row':
    case 'grid':
      return Math.max(0, ...box.children.map((child) => longestWord(child, context) + outerEdges(child)));
    case 'text':
      return wordWidth(itself.content, box, context);
    case 'native':
      return wordWidth(itself.element.node.children, box, context);
  }
}

/** Words that break anywhere are no least width (CSS Text 3, 5.2 and 5.4). */
export function breaksAnywhere(style: ComputedStyle): boolean {
  return /^break-/.test(style.get('word-break')) || style.get('overflow-wrap') === 'anywhere';
}

function wordWidth(nodes: readonly TreeNode[], box: BoxInState<Styled>, context: EmitContext): number {
  if (breaksAnywhere(box.style)) return 0;
  return Math.max(
    0,
    ...nodes.map((node) => {
      if (node.kind === 'text') {
        const texts = splitAtSentinels(node.value).flatMap((part) => (typeof part === 'number' ? [] : [part]));
        return Math.max(0, ...texts.map((text) => longestWordIn(text, box.style)));
      }
      const indexed = node.kind === 'element' ? context.lookup(node) : null;
      if (indexed === null || node.kind !== 'element') return 0;
      const inner = box.of({ styles: context.styles(indexed) });
      if (inner.isHidden) return 0;
      const word = wordWidth(node.children, inner, context);
      // A line may break beside what is around a phrase, but not within a block.
      return inner.style.get('display') === 'inline' || word === 0 ? word : word + outerEdges(inner);
    }),
  );
}

/** The padding, border and margins at both sides of a box, in px. */
function outerEdges(box: BoxInState<Styled>): number {
  return box.sideEdges + Math.max(0, box.length('margin-left')) + Math.max(0, box.length('margin-right'));
}

/** The width that an item has by itself: a picture's. In px; null where it follows from text. */
export function intrinsicWidth(item: Box, room: Room): number | null {
  const picture = withoutFrame(item);
  if (picture?.kind !== 'picture') return null;
  const natural = room.pictureSize(attribute(picture.element.node, 'src') ?? '');
  const width = shownSize(inState(picture, 0), natural, desktopWidth(room))?.width ?? null;
  return width === null || picture === item ? width : width + inState(item, 0).sideEdges;
}
