import { tagReason } from '../findings/wording/tags.js';
import { finding, type Report } from '../findings/finding.js';
import { parseHtml } from '../html/parse.js';
import { escapeAttribute } from '../html/escape.js';
import { replaceSentinels, sentinel, splitAtSentinels } from '../html/tags.js';
import { tagContexts } from '../html/tag-context.js';
import { attribute, elementsOf, firstElement, type Doc } from '../html/tree.js';
import type { Dialect } from '../dialects/dialect.js';
import { joinedPieces, type OutputPiece } from '../dialects/write/literal-text.js';
import { systemValues, type MergeFields, type MergeTag } from '../dialects/model.js';
import { pathsIn } from '../expressions/expression.js';
import { tagRoles } from '../dialects/tag-role.js';
import { tagsInDialect } from '../dialects/write/write-tags.js';
import { tagsAsWritten, type TagTexts } from '../dialects/write/tag-texts.js';
import { printFlowed, printLines, type PlainLine } from '../plaintext/lines.js';
import { plainLines } from '../plaintext/plain-text.js';
import { shownDocument } from '../plaintext/shown-document.js';
import type { TextOptions } from '../plaintext/options.js';
import { regionMark } from '../dialects/convert/convert-regions.js';
import type { RegionMark } from '../html/regions.js';
import { SourceText } from '../text/source-text.js';
import { spanAt, type Span } from '../text/span.js';
import type { CompiledMessage, MessageVersions } from './compile-message.js';
import { fillSample, type SampleRecipient } from '../dialects/sample/fill-sample.js';
import { withAddresses, type WrittenText } from './written-text.js';
import { withLinkParameters, type LinkParameter } from './link-parameters.js';

/** A message, finished for one destination. */
export interface RenderedMessage {
  readonly html: string;
  readonly text: string;
  /** The text as `format=flowed`, for mail. */
  readonly flowed: string;
  readonly subject: string;
  readonly subjectSample: string;
  readonly preheader: string | null;
  /** The addresses that its links lead to, each once, in order. */
  readonly links: readonly string[];
}

/** A message as one recipient reads it: nothing of it is left to fill in. */
export type RecipientMessage = Pick<RenderedMessage, 'html' | 'text' | 'flowed' | 'subject' | 'preheader'>;

/** What a destination decides. */
export interface RenderInput {
  readonly dialect: Dialect;
  /** What the project declares of its fields. */
  readonly fields: MergeFields;
  /** The recipient that samples are filled with. */
  readonly recipient: SampleRecipient;
  /** The path of a picture in the finished HTML, by the path that the source gives. */
  readonly picturePath: (path: string) => string;
  readonly text: Omit<TextOptions, 'tagRole'>;
  /** What is added to every web link. */
  readonly linkParameters: readonly LinkParameter[];
}

/** Writes a compiled message for a destination: its dialect's merge tags, its pictures' paths, its plain text. */
export function renderMessage(versions: MessageVersions, input: RenderInput, report: Report): RenderedMessage {
  const message = versions.html;
  const { tags, doc, regions } = message.source;
  checkRequired(message, input.dialect, report);
  if (!input.dialect.webFonts)
    for (const { family } of message.fonts)
      report(finding('font-refused', null, { family, dialect: input.dialect.title }));
  const [first] = regions;
  if (first !== undefined && !input.dialect.verbatim && Object.keys(input.dialect.regions).length === 0) {
    const names = regions.map(({ name }) => name).join(', ');
    report(finding('region-loss', first.place, { dialect: input.dialect.title, names }));
  }
  const { html, link, texts: inHtml, written } = writeVersion(message, input, tags, report);
  reportLeftOut(message, written, report);
  const forText = textTags(tags, input.dialect);
  const texts = forText === tags ? inHtml : textsOf(forText, input, report);
  const inText = (text: string): string => textInDialect(text, { tags: forText, write: texts.write }, input.dialect);
  const links = [...elementsOf(doc.root)].flatMap((element) =>
    element.tag === 'a' ? [link(attribute(element, 'href') ?? '')] : [],
  );
  const lines =
    versions.writtenText === null ? textLines(versions, input, report) : ownLines(versions.writtenText, input, report);
  return {
    html,
    text: printLines(lines),
    flowed: printFlowed(lines),
    subject: inText(message.metadata.subject),
    subjectSample: fillSample(message.metadata.subject, tags, input.recipient, (value) => value),
    preheader: message.metadata.preheader === null ? null : inText(message.metadata.preheader),
    links: [...new Set(links.filter((address) => address !== '' && !address.startsWith('#')).map(inText))],
  };
}

