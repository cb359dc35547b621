import { tellingErrors } from '../../findings/wording/html.js';
import { finding, type Finding, type Place } from '../../findings/finding.js';
import { firstIndex, type Span } from '../../text/span.js';
import { contentSpan, type Doc, type ElementNode, elementsOf } from '../tree.js';
import { unpairedTags } from './balance.js';
import type { ParseError } from '../parse.js';
import { optionalEndTag, voidElements } from '../vocabulary.js';

/**
 * Checks that a document is well formed: every tag that needs one has its end tag, every end tag has its start, and
 * the tokens are sound. Returns findings in document order.
 */
export function checkStructure(doc: Doc, errors: readonly ParseError[]): Finding[] {
  const unclosed = unclosedFindings(doc);
  // All that stands behind it is its text: there are no end tags.
  const swallowing = unclosed.find(({ data }) => /^(?:title|style|script|textarea)$/.test(data['tag'] ?? ''));
  const end = swallowing?.place?.span.start ?? Infinity;
  const strays = strayFindings(doc).filter(({ place }) => (place?.span.start ?? 0) < end);
  const findings = [...tokenFindings(doc, errors), ...unclosed, ...strays];
  return findings.sort((a, b) => (a.place?.span.start ?? 0) - (b.place?.span.start ?? 0));
}

/**
 * The same for finished HTML, whose tags are taken as they are written: a tag that is left out is one finding, at the place
 * where its element begins. A cell or paragraph that is never closed is told where its like are closed.
 */
export function checkPairs(doc: Doc, errors: readonly ParseError[]): Finding[] {
  const pairs = unpairedTags(doc.masked).map(({ kind, tag, span, before, isOptional }) => {
    if (kind === 'stray') return finding('stray-end-tag', at(doc, span), { tag, why: '' });
    const where =
      before === null
        ? ''
        : `, at the latest before the </${before.tag}> in line ${doc.source.lineColumn(before.span.start).line}`;
    return finding(isOptional ? 'end-tag-left-out' : 'unclosed-tag', at(doc, span), { tag, where });
  });
  return [...tokenFindings(doc, errors), ...pairs];
}

function tokenFindings(doc: Doc, errors: readonly ParseError[]): Finding[] {
  return errors.flatMap(({ code, span }) => {
    const detail = tellingErrors.get(code);
    return detail === undefined ? [] : [finding('markup-broken', at(doc, widened(doc, span)), { detail })];
  });
}

/** The parser points behind what it complains of; a person wants to see the word itself. */
function widened(doc: Doc, span: Span): Span {
  if (span.end > span.start) return span;
  const word = /[\w:-]+$/.exec(doc.source.text.slice(Math.max(0, span.start - 100), span.start));
  return word === null ? span : { start: span.start - word[0].length, end: span.start };
}

function unclosedFindings(doc: Doc): Finding[] {
  const findings: Finding[] = [];
  const seen = new Set<number>();
  for (const element of elementsOf(doc.root)) {
    if (element.startTag === null || seen.has(element.tagId) || !lacksEndTag(doc, element)) continue;
    seen.add(element.tagId);
    findings.push(
      finding('unclosed-tag', at(doc, element.startTag), { tag: element.tag, where: whereToClose(doc, element) }),
    );
  }
  return findings;
}

function lacksEndTag(doc: Doc, element: ElementNode): boolean {
  if (element.endTag !== null || voidElements.has(element.tag) || optionalEndTag.has(element.tag)) return false;
  const selfClosed = element.namespace !== 'html' && doc.source.text[(element.startTag?.end ?? 0) - 2] === '/';
  return !selfClosed;
}

function whereToClose(doc: Doc, element: ElementNode): string {
  const closer = element.parent?.endTag ?? null;
  if (closer === null) return '';
  return `, at the latest before the </${element.parent?.tag ?? ''}> in line ${doc.source.lineColumn(closer.start).line}`;
}

/** End tags in the source that no element of the tree claims. */
function strayFindings(doc: Doc): Finding[] {
  const claimed = new Set<number>();
  const opaque: Span[] = [...doc.tags];
  for (const element of elementsOf(doc.root)) {
    if (element.endTag !== null) claimed.add(element.endTag.start);
    for (const child of element.children) if (child.kind === 'comment' && child.span !== null) opaque.push(child.span);
    const content = contentSpan(element);
    if (content !== null && /^(?:style|script|title|textarea)$/.test(element.tag)) opaque.push(content);
    if (element.startTag !== null) opaque.push(element.startTag);
  }
  for (const node of doc.outside) if (node.span !== null) opaque.push(node.span);
  const findings: Finding[] = [];
  const hidden = coverage(opaque);
  for (const match of doc.source.text.matchAll(/<\/([a-z][^\s/>]*)[^>]*>/gi)) {
    const tag = (match[1] ?? '').toLowerCase();
    if (claimed.has(match.index) || hidden(match.index) || (optionalEndTag.has(tag) === true && isImpliedTwice(tag)))
      continue;
    findings.push(
      finding('stray-end-tag', at(doc, { start: match.index, end: match.index + match[0].length }), {
        tag,
        why: tag === 'p' ? ': a paragraph ends where a block begins in it' : '',
      }),
    );
  }
  return findings;
}

/** `</body>` and `</html>` end nothing until the end of the file; the parser keeps only the last of several. */
function isImpliedTwice(tag: string): boolean {
  return tag === 'html' || tag === 'body' || tag === 'head';
}

function coverage(spans: readonly Span[]): (offset: number) => boolean {
  const merged: { start: number; end: number }[] = [];
  for (const span of [...spans].sort((a, b) => a.start - b.start)) {
    const last = merged[merged.length - 1];
    if (last !== undefined && span.start < last.end) last.end = Math.max(last.end, span.end);
    else merged.push({ ...span });
  }
  return (offset) => {
    const span = merged[firstIndex(merged.length, (index) => (merged[index]?.end ?? 0) > offset)];
    return span !== undefined && span.start <= offset;
  };
}

function at(doc: Doc, span: Span): Place {
  return { source: doc.source, span };
}
