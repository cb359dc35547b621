import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import type { ElementIndex, IndexedElement } from '../../css/selectors/element-index.js';

/**
 * Hands the lines of blocks down to the blocks in them (CSS Text Decoration 3, 2): tables pass none on. What floats or is
 * a block in a line gets none.
 */
export function withDecorations(
  { elements }: ElementIndex,
  styles: readonly ComputedStyle[],
): readonly ComputedStyle[] {
  if (!styles.some((style) => isDecorated(style) && style.get('display') !== 'inline')) return styles;
  const decorated = [...styles];
  for (const element of elements) {
    const style = decorated[element.order];
    if (style === undefined || !isDecorated(style) || style.get('display') === 'inline') continue;
    for (const child of blocksIn(element, decorated)) {
      const own = decorated[child.order];
      if (own === undefined) continue;
      style.take('text-decoration');
      decorated[child.order] = own.with(new Map([['text-decoration', joined(style, own)]]));
    }
  }
  return decorated;
}

function isDecorated(style: ComputedStyle): boolean {
  return style.get('text-decoration') !== 'none';
}

function blocksIn({ children }: IndexedElement, styles: readonly ComputedStyle[]): IndexedElement[] {
  return children.filter((child) => {
    const style = styles[child.order];
    if (style === undefined || child.node.tag === 'img') return false;
    return !/^(?:inline|none|contents)/.test(style.get('display')) && style.get('float') === 'none';
  });
}

/** The lines of two elements; those from above keep the colour of the text there. */
function joined(above: ComputedStyle, own: ComputedStyle): string {
  const value = above.get('text-decoration');
  if (isDecorated(own)) return own.get('text-decoration');
  const isColored = value
    .split(' ')
    .some((part) => !/^(?:underline|overline|line-through|solid|double|dotted|dashed|wavy)$/.test(part));
  return isColored || above.get('color') === own.get('color') ? value : `${value} ${above.get('color')}`;
}