/** What decides how a recipient reads a message. */
export type SampleInput = Pick<RenderInput, 'dialect' | 'recipient' | 'picturePath' | 'linkParameters' | 'text'>;

/** Writes a message as a recipient would read it: its merge tags are filled. */
export function renderSample(
  { html: message, text: textMessage, writtenText }: MessageVersions,
  input: SampleInput,
): RecipientMessage {
  const { tags } = message.source;
  const plain = (text: string): string => fillSample(text, tags, input.recipient, (value) => value);
  const html = filledVersion(message, input);
  const forText = textMessage === message ? html : filledVersion(textMessage, input);
  const lines =
    writtenText === null
      ? plainLines(shownDocument(parseHtml(new SourceText('index.html', forText), []).doc), {
          ...input.text,
          tagRole: () => null,
        })
      : fixedLines(fillSample(linkedText(writtenText, input), writtenText.tags, input.recipient, (value) => value));
  return {
    html,
    text: printLines(lines),
    flowed: printFlowed(lines),
    subject: plain(message.metadata.subject),
    preheader: message.metadata.preheader === null ? null : plain(message.metadata.preheader),
  };
}

function filledVersion(message: CompiledMessage, input: SampleInput): string {
  const { tags } = message.source;
  const html = message.html(
    {
      tag: sentinel,
      picture: input.picturePath,
      link: (address) => withLinkParameters(address, input.linkParameters, tags) ?? address,
      region: () => null,
    },
    input.dialect,
  );
  return fillSample(html, tags, input.recipient, escapeValue);
}

/** A merge tag while a text version is made: its place by its number, in the neutral notation, which no other text has then. */
const PLACE = /@\{(\d+)\}/g;

/**
 * The text version that is made from the message, in its dialect. It is laid out with places for tags, and what only looks
 * like a tag of the dialect is told from them as in any text.
 */
function textLines({ html, text: message }: MessageVersions, input: RenderInput, report: Report): PlainLine[] {
  const { dialect } = input;
  const tags = textTags(message.source.tags, dialect);
  const texts = textsOf(tags, input, report);
  if (message !== html) reportUnclearLinks(message, input, report);
  const link = (address: string): string => withLinkParameters(address, input.linkParameters, tags) ?? address;
  const document = {
    ...message.shown({ picture: input.picturePath, link }),
    restore: (index: number) => `@{${index}}`,
  };
  const filled = (text: string): string =>
    text.includes('@{') ? text.replace(PLACE, (_, index) => texts.write(Number(index), 'text')) : text;
  const roles = tagRoles([dialect]);
  const lines = plainLines(document, {
    ...input.text,
    measure: (text) => input.text.measure(filled(text)),
    tagRole: (tag) => roles(filled(tag)),
  });
  return lines.map((line) => {
    const places = line.text.replace(PLACE, (_, index) => sentinel(Number(index)));
    return { ...line, text: textInDialect(places, { tags, write: texts.write }, dialect) };
  });
}

/** The text version that an author wrote, in a dialect. */
function ownLines(own: WrittenText, input: RenderInput, report: Report): PlainLine[] {
  const { dialect } = input;
  const tags = textTags(own.tags, dialect);
  const texts = textsOf(tags, input, report);
  const used = printedNames(own.tags);
  for (const name of dialect.required.filter((required) => !used.has(required)))
    report(
      finding(
        'text-footer-missing',
        { source: own.source, span: spanAt(own.source.text.trimEnd().length, 0) },
        requirement(name, dialect),
      ),
    );
  return fixedLines(textInDialect(linkedText(own, input), { tags, write: texts.write }, dialect));
}

