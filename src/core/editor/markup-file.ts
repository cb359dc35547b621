import { parseHtml } from '../html/parse.js';
import { buildDelimiters, findTags, neutralDelimiters } from '../html/tags.js';
import { contentSpan, type Doc, type ElementNode, elementsOf } from '../html/tree.js';
import { valueSpan } from '../template/read-values.js';
import { splitFrontMatter } from '../template/message-template.js';
import { parseExpressionInHtml, type Expression } from '../expressions/expression.js';
import { readNeutralTags } from '../dialects/read/read-neutral.js';
import type { MergeTag } from '../dialects/model.js';
import { SourceText } from '../text/source-text.js';
import type { Span } from '../text/span.js';
import { yamlTree, type YamlNode } from '../yaml/yaml-tree.js';

/** A loop over build values: where its name holds. */
export interface BuildLoop {
  readonly item: string;
  readonly itemSpan: Span;
  readonly list: Expression | null;
  readonly content: Span;
}

/** A file of markup, read once for all that an editor asks of it. */
export interface MarkupFile {
  readonly source: SourceText;
  readonly doc: Doc;
  readonly elements: readonly ElementNode[];
  /** The expressions of build values and of the attributes that take one. */
  readonly expressions: readonly Expression[];
  readonly loops: readonly BuildLoop[];
  /** Merge tags in order; those that cannot be read are `broken`. */
  readonly mergeTags: readonly MergeTag[];
  /** The front matter of a Markdown message. */
  readonly front: { readonly span: Span; readonly tree: YamlNode | null } | null;
}

/** Reads a message, a part or a frame, in HTML or Markdown, as far as it can be read. */
export function readMarkupFile(source: SourceText): MarkupFile {
  const front = source.name.endsWith('.md') ? splitFrontMatter(source).frontMatter : null;
  const bare = front === null ? source : new SourceText(source.name, blank(source.text, front));
  const { doc } = parseHtml(bare, [neutralDelimiters, buildDelimiters], 'within');
  const elements = [...elementsOf(doc.root)];
  const loops = elements.flatMap((element) => loopOf(source, element));
  const all = findTags(source.text, [neutralDelimiters, buildDelimiters]);
  const written = all.flatMap((span) => tagsIn(source, span));
  const inTags = written.flatMap(({ span, isMerge }) => (isMerge ? [] : expressionOf(source, span)));
  const inAttributes = elements.flatMap((element) =>
    element.tag === 'template' ? attributeExpressions(source, element) : [],
  );
  return {
    source,
    doc,
    elements,
    expressions: [...inTags, ...inAttributes, ...loops.flatMap(({ list }) => list ?? [])],
    loops,
    mergeTags: readNeutralTags(
      source,
      written.flatMap(({ span, isMerge }) => (isMerge ? [span] : [])),
      () => undefined,
    ),
    front: front === null ? null : { span: front, tree: yamlTree(frontText(source, front)) },
  };
}

/** The YAML between the lines of `---`. */
function frontText(source: SourceText, front: Span): string {
  return source.slice(front).replace(/^---/, '   ');
}

function blank(text: string, { start, end }: Span): string {
  return text.slice(0, start) + text.slice(start, end).replace(/[^\r\n]/g, ' ') + text.slice(end);
}

/** A tag, and those that stand within it: a build value in a merge tag, or a merge tag in a text of a build value. */
function tagsIn(source: SourceText, span: Span): { span: Span; isMerge: boolean }[] {
  const written = source.slice(span);
  const isMerge = written.startsWith('@{');
  if (!isMerge && !written.startsWith('${')) return [];
  const inner = findTags(written.slice(2), [isMerge ? buildDelimiters : neutralDelimiters]);
  const within = inner.map((at) => ({
    span: { start: span.start + 2 + at.start, end: span.start + 2 + at.end },
    isMerge: !isMerge,
  }));
  return [{ span, isMerge }, ...within];
}

function expressionOf(source: SourceText, span: Span): Expression[] {
  const raw = /^\s*\+/.exec(source.slice(span).slice(2))?.[0].length ?? 0;
  const { expression } = parseExpressionInHtml(source, { start: span.start + 2 + raw, end: span.end - 1 });
  return expression === null ? [] : [expression];
}

function attributeExpressions(source: SourceText, element: ElementNode): Expression[] {
  const condition = element.attributes.get('if');
  if (condition === undefined) return [];
  const { expression } = parseExpressionInHtml(source, valueSpan(source, condition));
  return expression === null ? [] : [expression];
}

function loopOf(source: SourceText, element: ElementNode): BuildLoop[] {
  const each = element.tag === 'template' ? element.attributes.get('each') : undefined;
  if (each === undefined || element.span === null) return [];
  const span = valueSpan(source, each);
  const match = /^(\s*)([A-Za-z_]\w*)\s+of\s+/.exec(source.slice(span));
  if (match === null) return [];
  const item = match[2] ?? '';
  const start = span.start + (match[1] ?? '').length;
  const { expression } = parseExpressionInHtml(source, { start: span.start + match[0].length, end: span.end });
  const content = contentSpan(element) ?? element.span;
  return [{ item, itemSpan: { start, end: start + item.length }, list: expression, content }];
}
