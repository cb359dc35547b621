import type { Condition, SheetSource } from './rules.js';
import { parseStyleSheet } from '../syntax/style-sheet.js';
import { finding, type Report } from '../../findings/finding.js';
import { maskStyleTags } from '../../html/mask.js';
import { findTags, type TagDelimiters } from '../../html/tags.js';
import { attribute, contentSpan, type Doc, type ElementNode, elementsOf, tagsWithin } from '../../html/tree.js';
import type { SourceText } from '../../text/source-text.js';
import type { Span } from '../../text/span.js';

/** A style sheet that takes part in inlining. */
export interface Sheet extends SheetSource {
  readonly kind: 'element' | 'link' | 'added';
  /** The `<style>` or `<link>`; null for a sheet that was added by hand. */
  readonly element: ElementNode | null;
  /** Where the rules stand in `source`. */
  readonly span: Span;
  /** True where the author asked that it be left alone. */
  readonly kept: boolean;
  /** What relative addresses in it count from, seen from the document: `styles/` or nothing. */
  readonly base: string;
}

/** A style sheet in a file of its own. */
export interface SheetFile {
  readonly source: SourceText;
  readonly base: string;
}

/**
 * The style sheets of a document, in cascade order: those added by hand, then its own and the linked ones as they stand.
 * @param linked gives a linked sheet by the path that the document names; null where it is not at hand
 */
export function readSheets(
  doc: Doc,
  added: readonly SheetFile[],
  linked: (element: ElementNode) => SheetFile | null,
  report: Report,
): Sheet[] {
  const byHand = { kind: 'added', element: null, conditions: [] } as const;
  const sheets = added.map((file) => sheetFromFile(file, byHand, doc.delimiters, report));
  for (const element of elementsOf(doc.root)) {
    const conditions = mediaConditions(doc, element);
    if (element.tag === 'style' && element.namespace === 'html')
      sheets.push(...styleElement(doc, element, conditions, report));
    const file = isStyleLink(element) ? linked(element) : null;
    if (file !== null) sheets.push(sheetFromFile(file, { kind: 'link', element, conditions }, doc.delimiters, report));
  }
  return sheets;
}

/** Whether an element links a style sheet that applies by itself. */
export function isStyleLink(element: ElementNode): boolean {
  const relations = element.tag === 'link' ? (attribute(element, 'rel') ?? '').toLowerCase().split(/\s+/) : [];
  return relations.includes('stylesheet') && !relations.includes('alternate');
}

function mediaConditions(doc: Doc, element: ElementNode): Condition[] {
  const media = element.attributes.get('media');
  if (media === undefined || media.value.trim() === '') return [];
  return [{ kind: 'media', text: media.value, place: { source: doc.source, span: media.span } }];
}

function styleElement(doc: Doc, element: ElementNode, conditions: Condition[], report: Report): Sheet[] {
  const type = (attribute(element, 'type') ?? '').trim().toLowerCase();
  const span = contentSpan(element);
  if (span === null || (type !== '' && type !== 'text/css')) return [];
  const { source, masked: text, tags } = doc;
  const items = parseStyleSheet({ source, text, span, tags }, report);
  const loose = tagsWithin(doc, span).flatMap((number) => tags[number] ?? []);
  const asked = attribute(element, 'data-inline')?.toLowerCase() === 'keep';
  const kept = asked || isCutByTags(source, text, loose, report);
  return [{ kind: 'element', element, source, text, items, conditions, span, kept, base: '' }];
}

function sheetFromFile(
  { source, base }: SheetFile,
  link: Pick<Sheet, 'kind' | 'element' | 'conditions'>,
  delimiters: readonly TagDelimiters[],
  report: Report,
): Sheet {
  const tags = findTags(source.text, delimiters);
  const text = maskStyleTags(source.text, tags);
  const span = source.whole;
  const items = parseStyleSheet({ source, text, span, tags: [] }, report);
  return { ...link, source, text, items, span, kept: isCutByTags(source, text, tags, report), base };
}

/** Whether a sheet holds nothing to keep an element for: white space, comments and the markers of old. */
export function isBlankSheet(css: string): boolean {
  return /^(?:\s|\/\*[\s\S]*?\*\/|<!--|-->)*$/.test(css);
}

/** Whether template tags stand between rules or declarations: which of them hold is then up to the platform. */
function isCutByTags(source: SourceText, masked: string, tags: readonly Span[], report: Report): boolean {
  const cut = tags.find(({ start }) => masked[start] === ' ');
  if (cut === undefined) return false;
  report(finding('style-cut-by-tag', { source, span: cut }, { tag: source.slice(cut) }));
  return true;
}
