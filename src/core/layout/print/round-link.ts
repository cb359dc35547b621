import { legacyColor } from '../../css/values/color.js';
import { inState } from '../boxes/box-in-state.js';
import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import type { OutElement, OutNode, RoundShape } from './output.js';
import { fullText, textStyleOf } from './text-style.js';

/**
 * The shape of a link that looks like a rounded button and says its width and height in px; null for any other, as a
 * shape cannot grow with its text.
 */
export function roundShapeOf(tag: string, styles: readonly ComputedStyle[]): RoundShape | null {
  const link = inState({ styles }, 0);
  const own = link.style;
  const [width, height, radius] = ['width', 'height', 'border-top-left-radius'].map((name) => own.pixels(name));
  const color = legacyColor(own.get('background-color'));
  if (tag !== 'a' || !width || !height || !radius || color === null) return null;
  const borderBox = own.get('box-sizing') === 'border-box';
  const edges = (a: string, b: string): number => (borderBox ? 0 : link.edge(a) + link.edge(b));
  const [outerWidth, outerHeight] = [width + edges('left', 'right'), height + edges('top', 'bottom')];
  const arc = Math.min(50, Math.round((radius / Math.min(outerWidth, outerHeight)) * 100));
  return { color, width: outerWidth, height: outerHeight, arc };
}

/** The link for all engines but `word`, and the shape for that. */
export function withRoundShape(link: OutElement, shape: RoundShape, styles: readonly ComputedStyle[]): OutNode[] {
  const text = [...fullText(textStyleOf(inState({ styles }, 0).style))].filter(([name]) => name !== 'text-align');
  return [{ kind: 'round-link', link, shape, text: new Map(text) }];
}

/** The shape's opening and closing tags; `href` is escaped already. */
export function roundShapeTags(
  { color, width, height, arc }: RoundShape,
  href: string,
  style: string,
): [string, string] {
  const opening =
    `<!--[if mso]><v:roundrect href="${href}" style="width:${Math.round(width)}px;height:${Math.round(height)}px;v-text-anchor:middle" ` +
    `arcsize="${arc}%" stroke="f" fillcolor="${color}"><center style="${style}">`;
  return [opening, '</center></v:roundrect><![endif]-->'];
}
