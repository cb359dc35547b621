import { finding, isError, type Finding, type Report } from '../finding.js';
import { parseHtml } from '../html/parse.js';
import { findTags, neutralDelimiters } from '../html/tags.js';
import { tagContexts } from '../html/tag-context.js';
import { applyEdits } from '../text/apply-edits.js';
import type { SourceText } from '../text/source-text.js';
import type { Span } from '../text/span.js';
import type { Dialect } from './dialect.js';
import type { MergeTag } from './model.js';
import { printNeutralTag } from './print-neutral.js';
import { readDialectTags } from './read-dialect.js';
import { checkBlocks, readNeutralTags } from './read-neutral.js';
import { tagsInDialect, withinQuotes, type TagTexts } from './write.js';

/** What became of a tag. */
export interface ConvertedTag {
  readonly span: Span;
  readonly from: string;
  readonly to: string;
  readonly verdict: 'exact' | 'rewritten' | 'loss' | 'unknown' | 'foreign';
  readonly message: string;
}

/** A text in another dialect. */
export interface Conversion {
  /** Null where something cannot be said, or cannot be read. */
  readonly text: string | null;
  readonly tags: readonly ConvertedTag[];
}

/**
 * Converts the merge tags of a text from one dialect to another; every byte outside of them stays. Blocks must be closed, tags
 * must be known, and none of another dialect may be left over.
 * @param others the other dialects that are known, by which left-over tags are found
 */
export function convertTags(
  source: SourceText,
  from: Dialect,
  to: Dialect,
  others: readonly Dialect[],
  report: Report,
): Conversion {
  const { text } = source;
  const spans = findTags(text, delimitersOf(from));
  const found: Finding[] = [];
  const collect = (item: Finding): void => {
    found.push(item);
    report(item);
  };
  const tags = readTags(source, spans, from, collect);
  checkBlocks(tags, collect);
  const texts = from.name === to.name ? null : textsIn(tags, to, collect);
  const contexts = tagContexts(parseHtml(source, delimitersOf(from)).doc);
  const written = spans.map((span, index) =>
    texts === null ? source.slice(span) : withinQuotes(texts.write(index, 'text'), contexts(span.start).quote),
  );
  const foreign = foreignTags(
    source,
    spans,
    [...others, to].filter((dialect) => dialect.name !== from.name),
    collect,
  );
  const converted = spans.map((span, index): ConvertedTag => {
    const tag = tags[index];
    const own = found.find(({ place }) => place !== null && place.span.start === span.start);
    const verdict = tag?.kind === 'broken' ? 'unknown' : (texts?.verdict(index) ?? 'exact');
    const message = own === undefined ? '' : Object.values(own.data).join(', ');
    return { span, from: source.slice(span), to: written[index] ?? '', verdict, message };
  });
  const all = [...converted, ...foreign].sort((a, b) => a.span.start - b.span.start);
  if (found.some(isError)) return { text: null, tags: all };
  const edits = spans.map((span, index) => ({ span, text: written[index] ?? '' }));
  return { text: applyEdits(text, edits).text, tags: all };
}

function delimitersOf(dialect: Dialect): Dialect['delimiters'] {
  return dialect.verbatim ? [neutralDelimiters] : dialect.delimiters;
}

function readTags(source: SourceText, spans: readonly Span[], dialect: Dialect, report: Report): readonly MergeTag[] {
  return dialect.verbatim ? readNeutralTags(source, spans, report) : readDialectTags(source, spans, dialect, report);
}

function textsIn(tags: readonly MergeTag[], dialect: Dialect, report: Report): TagTexts {
  if (!dialect.verbatim) return tagsInDialect(tags, dialect, report);
  return {
    write: (index) => {
      const tag = tags[index];
      return tag === undefined ? '' : printNeutralTag(tag);
    },
    verdict: () => 'exact',
  };
}

/** Tags that another dialect knows and that would be left over: recipients would read them, or the target would fill them. */
function foreignTags(
  source: SourceText,
  spans: readonly Span[],
  dialects: readonly Dialect[],
  report: Report,
): ConvertedTag[] {
  const taken = [...spans];
  return dialects.flatMap((dialect) =>
    findTags(source.text, delimitersOf(dialect)).flatMap((span): ConvertedTag[] => {
      if (taken.some((other) => span.start < other.end && other.start < span.end)) return [];
      const [tag] = readTags(source, [span], dialect, () => undefined);
      if (tag === undefined || tag.kind === 'broken') return [];
      taken.push(span);
      const from = source.slice(span);
      report(finding('tag-foreign', { source, span }, { tag: from, dialect: dialect.title }));
      return [{ span, from, to: from, verdict: 'foreign', message: dialect.title }];
    }),
  );
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
      const tags = readTags(source, findTags(source.text, delimitersOf(dialect)), dialect, () => undefined);
      const known = tags.filter(({ kind }) => kind !== 'broken').length;
      return { dialect, known, unknown: tags.length - known };
    })
    .filter(({ known }) => known > 0)
    .sort((a, b) => b.known - b.unknown - (a.known - a.unknown));
}
