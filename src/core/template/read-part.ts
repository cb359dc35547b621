import { finding, type Report } from '../findings/finding.js';
import { attribute, elementsOf, firstElement, type Doc, type ElementNode, type TreeNode } from '../html/tree.js';
import { SourceText } from '../text/source-text.js';
import { spanAt, type Span } from '../text/span.js';
import type { AcceptedValue, Part, Template, TemplateNode } from './nodes.js';
import { parseTemplate, type Unsound } from './parse-template.js';
import { readTemplate } from './read-template.js';

/** Reads the file of a part. Null where it holds no part that could be used. */
export function readPart(source: SourceText, tag: string, report: Report, unsound: Unsound = 'refused'): Part | null {
  if (source.text.trim() === '') {
    report(finding('part-empty', { source, span: spanAt(0, 0) }, { tag }));
    return null;
  }
  const { doc, isSound } = parseTemplate(source, report, unsound);
  if (!isSound) return null;
  const holder = templateOf(doc);
  if (!holder?.startTag) {
    report(finding('part-empty', { source, span: spanAt(0, 0) }, { tag }));
    return null;
  }
  reportBesides(doc, holder, report);
  const span = { start: holder.startTag.end, end: holder.endTag?.start ?? holder.startTag.end };
  const styles = [...elementsOf(doc.root)].flatMap((element) =>
    element.tag === 'style' && element.span !== null ? [element.span] : [],
  );
  const roots = holder.children.filter((child) => child.kind === 'element' && child.tag !== 'style');
  const root = roots.length === 1 && roots[0]?.kind === 'element' && !isDirective(roots[0]) ? roots[0] : null;
  const template = readTemplate(doc, { span, root, isPage: false }, report);
  return {
    tag,
    template: withoutStyles(template, styles),
    accepts: readAccepts(doc, holder, report),
    styles,
    hasRoot: root !== null,
  };
}

function isDirective({ tag }: ElementNode): boolean {
  return tag === 'template' || tag === 'slot';
}

/** The `<template>` of a part's file. */
function templateOf(doc: Doc): ElementNode | null {
  return firstElement(doc.root, 'template');
}

/** A part is its template and its styles: what else stands in the file would show nowhere. */
function reportBesides(doc: Doc, holder: ElementNode, report: Report): void {
  const places: readonly TreeNode[] = ['head', 'body'].flatMap((tag) => firstElement(doc.root, tag)?.children ?? []);
  for (const node of places) {
    if (node === holder || node.kind === 'comment' || node.span === null) continue;
    if (node.kind === 'element' ? node.tag === 'style' : node.value.trim() === '') continue;
    const span = node.kind === 'element' ? (node.startTag ?? node.span) : trimmed(doc.source, node.span);
    report(finding('part-besides', { source: doc.source, span }));
  }
}

function trimmed(source: SourceText, span: Span): Span {
  const text = source.slice(span);
  const start = span.start + (text.length - text.trimStart().length);
  return spanAt(start, text.trim().length);
}

/** Styles stand once in the head of a message, however often the part is used. */
function withoutStyles(template: Template, styles: readonly Span[]): Template {
  const nodes = template.nodes.flatMap((node): TemplateNode[] => {
    if (node.kind !== 'text') return [node];
    const inside = styles.filter((style) => style.start >= node.span.start && style.end <= node.span.end);
    let position = node.span.start;
    const kept = inside.map((style) => {
      const before = { start: position, end: style.start };
      position = style.end;
      return before;
    });
    return [...kept, { start: position, end: node.span.end }].map((span) => ({ kind: 'text' as const, span }));
  });
  return { ...template, nodes };
}

const accepted = /\s*(?:([a-z_][\w-]*)(?:\s*=\s*(?:"([^"]*)"|'([^']*)'|([^\s"']+)))?|(\S+))/giy;

/** `name photo fee='free'`: names that a use must give, and names with what stands for them otherwise. */
export function readAccepts(doc: Doc, holder: ElementNode, report: Report): AcceptedValue[] {
  const written = holder.attributes.get('accepts');
  const values: AcceptedValue[] = [];
  for (const name of holder.attributes.keys())
    if (name !== 'accepts') report(finding('part-attribute', placeOf(doc, holder, name), { name }));
  const text = attribute(holder, 'accepts') ?? '';
  for (const [, name, double, single, bare, wrong] of text.matchAll(accepted)) {
    if (wrong !== undefined) {
      report(finding('part-accepts', placeOf(doc, holder, 'accepts'), { found: wrong }));
      break;
    }
    if (name === undefined) continue;
    if (values.some((value) => value.name.toLowerCase() === name.toLowerCase()))
      report(finding('part-accepts', placeOf(doc, holder, 'accepts'), { found: `${name} (twice)` }));
    values.push({ name, fallback: double ?? single ?? bare ?? null });
  }
  return written === undefined ? [] : values;
}

function placeOf(doc: Doc, element: ElementNode, name: string): { source: SourceText; span: Span } {
  return {
    source: doc.source,
    span: element.attributes.get(name)?.span ?? element.startTag ?? spanAt(0, 0),
  };
}

/** A frame: the document around a Markdown message. */
export interface Frame {
  readonly template: Template;
  readonly accepts: readonly AcceptedValue[];
  /** BCP 47 tag of the language of the page; null where it does not say. */
  readonly language: string | null;
}

/** Reads a frame: a whole page with a `<slot>` for the text; a `<template accepts="…">` may stand around it. */
export function readFrame(source: SourceText, report: Report, unsound: Unsound = 'refused'): Frame | null {
  const opening = /^(?:\s|<!--[\s\S]*?-->)*(<template\b(?:[^>"']|"[^"]*"|'[^']*')*>)/i.exec(source.text);
  const closing = /<\/template\s*>\s*$/i.exec(source.text);
  const wrapped = opening !== null && closing !== null;
  const accepts = wrapped ? acceptsOf(source, report) : [];
  const blank = (text: string): string => text.replace(/[^\r\n]/g, ' ');
  const openEnd = opening?.[0].length ?? 0;
  const openStart = openEnd - (opening?.[1]?.length ?? 0);
  const bare = wrapped
    ? new SourceText(
        source.name,
        source.text.slice(0, openStart) +
          blank(source.text.slice(openStart, openEnd)) +
          source.text.slice(openEnd, closing.index) +
          blank(source.text.slice(closing.index)),
      )
    : source;
  const { doc, isSound } = parseTemplate(bare, report, unsound);
  if (!isSound) return null;
  const span = { start: 0, end: bare.text.length };
  const template = readTemplate(doc, { span, root: null, isPage: true }, report);
  if (!template.slots.includes('')) {
    report(finding('frame-no-slot', { source: bare, span: firstElement(doc.root, 'body')?.startTag ?? spanAt(0, 0) }));
    return null;
  }
  return { template, accepts, language: attribute(doc.root, 'lang') };
}

function acceptsOf(source: SourceText, report: Report): AcceptedValue[] {
  const { doc } = parseTemplate(source, () => undefined);
  const holder = templateOf(doc);
  return holder === null ? [] : readAccepts(doc, holder, report);
}
