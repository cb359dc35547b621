import { finding, type Report } from '../findings/finding.js';
import { findTags, neutralDelimiters, replaceSentinels, sentinel, sentinelFree } from '../html/tags.js';
import { attribute, elementsOf } from '../html/tree.js';
import { pathsIn } from '../expressions/expression.js';
import { systemValues, type MergeTag } from '../dialects/model.js';
import { checkBlocks, checkNames, readNeutralTags, withDeclaredFallbacks } from '../dialects/read/read-neutral.js';
import { shownLink } from '../plaintext/links.js';
import type { SourceText } from '../text/source-text.js';
import { spanAt, type Span } from '../text/span.js';
import type { MessageSetting, MessageSource } from './read-message.js';

/** A plain-text version that an author wrote: `messages/<name>.txt`. */
export interface WrittenText {
  readonly source: SourceText;
  /** What it says, with merge tags as sentinels; lines end with LF. */
  readonly text: string;
  readonly tags: readonly MergeTag[];
}

/** Reads a text version, its build values filled in, and reports what is wrong with its merge tags. */
export function readWrittenText(source: SourceText, setting: MessageSetting, report: Report): WrittenText {
  const spans = findTags(source.text, [neutralDelimiters]);
  const tags = withDeclaredFallbacks(readNeutralTags(source, spans, report), setting.fields);
  reportUnclosed(source, spans, report);
  checkBlocks(tags, report);
  checkNames(tags, setting.fields, setting.buildNames ?? new Set(), report);
  const pieces: string[] = [];
  let position = 0;
  spans.forEach((span, index) => {
    pieces.push(sentinelFree(source.slice({ start: position, end: span.start })), sentinel(index));
    position = span.end;
  });
  pieces.push(sentinelFree(source.text.slice(position)));
  return { source, text: pieces.join('').replace(/\r\n?/g, '\n'), tags };
}

function reportUnclosed(source: SourceText, spans: readonly Span[], report: Report): void {
  const isInTag = (offset: number): boolean => spans.some((span) => span.start <= offset && offset < span.end);
  for (const match of source.text.matchAll(/@\{/g)) {
    if (!isInTag(match.index))
      report(finding('tag-unclosed', { source, span: spanAt(match.index, 2) }, { tag: '@{', literal: '@@{' }));
  }
}

/** An address on the web, up to what ends it in a text. */
const WEB_ADDRESS = /https?:\/\/[^\s<>"'`|\\^]+/g;

/** Changes each web address of a text. What closes the sentence or the brackets around one does not belong to it. */
export function withAddresses(text: string, change: (address: string) => string): string {
  return text.replace(WEB_ADDRESS, (found) => {
    const address = withoutEnd(found);
    return change(address) + found.slice(address.length);
  });
}

function withoutEnd(found: string): string {
  let end = found.length;
  const opening = found.indexOf('(');
  while (end > 0 && /[.,;:!?)\]}]/.test(found.charAt(end - 1))) {
    // A bracket that the address itself has opened belongs to it.
    if (found.charAt(end - 1) === ')' && opening >= 0) break;
    end -= 1;
  }
  return found.slice(0, end);
}

/** Reports where a text version and its message have come out of step: links, and what merge tags print. */
export function checkWrittenText(own: WrittenText, message: { readonly source: MessageSource }, report: Report): void {
  checkLinks(own, message, report);
  checkTags(own, message, report);
}

function checkLinks(
  own: WrittenText,
  { source: { doc, tags } }: { readonly source: MessageSource },
  report: Report,
): void {
  const text = asWritten(own.text, own.tags);
  const named: string[] = [];
  withAddresses(own.text, (address) => {
    named.push(asWritten(address, own.tags));
    return address;
  });
  const linked: string[] = [];
  for (const element of elementsOf(doc.root)) {
    const href = element.tag === 'a' || element.tag === 'area' ? element.attributes.get('href') : undefined;
    const address = shownLink(attribute(element, 'href'));
    // A link that is one merge tag is looked for among the tags.
    if (href === undefined || address === null || /^\uFDD0\d+\uFDD1$/.test(address)) continue;
    const full = asWritten(address, tags);
    linked.push(full);
    const isWeb = /^https?:/i.test(full);
    const isThere = isWeb ? named.some((other) => sameAddress(other, full)) : text.includes(withoutScheme(full));
    if (isThere) continue;
    const data = { address: full, path: own.source.name };
    report(finding('text-link-missing', { source: doc.source, span: href.span }, data));
  }
  for (const address of named.filter((candidate) => !linked.some((known) => sameAddress(known, candidate)))) {
    const span = spanAt(Math.max(0, own.source.text.indexOf(address)), address.length);
    report(finding('text-link-extra', { source: own.source, span }, { address }));
  }
}

/** A text with its merge tags as their author wrote them. */
function asWritten(text: string, tags: readonly MergeTag[]): string {
  return replaceSentinels(text, (index) => tags[index]?.place.source.slice(tags[index].place.span) ?? '');
}

function withoutScheme(address: string): string {
  return address.replace(/^(?:mailto|tel):/i, '');
}

function sameAddress(a: string, b: string): boolean {
  return a.replace(/\/$/, '') === b.replace(/\/$/, '');
}

function checkTags(own: WrittenText, { source }: { readonly source: MessageSource }, report: Report): void {
  const body = source.tags.filter(({ place }) => !isInHead(source.doc.source.text, place.span));
  const [inText, inMessage] = [printed(own.tags), printed(body)];
  for (const [name, place] of inMessage)
    if (!inText.has(name)) report(finding('text-tag-missing', place, { tag: `@{${name}}`, path: own.source.name }));
  for (const [name, place] of inText)
    if (!inMessage.has(name)) report(finding('text-tag-extra', place, { tag: `@{${name}}` }));
}

function isInHead(text: string, { start }: Span): boolean {
  const end = text.search(/<\/head\s*>|<body\b/i);
  return start < end;
}

/** What tags print, by the names of fields, with the first place of each. Items of loops count by what they are items of. */
function printed(tags: readonly MergeTag[]): Map<string, MergeTag['place']> {
  const names = new Map<string, MergeTag['place']>();
  const items = new Set(tags.flatMap((tag) => (tag.kind === 'each' ? [tag.item] : [])));
  for (const tag of tags) {
    const value = tag.kind === 'output' ? tag.value : tag.kind === 'each' ? tag.list : null;
    for (const { segments } of value === null ? [] : pathsIn(value)) {
      const full = segments.join('.');
      const name = systemValues.has(full) ? full : (segments[0] ?? '');
      if (!items.has(name) && !names.has(name)) names.set(name, tag.place);
    }
  }
  return names;
}
