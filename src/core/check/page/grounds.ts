import { over, readColor, turnedRound, type Rgba } from '../../css/values/mixed-color.js';
import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import { attribute, type ElementNode } from '../../html/tree.js';
import { splitValue } from '../../css/values/value.js';
import type { StyledPage, ViewName } from './styled-page.js';

/** The colours of a page in one view. */
export interface Grounds {
  /** What lies beneath the text of an element: an opaque colour, or null where a picture or a gradient does. */
  readonly beneath: (element: ElementNode) => Rgba | null;
  /** The colour of a text as it shows on its ground; null where it is not known. */
  readonly inkOn: (ground: Rgba, style: ComputedStyle) => Rgba | null;
}

/** How a page is shown: in its own colours, or by a program that turns each of them round before it lays them over others. */
export type Shades = 'own' | 'inverted';

/** What colours are read with. */
interface Light {
  /** Whether the page claims a dark scheme here, in which the colours of a browser's own are others. */
  readonly isDark: boolean;
  readonly shades: Shades;
}

const white: Rgba = { red: 255, green: 255, blue: 255, alpha: 1 };
const darkLink: Rgba = { red: 158, green: 158, blue: 255, alpha: 1 };
const black: Rgba = { red: 0, green: 0, blue: 0, alpha: 1 };

/** What a page shows beneath all that it says itself: white, or in a dark scheme that it claims nearly black. */
function canvasOf(page: StyledPage, view: ViewName): Rgba {
  const [root] = page.styles(view);
  const isDark = view.startsWith('dark') && /\bdark\b/.test(root?.get('color-scheme') ?? '');
  return isDark ? { red: 18, green: 18, blue: 18, alpha: 1 } : white;
}

/** Lays the backgrounds of elements over each other (CSS Backgrounds 3, 2 and 3). */
export function groundsOf(page: StyledPage, view: ViewName, shades: Shades = 'own'): Grounds {
  const known = new Map<ElementNode, Rgba | null>();
  const canvas = canvasOf(page, view);
  const light: Light = { isDark: canvas !== white, shades };
  const beneath = (element: ElementNode): Rgba | null => {
    const before = known.get(element);
    if (before !== undefined) return before;
    const below = element.parent === null ? shaded(canvas, light) : beneath(element.parent);
    const style = page.styleOf(element, view);
    const ground = below === null || style === null ? below : laidOver(below, element, { style, light });
    known.set(element, ground);
    return ground;
  };
  const inkOn = (ground: Rgba, style: ComputedStyle): Rgba | null => {
    const color = inkOf(style, light);
    return color === null ? null : over(shaded(color, light), ground);
  };
  return { beneath, inkOn };
}

function shaded(color: Rgba, { shades }: Light): Rgba {
  return shades === 'inverted' ? turnedRound(color) : color;
}

function laidOver(
  below: Rgba,
  element: ElementNode,
  { style, light }: { readonly style: ComputedStyle; readonly light: Light },
): Rgba | null {
  const picture = style.get('background-image');
  if ((picture !== '' && picture !== 'none') || (attribute(element, 'background') ?? '') !== '') return null;
  const written = style.get('background-color');
  const isNone = written === '' || written === 'transparent';
  const own = isNone ? null : groundColor(written, style, light);
  const hint = own === null && !style.isAuthored('background-color') ? legacyGround(element) : null;
  const color = own ?? hint;
  return color === null ? below : over(shaded(color, light), below);
}

/** `bgcolor`, which mails still have everywhere. */
function legacyGround(element: ElementNode): Rgba | null {
  const value = attribute(element, 'bgcolor')?.trim() ?? '';
  if (value === '') return null;
  return readColor(value) ?? readColor(`#${value}`);
}

/** How much two colours differ for the eye (WCAG 2.2, contrast ratio). */
export function contrastOf(first: Rgba, second: Rgba): number {
  const [one, other] = [luminance(first), luminance(second)];
  return (Math.max(one, other) + 0.05) / (Math.min(one, other) + 0.05);
}

function luminance({ red, green, blue }: Rgba): number {
  return 0.2126 * linear(red) + 0.7152 * linear(green) + 0.0722 * linear(blue);
}

function linear(level: number): number {
  const part = level / 255;
  return part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4;
}

function groundColor(written: string, style: ComputedStyle, light: Light): Rgba | null {
  return /current/i.test(written)
    ? readColor(written, { current: inkOf(style, light), scheme: 'light' })
    : colorOf(written);
}

const colors = new Map<string, Rgba | null>();

/** A colour by itself, read once: a page has few, and each many times. */
function colorOf(written: string): Rgba | null {
  const known = colors.get(written);
  if (known !== undefined) return known;
  if (colors.size > 500) colors.clear();
  const color = readColor(written);
  colors.set(written, color);
  return color;
}

/** The colour that a style writes in; null where it is none that is known. */
function inkOf(style: ComputedStyle, { isDark }: Light): Rgba | null {
  const written = style.get('color');
  // What nobody colours is lighter in the dark, links too.
  if (isDark && written === '#0000ee' && !style.isAuthored('color')) return darkLink;
  if (written === '' || /^canvastext$/i.test(written)) return isDark ? white : black;
  return colorOf(written);
}

/** Whether a text counts as large (WCAG 2.2: 24 px, or 18.66 px and bold). */
export function isLarge(style: ComputedStyle): boolean {
  const size = parseFloat(style.get('font-size')) || 16;
  const weight = style.get('font-weight');
  const isBold = weight === 'bold' || weight === 'bolder' || Number(weight) >= 700;
  return size >= 24 || (size >= 18.66 && isBold);
}

/** The families of a `font-family`, without quotes. */
export function familiesIn(style: ComputedStyle): string[] {
  return splitValue(style.get('font-family'), ',').map((name) => name.trim().replace(/^["']|["']$/g, ''));
}

/** Whether a colour is dark rather than light. */
export function isDim(color: Rgba): boolean {
  return luminance(color) < 0.18;
}
