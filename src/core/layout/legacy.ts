import { pixelsOf } from '../css/value.js';
import type { Style } from './output.js';

/**
 * Attributes for old clients, from the desktop style of an emitted element. Each says what the style says, so that
 * nothing changes where the style is read.
 */
export function legacyAttributes(tag: string, style: Style): [string, string][] {
  const attributes: [string, string][] = [];
  const add = (name: string, value: string | null): unknown => value !== null && attributes.push([name, value]);
  if (tag === 'td' || tag === 'th' || tag === 'table' || tag === 'body')
    add('bgcolor', hexColor(style.get('background-color') ?? ''));
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

/** A colour as `#rrggbb`, or by its name; null for what old clients do not read (transparency, functions). */
export function hexColor(value: string): string | null {
  if (/^#[0-9a-f]{6}$/i.test(value)) return value;
  const short = /^#([0-9a-f])([0-9a-f])([0-9a-f])$/i.exec(value);
  if (short !== null)
    return `#${short
      .slice(1)
      .map((digit) => digit + digit)
      .join('')}`;
  const rgb = /^rgb\(\s*(\d+)[\s,]+(\d+)[\s,]+(\d+)\s*\)$/i.exec(value);
  if (rgb !== null)
    return `#${rgb
      .slice(1)
      .map((part) => Math.min(255, Number(part)).toString(16).padStart(2, '0'))
      .join('')}`;
  return /^[a-z]+$/i.test(value) && value !== 'transparent' && value !== 'currentcolor' ? value : null;
}
