import { finding, type Finding, type Report } from '../../findings/finding.js';
import { findTags } from '../../html/tags.js';
import { firstIndex, type Span } from '../../text/span.js';
import { SourceText } from '../../text/source-text.js';
import type { Dialect } from '../dialect.js';
import type { MergeFields } from '../model.js';
import { readDialectTags } from './read-tags.js';
import type { ReadTag } from './tag-reading.js';
import { readNeutralTags } from './read-neutral.js';
import { scanTags } from './scan-tags.js';

/** Reads the tags of a text, in any dialect. */
export function readTags(
  source: SourceText,
  dialect: Dialect,
  fields: MergeFields,
  report: Report,
): readonly ReadTag[] {
  if (!dialect.verbatim) return readDialectTags(source, dialect, fields, report);
  const tags = readNeutralTags(source, findTags(source.text, dialect.delimiters), report);
  return tags.map((tag) => ({ tag, verdict: 'exact', note: '', markup: '' }));
}

/** A tag of another dialect than that of its text. */
export interface ForeignTag {
  readonly span: Span;
  readonly dialect: Dialect;
}

/**
 * Tags that another dialect knows and that would be left over: recipients would read them, or the platform would fill them.
 *
 * @param spans where tags of the text's own dialect stand, and what is taken out of it
 * @param dialects the other dialects that are known
 */
export function foreignTags(source: SourceText, spans: readonly Span[], dialects: readonly Dialect[]): ForeignTag[] {
  const known = spansFinder(spans);
  const taken: Span[] = [];
  return dialects.flatMap((dialect) => {
    const candidates = dialect.verbatim
      ? findTags(source.text, dialect.delimiters)
      : scanTags(source.text, dialect).flatMap(({ kind, tagSpan }) => (kind === 'tag' ? [tagSpan] : []));
    return candidates.flatMap((span): ForeignTag[] => {
      if (known(span) || taken.some((other) => span.start < other.end && other.start < span.end)) return [];
      if (!isKnown(source, span, dialect)) return [];
      taken.push(span);
      return [{ span, dialect }];
    });
  });
}

/** What is said of a tag of another dialect. */
export const foreignFinding = (source: SourceText, { span, dialect }: ForeignTag): Finding =>
  finding('tag-foreign', { source, span }, { tag: source.slice(span), dialect: dialect.title });

/** Tells of a tag that its own dialect does not know which other does, where the two share their delimiters. */
export function foreignOwners(source: SourceText, others: readonly Dialect[]): (item: Finding) => Dialect | null {
  const owners = new Map<string, Dialect | null>();
  return ({ place }) => {
    if (place === null) return null;
    const text = source.slice(place.span);
    const known = owners.get(text);
    if (known !== undefined) return known;
    const owner =
      others.find(
        (dialect) => beginsAsIn(text, dialect) && isKnown(source, place.span, dialect) && isTelling(text, dialect),
      ) ?? null;
    owners.set(text, owner);
    return owner;
  };
}

function beginsAsIn(text: string, { delimiters }: Dialect): boolean {
  return delimiters.some(({ open, trim_open: trimmed }) =>
    [open, trimmed ?? open].some((mark) => text.startsWith(mark.trim())),
  );
}

/** Tells whether a span overlaps any of the given ones. */
function spansFinder(spans: readonly Span[]): (span: Span) => boolean {
  const sorted = spans.filter(({ start, end }) => end > start).sort((a, b) => a.start - b.start);
  return (span) => {
    const first = sorted[firstIndex(sorted.length, (index) => (sorted[index]?.end ?? 0) > span.start)];
    return first !== undefined && first.start < span.end;
  };
}

/** Whether a tag says more than a name: names are written alike in all languages. */
function isTelling(text: string, dialect: Dialect): boolean {
  return readTags(new SourceText('tag', text), dialect, new Map(), () => undefined).some(
    ({ tag }) => tag.kind !== 'output' || tag.value.kind !== 'path',
  );
}

function isKnown(source: SourceText, span: Span, dialect: Dialect): boolean {
  if (dialect.verbatim) {
    const kind = readNeutralTags(source, [span], () => undefined)[0]?.kind;
    return kind !== 'broken' && kind !== 'literal';
  }
  const alone = new SourceText(source.name, source.slice(span));
  const read = readDialectTags(alone, dialect, new Map(), () => undefined);
  return read.some(({ tag, verdict }) => tag.kind !== 'broken' && tag.kind !== 'literal' && verdict !== 'unknown');
}
