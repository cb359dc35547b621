import type { Place } from '../../findings/finding.js';
import type { CssItem } from '../../css/syntax/css-items.js';
import { splitValue } from '../../css/values/value.js';
import type { Page } from '../page/page.js';

/** The families that a `font` or `font-family` names, in lower case. */
export function namesIn(value: string): string[] {
  return splitValue(value, ',').map((part) => {
    const quoted = /["']([^"']+)["']\s*$/.exec(part)?.[1];
    return (quoted ?? part.trim().replace(/^.*\d\S*\s+(?=[a-z])/i, '')).trim().toLowerCase();
  });
}

/** The fonts that the style sheets of a page load. */
export function loadedFonts(page: Page): { readonly family: string; readonly place: Place }[] {
  return page.sheets.flatMap(({ items }) => fontFaces(items));
}

function fontFaces(items: readonly CssItem[]): { readonly family: string; readonly place: Place }[] {
  return items.flatMap((item) => {
    if (item.kind !== 'at-rule') return [];
    if (item.name !== 'font-face') return fontFaces(item.items ?? []);
    const written = item.place.source.slice(item.place.span);
    const family = /font-family\s*:\s*["']?([^;"'}]+)/i.exec(written)?.[1]?.trim();
    return family === undefined ? [] : [{ family, place: item.place }];
  });
}
