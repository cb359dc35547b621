import type { Place } from '../findings/finding.js';
import { attribute } from '../html/tree.js';
import type { AcceptedValue } from '../template/nodes.js';
import { readAccepts } from '../template/read-part.js';
import { valueSpan } from '../template/read-values.js';
import { spanAt, type Span } from '../text/span.js';
import type { DataShape, Shapes } from './data-shape.js';
import type { MarkupFile } from './markup-file.js';

/** What a part accepts, for who writes a use of it. */
export interface PartFacts {
  readonly tag: string;
  readonly accepts: readonly { readonly name: string; readonly fallback: string | null }[];
  /** The names of its slots; that of the default one is empty text. */
  readonly slots: readonly string[];
  /** What the comment before it says; empty where there is none. */
  readonly says: string;
}

/** What the files of a project say, as far as they can be read: what is wrong in one keeps nothing from being known of another. */
export interface ProjectFacts {
  readonly parts: ReadonlyMap<string, PartFacts>;
  readonly frames: readonly string[];
  /** The merge fields. */
  readonly fields: Shapes;
  /** The names of the dialects at hand. */
  readonly dialects: readonly string[];
  /** Classes that style sheets name, with where they do. */
  readonly classes: ReadonlyMap<string, readonly Place[]>;
  /** Topics, keywords and the like that messages say, by the name of the metadata. */
  readonly said: ReadonlyMap<string, readonly string[]>;
  /** What is known in every file: of the message, the project, the sender. */
  readonly shared: Shapes;
}

/** What a file of markup sees beside what it says itself. */
export interface FileScope {
  /** The build values that it sees. */
  readonly values: Shapes;
  /** For the file of a part, its tag. */
  readonly part: string | null;
}

/** Where a path of names leads, name by name, as far as it is known. */
export function followPath(segments: readonly string[], scope: (name: string) => DataShape | null): DataShape[] {
  const [first = '', ...rest] = segments;
  const start = scope(first);
  if (start === null) return [];
  const found = [start];
  for (const segment of rest) {
    const next = memberOf(found[found.length - 1] ?? start, segment);
    if (next === null) break;
    found.push(next);
  }
  return found;
}

function memberOf(shape: DataShape, name: string): DataShape | null {
  const item = /^\d+$/.test(name) ? shape.item : null;
  return shape.fields.get(name) ?? item;
}

/** What a part's file says of it. */
export function partFacts(tag: string, file: MarkupFile): PartFacts {
  const slots = file.elements.filter((element) => element.tag === 'slot').map((slot) => attribute(slot, 'name') ?? '');
  const comment = /^\s*<!--([\s\S]*?)-->/.exec(file.source.text)?.[1] ?? '';
  return { tag, accepts: acceptedBy(file), slots: [...new Set(slots)], says: comment.trim() };
}

/** What the `<template accepts>` of a part or a frame accepts. */
export function acceptedBy({ elements, doc }: MarkupFile): AcceptedValue[] {
  const holder = elements.find((element) => element.tag === 'template' && element.attributes.has('accepts'));
  return holder === undefined ? [] : readAccepts(doc, holder, () => undefined);
}

/** Where a name stands in what a part or a frame accepts. */
export function placesOfAccepted(file: MarkupFile, name: string): Place[] {
  return acceptedNames(file).flatMap((found) =>
    found.name === name ? [{ source: file.source, span: found.span }] : [],
  );
}

/** The names in what a part or a frame accepts, with their places. */
export function acceptedNames({ elements, source }: MarkupFile): { readonly name: string; readonly span: Span }[] {
  const item = elements.find(({ tag, attributes }) => tag === 'template' && attributes.has('accepts'));
  const span = valueSpan(source, item?.attributes.get('accepts'));
  const quoted = source.slice(span).replace(/"[^"]*"|'[^']*'/g, (text) => ' '.repeat(text.length));
  return [...quoted.matchAll(/[^\s=]+(?=\s*=|\s|$)/g)].flatMap(({ 0: name, index }) =>
    quoted.slice(0, index).trimEnd().endsWith('=') ? [] : [{ name, span: spanAt(span.start + index, name.length) }],
  );
}
