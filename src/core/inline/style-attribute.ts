import type { Edit } from '../text/apply-edits.js';
import { findTags } from '../html/tags.js';
import type { Doc, ElementNode } from '../html/tree.js';
import type { InlineEntry } from './element-styles.js';

/** A declaration ready to be written. */
export interface WrittenEntry {
  readonly property: string;
  readonly value: string;
  readonly important: boolean;
}

/** The written form of an element's entries, in order; a live value follows its fallback. */
export function writtenEntries(entries: readonly InlineEntry[], marked: ReadonlySet<InlineEntry>): WrittenEntry[] {
  return entries.flatMap((entry) => {
    const fromAttribute = entry.declared.origin === 'style-attribute' && entry.declared.declaration.important;
    const important = fromAttribute || marked.has(entry);
    const base = { property: entry.property, value: entry.value, important };
    return entry.live === null ? [base] : [base, { ...base, value: entry.live }];
  });
}

/** `color:red;margin:0 auto!important`, on one line. */
export function declarationsText(entries: readonly WrittenEntry[]): string {
  return entries
    .map(({ property, value, important }) => `${property}:${value}${important ? '!important' : ''}`)
    .join(';');
}

/** An attribute to be written into a start tag. */
export interface NewAttribute {
  readonly name: string;
  readonly value: string;
}

/**
 * The edits that give a start tag its attributes: one that stands there already is written over, others go behind the
 * last one. Nothing else in the tag changes.
 */
export function attributeEdits(doc: Doc, element: ElementNode, attributes: readonly NewAttribute[]): Edit[] {
  if (element.startTag === null) return [];
  const edits: Edit[] = [];
  let added = '';
  for (const { name, value } of attributes) {
    const present = element.attributes.get(name);
    if (present === undefined) added += ` ${writeAttribute(doc, name, value)}`;
    else {
      const written = doc.source.slice(present.span);
      const ownName = /^[^\s=/>]+/.exec(written)?.[0] ?? name;
      edits.push({ span: present.span, text: writeAttribute(doc, ownName, value) });
    }
  }
  const at = insertionPoint(doc, element);
  if (added !== '') edits.push({ span: { start: at, end: at }, text: added });
  return edits;
}

/** Behind the last attribute, or behind the tag's name. Template tags between attributes stay where they are. */
function insertionPoint(doc: Doc, element: ElementNode): number {
  const start = element.startTag?.start ?? 0;
  const nameEnd = start + (/^<[^\s/>]+/.exec(doc.masked.slice(start, start + 200))?.[0].length ?? 1);
  return Math.max(nameEnd, ...[...element.attributes.values()].map(({ span }) => span.end));
}

/** Writes an attribute; template tags in the value are taken as they are, so the quotes must suit them. */
function writeAttribute(doc: Doc, name: string, value: string): string {
  const pieces = splitAtTags(doc, value);
  const tagText = pieces
    .filter(({ isTag }) => isTag)
    .map(({ text }) => text)
    .join('');
  const quote = tagText.includes('"') && !tagText.includes("'") ? "'" : '"';
  const escape = (text: string): string =>
    quote === '"' ? doubleQuoted(text) : text.replace(/&/g, '&amp;').replace(/'/g, '&#39;');
  return `${name}=${quote}${pieces.map(({ text, isTag }) => (isTag ? text : escape(text))).join('')}${quote}`;
}

/** Inside double quotes, strings of CSS change their quotes rather than be escaped, where they can. */
function doubleQuoted(text: string): string {
  const requoted = text.replace(/"([^"'\\]*)"/g, "'$1'");
  return requoted.replace(/&/g, '&amp;').replace(/"/g, '&quot;');
}

function splitAtTags(doc: Doc, value: string): { text: string; isTag: boolean }[] {
  const pieces: { text: string; isTag: boolean }[] = [];
  let position = 0;
  for (const { start, end } of doc.tags.length === 0 ? [] : findTags(value, doc.delimiters)) {
    pieces.push({ text: value.slice(position, start), isTag: false }, { text: value.slice(start, end), isTag: true });
    position = end;
  }
  return [...pieces, { text: value.slice(position), isTag: false }];
}
