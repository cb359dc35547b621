import { finding, type Report } from '../findings/finding.js';
import { buildDelimiters, findTags, neutralDelimiters } from '../html/tags.js';
import type { Attribute } from '../html/tree.js';
import { parseExpressionInHtml, type Expression } from '../expressions/expression.js';
import type { SourceText } from '../text/source-text.js';
import { spanAt, type Span } from '../text/span.js';
import type { MergeNode, Template, TemplateNode, ValueNode } from './nodes.js';
import { valueSpan as attributeValueSpan } from '../html/decoded-value.js';

/** Where a build value stands: white space would end the value of an attribute without quotes. */
type ValuePlace = 'unquoted attribute' | 'elsewhere';

/** A build value, or a merge tag that holds some; null for a plain merge tag. */
export function readTag(
  source: SourceText,
  span: Span,
  at: ValuePlace,
  report: Report,
): ValueNode | MergeNode | { kind: 'literal'; span: Span } | null {
  const written = source.slice(span);
  if (written === '$${') return { kind: 'literal', span };
  if (written.startsWith('${')) return readValue(source, span, at, report);
  const inner = findTags(written, [buildDelimiters]);
  if (inner.length === 0 || written === '@@{') return null;
  const pieces: MergeNode['pieces'][number][] = [];
  let position = span.start;
  for (const found of inner) {
    const value = { start: span.start + found.start, end: span.start + found.end };
    pieces.push({ start: position, end: value.start });
    const before = written.slice(0, found.start).replace(/\\./g, '');
    const quoted = (before.match(/"/g)?.length ?? 0) % 2 === 1 || (before.match(/'/g)?.length ?? 0) % 2 === 1;
    pieces.push({ ...readValue(source, value, 'elsewhere', report), quoted });
    position = value.end;
  }
  return { kind: 'merge', pieces: [...pieces, { start: position, end: span.end }], span };
}

/** The value of an attribute in the source, without quotes. */
export function valueSpan(source: SourceText, item: Pick<Attribute, 'span'> | undefined): Span {
  return item === undefined ? spanAt(0, 0) : attributeValueSpan({ source, tags: [] }, item);
}

/** Reads a line of text with build values, such as the name of an edition or a parameter of links. */
export function readLine(source: SourceText, span: Span, report: Report): Template {
  const nodes: TemplateNode[] = [];
  let position = span.start;
  for (const tag of findTags(source.slice(span), [buildDelimiters])) {
    const at = { start: span.start + tag.start, end: span.start + tag.end };
    if (at.start > position) nodes.push({ kind: 'text', span: { start: position, end: at.start } });
    nodes.push(source.slice(at) === '$${' ? { kind: 'literal', span: at } : readValue(source, at, 'elsewhere', report));
    position = at.end;
  }
  if (position < span.end) nodes.push({ kind: 'text', span: { start: position, end: span.end } });
  return { source, nodes, uses: [], slots: [] };
}

/** Reads `${…}` or `${+…}`. */
function readValue(source: SourceText, span: Span, at: ValuePlace, report: Report): ValueNode {
  const inner = source.slice({ start: span.start + 2, end: span.end - 1 });
  const raw = /^\s*\+/.exec(inner)?.[0].length ?? 0;
  const expression = readExpression(source, { start: span.start + 2 + raw, end: span.end - 1 }, report);
  return { kind: 'value', expression, raw: raw > 0, unquoted: at === 'unquoted attribute', span };
}

/** Reads an expression that stands in markup. Null, with a finding, where it cannot be read. */
export function readExpression(source: SourceText, span: Span, report: Report): Expression | null {
  const outsideQuotes = source
    .slice(span)
    .replace(/"(?:[^"\\]|\\.)*"|'(?:[^'\\]|\\.)*'/g, (text) => ' '.repeat(text.length));
  const tag = outsideQuotes.indexOf(neutralDelimiters.open);
  if (tag >= 0) {
    report(finding('merge-in-build', { source, span: spanAt(span.start + tag, 2) }));
    return null;
  }
  const { expression, error } = parseExpressionInHtml(source, span);
  if (error !== null) report(finding('build-syntax', { source, span: error.span }, { detail: error.detail }));
  return expression;
}
