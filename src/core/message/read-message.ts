import { isStyleLink } from '../css/cascade/sheets.js';
import { finding, type Place, type Report } from '../findings/finding.js';
import { isConditionalComment } from '../html/conditional-comment.js';
import { markPlaces } from '../html/place-marks.js';
import { parseHtml, type ParseError } from '../html/parse.js';
import { checkStructure } from '../html/structure/structure.js';
import { neutralDelimiters } from '../html/tags.js';
import { attribute, elementsOf, firstElement, textContent, type Doc, type TreeNode } from '../html/tree.js';
import { unsupportedElements } from '../findings/wording/html.js';
import { htmlElements } from '../html/vocabulary.js';
import { nearestName } from '../text/nearest.js';
import type { MergeFields, MergeTag } from '../dialects/model.js';
import { pictureReferences, type PictureUse } from '../pictures/references.js';
import { checkBlocks, checkNames, readNeutralTags, withDeclaredFallbacks } from '../dialects/read/read-neutral.js';
import { readRegions, type Region } from '../html/regions.js';
import type { ExpandedPage } from '../template/expanded-page.js';
import { type Span, spanAt } from '../text/span.js';
import { docVersions, type DocVersion } from './versions.js';

/** A file that a message names. */
export interface Reference {
  readonly path: string;
  readonly place: Place;
}

/** A picture that a message names. */
export interface MessagePicture extends Reference {
  readonly use: PictureUse;
}

/** What the `<head>` says about a message. Template tags stand in the texts as sentinels. */
export interface Metadata {
  readonly subject: string;
  readonly preheader: string | null;
  readonly topic: string | null;
  readonly description: string | null;
  readonly keywords: readonly string[];
  readonly from: string | null;
  readonly replyTo: string | null;
  readonly language: string;
  readonly direction: string | null;
  /** What a dialect asks for beside the rest, by its name behind `dialect-`. */
  readonly extras: ReadonlyMap<string, string>;
}

/** What messages say that do not say it themselves. */
export type MetadataDefaults = Pick<Metadata, 'preheader' | 'topic' | 'description' | 'keywords' | 'from' | 'replyTo'>;

/** What a project says that its messages are read with. */
export interface MessageSetting {
  readonly fields: MergeFields;
  readonly defaults?: MetadataDefaults;
  /** Names that are known when the message is built, to advise those who write one as a merge tag. */
  readonly buildNames?: ReadonlySet<string>;
  /** Whether elements are marked, so that what is made of them leads back to their places. */
  readonly marksPlaces?: boolean;
}

/** Where a project says nothing for its messages. */
export const noDefaults: MetadataDefaults = {
  preheader: null,
  topic: null,
  description: null,
  keywords: [],
  from: null,
  replyTo: null,
};

/** A message, read but not compiled: what it needs from outside is named. */
export interface MessageSource {
  readonly doc: Doc;
  /** What the parser had to repair. */
  readonly errors: readonly ParseError[];
  readonly metadata: Metadata;
  /** The style sheets that it links. */
  readonly styleLinks: readonly Reference[];
  readonly pictures: readonly MessagePicture[];
  /** Files that travel with the message. */
  readonly attachments: readonly Reference[];
  /** The merge tags by their number in `doc.tags`. */
  readonly tags: readonly MergeTag[];
  /** Stretches of the source that are for another version of the message. */
  readonly without: readonly Span[];
  /** What a platform's users may edit. */
  readonly regions: readonly Region[];
}

/** A message as its HTML version and as its text version has it; the same where nothing tells them apart. */
export interface MessageSources {
  readonly html: MessageSource;
  readonly text: MessageSource;
}

/**
 * Reads a message, its parts put in and its build values filled in, and reports what is wrong with its markup, its merge
 * tags and its metadata.
 */
export function readMessage(page: ExpandedPage, setting: MessageSetting, report: Report): MessageSources {
  const { source } = page;
  if (source.text.trim() === '') report(finding('file-empty', { source, span: spanAt(0, 0) }));
  const { doc, errors } = parseHtml(source, [neutralDelimiters]);
  if (setting.marksPlaces === true) markPlaces(doc);
  for (const item of checkStructure(doc, errors)) report(item);
  const isCommented = commentedTags(doc);
  const tags = readNeutralTags(source, doc.tags, (item) => {
    if (item.place === null || !isCommented(item.place.span)) report(item);
  });
  const versions = docVersions(doc, page);
  const read = { tags, errors };
  const html = readVersion(versions.html, read, setting, report);
  const text = versions.text === versions.html ? html : readVersion(versions.text, read, setting, report);
  return { html, text };
}

