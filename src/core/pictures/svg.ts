import { readMarkup } from '../html/markup.js';
import { attributeOf } from './references.js';
import { addressesInCss } from '../css/values/picture-addresses.js';

/** What a drawing holds beside shapes. */
export interface DrawingContents {
  /** Scripts, handlers of events, pages within the drawing: what would act. */
  readonly active: readonly string[];
  /** Addresses of things outside of the drawing that it shows. */
  readonly external: readonly string[];
  /** A document type with entities, which may unfold without bound. */
  readonly hasEntities: boolean;
}

const activeElements: ReadonlySet<string> = new Set([
  'script',
  'foreignobject',
  'iframe',
  'handler',
  'embed',
  'object',
]);

/** Whether a text is an SVG drawing: its root element says so, behind what may stand before it (XML 1.0, 2.8). */
export function isDrawing(text: string): boolean {
  const space = /\s*/y;
  for (let at: number | null = 0; at !== null;) {
    space.lastIndex = at;
    const start: number = at + (space.exec(text)?.[0].length ?? 0);
    at = afterProlog(text, start);
    if (at === start) return /^<(?:\w+:)?svg\b/i.test(text.slice(start, start + 100));
  }
  return false;
}

/** Where a declaration, a comment or a document type ends that begins here; the same place where none does, null where it has no end. */
function afterProlog(text: string, at: number): number | null {
  const after = (mark: string, from: number | null): number | null => {
    const found = from === null ? -1 : text.indexOf(mark, from);
    return found < 0 ? null : found + mark.length;
  };
  if (text.startsWith('<?', at)) return after('?>', at);
  if (text.startsWith('<!--', at)) return after('-->', at + 4);
  if (!/^<!doctype/i.test(text.slice(at, at + 9))) return at;
  const close = after('>', at);
  const subset = text.indexOf('[', at);
  return subset >= 0 && close !== null && subset < close ? after('>', after(']', subset)) : close;
}

/** Looks through an SVG drawing for what is more than a picture (SVG 2, 15 and 16). */
export function contentsOfDrawing(text: string): DrawingContents {
  const active = new Set<string>();
  const external = new Set<string>();
  const { tags, styles } = readMarkup(text);
  const note = (address: string): void => {
    if (/^\s*javascript:/i.test(address)) active.add('a script in an address');
    else if (!/^\s*(?:#|data:image\/(?!svg)|$)/i.test(address)) external.add(address.trim());
  };
  for (const tag of tags) {
    const local = tag.tag.replace(/^\w+:/, '');
    if (activeElements.has(local)) active.add(`<${tag.tag}>`);
    for (const { name } of tag.attributes) {
      const value = attributeOf(tag, name, text) ?? '';
      if (/^on\w/.test(name)) active.add(`${name}="…"`);
      // A link in a drawing leads somewhere, but shows nothing.
      else if (/(?:^|:)(?:href|src)$/.test(name) && local !== 'a') note(value);
      else if (/url\(/i.test(value)) addressesInCss(value).forEach(({ path }) => note(path));
    }
  }
  for (const { start, end } of styles) {
    const css = text.slice(start, end);
    addressesInCss(css).forEach(({ path }) => note(path));
    if (/@import/i.test(css)) external.add('@import');
  }
  if (/<\?xml-stylesheet/i.test(text)) external.add('<?xml-stylesheet?>');
  return { active: [...active], external: [...external], hasEntities: /<!ENTITY/i.test(text) };
}
