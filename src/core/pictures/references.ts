import { decodeHTMLAttribute } from 'entities';
import { decodedPieces } from '../html/decoded-value.js';
import { readMarkup, type WrittenAttribute, type WrittenTag } from '../html/markup.js';
import type { Doc } from '../html/tree.js';
import { holdsTag } from '../html/tags.js';
import { applyEdits, type Edit } from '../text/apply-edits.js';
import { spanAt, type Span } from '../text/span.js';
import { addressesInCss } from '../css/values/picture-addresses.js';
import { sourceCandidates } from './source-set.js';

/** How a document shows a picture. */
export type PictureUse = 'content' | 'background';

/** A place in a document that names a picture. */
export interface PictureReference {
  /** The address, decoded. */
  readonly path: string;
  /** The address as it is written; merge tags never stand in it. */
  readonly span: Span;
  readonly use: PictureUse;
  /** The element that names it; null in style sheets. */
  readonly tag: WrittenTag | null;
}

/** Markup, its template tags masked, and where they stand. */
type Markup = Pick<Doc, 'masked' | 'tags'> & { readonly source: Pick<Doc['source'], 'text'> };

/** Attributes that hold one address of a picture, by the elements that have them. */
const sourceAttributes: ReadonlyMap<string, readonly string[]> = new Map([
  ['img', ['src']],
  ['image', ['href', 'xlink:href', 'src']],
  ['feimage', ['href', 'xlink:href']],
  ['video', ['poster']],
]);

/**
 * All places of a document that name a picture, in order: `src` and `srcset`, backgrounds in attributes and styles, vector
 * shapes, and all of these in conditional comments. Addresses with a merge tag in them are left out.
 */
export function pictureReferences({ source: { text }, masked, tags }: Markup): PictureReference[] {
  const markup = readMarkup(masked);
  const inSheets = markup.styles.flatMap(({ start, end }) =>
    addressesInCss(masked.slice(start, end)).map((address): PictureReference => ({
      path: address.path,
      span: spanAt(start + address.span.start, address.span.end - address.span.start),
      use: 'background',
      tag: null,
    })),
  );
  const inTags = markup.tags.flatMap((tag) => tag.attributes.flatMap((item) => inAttribute(text, masked, tag, item)));
  const holdsTag = ({ start, end }: Span): boolean => tags.some((tag) => tag.start < end && tag.end > start);
  return [...inSheets, ...inTags]
    .filter(({ path, span }) => path !== '' && !holdsTag(span))
    .sort((a, b) => a.span.start - b.span.start);
}

function inAttribute(text: string, masked: string, tag: WrittenTag, attribute: WrittenAttribute): PictureReference[] {
  const { name, value } = attribute;
  if (value.start === value.end) return [];
  const found = (path: string, span: Span, use: PictureUse): PictureReference => ({ path, span, use, tag });
  if (name === 'style')
    return inDecoded(masked, value, (decoded) => addressesInCss(decoded)).map(({ path, span }) =>
      found(path, span, 'background'),
    );
  if (name === 'srcset' && (tag.tag === 'img' || tag.tag === 'source'))
    return inDecoded(masked, value, sourceCandidates).map(({ path, span }) => found(path, span, 'content'));
  const isSource = namesPicture(tag, name, text);
  if (!isSource && name !== 'background') return [];
  const raw = masked.slice(value.start, value.end);
  const inner = raw.trim();
  const span = spanAt(value.start + raw.indexOf(inner), inner.length);
  return [found(decodeHTMLAttribute(inner).trim(), span, isSource && !isShape(tag) ? 'content' : 'background')];
}

function namesPicture(tag: WrittenTag, name: string, text: string): boolean {
  if (isShape(tag)) return name === 'src';
  if (tag.tag === 'input') return name === 'src' && attributeOf(tag, 'type', text)?.trim().toLowerCase() === 'image';
  return sourceAttributes.get(tag.tag)?.includes(name) === true;
}

/** Vector shapes of the `word` engine, whose elements have this prefix. */
function isShape({ tag }: WrittenTag): boolean {
  return tag.startsWith('v:');
}

