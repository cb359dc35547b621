import type { Declared } from '../css/cascade/cascade.js';
import { isMath, mathPixels, plainLengths, readMath } from '../css/values/math.js';
import { readQuantity, splitValue } from '../css/values/value.js';
import { DESKTOP_VIEWPORT } from './content/room.js';

/** Lengths that follow the window, or the width of a container that does. */
const followsWindow = /\d[dsl]?v(?:w|i|min|max)\b/i;
const shareOfWidth = /^(?:padding|margin|inset|gap|row-gap|column-gap|grid-gap)/;

/** Viewport widths at which values that follow the window are exact: those of phones, and of windows above them. */
const usualWidths = [320, 360, 375, 390, 414, 430, 480, 540, 600] as const;

/** Wide windows between which a message of its full width may still change. */
const wideWidths = [640, 680, 700, 720, 760, 800, 840, 880, 920, 960, 1000, 1040, 1080, 1120, 1160];

/**
 * The widths of the window at which a message whose lengths follow it gets states of its own, in each of which such a length
 * has one value; none where no length does.
 */
export function fluidThresholds(declared: readonly (readonly Declared[])[], conditions: readonly number[]): number[] {
  const seen = new Set<Declared['declaration']>();
  const bounds = new Set<number>();
  let isFluid = false;
  for (const { declaration, origin } of declared.flat()) {
    if (origin === 'browser' || seen.has(declaration)) continue;
    seen.add(declaration);
    const { property, value } = declaration;
    if (follows(property, value)) isFluid = true;
    if (followsWindow.test(value)) for (const part of splitValue(value)) bounds.add(settledAt(part) ?? 0);
    const bound = /^(?:max-)?width$/.test(property) ? readQuantity(value) : null;
    if (bound?.unit === 'px' && bound.number >= 400 && bound.number <= 900) bounds.add(Math.round(bound.number));
  }
  if (!isFluid) return [];
  const widest = Math.max(600, ...bounds);
  const edges = [...conditions, ...bounds].filter((width) => width >= usualWidths[0]);
  const wide = wideWidths.filter((width) => width < widest + 100);
  // Just above the end of a state another layout begins.
  return [...new Set([...usualWidths, ...edges, ...edges.map((width) => width + 1), ...wide, widest + 1])];
}

/**
 * The width of the window from which on a length no longer follows it: where `min()` or `clamp()` bounds it. Null where that
 * is not in windows in which mails are read, or nothing bounds it.
 */
function settledAt(value: string): number | null {
  const at = (viewportWidth: number): number | null => {
    const length = isMath(value) ? readMath(value, { ...plainLengths, viewportWidth }) : null;
    return length?.kind === 'sum' || length === null ? (length?.pixels ?? null) : mathPixels(length, 0);
  };
  const end = at(DESKTOP_VIEWPORT);
  if (end === null || end !== at(2 * DESKTOP_VIEWPORT)) return null;
  let [low, high] = [0, DESKTOP_VIEWPORT];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (at(middle) === end) high = middle;
    else low = middle;
  }
  return high;
}

function follows(property: string, value: string): boolean {
  if (followsWindow.test(value)) return true;
  if (!value.includes('%')) return false;
  // A share of a fixed number of px (`100% - 40px`) is said by margins and bounds where it stands alone.
  const isSimple =
    /^calc\(\s*100%\s*-\s*[\d.]+(?:px|em|rem)\s*\)$|^min\(\s*(?:100%\s*,\s*[\d.]+px|[\d.]+px\s*,\s*100%)\s*\)$/i.test(
      value,
    );
  if (/^(?:max-)?width$/.test(property) && isSimple) return false;
  return shareOfWidth.test(property) || property.startsWith('--') || /(?:calc|min|max|clamp)\(/i.test(value);
}
