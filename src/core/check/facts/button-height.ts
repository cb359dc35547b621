import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import { pixelsOf } from '../../css/values/value.js';
import type { ElementNode } from '../../html/tree.js';

/** How high a link of one line is that looks like a button, in px; null for one that stands in a text. */
export function buttonHeight({ tag }: ElementNode, style: ComputedStyle): number | null {
  const isPainted = !/^(?:|transparent|none)$/.test(style.get('background-color'));
  if (tag !== 'a' || !isPainted || !/^(?:inline-)?block$/.test(style.get('display'))) return null;
  const around = ['top', 'bottom'].reduce((sum, side) => {
    const border = /^(?:|none|hidden)$/.test(style.get(`border-${side}-style`))
      ? 0
      : pixels(style, `border-${side}-width`);
    return sum + pixels(style, `padding-${side}`) + border;
  }, 0);
  const own = style.pixels('height');
  const isWhole = style.get('box-sizing') === 'border-box';
  if (own !== null) return isWhole ? Math.max(own, around) : own + around;
  const least = pixels(style, 'min-height') - (isWhole ? around : 0);
  return Math.max(lineHeight(style), least) + around;
}

/** The height of a line, in px; of `normal` about what common fonts make of it. */
function lineHeight(style: ComputedStyle): number {
  const size = parseFloat(style.get('font-size')) || 16;
  const written = style.get('line-height');
  const times = /^[\d.]+$/.test(written) ? Number(written) : null;
  return pixelsOf(written) ?? (times ?? NORMAL) * size;
}

const NORMAL = 1.15;

function pixels(style: ComputedStyle, property: string): number {
  return style.pixels(property) ?? 0;
}