/** Plain text with its tags as a dialect writes them; what only looks like a tag stays text. */
function textInDialect(text: string, written: WrittenTags, dialect: Dialect): string {
  if (dialect.verbatim) return replaceSentinels(text, (index) => written.write(index, 'text'));
  const places = replaceSentinels(text, (index) => tagPlace(index, 'text'));
  return withTags(places, written, dialect);
}

/** A text with the parameters of links on its web addresses. */
function linkedText({ text, tags }: WrittenText, { linkParameters }: Pick<RenderInput, 'linkParameters'>): string {
  return withAddresses(text, (address) => withLinkParameters(address, linkParameters, tags) ?? address);
}

/** The lines of a text that was laid out by hand. */
function fixedLines(text: string): PlainLine[] {
  return text
    .trimEnd()
    .split('\n')
    .map((line) => ({ text: line.trimEnd(), continues: false, quoteDepth: 0 }));
}

/** Merge tags as text versions need them: where a language escapes values wherever a tag stands, they are printed raw. */
function textTags(tags: readonly MergeTag[], dialect: Dialect): readonly MergeTag[] {
  if (!dialect.rawInText || !tags.some((tag) => tag.kind === 'output' && !tag.raw)) return tags;
  return tags.map((tag) => (tag.kind === 'output' ? { ...tag, raw: true } : tag));
}

/** The tags of a message as a dialect writes them. */
export function textsOf(tags: readonly MergeTag[], { dialect, fields }: RenderInput, report: Report): TagTexts {
  return dialect.verbatim ? tagsAsWritten(tags) : tagsInDialect(tags, dialect, fields, report);
}

/** A value that stands in text or in an attribute. */
export function escapeValue(value: string): string {
  return escapeAttribute(value, sentinel).replace(/>/g, '&gt;');
}

interface WrittenVersion {
  readonly html: string;
  /** The numbers of the tags that were written. */
  readonly written: ReadonlySet<number>;
  readonly texts: TagTexts;
  /** The address of a link as it is written. */
  readonly link: (address: string) => string;
}

function writeVersion(
  message: CompiledMessage,
  input: RenderInput,
  tags: readonly MergeTag[],
  report: Report,
): WrittenVersion {
  const { dialect } = input;
  const texts = textsOf(tags, input, report);
  const link = (address: string): string => withLinkParameters(address, input.linkParameters, tags) ?? address;
  reportUnclearLinks(message, input, report);
  const written = new Set<number>();
  const write = dialect.verbatim ? texts.write : tagPlace;
  const marks = regionMarks(message, dialect, report);
  // Marks are told from text that only looks like a tag, as tags are: by numbers behind those of the tags.
  const places: string[] = [];
  const placed = (text: string): string => tagPlace(tags.length + places.push(text) - 1, 'text');
  const html = message.html(
    {
      tag: (index, context) => {
        written.add(index);
        return write(index, context);
      },
      picture: input.picturePath,
      link,
      region: (name) => {
        const mark = marks.get(name);
        if (dialect.verbatim) return 'as-written';
        if (mark === undefined) return null;
        return 'attribute' in mark
          ? { attribute: placed(mark.attribute) }
          : { open: placed(mark.open), close: placed(mark.close) };
      },
    },
    dialect,
  );
  const textOf: TagTexts['write'] = (index, context) => places[index - tags.length] ?? texts.write(index, context);
  return { html: dialect.verbatim ? html : withTags(html, { tags, write: textOf }, dialect), written, texts, link };
}

/** No merge tag is lost without a word: what compilation leaves out is said. */
function reportLeftOut(
  { source: { tags, doc, without } }: CompiledMessage,
  written: ReadonlySet<number>,
  report: Report,
): void {
  const unwritten = tags.flatMap((tag, index) => (written.has(index) || tag.kind === 'broken' ? [] : [{ tag, index }]));
  if (unwritten.length === 0) return;
  const contextAt = tagContexts(doc);
  const elsewhere = placesElsewhere(doc, without);
  for (const { tag, index } of unwritten) {
    const start = doc.tags[index]?.start ?? 0;
    const isElsewhere = elsewhere.some((span) => span.start <= start && start < span.end);
    // Comments are for the author.
    if (isElsewhere || contextAt(start).kind === 'comment') continue;
    const why = tagReason.notShown;
    report(finding('tag-left-out', tag.place, { tag: tag.place.source.slice(tag.place.span), why }));
  }
}

