import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import type { ElementIndex } from '../../css/selectors/element-index.js';

/**
 * What the page is painted with stands on the body: the colour that the root says (CSS Backgrounds 3, 2.11.2), and white
 * where the message has rules for dark schemes but does not ask for a dark page, which the head then asks for.
 */
export function withCanvasOnBody(
  { elements }: ElementIndex,
  styles: readonly ComputedStyle[],
  hasDarkRules: boolean,
): readonly ComputedStyle[] {
  const body = elements.find(({ node }) => node.tag === 'body');
  const [root] = styles;
  const own = body === undefined ? undefined : styles[body.order];
  if (body === undefined || root === undefined || own === undefined || !isBare(own)) return styles;
  const staysLight = hasDarkRules && !/\bdark\b/.test(root.get('color-scheme'));
  const color = isBare(root) ? (staysLight ? '#ffffff' : null) : root.take('background-color');
  if (color === null || color === 'transparent') return styles;
  const painted = own.with(new Map([['background-color', color]]));
  return styles.map((style) => (style === own ? painted : style));
}

function isBare(style: ComputedStyle): boolean {
  return style.get('background-color') === 'transparent' && style.get('background-image') === 'none';
}
