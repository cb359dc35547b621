import { finding, isError, reasonOf, type Finding, type Report } from '../finding.js';
import { parseHtml } from '../html/parse.js';
import { findTags } from '../html/tags.js';
import { tagContexts } from '../html/tag-context.js';
import { SourceText } from '../text/source-text.js';
import type { Span } from '../text/span.js';
import type { Dialect } from './dialect.js';
import { joinedPieces, type OutputPiece } from './literal-text.js';
import type { MergeFields, MergeTag } from './model.js';
import { printNeutralTag, unsayableName } from './print-neutral.js';
import { readDialectTags, type ReadTag } from './read-dialect.js';
import { checkBlocks, readNeutralTags } from './read-neutral.js';
import { scanTags } from './scan-tags.js';
import { tagsInDialect, type LossAnswers, type TagContext, type TagTexts } from './write.js';

/** What became of a tag. */
export interface ConvertedTag {
  readonly span: Span;
  readonly from: string;
  readonly to: string;
  readonly verdict: ConversionVerdict;
  readonly message: string;
}

/** From good to bad. */
export const conversionVerdicts = [
  'exact',
  'rewritten',
  'repaired',
  'removed',
  'assumed',
  'loss',
  'unknown',
  'foreign',
] as const;

export type ConversionVerdict = (typeof conversionVerdicts)[number];

/** A text in another dialect. */
export interface Conversion {
  /** Null where something cannot be said, or cannot be read. */
  readonly text: string | null;
  readonly tags: readonly ConvertedTag[];
}

/** What a conversion needs to know besides its text. */
export interface ConversionSetting {
  readonly from: Dialect;
  readonly to: Dialect;
  /** The other dialects that are known, by which left-over tags are found. */
  readonly others: readonly Dialect[];
  /** What the project declares of its fields. */
  readonly fields: MergeFields;
  /** What stands for what the target cannot say; null where that is an error. */
  readonly answers: LossAnswers | null;
}

/**
 * Converts the merge tags of a text from one dialect to another; every byte outside of them stays. Blocks must be closed, tags
 * must be known, and none of another dialect may be left over. To the same dialect the text stays as it is.
 */
export function convertTags(source: SourceText, setting: ConversionSetting, report: Report): Conversion {
  const { from, to } = setting;
  const found: Finding[] = [];
  const collect = (item: Finding): void => {
    found.push(item);
    report(item);
  };
  if (from.name === to.name) return unchanged(source, setting);
  const read = readTags(source, from, setting.fields, collect);
  const tags = read.map(({ tag }) => tag);
  checkBlocks(tags, collect);
  const texts = textsIn(tags, setting, collect);
  const spans = tags.map(({ place }) => place.span);
  const foreign = foreignTags(
    source,
    spans,
    [...setting.others, to].filter(({ name }) => name !== from.name),
    collect,
  );
  const { written, text } = put(source, read, texts, setting);
  const converted = read.map(({ tag, verdict, note, markup }, index): ConvertedTag => {
    const verdicts: ConversionVerdict[] = [verdict, texts.verdict(index)];
    if (tag.kind === 'broken') verdicts.push('unknown');
    const own = found.find(({ place }) => place !== null && place.span.start === tag.place.span.start);
    const message = [note, texts.note(index) || (own === undefined ? '' : reasonOf(own))].filter((part) => part !== '');
    return {
      span: tag.place.span,
      from: source.slice(tag.place.span),
      to: (written[index] ?? '') + markup,
      verdict: worst(verdicts),
      message: message.join('; '),
    };
  });
  const all = [...converted, ...foreign].sort((a, b) => a.span.start - b.span.start);
  return { text: found.some(isError) ? null : text, tags: all };
}

function unchanged(source: SourceText, { from, fields }: ConversionSetting): Conversion {
  const tags = readTags(source, from, fields, () => undefined).map(({ tag }): ConvertedTag => {
    const text = source.slice(tag.place.span);
    return { span: tag.place.span, from: text, to: text, verdict: 'exact', message: '' };
  });
  return { text: source.text, tags };
}

function worst(verdicts: readonly ConversionVerdict[]): ConversionVerdict {
  return conversionVerdicts.findLast((verdict) => verdicts.includes(verdict)) ?? 'exact';
}

function readTags(source: SourceText, dialect: Dialect, fields: MergeFields, report: Report): readonly ReadTag[] {
  if (!dialect.verbatim) return readDialectTags(source, dialect, fields, report);
  const tags = readNeutralTags(source, findTags(source.text, dialect.delimiters), report);
  return tags.map((tag) => ({ tag, verdict: 'exact', note: '', markup: '' }));
}

function textsIn(tags: readonly MergeTag[], { to, fields, answers }: ConversionSetting, report: Report): TagTexts {
  if (!to.verbatim) return tagsInDialect(tags, to, fields, report, answers);
  const lost = tags.map((tag) => {
    const name = unsayableName(tag);
    if (name === null) return false;
    const advice = 'Give the field another name, or map it with --fields.';
    report(finding('merge-loss', tag.place, { dialect: to.name, what: `a field with the name ${name}`, advice }));
    return true;
  });
  return {
    write: (index, context) => {
      const tag = tags[index];
      return tag === undefined ? '' : printNeutralTag(tag, context === 'attribute' ? "'" : '"');
    },
    verdict: (index) => (lost[index] === true ? 'loss' : 'exact'),
    note: () => '',
    removed: [],
  };
}

