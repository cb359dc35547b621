import { addressesIn, baseOf, keyframeRules } from '../css/addresses.js';
import { parseDeclarationList, parseStyleSheet, type CssItem, type Declaration } from '../css/syntax.js';
import { attribute, elementsOf } from '../html/tree.js';
import type { SourceText } from '../text/source-text.js';
import type { MessageSource, Reference } from './read-message.js';

/**
 * The pictures that a message's styles name as backgrounds, by their paths seen from the message.
 * @param styleSheet the text of a linked style sheet by the path that the message gives
 */
export function backgroundPictures(
  message: MessageSource,
  styleSheet: (path: string) => SourceText | null,
): Reference[] {
  const ignore = (): void => undefined;
  const { doc } = message;
  const fromSheets = message.sheets.flatMap((sheet) => {
    if (sheet.kind === 'linked') {
      const source = styleSheet(sheet.path);
      if (source === null) return [];
      const items = parseStyleSheet(source, source.text, { start: 0, end: source.text.length }, ignore);
      return referencesIn(items, baseOf(sheet.path));
    }
    const start = sheet.element.startTag?.end ?? 0;
    const end = sheet.element.endTag?.start ?? sheet.element.span?.end ?? start;
    return referencesIn(parseStyleSheet(doc.source, doc.masked, { start, end }, ignore), '');
  });
  const fromAttributes = [...elementsOf(doc.root)].flatMap((element) => {
    const style = element.attributes.get('style');
    const text = attribute(element, 'style') ?? '';
    if (style === undefined || !/url\(/i.test(text)) return [];
    const declarations = parseDeclarationList(doc.source, text, { start: 0, end: text.length }, ignore);
    return referencesIn(declarations, '').map(({ path }) => ({
      path,
      place: { source: doc.source, span: style.span },
    }));
  });
  return [...fromSheets, ...fromAttributes];
}

function referencesIn(items: readonly CssItem[], base: string): Reference[] {
  return items.flatMap((item): Reference[] => {
    if (item.kind === 'declaration') return isBackground(item) ? referencesOf(item, base) : [];
    const keyframes = keyframeRules([item], base).flatMap(addressesIn);
    if (keyframes.length > 0) return keyframes.map((path) => ({ path, place: item.place }));
    return item.items === null ? [] : referencesIn(item.items, base);
  });
}

function isBackground({ property }: Declaration): boolean {
  return property === 'background' || property === 'background-image';
}

function referencesOf({ value, place }: Declaration, base: string): Reference[] {
  return addressesIn(value).map((path) => ({
    path: /^(?:[a-z][a-z\d+.-]*:|\/|#)/i.test(path) ? path : base + path,
    place,
  }));
}
