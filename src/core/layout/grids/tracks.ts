import { pixelsWithinMath } from '../../css/values/math.js';
import { formatNumber, readQuantity, splitValue } from '../../css/values/value.js';
import { shortPixels } from '../boxes/box-style.js';

/** A column of a grid: a share of what other columns leave, px, a share of the whole grid, or as wide as its content. */
export interface Track {
  readonly kind: 'fraction' | 'pixels' | 'percent' | 'content';
  /** The factor of a fraction, px, or percent; 0 for content. */
  readonly size: number;
  /** What a fraction measures at the least, in px. */
  readonly least: number;
}

/** The most columns that a grid may have. */
const MOST_TRACKS = 24;

/**
 * Reads `grid-template-columns` (CSS Grid Layout 2, 7.2): `repeat(3, 1fr)`, `160px 1fr`, `auto 1fr`, `minmax(120px, 1fr) 30%`.
 * Null for what has no equal in a table, such as a number of columns that is not known.
 */
export function readTracks(value: string): Track[] | null {
  if (value === 'none') return [{ kind: 'fraction', size: 1, least: 0 }];
  const tracks: Track[] = [];
  for (const part of splitValue(value.replace(/\[[^\]]*\]/g, ' '))) {
    const repeat = /^repeat\(\s*(\d+)\s*,(.*)\)$/.exec(part);
    if (repeat !== null) {
      const inner = readTracks((repeat[2] ?? '').trim());
      const times = Number(repeat[1]);
      if (inner === null || times < 1 || times * inner.length > MOST_TRACKS) return null;
      for (let time = 0; time < times; time += 1) tracks.push(...inner);
      continue;
    }
    const track = readTrack(part);
    if (track === null) return null;
    tracks.push(track);
  }
  return tracks.length > 0 && tracks.length <= MOST_TRACKS ? tracks : null;
}

/**
 * Which rows of `grid-template-rows` take what an item over several of them has left (CSS Grid Layout 2, 11.7); none where
 * all are as high as their content. Null for heights that rows of a table cannot have: several shares are of one height.
 * @param height whether the grid itself says how high it is
 */
export function growingRows(value: string, height: 'of content' | 'stated'): boolean[] | null {
  if (value === 'none') return [];
  const rows = splitValue(value.replace(/\[[^\]]*\]/g, ' ')).flatMap((part) => {
    const [, times = '1', inner = part] = /^repeat\(\s*(\d+)\s*,\s*([^)\s]+)\s*\)$/.exec(part) ?? [];
    return Array.from({ length: Math.min(Number(times), MOST_TRACKS) }, () => inner);
  });
  const growing = rows.map((row) => readQuantity(row)?.unit === 'fr');
  const isKnown = rows.every((row, at) => growing[at] === true || /^(?:auto|min-content|max-content)$/.test(row));
  const shares = growing.filter(Boolean).length;
  return isKnown && shares <= (height === 'stated' ? 0 : 1) ? growing : null;
}

function readTrack(part: string): Track | null {
  const minmax = /^minmax\((.*)\)$/.exec(part);
  if (minmax !== null) {
    const [low = '', high = ''] = splitValue(minmax[1] ?? '', ',');
    const track = readTrack(high.trim());
    const least = /^(?:auto|min-content|0)$/.test(low.trim()) ? 0 : pixelsIn(low.trim());
    if (track === null || least === null) return null;
    if (track.kind === 'fraction') return { ...track, least };
    return track.kind === 'pixels' && least >= track.size ? { ...track, size: least } : null;
  }
  if (/^(?:auto|max-content)$/.test(part)) return { kind: 'content', size: 0, least: 0 };
  const quantity = readQuantity(part);
  if (quantity?.unit === 'fr' && quantity.number > 0) return { kind: 'fraction', size: quantity.number, least: 0 };
  if (quantity?.unit === '%') return { kind: 'percent', size: quantity.number, least: 0 };
  const pixels = pixelsIn(part);
  return pixels === null ? null : { kind: 'pixels', size: pixels, least: 0 };
}

/** A length that follows nothing, in px. */
function pixelsIn(value: string): number | null {
  return value.includes('%') ? null : pixelsWithinMath(value, 0);
}

export function printTrack({ kind, size }: Track): string {
  if (kind === 'fraction') return `${formatNumber(size)}fr`;
  if (kind === 'percent') return `${formatNumber(size, 6)}%`;
  return kind === 'content' ? 'auto' : shortPixels(size);
}

/** The width of some neighbouring columns with the gaps between them, in a grid of a width; null where it follows from content. */
export function tracksWidth(
  tracks: readonly Track[],
  { first, span, gap, room }: { first: number; span: number; gap: number; room: number },
): number | null {
  const own = tracks.slice(first, first + span);
  if (own.some(({ kind }) => kind === 'content')) return null;
  const fixed = (track: Track): number =>
    track.kind === 'pixels' ? track.size : track.kind === 'percent' ? (track.size * room) / 100 : 0;
  const hasContent = tracks.some(({ kind }) => kind === 'content');
  if (hasContent && own.some(({ kind }) => kind === 'fraction')) return null;
  const taken = tracks.reduce((sum, track) => sum + fixed(track), 0) + gap * (tracks.length - 1);
  const total = tracks.reduce((sum, { kind, size }) => sum + (kind === 'fraction' ? size : 0), 0);
  const share = total === 0 ? 0 : Math.max(0, room - taken) / total;
  return own.reduce(
    (sum, track) => sum + (track.kind === 'fraction' ? share * track.size : fixed(track)),
    gap * (own.length - 1),
  );
}
