import { parseHtml } from '../html/parse.js';
import type { TagDelimiters } from '../html/tags.js';
import { attribute, elementsOf, firstElement, type Doc, type ElementNode, type TreeNode } from '../html/tree.js';
import { SourceText } from '../text/source-text.js';
import type { Span } from '../text/span.js';

/** A page in two pieces, for platforms that take them apart. */
export interface SplitPage {
  /** What its style elements hold, and what `<body>` and `<html>` say. */
  readonly css: string;
  /** What stands in its body, in an element that says what `<body>` and `<html>` say, for where there is no style sheet. */
  readonly body: string;
}

/**
 * Takes a finished page apart, so that the style sheet and the body, put into another page, show what the page shows.
 * Conditional comments of the head go to the beginning of the body, where the engines that read them find them too.
 * @param delimiters of the merge tags in the page
 */
export function splitPage(html: string, delimiters: readonly TagDelimiters[]): SplitPage {
  const { doc } = parseHtml(new SourceText('index.html', html), delimiters);
  const head = firstElement(doc.root, 'head');
  const body = firstElement(doc.root, 'body');
  if (body === null) return { css: '', body: html };
  const sheets = (head?.children ?? []).flatMap((node) => sheetOf(node, doc));
  // Imports count only before all other rules (CSS Cascading Level 5, 2).
  const isImport = (sheet: string): boolean => /^\s*@import\b/.test(sheet);
  const css = [
    ...sheets.filter(isImport),
    ...bodyRules(doc, body),
    ...withBody(
      sheets.filter((sheet) => !isImport(sheet)),
      classesOf(body),
    ),
  ];
  const comments = (head?.children ?? []).flatMap((node) =>
    node.kind === 'comment' && /^\[if [^\]]*\]>[^]*<!\[endif\]$/.test(node.value) ? [textOf(node.span, doc)] : [],
  );
  const inner = doc.source.slice({
    start: body.startTag?.end ?? 0,
    end: body.endTag?.start ?? doc.root.endTag?.start ?? html.length,
  });
  const content = [...comments, `<div${wrapperAttributes(doc, body)}>${inner.trimEnd()}`, '</div>'];
  return { css: css.map((sheet) => `${sheet.trim()}\n`).join(''), body: `${content.join('\n')}\n` };
}

function sheetOf(node: TreeNode, doc: Doc): string[] {
  if (node.kind !== 'element' || node.tag !== 'style') return [];
  const text = textOf(
    { start: node.startTag?.end ?? 0, end: node.endTag?.start ?? node.startTag?.end ?? 0 },
    doc,
  ).trim();
  const media = attribute(node, 'media');
  return [media === null ? text : `@media ${media}{\n${text}\n}`];
}

function textOf(span: Span | null, doc: Doc): string {
  return span === null ? '' : doc.source.slice(span);
}

/** The canvas of a page has the colour of its body; what the schemes are, a `<meta>` says. */
function bodyRules(doc: Doc, body: ElementNode): string[] {
  const style = attributeText(body, 'style', doc);
  const schemes = [...elementsOf(doc.root)].find(
    (element) => element.tag === 'meta' && attribute(element, 'name') === 'color-scheme',
  );
  const scheme = schemes === undefined ? null : attribute(schemes, 'content');
  return [...(scheme === null ? [] : [`:root{color-scheme:${scheme}}`]), ...(style === '' ? [] : [`body{${style}}`])];
}

/** Rules for the class of the body, for the body itself too: of it remains only the element around its content. */
function withBody(sheets: readonly string[], classes: readonly string[]): string[] {
  return sheets.map((sheet) =>
    classes.reduce((text, name) => text.replace(new RegExp(`\\.${name}(?=\\s*[{,])`, 'g'), `.${name},body`), sheet),
  );
}

function classesOf(body: ElementNode): string[] {
  return (attribute(body, 'class') ?? '').split(/\s+/).filter((name) => /^[\w-]+$/.test(name));
}

function wrapperAttributes(doc: Doc, body: ElementNode): string {
  const kept = [
    ...['xmlns:v', 'lang', 'dir'].map((name) => [name, attributeText(doc.root, name, doc)] as const),
    ...['class', 'style'].map((name) => [name, attributeText(body, name, doc)] as const),
  ];
  return kept
    .filter(([, value]) => value !== '')
    .map(([name, value]) => ` ${name}="${value}"`)
    .join('');
}

/** The value of an attribute as it is written, without its quotes. */
function attributeText(element: ElementNode, name: string, doc: Doc): string {
  const span = element.attributes.get(name)?.span ?? null;
  return /^[^=]*=\s*"([^"]*)"$/.exec(textOf(span, doc))?.[1] ?? '';
}
