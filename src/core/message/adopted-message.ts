import { parseHtml } from '../html/parse.js';
import { escapeHtml } from '../html/escape.js';
import {
  attribute,
  elementsOf,
  firstElement,
  textContent,
  type Doc,
  type ElementNode,
  type TreeNode,
} from '../html/tree.js';
import { neutralDelimiters, replaceSentinels } from '../html/tags.js';
import { pictureReferences, withAddress } from '../pictures/references.js';
import { applyEdits, type Edit } from '../text/apply-edits.js';
import { SourceText } from '../text/source-text.js';
import { spanAt } from '../text/span.js';

/** Finished HTML that becomes a message of a project. */
export interface AdoptRequest {
  /** The finished HTML, with neutral merge tags and regions. */
  readonly html: string;
  /** The subject, where something besides the HTML says it. */
  readonly subject: string | null;
  /** The path of a picture from the message's file, by the address that the HTML gives; null for what stays. */
  readonly picturePath: (address: string) => string | null;
}

/**
 * The text of a message that looks as the finished HTML does: its styles and its body stay as they are, in a piece that
 * layout leaves alone.
 */
export function adoptedMessage({ html, subject, picturePath }: AdoptRequest): string {
  const text = withPictures(withPlainPictures(withoutBuildValues(html)), picturePath);
  const source = new SourceText('adopted', text);
  const { doc } = parseHtml(source, [neutralDelimiters]);
  const body = firstElement(doc.root, 'body');
  const head = firstElement(doc.root, 'head');
  const written = (value: string): string =>
    replaceSentinels(value, (index) => source.slice(doc.tags[index] ?? spanAt(0, 0)));
  const title = firstElement(doc.root, 'title');
  const ownTitle = title === null ? '' : written(textContent(title)).replace(/\s+/g, ' ').trim();
  const language = attribute(doc.root, 'lang') ?? 'en';
  const styles = [...elementsOf(head ?? doc.root)].flatMap(({ tag, span }) =>
    tag === 'style' && span !== null ? [source.slice(span)] : [],
  );
  const style = body === null ? '' : bodyStyle(doc);
  return [
    '<!doctype html>',
    `<html lang="${escapeHtml(language)}">`,
    '<head>',
    `<title>${escapeHtml(subject ?? (ownTitle === '' ? 'Untitled' : ownTitle))}</title>`,
    ...styles,
    '</head>',
    style === '' ? '<body>' : `<body style="${style}">`,
    '<div data-raw>',
    bodyContent(doc, source).trim(),
    '</div>',
    '</body>',
    '</html>',
    '',
  ].join('\n');
}

/** What a source file takes for a build value stands for itself in finished HTML. */
function withoutBuildValues(html: string): string {
  return html.replaceAll('${', () => '$${');
}

/**
 * Older document types leave no room for letters below a picture that is alone in its cell ("limited-quirks mode" of the HTML
 * standard). The message that is built has today's type, so such a picture is told to stand on the cell's ground.
 */
function withPlainPictures(html: string): string {
  const type = /<!doctype[^>]*>/i.exec(html)?.[0] ?? '';
  if (type !== '' && !/transitional|frameset/i.test(type)) return html;
  const { doc } = parseHtml(new SourceText('adopted', html), [neutralDelimiters]);
  const edits: Edit[] = [];
  for (const { tag, attributes, startTag, parent } of elementsOf(doc.root)) {
    const cell = parent?.tag === 'a' && isAlone(parent) ? parent.parent : parent;
    const isOnly = tag === 'img' && startTag !== null && parent !== null && cell?.tag === 'td';
    const only = isOnly ? parent.children.filter(isSeen).length === 1 : false;
    if (!only || startTag === null) continue;
    const style = attributes.get('style');
    if (style === undefined) {
      const at = startTag.start + '<img'.length;
      edits.push({ span: { start: at, end: at }, text: ' style="vertical-align:bottom"' });
    } else if (!/display\s*:|vertical-align\s*:/i.test(style.value)) {
      const written = html.slice(style.span.start, style.span.end);
      edits.push({ span: style.span, text: written.replace(/(["'])/, '$1vertical-align:bottom;') });
    }
  }
  return applyEdits(html, edits).text;
}

function isSeen(node: TreeNode): boolean {
  return node.kind === 'element' || (node.kind === 'text' && node.value.trim() !== '');
}

function isAlone(element: ElementNode): boolean {
  return (element.parent?.children ?? []).filter(isSeen).length === 1;
}

/** The styles of the body, with what old attributes say. */
function bodyStyle(doc: Doc): string {
  const body = firstElement(doc.root, 'body');
  if (body === null) return '';
  const color = attribute(body, 'bgcolor');
  const text = attribute(body, 'text');
  const own = (attribute(body, 'style') ?? '').trim().replace(/;$/, '');
  const parts = [color === null ? '' : `background-color:${color}`, text === null ? '' : `color:${text}`, own].filter(
    (part) => part !== '',
  );
  return parts.join(';').replace(/"/g, '&quot;');
}

function bodyContent(doc: Doc, source: SourceText): string {
  const body = firstElement(doc.root, 'body');
  const head = firstElement(doc.root, 'head');
  const start = body?.startTag?.end ?? head?.endTag?.end ?? doc.root.startTag?.end ?? doc.doctype?.span.end ?? 0;
  const end = body?.endTag?.start ?? doc.root.endTag?.start ?? source.text.length;
  return source.text.slice(start, end);
}

/** The addresses of pictures in finished HTML, with neutral merge tags; those in comments for one engine included. */
export function pictureAddresses(html: string): string[] {
  const { doc } = parseHtml(new SourceText('adopted', html), [neutralDelimiters]);
  return [...new Set(pictureReferences(doc).map(({ path }) => path))];
}

function withPictures(html: string, picturePath: AdoptRequest['picturePath']): string {
  const { doc } = parseHtml(new SourceText('adopted', html), [neutralDelimiters]);
  const edits = pictureReferences(doc).flatMap((reference): Edit[] => {
    const path = picturePath(reference.path);
    return path === null ? [] : [withAddress(reference, path)];
  });
  return applyEdits(html, edits).text;
}
