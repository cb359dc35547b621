import { readColor, type Rgba } from './mixed-color.js';
import { readQuantity, splitValue } from './value.js';

/** A linear gradient, read: colours along a line (CSS Images 3, 3.1). */
export interface Gradient {
  /** In degrees, clockwise from upwards. */
  readonly angle: number;
  /** In order; `at` is a share of the line. */
  readonly stops: readonly { readonly color: Rgba; readonly at: number }[];
}

const sideAngles: ReadonlyMap<string, number> = new Map([
  ['top', 0],
  ['right', 90],
  ['bottom', 180],
  ['left', 270],
  ['right top', 45],
  ['bottom right', 135],
  ['bottom left', 225],
  ['left top', 315],
]);

/** Reads `linear-gradient()` with stops in percent or none; null for any other. */
export function readGradient(value: string): Gradient | null {
  const inner = /^linear-gradient\((.*)\)$/is.exec(value.trim())?.[1];
  if (inner === undefined) return null;
  const parts = splitValue(inner, ',');
  const angle = angleOf(parts[0] ?? '');
  const stops = (angle === null ? parts : parts.slice(1)).map(readStop);
  const known = stops.filter((stop) => stop !== null);
  if (known.length !== stops.length || known.length < 2) return null;
  return { angle: angle ?? 180, stops: placed(known) };
}

/** The colour in the middle of a gradient: what stands for it where none can be shown. */
export function middleColor({ stops }: Gradient): Rgba | null {
  const after = stops.findIndex(({ at }) => at >= 0.5);
  const [before, next] = [stops[Math.max(0, after - 1)], stops[after < 0 ? stops.length - 1 : after]];
  if (before === undefined || next === undefined) return null;
  const share = next.at === before.at ? 0 : Math.min(1, Math.max(0, (0.5 - before.at) / (next.at - before.at)));
  const mix = (part: keyof Rgba): number => before.color[part] * (1 - share) + next.color[part] * share;
  return { red: mix('red'), green: mix('green'), blue: mix('blue'), alpha: mix('alpha') };
}

function angleOf(part: string): number | null {
  const side = /^to\s+(.+)$/i.exec(part)?.[1];
  if (side !== undefined) return sideAngles.get(splitValue(side.toLowerCase()).sort().join(' ')) ?? null;
  const quantity = readQuantity(part);
  const perTurn = { deg: 1, turn: 360, rad: 180 / Math.PI, grad: 0.9 }[quantity?.unit ?? ''];
  return quantity === null || perTurn === undefined ? null : quantity.number * perTurn;
}

function readStop(part: string): { color: Rgba; at: number | null } | null {
  const [written = '', place, ...more] = splitValue(part);
  const color = readColor(written);
  const quantity = place === undefined ? null : readQuantity(place);
  if (color === null || more.length > 0 || (place !== undefined && quantity?.unit !== '%')) return null;
  return { color, at: quantity === null ? null : quantity.number / 100 };
}

/** Stops without a place stand evenly between those that have one (CSS Images 3, 3.4.3). */
function placed(stops: readonly { color: Rgba; at: number | null }[]): Gradient['stops'] {
  const last = stops.length - 1;
  const known = stops.map(({ at }, index) => at ?? (index === 0 ? 0 : index === last ? 1 : null));
  return stops.map(({ color }, index) => {
    const own = known[index] ?? null;
    if (own !== null) return { color, at: own };
    const from = known.findLastIndex((at, other) => other < index && at !== null);
    const to = known.findIndex((at, other) => other > index && at !== null);
    const [low, high] = [known[from] ?? 0, known[to] ?? 1];
    return { color, at: low + ((high - low) * (index - from)) / (to - from) };
  });
}