/** What is read in place of the content of elements, and the metadata: they are not of the HTML's body. */
function placesElsewhere(doc: Doc, without: readonly Span[]): Span[] {
  const metadata = [...elementsOf(doc.root)].flatMap(({ tag, span }) =>
    tag === 'meta' || tag === 'title' ? (span ?? []) : [],
  );
  return [...without, ...metadata];
}

/** Where a tag goes, until all of the text is known: its number and whether it stands in an attribute. */
export function tagPlace(index: number, context: 'text' | 'attribute'): string {
  return sentinel(index * 2 + (context === 'attribute' ? 1 : 0));
}

/** Tags, and how a dialect writes them. */
interface WrittenTags {
  readonly tags: readonly MergeTag[];
  readonly write: TagTexts['write'];
}

/** Finished HTML with its tags; text that the dialect would take for a tag is written as the dialect writes such text. */
export function withTags(html: string, { tags, write }: WrittenTags, dialect: Dialect): string {
  const pieces = splitAtSentinels(html).map((piece): OutputPiece => {
    if (typeof piece === 'string') return { kind: 'text', text: piece, isLiteral: false, quoteAt: () => '' };
    const context = piece % 2 === 1 ? 'attribute' : 'text';
    const tag = tags[piece >> 1];
    // A text that a tag prints becomes part of the text around it, with which it may look like a tag.
    const isText = tag?.kind === 'literal' || (tag?.kind === 'output' && tag.value.kind === 'text');
    const text = write(piece >> 1, context);
    return { kind: isText ? 'text' : 'tag', text, isLiteral: isText, quoteAt: () => '' };
  });
  return joinedPieces(pieces, dialect, () => false).join('');
}

/** How the regions of a message are marked, by their names; what has no mark is reported. */
function regionMarks(
  { source: { regions } }: CompiledMessage,
  dialect: Dialect,
  report: Report,
): ReadonlyMap<string, RegionMark> {
  const marks = new Map<string, RegionMark>();
  if (dialect.verbatim || Object.keys(dialect.regions).length === 0) return marks;
  for (const region of regions) {
    const { mark, losses } = regionMark(region, dialect);
    if (mark !== null) marks.set(region.name, mark);
    for (const what of losses)
      report(finding('region-mark-loss', region.place, { name: region.name, what, dialect: dialect.title }));
  }
  return marks;
}

function reportUnclearLinks({ source: { doc, tags } }: CompiledMessage, input: RenderInput, report: Report): void {
  for (const element of elementsOf(doc.root)) {
    const href = element.tag === 'a' || element.tag === 'area' ? element.attributes.get('href') : undefined;
    if (href !== undefined && withLinkParameters(href.value, input.linkParameters, tags) === null)
      report(finding('link-parameters-unclear', { source: doc.source, span: href.span }));
  }
}

function checkRequired(message: CompiledMessage, dialect: Dialect, report: Report): void {
  const { tags, doc } = message.source;
  const used = printedNames(tags);
  const body = firstElement(doc.root, 'body');
  const span = body?.startTag ?? spanAt(0, 0);
  for (const name of dialect.required.filter((required) => !used.has(required)))
    report(finding('footer-missing', { source: doc.source, span }, requirement(name, dialect)));
}

function requirement(name: string, dialect: Dialect): Record<string, string> {
  const what = (systemValues.get(name) ?? name).replace(/^the /, '');
  return { what, dialect: dialect.title, tag: `@{${name}}` };
}

/** The names of what tags print. */
function printedNames(tags: readonly MergeTag[]): Set<string> {
  return new Set(
    tags.flatMap((tag) => (tag.kind === 'output' ? pathsIn(tag.value).map((path) => path.segments.join('.')) : [])),
  );
}
