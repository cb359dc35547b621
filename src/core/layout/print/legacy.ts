import { legacyColor } from '../../css/values/color.js';
import { middleColor, readGradient } from '../../css/values/gradient.js';
import { printColor } from '../../css/values/mixed-color.js';
import { pixelsOf } from '../../css/values/value.js';
import type { Style } from './output.js';

/**
 * Attributes for old clients, from the desktop style of an emitted element. Each says what the style says, so that
 * nothing changes where the style is read.
 */
export function legacyAttributes(tag: string, style: Style): [string, string][] {
  const attributes: [string, string][] = [];
  const add = (name: string, value: string | null): unknown => value !== null && attributes.push([name, value]);
  if (tag === 'td' || tag === 'th' || tag === 'table' || tag === 'body')
    add('bgcolor', legacyColor(style.get('background-color') ?? '') ?? gradientColor(style.get('background-image')));
  if (tag !== 'td' && tag !== 'th') return attributes;
  const align = style.get('text-align');
  add('align', align === 'center' || align === 'right' ? align : null);
  const vertical = style.get('vertical-align');
  add('valign', vertical !== undefined && /^(?:top|middle|bottom|baseline)$/.test(vertical) ? vertical : null);
  add('width', wholePixels(style.get('width')));
  add('height', wholePixels(style.get('height')));
  add('background', /^url\((["']?)(.*)\1\)$/.exec(style.get('background-image') ?? '')?.[2] ?? null);
  return attributes;
}

function wholePixels(value: string | undefined): string | null {
  const pixels = value === undefined ? null : pixelsOf(value);
  return pixels === null || pixels <= 0 ? null : String(Math.round(pixels));
}

/** What stands for an opaque gradient where none can be shown: its middle. */
function gradientColor(image: string | undefined): string | null {
  const gradient = image === undefined ? null : readGradient(image);
  const color = gradient === null ? null : middleColor(gradient);
  const isOpaque = gradient?.stops.every(({ color: { alpha } }) => alpha === 1) === true;
  return color === null || !isOpaque ? null : printColor(color);
}
