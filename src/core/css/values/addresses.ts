import type { CssItem } from '../syntax/css-items.js';

const ADDRESS = /url\(\s*(["']?)(.*?)\1\s*\)/gi;

/** Moves relative `url(…)` addresses of a sheet to where the document stands. */
export function rebaseAddresses(value: string, base: string): string {
  if (base === '' || !/url\(/i.test(value)) return value;
  return value.replace(ADDRESS, (whole, quote: string, path: string) =>
    isRelative(path) ? `url(${quote}${base}${path}${quote})` : whole,
  );
}

/** The addresses in a value, as written. */
export function addressesIn(value: string): string[] {
  return [...value.matchAll(ADDRESS)].map((match) => match[2] ?? '').filter((path) => path !== '');
}

/** The folder of a path, with its slash: what relative addresses in the file count from. */
export function baseOf(path: string): string {
  return path.replace(/[^/]*$/, '');
}

function isRelative(path: string): boolean {
  return path !== '' && !/^(?:[a-z][a-z\d+.-]*:|\/|#)/i.test(path);
}

/** The items of a sheet with their addresses moved to where the document stands. */
export function rebaseItems(items: readonly CssItem[], base: string): readonly CssItem[] {
  if (base === '') return items;
  return items.map((item): CssItem => {
    if (item.kind === 'declaration') return { ...item, value: rebaseAddresses(item.value, base) };
    return item.items === null ? item : { ...item, items: rebaseItems(item.items, base) };
  });
}

/** The `@keyframes` rules among items, as written, with their addresses moved to where the document stands. */
export function keyframeRules(items: readonly CssItem[], base: string): string[] {
  return items.flatMap((item): string[] => {
    if (item.kind !== 'at-rule') return [];
    if (/^(?:-\w+-)?keyframes$/.test(item.name))
      return [rebaseAddresses(item.place.source.slice(item.place.span), base)];
    return item.items === null ? [] : keyframeRules(item.items, base);
  });
}
