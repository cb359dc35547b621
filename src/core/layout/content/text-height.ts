import { attribute, type TreeNode } from '../../html/tree.js';
import { splitAtSentinels } from '../../html/tags.js';
import { edgeIn, isHidden, lengthIn, styleIn, type Box, type FlowBox } from '../boxes/boxes.js';
import { lineHeightOf } from '../print/text-style.js';
import { shownSize } from './picture.js';
import type { Room } from './room.js';

/** The width of a character in the mean, in font sizes. */
const CHARACTER_WIDTH = 0.48;

/** Line heights that no style says are about this many font sizes. */
const NORMAL_LINE = 1.15;

/**
 * A guess at how high the content of a box is in a width, in px. Only to tell a text that fits a height from one that runs
 * over it: nothing is measured here.
 */
export function guessedHeight(box: Box, state: number, room: Room, width: number): number {
  if (isHidden(box, state) || box.kind === 'comment') return 0;
  const edges = edgeIn(box, state, 'top') + edgeIn(box, state, 'bottom');
  const inner = Math.max(1, width - edgeIn(box, state, 'left') - edgeIn(box, state, 'right'));
  const of = (child: Box, available: number): number =>
    guessedHeight(child, state, room, available) +
    Math.max(lengthIn(child, state, 'margin-top'), 0) +
    Math.max(lengthIn(child, state, 'margin-bottom'), 0);
  switch (box.kind) {
    case 'picture':
      return shownSize(box, room.pictureSize(attribute(box.element.node, 'src') ?? ''), width, state)?.height ?? 0;
    case 'text':
      return edges + linesHeight(box.content, box, state, inner);
    case 'native':
      return edges + linesHeight(box.element.node.children, box, state, inner);
    case 'flow':
      return edges + stackedHeight(box, state, room, inner);
    case 'row':
    case 'grid': {
      const isColumn = styleIn(box, state).get('flex-direction').startsWith('column');
      const heights = box.children.map((child) => of(child, isColumn ? inner : inner / box.children.length));
      return edges + (isColumn ? heights.reduce((sum, height) => sum + height, 0) : Math.max(0, ...heights));
    }
  }
}

/** Blocks below each other, with the larger of the margins that meet; those at the ends stand outside. */
function stackedHeight(box: FlowBox, state: number, room: Room, width: number): number {
  const shown = box.children.filter((child) => child.kind !== 'comment' && !isHidden(child, state));
  return shown.reduce((sum, child, index) => {
    const before = shown[index - 1];
    const gap =
      before === undefined
        ? 0
        : Math.max(lengthIn(before, state, 'margin-bottom'), lengthIn(child, state, 'margin-top'), 0);
    return sum + gap + guessedHeight(child, state, room, width);
  }, 0);
}

function linesHeight(nodes: readonly TreeNode[], box: Box, state: number, width: number): number {
  const style = styleIn(box, state);
  const size = style.pixels('font-size') ?? 16;
  const line = lineHeightOf(style) ?? size * NORMAL_LINE;
  const text = textOf(nodes).split('\n');
  const lines = text.map((part) => Math.ceil((part.trim().length * size * CHARACTER_WIDTH) / width));
  return (
    line *
    Math.max(
      0,
      lines.reduce((sum, count) => sum + count, 0),
    )
  );
}

/** The text of nodes, with a line for each break and each item. */
function textOf(nodes: readonly TreeNode[]): string {
  return nodes
    .map((node) => {
      if (node.kind === 'comment') return '';
      if (node.kind === 'text')
        return splitAtSentinels(node.value.replace(/\s+/g, ' '))
          .map((part) => (typeof part === 'number' ? 'x'.repeat(8) : part))
          .join('');
      if (node.tag === 'br') return '\n';
      return /^(?:li|dt|dd|tr|p|div|h[1-6])$/.test(node.tag) ? `\n${textOf(node.children)}\n` : textOf(node.children);
    })
    .join('');
}
