import { familiesOf } from '../boxes/fonts.js';
import type { ComputedStyle } from '../../css/cascade/computed-style.js';

/** How wide letters are, in thousandths of the font size: by their width, the letters that have it. */
const sansSerif: readonly (readonly [width: number, letters: string])[] = [
  [222, 'ijl'],
  [278, 'ftI'],
  [333, 'r-'],
  [500, 'cksvxyzJ'],
  [556, 'abdeghnopquL0123456789'],
  [611, 'FTZ'],
  [667, 'ABEKPSVXY'],
  [722, 'wCDHNRU'],
  [778, 'GOQ'],
  [833, 'mM'],
  [944, 'W'],
];
const serif: readonly (readonly [width: number, letters: string])[] = [
  [278, 'ijlt'],
  [333, 'frI-'],
  [389, 'sJ'],
  [444, 'acez'],
  [500, 'bdghknopquvxy0123456789'],
  [556, 'FPS'],
  [611, 'ELTZ'],
  [667, 'BCR'],
  [722, 'wADGHKNOQUVXY'],
  [778, 'm'],
  [889, 'M'],
  [944, 'W'],
];

const byLetter = (table: typeof serif): ReadonlyMap<string, number> =>
  new Map(table.flatMap(([width, letters]) => [...letters].map((letter) => [letter, width / 1000] as const)));

/** The families whose letters are known to be this wide, or wider. */
const known: readonly (readonly [families: RegExp, widths: ReadonlyMap<string, number>])[] = [
  [/^(?:arial|helvetica|helvetica neue|sans-serif)$/i, byLetter(sansSerif)],
  [/^(?:times|times new roman|serif|georgia)$/i, byLetter(serif)],
];

/** The width of a character whose font is not known, in font sizes: rather too small, as it only tells what will not fit. */
const NARROW_CHARACTER = 0.45;

/** The width of any other character of a font that is known: that of a comma or a dot. */
const NARROWEST_CHARACTER = 0.25;

/** What pairs of letters that are moved together take off a word at the most, as a share of it. */
const KERNING = 0.03;

/** Bold letters are wider than others by this at the most. */
const BOLDNESS = 1.1;

/** Characters of a font that is known whose widths are not listed: the narrow signs, and all that are not written in Latin letters. */
const narrowSign = /[\s.,:;!'"|/\\()[\]{}*`\u2018-\u201d\u00b7]/u;
const wideSign = /[@%\u2014\u2026\u2122\u00a9\u00ae\u2e80-\u{10ffff}]/u;

/** A fallback for letters that no font of a family has may be wider than they are. */
const SLACK = 1.05;

/** How wide a text is at the most if it does not break, in px; null where it is not known how wide its letters are. */
export function textWidthIn(text: string, style: ComputedStyle): number | null {
  const widths = widthsOf(style);
  if (widths === null) return null;
  const letters = [...shownText(text, style).normalize('NFC')];
  const sum = letters.reduce((total, letter) => total + (widths.get(letter) ?? unlistedWidth(letter, widths)), 0);
  const weight = Number(style.get('font-weight')) >= 600 ? BOLDNESS : 1;
  const spacing = style.pixels('letter-spacing') ?? 0;
  return sum * sizeOf(style) * weight * SLACK + letters.length * spacing;
}

function unlistedWidth(letter: string, widths: ReadonlyMap<string, number>): number {
  if (narrowSign.test(letter)) return 0.36;
  if (wideSign.test(letter)) return 1.4;
  return widths.get(letter.normalize('NFD').charAt(0)) ?? 0.7;
}

function widthsOf(style: ComputedStyle): ReadonlyMap<string, number> | null {
  const [family = ''] = familiesOf(style.get('font-family'));
  return known.find(([families]) => families.test(family))?.[1] ?? null;
}

function sizeOf(style: ComputedStyle): number {
  return style.pixels('font-size') ?? 16;
}

/** A text as `text-transform` shows it, as far as it changes widths by much. */
function shownText(text: string, style: ComputedStyle): string {
  return style.get('text-transform') === 'uppercase' ? text.toUpperCase() : text;
}

/** How wide the longest word of a text is at the least, in px. Nothing is measured: what is said of common fonts is added up. */
export function longestWordIn(text: string, style: ComputedStyle): number {
  const size = sizeOf(style);
  const widths = widthsOf(style);
  const spacing = Math.max(0, style.pixels('letter-spacing') ?? 0);
  const shown = shownText(text, style);
  // Lines may end behind a hyphen or a slash.
  const words = shown.split(/\s+|(?<=[-/\u2010\u2013\u2014\u00ad\u200b])/u);
  const widthOf = (word: string): number => {
    const letters = [...word];
    if (widths === null) return letters.length * (size * NARROW_CHARACTER + spacing);
    const sum = letters.reduce((total, letter) => total + (widths.get(letter) ?? NARROWEST_CHARACTER), 0);
    return sum * size * (1 - KERNING) + letters.length * spacing;
  };
  return Math.max(0, ...words.map(widthOf));
}