/** Puts the written tags into the text. */
function put(
  source: SourceText,
  read: readonly ReadTag[],
  texts: TagTexts,
  { from, to, others }: ConversionSetting,
): { written: readonly string[]; text: string } {
  const quotes = tagContexts(parseHtml(source, from.delimiters).doc);
  const pieces: OutputPiece[] = [];
  const places: number[] = [];
  let position = 0;
  read.forEach(({ tag, markup }, index) => {
    const { span } = tag.place;
    const { quote } = quotes(span.start);
    const isRemoved = texts.removed.some((removal) => index > removal.from && index <= removal.to);
    const gap = isRemoved ? '' : source.text.slice(position, span.start);
    const from = position;
    pieces.push({
      kind: 'text',
      text: gap,
      isLiteral: false,
      quoteAt: (offset) => quoteAround(source.text, from + offset),
    });
    places.push(pieces.length);
    const context: TagContext = quote === '"' ? 'attribute' : quote === "'" ? 'single-quoted attribute' : 'text';
    const isText = tag.kind === 'literal' || (tag.kind === 'output' && tag.value.kind === 'text' && !to.verbatim);
    pieces.push({
      kind: isText ? 'text' : 'tag',
      text: tag.kind === 'literal' ? tag.text : texts.write(index, context),
      isLiteral: true,
      quoteAt: () => quote,
    });
    pieces.push({ kind: 'text', text: markup, isLiteral: false, quoteAt: () => '' });
    position = span.end;
  });
  const last = position;
  pieces.push({
    kind: 'text',
    text: source.text.slice(position),
    isLiteral: false,
    quoteAt: (offset) => quoteAround(source.text, last + offset),
  });
  const dialects = [...others, from].filter(({ verbatim }) => !verbatim);
  const looksLikeTag = (text: string): boolean =>
    dialects.some((dialect) => dialect.delimiters.some(({ open }) => text.includes(open.trim()) && open.length > 1));
  const joined = joinedPieces(pieces, to, looksLikeTag);
  // A text that a tag printed is part of the text around it now.
  const written = places.map((place) => (pieces[place]?.kind === 'text' ? pieces[place].text : (joined[place] ?? '')));
  return { written, text: joined.join('') };
}

const ATTRIBUTE = /<[a-z][^<>]*=\s*(["'])(?:(?!\1)[^<>])*$/i;

/** The quote of the attribute that a place stands in; empty where it stands in none. */
function quoteAround(html: string, offset: number): string {
  return ATTRIBUTE.exec(html.slice(Math.max(0, offset - 2000), offset))?.[1] ?? '';
}

/** Tags that another dialect knows and that would be left over: recipients would read them, or the target would fill them. */
function foreignTags(
  source: SourceText,
  spans: readonly Span[],
  dialects: readonly Dialect[],
  report: Report,
): ConvertedTag[] {
  const taken = [...spans];
  return dialects.flatMap((dialect) => {
    const candidates = dialect.verbatim
      ? findTags(source.text, dialect.delimiters)
      : scanTags(source.text, dialect).flatMap(({ kind, tagSpan }) => (kind === 'tag' ? [tagSpan] : []));
    return candidates.flatMap((span): ConvertedTag[] => {
      if (taken.some((other) => span.start < other.end && other.start < span.end)) return [];
      const from = source.slice(span);
      if (!isKnown(source, span, dialect)) return [];
      taken.push(span);
      const item = finding('tag-foreign', { source, span }, { tag: from, dialect: dialect.title });
      report(item);
      return [{ span, from, to: from, verdict: 'foreign', message: reasonOf(item) }];
    });
  });
}

function isKnown(source: SourceText, span: Span, dialect: Dialect): boolean {
  if (dialect.verbatim) {
    const kind = readNeutralTags(source, [span], () => undefined)[0]?.kind;
    return kind !== 'broken' && kind !== 'literal';
  }
  const alone = new SourceText(source.name, source.slice(span));
  const read = readDialectTags(alone, dialect, new Map(), () => undefined);
  return read.some(({ tag }) => tag.kind !== 'broken' && tag.kind !== 'literal');
}

/** How many tags of a text a dialect knows, and how many it only delimits. */
export interface Recognition {
  readonly dialect: Dialect;
  readonly known: number;
  readonly unknown: number;
}

/** Ranks dialects by the tags of a text that they know; those that know none are left out. */
export function recognizeDialects(source: SourceText, dialects: readonly Dialect[]): Recognition[] {
  return dialects
    .map((dialect): Recognition => {
      const tags = readTags(source, dialect, new Map(), () => undefined);
      const known = tags.filter(({ tag, verdict }) => tag.kind !== 'broken' && verdict !== 'repaired').length;
      return { dialect, known, unknown: tags.length - known };
    })
    .filter(({ known }) => known > 0)
    .sort((a, b) => b.known - b.unknown - (a.known - a.unknown));
}
