import type { SourceText } from '../../text/source-text.js';
import { findDelimiters, tagsBetween, type FoundDelimiters, type FoundTag } from './find-delimiters.js';
import { findBlocks, type FoundBlocks } from './find-blocks.js';

/** A name that exported files print, how often, and where first. */
export interface FoundName {
  readonly name: string;
  readonly count: number;
  readonly first: FoundTag;
}

/** What exported files show of how a platform writes its tags. */
export interface LearnedDialect {
  readonly delimiters: FoundDelimiters;
  /** How a tag that prints a field is written. */
  readonly field: string;
  /** How one with a text in its stead is written; null where the files show none. */
  readonly fallback: string | null;
  readonly names: readonly FoundName[];
  readonly blocks: FoundBlocks;
  /** Tags that are neither fields nor blocks: shapes, with one example of each. */
  readonly others: readonly FoundName[];
}

const NAME = /^[\p{L}_][\p{L}\p{N}_-]*(?:\.[\p{L}_][\p{L}\p{N}_-]*)*$/u;

/** Learns from exported files how a platform writes its tags. Null where they show no tags. */
export function learnDialect(sources: readonly SourceText[]): LearnedDialect | null {
  const delimiters = findDelimiters(sources);
  if (delimiters === null) return null;
  const tags = tagsBetween(sources, delimiters);
  const blocks = findBlocks(tags, delimiters);
  const rest = tags.filter((tag) => !blocks.tags.has(tag));
  const shape = commonShape(rest.map(({ inner }) => inner));
  const prints = rest.filter(({ inner }) => nameIn(inner, shape) !== null);
  const fallbacks = rest.flatMap((tag) => {
    const between = fallbackIn(tag.inner, shape);
    return between === null ? [] : [{ tag, between }];
  });
  const between = mostFrequent(fallbacks.map((one) => one.between));
  const known = new Set([...prints, ...fallbacks.filter((one) => one.between === between).map(({ tag }) => tag)]);
  const field = `${delimiters.open}${shape.before}{field}${shape.after}${delimiters.close}`;
  return {
    delimiters,
    field,
    fallback: between === null ? null : `${delimiters.open}${shape.before}{field}${between}${delimiters.close}`,
    names: counted(prints, (inner) => nameIn(inner, shape) ?? inner),
    blocks,
    others: counted(
      rest.filter((tag) => !known.has(tag)),
      (inner) => inner.trim(),
    ),
  };
}

/** What stands around the name in a tag that prints a field. */
interface Shape {
  readonly before: string;
  readonly after: string;
}

/** The commonest way in which tags hold one name and nothing else. */
function commonShape(inners: readonly string[]): Shape {
  const counts = new Map<string, { shape: Shape; count: number }>();
  for (const inner of inners) {
    const match = /^([^\p{L}_]*)([\p{L}_][\p{L}\p{N}_.-]*)([^\p{L}]*)$/u.exec(inner);
    if (match === null) continue;
    const shape = { before: match[1] ?? '', after: match[3] ?? '' };
    const key = JSON.stringify(shape);
    counts.set(key, { shape, count: (counts.get(key)?.count ?? 0) + 1 });
  }
  const [best] = [...counts.values()].sort((a, b) => b.count - a.count);
  return best?.shape ?? { before: '', after: '' };
}

function nameIn(inner: string, { before, after }: Shape): string | null {
  const [from, to] = [before.trim(), after.trim()];
  const text = inner.trim();
  if (!text.startsWith(from) || !text.endsWith(to) || text.length < from.length + to.length) return null;
  const name = text.slice(from.length, text.length - to.length).trim();
  return NAME.test(name) ? name : null;
}

/** Words and marks by which languages say what stands in for an empty value. */
const standsIn = /^[^\p{L}]*(?:(?:default|fallback|otherwise|else|or|alt|instead|coalesce|if_?empty)\b[^\p{L}]*)?$/iu;

/** What stands behind the name in a tag with a text in its stead, as a pattern; null in any other tag. */
function fallbackIn(inner: string, { before, after }: Shape): string | null {
  const start = before.trim();
  const text = inner.trim();
  if (!text.startsWith(start)) return null;
  const rest = text.slice(start.length).trim();
  const match = /^[\p{L}_][\p{L}\p{N}_.-]*?(\s*[^\p{L}\p{N}_.\s-][^"']*?|\s+[^"']*?)(["'])[^"']*\2(\)?)(\s*)$/u.exec(
    rest,
  );
  if (match === null) return null;
  const [, between = '', quote = '', closing = ''] = match;
  if (!standsIn.test(between)) return null;
  const end = inner.length > inner.trimEnd().length || /^\s/.test(after) ? after : '';
  return `${between}${quote}{text}${quote}${closing}${end}`;
}

function mostFrequent(texts: readonly string[]): string | null {
  const counts = new Map<string, number>();
  for (const text of texts) counts.set(text, (counts.get(text) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? null;
}

function counted(tags: readonly FoundTag[], nameOf: (inner: string) => string): FoundName[] {
  const names = new Map<string, FoundName>();
  for (const tag of tags) {
    const name = nameOf(tag.inner);
    const known = names.get(name);
    names.set(name, { name, count: (known?.count ?? 0) + 1, first: known?.first ?? tag });
  }
  return [...names.values()].sort((a, b) => b.count - a.count || (a.name < b.name ? -1 : 1));
}