/** The value of an attribute of a tag, decoded; null where it has none. */
export function attributeOf({ attributes }: WrittenTag, name: string, text: string): string | null {
  const found = attributes.find((candidate) => candidate.name === name);
  return found === undefined ? null : decodeHTMLAttribute(text.slice(found.value.start, found.value.end));
}

interface Address {
  readonly path: string;
  readonly span: Span;
}

/** Finds addresses in the decoded value of an attribute, and says where they stand in the text. */
function inDecoded(text: string, value: Span, find: (decoded: string) => readonly Address[]): Address[] {
  const raw = text.slice(value.start, value.end);
  // The offsets in the raw value at which the characters of the decoded one begin.
  const starts: number[] = [];
  const decoded: string[] = [];
  for (const { text: plain, span, isPlain } of decodedPieces(raw)) {
    for (let at = 0; at < plain.length; at += 1) starts.push(span.start + (isPlain ? at : 0));
    decoded.push(plain);
  }
  starts.push(raw.length);
  return find(decoded.join('')).map(({ path, span }) => ({
    path,
    span: {
      start: value.start + (starts[span.start] ?? raw.length),
      end: value.start + (starts[span.end] ?? raw.length),
    },
  }));
}

/** Writes another address in the place of a reference. Characters that mean something in HTML or CSS are percent-encoded. */
export function withAddress({ span, tag }: PictureReference, address: string): Edit {
  const safe = address.replace(
    /[\s"'()<>\\`]/g,
    (character) => `%${character.charCodeAt(0).toString(16).toUpperCase().padStart(2, '0')}`,
  );
  return { span, text: tag === null ? safe : safe.replace(/&/g, '&amp;') };
}

/** What stands in all markup that names a picture. */
const NAMES_PICTURE = /src|background|poster|href|url|style\s*=[^>]*[&\\]/i;

/** A piece of markup, in which template tags stand as sentinels, with other addresses of its pictures. */
export function withPictures(markup: string, addressOf: (path: string) => string): string {
  if (!NAMES_PICTURE.test(markup)) return markup;
  const references = pictureReferences({ source: { text: markup }, masked: markup, tags: [] });
  return replaced(markup, references, addressOf);
}

/** CSS, in which template tags stand as sentinels, with other addresses of its pictures. */
export function withPicturesInCss(css: string, addressOf: (path: string) => string): string {
  if (!/url\(|image-set\(/i.test(css)) return css;
  const found = addressesInCss(css).map(({ path, span }): PictureReference => ({
    path,
    span,
    use: 'background',
    tag: null,
  }));
  return replaced(css, found, addressOf);
}

/** The decoded value of an attribute with other addresses of the pictures that it names. */
export function withPicturesInValue(
  element: { readonly tag: string; readonly attributes: ReadonlyMap<string, string> },
  name: string,
  value: string,
  addressOf: (path: string) => string,
): string {
  const { tag, attributes } = element;
  if (name === 'style') return withPicturesInCss(value, addressOf);
  if (name === 'srcset' && (tag === 'img' || tag === 'source')) {
    const found = sourceCandidates(value).map(({ path, span }): PictureReference => ({
      path,
      span,
      use: 'content',
      tag: null,
    }));
    return replaced(value, found, addressOf);
  }
  const isImageInput = tag === 'input' && name === 'src' && /^\s*image\s*$/i.test(attributes.get('type') ?? '');
  const isSource = isImageInput || name === 'background' || sourceAttributes.get(tag)?.includes(name) === true;
  return isSource && !holdsTag(value) ? addressOf(value) : value;
}

/** Addresses with a template tag in them are left as they are. */
function replaced(text: string, references: readonly PictureReference[], addressOf: (path: string) => string): string {
  const edits = references.flatMap((reference): Edit[] => {
    const address = holdsTag(reference.path) ? reference.path : addressOf(reference.path);
    return address === reference.path ? [] : [withAddress(reference, address)];
  });
  return edits.length === 0 ? text : applyEdits(text, edits).text;
}
