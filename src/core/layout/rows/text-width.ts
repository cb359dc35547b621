import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import { splitAtSentinels } from '../../html/tags.js';
import { attribute, type TreeNode } from '../../html/tree.js';
import { shownSize } from '../content/picture.js';
import { edgeIn, lengthIn, styleIn, type Box } from '../boxes/boxes.js';
import { longestWordIn } from './letters.js';
import { desktopWidth, type EmitContext, type Room } from '../content/room.js';

/** The width of a character, in font sizes: an upper bound for the mean of common fonts, as nothing is measured here. */
const CHARACTER_WIDTH = 0.62;

/** What a merge tag is taken to print, in characters. */
const TAG_LENGTH = 12;

/**
 * An upper estimate of how wide a box would be if its text did not break, in px. Only to tell a short label from
 * a paragraph.
 */
export function estimatedWidth(box: Box, state: number, room: Room): number {
  const edges = edgeIn(box, state, 'left') + edgeIn(box, state, 'right');
  const stated = styleIn(box, state).pixels('width');
  if (stated !== null) return stated + edges;
  switch (box.kind) {
    case 'comment':
      return 0;
    case 'picture':
      return (intrinsicWidth(box, room) ?? 0) + edges;
    case 'flow':
      return edges + Math.max(0, ...box.children.map((child) => estimatedWidth(child, state, room)));
    case 'row':
    case 'grid': {
      const gap = lengthIn(box, state, 'column-gap') * Math.max(0, box.children.length - 1);
      return edges + gap + box.children.reduce((sum, child) => sum + estimatedWidth(child, state, room), 0);
    }
    case 'text':
      return edges + textWidth(box.content, box, state, room);
    case 'native':
      return edges + textWidth(box.element.node.children, box, state, room);
  }
}

function textWidth(nodes: readonly TreeNode[], box: Box, state: number, context: EmitContext): number {
  const size = styleIn(box, state).pixels('font-size') ?? 16;
  return nodes.reduce((sum, node) => {
    if (node.kind === 'text') {
      const characters = splitAtSentinels(node.value.replace(/\s+/g, ' ')).map((part) =>
        typeof part === 'number' ? TAG_LENGTH : part.length,
      );
      return sum + characters.reduce((total, count) => total + count, 0) * size * CHARACTER_WIDTH;
    }
    const indexed = context.lookup(node);
    if (indexed === null || node.kind !== 'element') return sum;
    const styles = context.styles(indexed);
    const inner = { element: indexed, styles };
    const edges = edgeIn(inner, state, 'left') + edgeIn(inner, state, 'right');
    if (node.tag === 'img') return sum + edges + (styleIn(inner, state).pixels('width') ?? size * 2);
    return sum + edges + textWidth(node.children, { ...box, styles }, state, context);
  }, 0);
}

/** The width that the longest word of a box needs at the least, in px. */
export function longestWord(box: Box, state: number, context: EmitContext): number {
  switch (box.kind) {
    case 'picture':
    case 'comment':
      return 0;
    case 'flow':
    case 'row':
    case 'grid':
      return Math.max(0, ...box.children.map((child) => longestWord(child, state, context)));
    case 'text':
      return wordWidth(box.content, box, state, context);
    case 'native':
      return wordWidth(box.element.node.children, box, state, context);
  }
}

/** Words that break anywhere are no least width (CSS Text 3, 5.2 and 5.4). */
export function breaksAnywhere(style: ComputedStyle): boolean {
  return /^break-/.test(style.get('word-break')) || style.get('overflow-wrap') === 'anywhere';
}

function wordWidth(nodes: readonly TreeNode[], box: Box, state: number, context: EmitContext): number {
  if (breaksAnywhere(styleIn(box, state))) return 0;
  return Math.max(
    0,
    ...nodes.map((node) => {
      if (node.kind === 'text') {
        const texts = splitAtSentinels(node.value).flatMap((part) => (typeof part === 'number' ? [] : [part]));
        return Math.max(0, ...texts.map((text) => longestWordIn(text, styleIn(box, state))));
      }
      const indexed = node.kind === 'element' ? context.lookup(node) : null;
      if (indexed === null || node.kind !== 'element') return 0;
      return wordWidth(node.children, { ...box, styles: context.styles(indexed) }, state, context);
    }),
  );
}

/** The width that an item has by itself: a picture's. In px; null where it follows from text. */
export function intrinsicWidth(item: Box, room: Room): number | null {
  const picture = item.kind === 'flow' && item.isFrame === true ? item.children[0] : item;
  if (picture?.kind !== 'picture') return null;
  const natural = room.pictureSize(attribute(picture.element.node, 'src') ?? '');
  const width = shownSize(picture, natural, desktopWidth(room))?.width ?? null;
  return width === null || picture === item ? width : width + edgeIn(item, 0, 'left') + edgeIn(item, 0, 'right');
}
