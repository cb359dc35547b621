import culori from 'culori/require';
import { splitValue } from './value.js';

/** A colour in sRGB: parts from 0 to 255, opacity from 0 to 1. */
export interface Rgba {
  readonly red: number;
  readonly green: number;
  readonly blue: number;
  readonly alpha: number;
}

/** What a colour may refer to. */
export interface ColorContext {
  /** What `currentcolor` comes to. */
  readonly current: Rgba | null;
  readonly scheme: 'light' | 'dark';
}

const unknown: ColorContext = { current: null, scheme: 'light' };

/**
 * Reads a colour in any notation of CSS Color 4, and `color-mix()` and `light-dark()` of CSS Color 5; what lies outside
 * sRGB is brought to its edge, as browsers do on its screens.
 * @returns null for what is no such colour
 */
export function readColor(value: string, context: ColorContext = unknown): Rgba | null {
  return hexColor(value) ?? anyColor(value, context);
}

/** `#rgb` and `#rrggbb`: most colours are written so, and to take in the library of all others takes longer than to read them. */
function hexColor(value: string): Rgba | null {
  const [, digits = ''] = /^#([\da-f]{3}|[\da-f]{6})$/i.exec(value) ?? [];
  if (digits === '') return null;
  const part = (index: number): number =>
    parseInt(digits.length === 3 ? digits.charAt(index).repeat(2) : digits.slice(2 * index, 2 * index + 2), 16);
  return { red: part(0), green: part(1), blue: part(2), alpha: 1 };
}

function anyColor(value: string, context: ColorContext): Rgba | null {
  const color = parse(value, context);
  if (color === null) return null;
  const { r, g, b, alpha = 1 } = culori.rgb(color);
  const [red, green, blue] = [r, g, b].map((part) => Math.min(255, Math.max(0, (part || 0) * 255)));
  return { red: red ?? 0, green: green ?? 0, blue: blue ?? 0, alpha };
}

/** Whether old engines read a colour as it is written. */
function isPlainColor(value: string): boolean {
  return /^#(?:[0-9a-f]{3}|[0-9a-f]{6})$|^[a-z]+$|^rgba?\((?:\s*[\d.]+\s*,){2,3}\s*[\d.]+\s*\)$/i.test(value);
}

/** `#rrggbb`, or `rgba()` with commas where it is not opaque. */
export function printColor({ red, green, blue, alpha }: Rgba): string {
  const parts = [red, green, blue].map(Math.round);
  if (alpha < 1) return `rgba(${parts.join(',')},${Number(alpha.toFixed(3))})`;
  return `#${parts.map((part) => part.toString(16).padStart(2, '0')).join('')}`;
}

/** A colour laid over an opaque one (Compositing and Blending 1, 5.1). */
export function over(upper: Rgba, lower: Rgba): Rgba {
  const mix = (a: number, b: number): number => a * upper.alpha + b * (1 - upper.alpha);
  return {
    red: mix(upper.red, lower.red),
    green: mix(upper.green, lower.green),
    blue: mix(upper.blue, lower.blue),
    alpha: 1,
  };
}

/** What a program that turns colours round makes of one: as light as it was dark, of the same hue. */
export function turnedRound({ red, green, blue, alpha }: Rgba): Rgba {
  const sum = Math.max(red, green, blue) + Math.min(red, green, blue);
  const turn = (part: number): number => Math.min(255, Math.max(0, part + 255 - sum));
  return { red: turn(red), green: turn(green), blue: turn(blue), alpha };
}

/** Every colour of a value that old engines do not read, in a notation that they do; others stay as they are. */
export function withPlainColors(value: string, context: ColorContext): string {
  if (!/[a-z]\(/i.test(value)) return value;
  return value.replace(colorFunction, (written) => {
    const color = isPlainColor(written) ? null : readColor(written, context);
    return color === null ? written : printColor(color);
  });
}

/** A function that makes a colour, with functions within it. */
const colorFunction =
  /(?<![\w-])(?:rgba?|hsla?|hwb|lab|lch|oklab|oklch|color|color-mix|light-dark)\((?:[^()]|\((?:[^()]|\((?:[^()]|\([^()]*\))*\))*\))*\)/gi;

type Color = NonNullable<ReturnType<typeof culori.parse>>;

function parse(value: string, context: ColorContext): Color | null {
  const written = value.trim();
  if (/^currentcolor$/i.test(written)) {
    const { current } = context;
    if (current === null) return null;
    return { mode: 'rgb', r: current.red / 255, g: current.green / 255, b: current.blue / 255, alpha: current.alpha };
  }
  const call = /^(color-mix|light-dark)\((.*)\)$/is.exec(written);
  if (call === null) return /\bfrom\b|calc\(/i.test(written) ? null : plainColor(written);
  const parts = splitValue(call[2] ?? '', ',');
  if (/^light-dark$/i.test(call[1] ?? ''))
    return parts.length === 2 ? parse(parts[context.scheme === 'dark' ? 1 : 0] ?? '', context) : null;
  return mixed(parts, context);
}

/** A colour that refers to no other. Case does not count, and the old notations bring parts that are too large to their edge. */
function plainColor(written: string): Color | null {
  const color = culori.parse(written.toLowerCase());
  if (color === undefined) return null;
  const within = (part: number): number => Math.min(1, Math.max(0, part));
  if (color.mode === 'hsl') return { ...color, s: within(color.s) };
  if (color.mode !== 'rgb' || /^color\(/i.test(written)) return color;
  return { ...color, r: within(color.r), g: within(color.g), b: within(color.b) };
}

/** Interpolation spaces by their names in CSS (CSS Color 4, 12.1). */
const spaces: ReadonlyMap<string, string> = new Map([
  ...['hsl', 'hwb', 'lch', 'oklch', 'lab', 'oklab', 'xyz50', 'xyz65'].map((name) => [name, name] as const),
  ['srgb', 'rgb'],
  ['srgb-linear', 'lrgb'],
  ['display-p3', 'p3'],
  ['a98-rgb', 'a98'],
  ['prophoto-rgb', 'prophoto'],
  ['rec2020', 'rec2020'],
  ['xyz', 'xyz65'],
  ['xyz-d65', 'xyz65'],
  ['xyz-d50', 'xyz50'],
]);

/** Mixes two colours by their shares (CSS Color 5, 3); hues go the shorter way. */
function mixed([method = '', ...items]: readonly string[], context: ColorContext): Color | null {
  const named = /^in\s+([\w-]+)(?:\s+shorter\s+hue)?$/i.exec(method);
  const space = spaces.get((named?.[1] ?? '').toLowerCase());
  if (space === undefined || items.length !== 2) return null;
  const read = items.map((item) => {
    const [, before, after] = /^(?:([\d.]+)%\s)?.*?(?:\s([\d.]+)%)?$/s.exec(item) ?? [];
    const share = before ?? after;
    const color = parse(item.replace(/^[\d.]+%\s|\s[\d.]+%$/, ''), context);
    return { color, share: share === undefined ? null : Number(share) / 100 };
  });
  const [first, second] = read;
  if (first === undefined || second === undefined || first.color === null || second.color === null) return null;
  const a = first.share ?? (second.share === null ? 0.5 : 1 - second.share);
  const b = second.share ?? 1 - a;
  if (a + b <= 0 || a < 0 || b < 0) return null;
  const at = culori.interpolateWithPremultipliedAlpha([first.color, second.color], space as 'rgb')(b / (a + b));
  const dims = Math.min(1, a + b);
  return dims === 1 ? at : { ...at, alpha: (at.alpha ?? 1) * dims };
}