function readVersion(
  { doc, without }: DocVersion,
  { tags: read, errors }: Pick<MessageSource, 'tags' | 'errors'>,
  { fields, defaults = noDefaults, buildNames = new Set() }: MessageSetting,
  report: Report,
): MessageSource {
  checkElements(doc, report);
  const isCommented = commentedTags(doc);
  const isElsewhere = ({ start }: Span): boolean => without.some((span) => span.start <= start && start < span.end);
  const tags = withDeclaredFallbacks(read, fields).map((tag): MergeTag =>
    isCommented(tag.place.span) || isElsewhere(tag.place.span) ? { kind: 'comment', text: '', place: tag.place } : tag,
  );
  checkBlocks(tags, report);
  checkNames(tags, fields, buildNames, report);
  const isEmpty = doc.source.text.trim() === '';
  return {
    doc,
    errors,
    metadata: readMetadata(doc, defaults, isEmpty ? () => undefined : report),
    styleLinks: readStyleLinks(doc),
    pictures: readPictures(doc, isElsewhere),
    attachments: readAttachments(doc),
    tags,
    without,
    regions: readRegions(doc, report),
  };
}

/** Tells whether a tag stands in a comment that no engine reads: it says nothing there. */
function commentedTags(doc: Doc): (span: Span) => boolean {
  const isPlain = (node: TreeNode): boolean => node.kind === 'comment' && !isConditionalComment(node.value);
  const all = [...doc.outside, ...[...elementsOf(doc.root)].flatMap(({ children }) => children)];
  const spans = all.flatMap((node) => (isPlain(node) && node.span !== null ? [node.span] : []));
  return ({ start }) => spans.some((span) => span.start <= start && start < span.end);
}

function checkElements(doc: Doc, report: Report): void {
  for (const element of elementsOf(doc.root)) {
    if (element.startTag === null || element.namespace !== 'html') continue;
    const place = { source: doc.source, span: element.startTag };
    const advice = unsupportedElements.get(element.tag);
    if (advice !== undefined) report(finding('element-unsupported', place, { tag: element.tag, advice }));
    else if (!htmlElements.has(element.tag)) reportUnknown(element.tag, place, report);
  }
}

function reportUnknown(tag: string, place: Place, report: Report): void {
  const nearest = nearestName(tag, htmlElements);
  report(finding('unknown-element', place, { tag, advice: nearest === null ? '' : `Did you mean <${nearest}>?` }));
}

function readMetadata(doc: Doc, defaults: MetadataDefaults, report: Report): Metadata {
  const title = firstElement(doc.root, 'title');
  const subject = title === null ? '' : textContent(title).replace(/\s+/g, ' ').trim();
  if (subject === '') {
    const span = (title ?? firstElement(doc.root, 'head'))?.startTag ?? spanAt(0, 0);
    report(finding('subject-missing', { source: doc.source, span }));
  }
  const metas = readMetas(doc);
  const meta = (name: string): string | null => metas.get(name) ?? null;
  const keywords = meta('keywords');
  return {
    subject,
    preheader: meta('preheader') ?? defaults.preheader,
    topic: meta('topic') ?? defaults.topic,
    description: meta('description') ?? defaults.description,
    keywords: keywords === null ? defaults.keywords : wordsOf(keywords),
    from: meta('from') ?? defaults.from,
    replyTo: meta('reply-to') ?? defaults.replyTo,
    language: attribute(doc.root, 'lang') ?? 'en',
    direction: attribute(doc.root, 'dir'),
    extras: new Map(
      [...metas].flatMap(([name, content]) => (name.startsWith('dialect-') ? [[name.slice(8), content]] : [])),
    ),
  };
}

function wordsOf(text: string): string[] {
  return text
    .split(',')
    .map((word) => word.trim())
    .filter((word) => word !== '');
}

function readMetas(doc: Doc): Map<string, string> {
  const metas = new Map<string, string>();
  for (const element of elementsOf(doc.root)) {
    const name = element.tag === 'meta' ? attribute(element, 'name') : null;
    const content = attribute(element, 'content');
    if (name !== null && content !== null) metas.set(name.toLowerCase(), content);
  }
  return metas;
}

function readStyleLinks(doc: Doc): Reference[] {
  return [...elementsOf(doc.root)].flatMap((element) => {
    const href = isStyleLink(element) ? element.attributes.get('href') : undefined;
    return href === undefined ? [] : [{ path: href.value, place: { source: doc.source, span: href.span } }];
  });
}

function readAttachments(doc: Doc): Reference[] {
  return [...elementsOf(doc.root)].flatMap((element) => {
    const content = element.attributes.get('content');
    const isAttachment = element.tag === 'meta' && attribute(element, 'name')?.toLowerCase() === 'attachment';
    return isAttachment && content !== undefined
      ? [{ path: content.value, place: { source: doc.source, span: content.span } }]
      : [];
  });
}

function readPictures(doc: Doc, isElsewhere: (span: Span) => boolean): MessagePicture[] {
  return pictureReferences(doc).flatMap(({ path, span, use }) =>
    isElsewhere(span) ? [] : [{ path, use, place: { source: doc.source, span } }],
  );
}
