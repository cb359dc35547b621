import { splitAtSentinels } from '../../html/tags.js';
import { attribute, type TreeNode } from '../../html/tree.js';
import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import type { Box, Styled } from '../boxes/boxes.js';
import { inStates, type BoxInState } from '../boxes/box-in-state.js';
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
  return inStates(box).some((own) => {
    const available = narrowestWidth(room, own.state);
    return spillsAt(own, room, available) || widestWord(own) > available;
  });
}

/** How wide the longest word of a box may be, in px. */
function widestWord(box: BoxInState): number {
  const { itself, style: own } = box;
  const advance = (own.pixels('font-size') ?? 16) * WORD_CHARACTER_WIDTH + (own.pixels('letter-spacing') ?? 0);
  switch (itself.kind) {
    case 'flow':
    case 'row':
    case 'grid':
      return Math.max(0, ...box.children.map(widestWord));
    case 'text':
      return longestIn(itself.content) * advance;
    case 'native':
      return longestIn(itself.element.node.children) * advance;
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

/**
 * Whether something in a box is wider than what there is for it in a state: a picture, a box of a width, lines that do not break.
 * @param available what there is for the box with its padding and border, in px
 */
export function spillsAt(box: BoxInState, room: Room, available: number): boolean {
  const { itself } = box;
  switch (itself.kind) {
    case 'comment':
      return false;
    case 'picture': {
      const natural = room.pictureSize(attribute(itself.element.node, 'src') ?? '');
      return (shownSize(box.of(itself), natural, available)?.width ?? 0) > available + 0.5;
    }
    case 'flow':
    case 'row':
    case 'grid':
      return (
        isWiderThan(available, box) || box.children.some((child) => spillsAt(child, room, available - box.sideEdges))
      );
    case 'text':
      return isWiderThan(available, box) || nodesSpill(itself.content, box, room, available - box.sideEdges);
    case 'native':
      return (
        isWiderThan(available, box) || nodesSpill(itself.element.node.children, box, room, available - box.sideEdges)
      );
  }
}

/** A width in px that is more than there is on narrow windows, whether or not `max-width: 100%` bounds it. */
function isWiderThan(available: number, box: BoxInState): boolean {
  const own = box.style;
  const bound = own.pixels('max-width') ?? Infinity;
  return Math.min(own.pixels('width') ?? 0, bound) > available;
}

/** @param box what the nodes stand in */
function nodesSpill(nodes: readonly TreeNode[], box: BoxInState<Styled>, room: Room, available: number): boolean {
  if (standsInOneLine(nodes, box, room) > available) return true;
  return nodes.some((node) => {
    if (node.kind === 'text') return textSpills(node.value, box.style, available);
    const indexed = node.kind === 'element' ? room.lookup(node) : null;
    if (indexed === null || node.kind !== 'element') return false;
    const inner = box.of({ styles: room.styles(indexed) });
    if (inner.isHidden) return false;
    if (node.tag === 'img')
      return spillsAt(box.of({ kind: 'picture', element: indexed, styles: inner.itself.styles }), room, available);
    // A cell gives way, whatever width it says.
    if (!/^(?:inline|table-cell)$/.test(inner.style.get('display')) && inner.length('width') > available) return true;
    return nodesSpill(node.children, inner, room, available);
  });
}

/** How wide the boxes of a line are together that does not break between them, in px. */
function standsInOneLine(nodes: readonly TreeNode[], box: BoxInState<Styled>, room: Room): number {
  if (!/^(?:nowrap|pre)$/.test(box.style.get('white-space'))) return 0;
  return nodes.reduce((sum, node) => {
    const indexed = node.kind === 'element' ? room.lookup(node) : null;
    const inner = indexed === null ? null : box.of({ styles: room.styles(indexed) });
    return inner === null || inner.isHidden ? sum : sum + inner.length('width');
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
