import { printColor, readColor, turnedRound } from '../css/values/mixed-color.js';

/** The schemes that a message is shown in; `inverted` is a program that turns colours round by itself. */
export const schemeNames = ['light', 'dark', 'inverted'] as const;

export type SchemeName = (typeof schemeNames)[number];

/**
 * The condition of a media query with the reader's scheme settled (Media Queries 5, 12.5): whatever the scheme of the window
 * around is, the page shows as in that one.
 */
export function settledMedia(condition: string, scheme: SchemeName): string {
  const own = scheme === 'dark' ? 'dark' : 'light';
  return condition.replace(/\(\s*prefers-color-scheme\s*(?::\s*([a-z-]+)\s*)?\)/gi, (_, asked: string | undefined) =>
    asked === undefined || asked.toLowerCase() === own ? '(min-width:0)' : '(max-width:0)',
  );
}

/** A value with the scheme settled: what is offered for both is what the reader has chosen (CSS Color Adjustment 1, 2). */
export function settledValue(property: string, value: string, scheme: SchemeName): string {
  return property === 'color-scheme' ? settledScheme(value, scheme) : value;
}

/** A list of schemes, of `color-scheme` or of a meta element, with the one that the reader has chosen. */
export function settledScheme(offered: string, scheme: SchemeName): string {
  const own = scheme === 'dark' ? 'dark' : 'light';
  const names = offered.toLowerCase().split(/\s+/);
  if (names.includes(own)) return own;
  return names.includes('dark') && !names.includes('light') ? 'dark' : 'light';
}

const coloured =
  /^(?:color|background|background-color|background-image|fill|stroke|caret-color|text-decoration|text-decoration-color|text-shadow|box-shadow|column-rule|column-rule-color|outline|outline-color|border(?:-.*)?)$/;

/** Words and functions that may be colours; what stands in quotes or in an address is none. */
const parts =
  /("[^"]*"|'[^']*'|url\([^)]*\))|#[0-9a-f]{3,8}\b|(?<![\w-])(?:rgba?|hsla?|hwb|lab|lch|oklab|oklch)\([^()]*\)|(?<![\w-])[a-z]+(?![\w(-])/gi;

/** A value with every colour as light as it was dark. */
export function invertedValue(property: string, value: string): string {
  if (!coloured.test(property)) return value;
  return value.replace(parts, (written, kept: string | undefined) =>
    kept === undefined ? invertedColor(written) : written,
  );
}

/** A colour turned round; anything else stays as it is. */
export function invertedColor(written: string): string {
  if (/^(?:transparent|currentcolor|none|inherit|initial|unset)$/i.test(written)) return written;
  const color = readColor(written);
  return color === null ? written : printColor(turnedRound(color));
}

/** What a page shows before it says anything, turned round. */
export const INVERTED_CANVAS = 'html{background-color:#000000;color:#ffffff}a:link{color:#1111ff}';
