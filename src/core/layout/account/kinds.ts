import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import type { IndexedElement } from '../../css/selectors/element-index.js';
import { isNativeTag } from '../boxes/element-kinds.js';
import type { BoxKind } from './matrix.js';

/** What kinds of boxes an element is in a state: what it is to what stands around it, and to what stands in it. */
export function kindsOf({ node }: IndexedElement, style: ComputedStyle, around: ComputedStyle | null): BoxKind[] {
  const display = style.get('display');
  const outer = around?.get('display') ?? 'block';
  const kinds: BoxKind[] = [];
  if (/flex$/.test(outer)) kinds.push('flex item');
  if (/grid$/.test(outer)) kinds.push('grid item');
  if (node.tag === 'img') kinds.push('picture');
  else if (/flex$/.test(display)) kinds.push('flex container');
  else if (/grid$/.test(display)) kinds.push('grid container');
  else if (/^(?:td|th)$/.test(node.tag) || display === 'table-cell') kinds.push('table cell');
  else if (display === 'list-item') kinds.push('list item');
  else if (/^(?:ul|ol|menu)$/.test(node.tag)) kinds.push('list');
  else if (display.startsWith('table') || (isNativeTag(node.tag) && node.tag === 'table')) kinds.push('table');
  else if (display === 'inline') kinds.push('inline');
  else if (display === 'inline-block') kinds.push('inline block', 'button link');
  else kinds.push('block', 'text');
  return kinds;
}
