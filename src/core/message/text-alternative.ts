import { parseHtml } from '../html/parse.js';
import { escapeAttribute, escapeText } from '../html/escape.js';
import { neutralDelimiters } from '../html/tags.js';
import { elementsOf, type Doc, type ElementNode } from '../html/tree.js';
import { MappedText, type Piece } from '../text/mapped-text.js';
import type { SourceText } from '../text/source-text.js';
import type { Span } from '../text/span.js';

/** The attribute by which authors say what a text version has in place of an element's content. */
const ATTRIBUTE = 'data-text';

/**
 * A message as its text version sees it: elements with `data-text` hold what the attribute says; where that is empty, they
 * are left out. To the HTML version the attribute says nothing, and is gone.
 */
export function withTextAlternatives(source: SourceText, medium: 'html' | 'text'): SourceText {
  if (!source.text.includes(ATTRIBUTE)) return source;
  const { doc } = parseHtml(source, [neutralDelimiters]);
  const replaced: { span: Span; text: string }[] = [];
  let end = 0;
  for (const element of elementsOf(doc.root)) {
    const said = element.attributes.get(ATTRIBUTE);
    if (said === undefined || element.span === null || said.span.start < end) continue;
    const edit = medium === 'html' ? { span: said.span, text: '' } : alternativeEdit(element, said, doc);
    replaced.push(edit);
    end = edit.span.end;
  }
  return replaced.length === 0 ? source : pieced(source, replaced);
}

function alternativeEdit(
  element: ElementNode,
  said: { readonly value: string; readonly span: Span },
  doc: Doc,
): { span: Span; text: string } {
  const whole = element.span ?? said.span;
  const tagOf = (index: number): string => doc.source.slice(doc.tags[index] ?? { start: 0, end: 0 });
  const text = escapeText(said.value.trim(), tagOf).replace(/[ \t]*\r?\n[ \t]*/g, '<br>');
  const inner = { start: element.startTag?.end ?? whole.start, end: element.endTag?.start ?? whole.end };
  if (element.tag === 'img') {
    const alt = element.attributes.get('alt');
    return { span: (alt ?? said).span, text: `alt="${escapeAttribute(said.value.trim(), tagOf)}"` };
  }
  if (/^t[dh]$/.test(element.tag)) return { span: inner, text };
  if (text === '') return { span: whole, text: '' };
  if (element.tag === 'tr') return { span: inner, text: `<td>${text}</td>` };
  if (/^t(?:head|body|foot)$/.test(element.tag)) return { span: inner, text: `<tr><td>${text}</td></tr>` };
  return keepsTag.has(element.tag) ? { span: inner, text } : { span: whole, text: `<div>${text}</div>` };
}

/** Elements whose tag still says something of other content; any other becomes a plain block. */
const keepsTag: ReadonlySet<string> = new Set(
  'a abbr address b blockquote caption cite code dd dt em figcaption font h1 h2 h3 h4 h5 h6 i label li p s small span strong sub sup u'.split(
    ' ',
  ),
);

/** A text with pieces replaced, which still knows where everything else comes from. */
function pieced(source: SourceText, replaced: readonly { span: Span; text: string }[]): SourceText {
  const pieces: Piece[] = [];
  const copy = (span: Span): unknown =>
    pieces.push({ text: source.slice(span), origin: { source, span }, exact: true, uses: [] });
  let position = 0;
  for (const { span, text } of replaced) {
    copy({ start: position, end: span.start });
    pieces.push({ text, origin: { source, span }, exact: false, uses: [] });
    position = span.end;
  }
  copy({ start: position, end: source.text.length });
  return new MappedText(source.name, pieces);
}
