import { splitAtSentinels } from '../../html/tags.js';
import { attribute, type TreeNode } from '../../html/tree.js';
import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import { edgeIn, styleIn, type Box } from '../boxes/boxes.js';
import { shownSize } from './picture.js';
import { narrowestWidth, type Room } from './room.js';

/** The width of a character in a line, in font sizes: rather too large, as a table of fixed layout harms nothing. */
const CHARACTER_WIDTH = 0.6;

/** The same for the characters of one word, of which all may be wide. */
const WORD_CHARACTER_WIDTH = 0.75;

/**
 * Whether something in a box may be wider than the box on a narrow window: a picture without a bound, text that does not
 * wrap. In a browser it reaches over the edge; a cell would grow, if its table did not keep to its width.
 */
export function spills(box: Box, room: Room): boolean {
  return room.states.some((_, state) => {
    const available = narrowestWidth(room, state);
    return spillsAt(box, room, state, available) || widestWord(box, state, room) > available;
  });
}

/** How wide the longest word of a box may be, in px. */
function widestWord(box: Box, state: number, room: Room): number {
  const own = styleIn(box, state);
  const advance = (own.pixels('font-size') ?? 16) * WORD_CHARACTER_WIDTH + (own.pixels('letter-spacing') ?? 0);
  switch (box.kind) {
    case 'flow':
    case 'row':
    case 'grid':
      return Math.max(0, ...box.children.map((child) => widestWord(child, state, room)));
    case 'text':
      return longestIn(box.content) * advance;
    case 'native':
      return longestIn(box.element.node.children) * advance;
    default:
      return 0;
  }
}

/** The number of characters of the longest word. */
function longestIn(nodes: readonly TreeNode[]): number {
  return Math.max(
    0,
    ...nodes.map((node) => {
      if (node.kind === 'element') return longestIn(node.children);
      return node.kind === 'text' ? Math.max(...node.value.split(/\s+/).map((word) => word.length)) : 0;
    }),
  );
}

/** Whether something in a box is wider than what there is for it in a state: a picture, a box of a width, lines that do not break. */
export function spillsAt(box: Box, room: Room, state: number, available: number): boolean {
  switch (box.kind) {
    case 'comment':
      return false;
    case 'picture': {
      const natural = room.pictureSize(attribute(box.element.node, 'src') ?? '');
      return (shownSize(box, natural, available, state)?.width ?? 0) > available + 0.5;
    }
    case 'flow':
    case 'row':
    case 'grid':
      if (isWiderThan(available, box, state)) return true;
      return box.children.some((child) => spillsAt(child, room, state, available - sidesOf(box, state)));
    case 'text':
      if (isWiderThan(available, box, state)) return true;
      return nodesSpill(box.content, styleIn(box, state), room, state, available);
    case 'native':
      if (isWiderThan(available, box, state)) return true;
      return nodesSpill(box.element.node.children, styleIn(box, state), room, state, available);
  }
}

/** What is at the sides of the content of a box: padding and border, in px. */
function sidesOf(box: Box, state: number): number {
  return edgeIn(box, state, 'left') + edgeIn(box, state, 'right');
}

/** A width in px that is more than there is on narrow windows, whether or not `max-width: 100%` bounds it. */
function isWiderThan(available: number, box: Box, state: number): boolean {
  const own = styleIn(box, state);
  const bound = own.pixels('max-width') ?? Infinity;
  return Math.min(own.pixels('width') ?? 0, bound) > available;
}

function nodesSpill(
  nodes: readonly TreeNode[],
  style: ComputedStyle,
  room: Room,
  state: number,
  available: number,
): boolean {
  if (standsInOneLine(nodes, style, room, state) > available) return true;
  return nodes.some((node) => {
    if (node.kind === 'text') return textSpills(node.value, style, available);
    const indexed = node.kind === 'element' ? room.lookup(node) : null;
    if (indexed === null || node.kind !== 'element') return false;
    const styles = room.styles(indexed);
    const own = styles[state];
    if (own === undefined || own.get('display') === 'none') return false;
    if (node.tag === 'img') return spillsAt({ kind: 'picture', element: indexed, styles }, room, state, available);
    if (own.get('display') !== 'inline' && (own.pixels('width') ?? 0) > available) return true;
    return nodesSpill(node.children, own, room, state, available);
  });
}

/** How wide the boxes of a line are together that does not break between them, in px. */
function standsInOneLine(nodes: readonly TreeNode[], style: ComputedStyle, room: Room, state: number): number {
  if (!/^(?:nowrap|pre)$/.test(style.get('white-space'))) return 0;
  return nodes.reduce((sum, node) => {
    const indexed = node.kind === 'element' ? room.lookup(node) : null;
    const own = indexed === null ? undefined : room.styles(indexed)[state];
    return own === undefined || own.get('display') === 'none' ? sum : sum + (own.pixels('width') ?? 0);
  }, 0);
}

function textSpills(text: string, style: ComputedStyle, available: number): boolean {
  const space = style.get('white-space');
  if (!/^(?:nowrap|pre)$/.test(space)) return false;
  const size = style.pixels('font-size') ?? 16;
  const lines = space === 'pre' ? text.split('\n') : [text.replace(/\s+/g, ' ')];
  const longest = Math.max(
    ...lines.map((line) =>
      splitAtSentinels(line).reduce<number>((sum, part) => sum + (typeof part === 'number' ? 12 : part.length), 0),
    ),
  );
  return longest * size * CHARACTER_WIDTH > available;
}
