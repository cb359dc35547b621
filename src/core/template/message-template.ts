import { finding, type Place, type Report } from '../findings/finding.js';
import { buildDelimiters, findTags, neutralDelimiters } from '../html/tags.js';
import { attribute, elementsOf, type Doc } from '../html/tree.js';
import { MappedText, type Piece } from '../text/mapped-text.js';
import type { SourceText } from '../text/source-text.js';
import { spanAt, type Span } from '../text/span.js';
import { markdownBody } from '../html/markdown.js';
import type { Template } from './nodes.js';
import { parseTemplate, type Unsound } from './parse-template.js';
import { readTemplate } from './read-template.js';
import { readLine } from './read-values.js';

/** A file that a message names. */
export interface NamedFile {
  readonly path: string;
  readonly place: Place;
}

/** What a message needs before it can be expanded. */
export interface MessageNeeds {
  readonly data: readonly NamedFile[];
  readonly editions: NamedFile | null;
  /** The pattern of the names of its editions; null where it gives none. */
  readonly editionName: Template | null;
}

/** A message in HTML, read as a template. */
export interface HtmlMessage extends MessageNeeds {
  readonly page: Template;
  readonly language: string;
}

/** Reads an HTML message as a template. Null where its markup leaves nothing to expand. */
export function readHtmlMessage(source: SourceText, report: Report, unsound: Unsound = 'refused'): HtmlMessage | null {
  const { doc, isSound } = parseTemplate(source, report, unsound);
  if (!isSound) return null;
  const page = readTemplate(doc, { span: source.whole, root: null, isPage: true }, report);
  const metas = (name: string): NamedFile[] => metasOf(doc, name);
  const [named] = metas('edition-name');
  return {
    page,
    language: attribute(doc.root, 'lang') ?? 'en',
    data: metas('data'),
    editions: metas('editions')[0] ?? null,
    editionName: named === undefined ? null : readLine(source, namedSpan(source, named), report),
  };
}

function metasOf(doc: Doc, wanted: string): NamedFile[] {
  return [...elementsOf(doc.root)].flatMap((element) => {
    const content = element.attributes.get('content');
    const isWanted = element.tag === 'meta' && attribute(element, 'name')?.toLowerCase() === wanted;
    return isWanted && content !== undefined
      ? [{ path: content.value, place: { source: doc.source, span: content.span } }]
      : [];
  });
}

/** The value of `content="…"`. */
function namedSpan(source: SourceText, { place: { span } }: NamedFile): Span {
  const written = source.slice(span);
  const match = /^[^=]*=\s*(["']?)/.exec(written);
  const start = span.start + (match?.[0].length ?? 0);
  return { start, end: span.end - (match?.[1] === '' ? 0 : 1) };
}

/** A value of the front matter, with its place. */
export interface FrontMatterText {
  readonly text: string;
  readonly place: Place;
}

/** A Markdown message, split: its front matter is YAML, which others read. */
export interface MarkdownParts {
  /** Null where there is none. */
  readonly frontMatter: Span | null;
  readonly body: Span;
}

/** Splits a Markdown file at its front matter: lines of `---` before and after it. */
export function splitFrontMatter(source: SourceText): MarkdownParts {
  const match = /^---[ \t]*\r?\n(?:[\s\S]*?\r?\n)??(---|\.\.\.)[ \t]*(?:\r?\n|$)/.exec(source.text);
  if (match === null) return { frontMatter: null, body: { start: 0, end: source.text.length } };
  const end = match[0].length;
  const closing = match[0].lastIndexOf(match[1] ?? '---');
  return { frontMatter: { start: 0, end: closing }, body: { start: end, end: source.text.length } };
}

/** The metadata that a Markdown message may set; all else in the front matter is data. */
export const metadataKeys: ReadonlySet<string> = new Set([
  'preheader',
  'topic',
  'description',
  'keywords',
  'from',
  'reply-to',
  'attachment',
]);

/** The text of a Markdown message as a template. */
export function readMarkdownBody(
  source: SourceText,
  body: Span,
  report: Report,
  unsound: Unsound = 'refused',
): Template | null {
  const html = markdownBody(source, body);
  const { doc, isSound } = parseTemplate(html, report, unsound);
  if (!isSound) return null;
  return readTemplate(doc, { span: { start: 0, end: html.text.length }, root: null, isPage: false }, report);
}

/**
 * What the front matter of a Markdown message says for the head of its page, as a template.
 * @param subject null where the frame's own title stands
 */
export function readMarkdownHead(
  name: string,
  subject: FrontMatterText | null,
  metas: readonly (readonly [name: string, value: FrontMatterText])[],
  report: Report,
): Template {
  const pieces = [
    ...(subject === null ? [] : wrapped('<title>', subject, '</title>\n')),
    ...metas.flatMap(([key, value]) => wrapped(`<meta name="${key}" content="`, value, '">\n')),
  ];
  const { doc } = parseTemplate(new MappedText(name, pieces), () => undefined);
  const span = { start: 0, end: doc.source.text.length };
  return readTemplate(doc, { span, root: null, isPage: false }, report);
}

/** A text of the front matter between two pieces of markup; its build values and merge tags stay tags. */
function wrapped(before: string, { text, place }: FrontMatterText, after: string): Piece[] {
  const made = (content: string): Piece => ({ text: content, origin: place, exact: false, uses: [] });
  const inSource = place.source.text.indexOf(text, place.span.start);
  const isExact = inSource >= 0 && inSource + text.length <= place.span.end;
  const pieces: Piece[] = [made(before)];
  let position = 0;
  for (const tag of findTags(text, [neutralDelimiters, buildDelimiters])) {
    pieces.push(made(escaped(text.slice(position, tag.start))));
    const origin = { source: place.source, span: spanAt(inSource + tag.start, tag.end - tag.start) };
    const content = text.slice(tag.start, tag.end);
    pieces.push(isExact ? { text: content, origin, exact: true, uses: [] } : made(content));
    position = tag.end;
  }
  return [...pieces, made(escaped(text.slice(position)) + after)];
}

function escaped(text: string): string {
  return text.replace(/[&<>"]/g, (character) => `&#${character.codePointAt(0)};`).replace(/\s+/g, ' ');
}

/** Parts that use each other in a circle, by the place of the use that closes it. */
export function reportCycles(
  parts: ReadonlyMap<string, { readonly template: Template }>,
  report: Report,
): ReadonlySet<string> {
  const done = new Set<string>();
  const inCycle = new Set<string>();
  const visit = (tag: string, path: readonly string[]): void => {
    if (done.has(tag)) return;
    for (const use of parts.get(tag)?.template.uses ?? []) {
      const at = [...path, tag].indexOf(use.tag);
      if (at < 0) {
        visit(use.tag, [...path, tag]);
        continue;
      }
      const circle = [...[...path, tag].slice(at), use.tag];
      circle.forEach((member) => inCycle.add(member));
      report(finding('part-cycle', use.place, { cycle: circle.map((name) => `<${name}>`).join(' → ') }));
    }
    done.add(tag);
  };
  for (const tag of parts.keys()) visit(tag, []);
  return inCycle;
}
