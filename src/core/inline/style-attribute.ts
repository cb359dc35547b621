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

/**
 * The written form of an element's entries, in order; a live value follows its fallback.
 * @param place the head takes live values that a style attribute cannot hold
 */
export function writtenEntries(
  entries: readonly InlineEntry[],
  marked: ReadonlySet<InlineEntry>,
  place: 'attribute' | 'head' = 'attribute',
): WrittenEntry[] {
  return entries.flatMap((entry) => {
    const fromAttribute = entry.declared.origin === 'style-attribute' && entry.declared.declaration.important;
    const important = fromAttribute || marked.has(entry);
    const base = { property: entry.property, value: entry.value, important };
    const live = { ...base, value: entry.live ?? '' };
    if (entry.liveInHead) return place === 'head' ? [live] : [base];
    return entry.live === null ? [base] : [base, live];
  });
}

/** `color:red;margin:0 auto!important`, on one line. */
export function declarationsText(entries: readonly WrittenEntry[]): string {
  return entries
    .map(({ property, value, important }) =>
      property === '' ? value : `${property}:${value}${important ? '!important' : ''}`,
    )
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
    if (present === undefined) added += ` ${name}=${quotedValue(doc, value, '"')}`;
    else {
      const written = doc.source.slice(present.span);
      const [, before = `${name}=`, quote = ''] = /^([^\s=/>]+\s*=\s*)(["']?)/.exec(written) ?? [];
      edits.push({ span: present.span, text: before + quotedValue(doc, value, quote === "'" ? "'" : '"') });
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

/** A value in quotes: the author's, unless a template tag in it, which is taken as it is, needs the others. */
function quotedValue(doc: Doc, value: string, preferred: '"' | "'"): string {
  const pieces = splitAtTags(doc, value);
  const tagText = pieces
    .filter(({ isTag }) => isTag)
    .map(({ text }) => text)
    .join('');
  const other = preferred === '"' ? "'" : '"';
  const quote = tagText.includes(preferred) && !tagText.includes(other) ? other : preferred;
  const escape = quote === '"' ? doubleQuoted : singleQuoted;
  return `${quote}${pieces.map(({ text, isTag }) => (isTag ? text : escape(text))).join('')}${quote}`;
}

/** Inside double quotes, strings of CSS change their quotes rather than be escaped, where they can. */
function doubleQuoted(text: string): string {
  const requoted = text.replace(/"([^"'\\]*)"/g, "'$1'");
  return requoted.replace(/&/g, '&amp;').replace(/"/g, '&quot;');
}

function singleQuoted(text: string): string {
  const requoted = text.replace(/'([^"'\\]*)'/g, '"$1"');
  return requoted.replace(/&/g, '&amp;').replace(/'/g, '&#39;');
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
