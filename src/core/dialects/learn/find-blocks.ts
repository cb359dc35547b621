import { asPattern } from '../pattern.js';
import type { FoundDelimiters, FoundTag } from './find-delimiters.js';

/** The block tags that exported files show, as patterns; null for what they do not show. */
export interface FoundBlocks {
  readonly if: string | null;
  readonly else: string | null;
  readonly end_if: string | null;
  readonly each: string | null;
  readonly end_each: string | null;
  /** How two values are compared within a condition; null where none are. */
  readonly equal: string | null;
  /** The tags that they are. */
  readonly tags: ReadonlySet<FoundTag>;
}

/** A tag that begins with a word and says more: perhaps the beginning of a block. */
interface Opener {
  readonly word: string;
  readonly rest: string;
  readonly tag: FoundTag;
}

const OPENER = /^(\s*[^\p{L}\p{N}\s]?\s*[\p{L}_][\p{L}\p{N}_-]*)([\s:(]+)(\S.*?)\s*$/u;

/** Words that end a block, or divide it, in most languages that have blocks. */
const ends = /^(?:end|done|fi\b|close|stop|finish)/i;
const divides = /^(?:else|otherwise|or\b|if ?not|not\b|instead)/i;

/**
 * Finds the tags that open, divide and end blocks: those that say more than a name begin one, and the ones without anything
 * more that balance them end it.
 */
export function findBlocks(tags: readonly FoundTag[], { open, close }: FoundDelimiters): FoundBlocks {
  const openers = openersIn(tags);
  const bare = tags.filter(
    ({ inner }) => !/\s\S/.test(inner.trim()) || ends.test(core(inner)) || divides.test(core(inner)),
  );
  const found = new Set<FoundTag>();
  const pattern = (text: string): string => `${open}${text}${close}`;
  const plain = (text: string): string => asPattern(pattern(text));
  let condition: { open: string; end: string; else: string | null; equal: string | null } | null = null;
  let loop: { open: string; end: string } | null = null;
  for (const word of [...new Set(openers.map((one) => one.word))]) {
    const own = openers.filter((one) => one.word === word);
    const end = endOf(own, openers, bare, tags);
    if (end === null) continue;
    for (const { tag } of own) found.add(tag);
    for (const tag of tags) if (tag.inner === end) found.add(tag);
    const [first] = own;
    if (first === undefined) continue;
    const each = loopPattern(first, tags) ?? listPattern(own);
    if (each !== null && loop === null) loop = { open: pattern(each), end: plain(end) };
    else if (condition === null) {
      const divider = dividerOf(bare, tags, own, end);
      for (const tag of tags) if (tag.inner === divider) found.add(tag);
      condition = {
        open: pattern(leadOf(first) + '{condition}' + trailOf(first)),
        end: plain(end),
        else: divider === null ? null : plain(divider),
        equal: own.map(({ rest }) => equalIn(rest)).find((one) => one !== null) ?? null,
      };
    }
  }
  const marked = condition === null ? markedBlock(tags.filter((tag) => !found.has(tag))) : null;
  for (const tag of marked?.tags ?? []) found.add(tag);
  if (marked !== null)
    return {
      if: pattern(marked.open),
      else: null,
      end_if: pattern(marked.end),
      each: loop?.open ?? null,
      end_each: loop?.end ?? null,
      equal: null,
      tags: found,
    };
  return {
    if: condition?.open ?? null,
    else: condition?.else ?? null,
    end_if: condition?.end ?? null,
    each: loop?.open ?? null,
    end_each: loop?.end ?? null,
    equal: condition?.equal ?? null,
    tags: found,
  };
}

/** Words that begin a loop in most languages that have one. */
const repeats = /^(?:for|foreach|each|loop|repeat|rows|list|iterate|section)/i;

/** A loop that names its list alone. Null where the word is none of a loop's, or more follows than a name. */
function listPattern(own: readonly Opener[]): string | null {
  const [first] = own;
  const isList = own.every(({ word, rest }) => repeats.test(core(word)) && /^[\p{L}_][\p{L}\p{N}_.-]*$/u.test(rest));
  return first === undefined || !isList ? null : `${leadOf(first)}{list}${trailOf(first)}`;
}

/** A block whose tags are marks and the name that it is about: `#vip` and `/vip`. */
interface MarkedBlock {
  readonly open: string;
  readonly end: string;
  readonly tags: readonly FoundTag[];
}

const MARKED = /^(\s*[^\p{L}\p{N}_\s]{1,2}\s*)([\p{L}_][\p{L}\p{N}_.-]*)(\s*)$/u;

/** The commonest marks that open a block on a name and close it again; null where no name is both opened and closed. */
function markedBlock(tags: readonly FoundTag[]): MarkedBlock | null {
  const marked = tags.flatMap((tag) => {
    const [, mark, name, trail] = MARKED.exec(tag.inner) ?? [];
    return mark === undefined || name === undefined ? [] : [{ tag, mark, name, trail: trail ?? '' }];
  });
  const opening = marked.find(({ mark, name }) =>
    marked.some((other) => other.name === name && other.mark !== mark && other.mark.trim().includes('/')),
  );
  if (opening === undefined || opening.mark.includes('/')) return null;
  const ending = marked.find(({ mark, name }) => name === opening.name && mark.trim().includes('/'));
  if (ending === undefined) return null;
  const own = marked.filter(({ mark }) => mark === opening.mark || mark === ending.mark).map(({ tag }) => tag);
  return {
    open: `${opening.mark}{condition}${opening.trail}`,
    end: `${ending.mark}{condition}${ending.trail}`,
    tags: own,
  };
}

/** The words of a tag without marks around them. */
function core(inner: string): string {
  return inner.replace(/[^\p{L}\p{N}\s_-]+/gu, ' ').trim();
}

function openersIn(tags: readonly FoundTag[]): Opener[] {
  return tags.flatMap((tag): Opener[] => {
    const match = OPENER.exec(tag.inner);
    const word = match?.[1]?.trim() ?? '';
    if (match === null || ends.test(core(word)) || divides.test(core(word)) || /^\s*\//.test(tag.inner)) return [];
    const rest = match[3] ?? '';
    // A name with a text in its stead opens nothing.
    return /^(?:or|else|otherwise|default|fallback)\b[^"']*["'][^"']*["']\)?$/i.test(rest) ? [] : [{ word, rest, tag }];
  });
}

/** The tag that ends the blocks of a word: what follows each opening once, and never comes alone. */
function endOf(
  own: readonly Opener[],
  all: readonly Opener[],
  bare: readonly FoundTag[],
  tags: readonly FoundTag[],
): string | null {
  const word = core(own[0]?.word ?? '');
  const candidates = [...new Set(bare.map(({ inner }) => inner))].flatMap((inner) => {
    const text = core(inner);
    const evidence =
      /^\s*\//.test(inner) || ends.test(text)
        ? text.toLowerCase().includes(word.toLowerCase())
          ? 3
          : 2
        : text !== word && text.toLowerCase().includes(word.toLowerCase())
          ? 1
          : 0;
    return evidence === 0 ? [] : [{ inner, evidence }];
  });
  for (const { inner } of candidates.sort((a, b) => b.evidence - a.evidence)) {
    const alone = isBalanced(tags, new Set(own.map(({ tag }) => tag)), inner);
    if (alone || isBalanced(tags, new Set(all.map(({ tag }) => tag)), inner)) return inner;
  }
  // A language may end its blocks by a word of its own: what comes as often as blocks begin, always behind a beginning.
  const openings = new Set(all.map(({ tag }) => tag));
  const counts = new Map<string, number>();
  for (const { inner } of bare) counts.set(inner, (counts.get(inner) ?? 0) + 1);
  const silent = [...counts].find(
    ([inner, count]) => count >= 2 && count === openings.size && isBalanced(tags, openings, inner),
  );
  return silent?.[0] ?? null;
}

function isBalanced(tags: readonly FoundTag[], openings: ReadonlySet<FoundTag>, end: string): boolean {
  let depth = 0;
  let source = tags[0]?.source;
  for (const tag of tags) {
    if (tag.source !== source) {
      if (depth !== 0) return false;
      ({ source } = tag);
    }
    if (openings.has(tag)) depth += 1;
    if (tag.inner === end) depth -= 1;
    if (depth < 0) return false;
  }
  return depth === 0;
}

/** The tag that divides blocks: a word of that sense which comes within them only. */
function dividerOf(
  bare: readonly FoundTag[],
  tags: readonly FoundTag[],
  own: readonly Opener[],
  end: string,
): string | null {
  const openings = new Set(own.map(({ tag }) => tag));
  const isWithin = (inner: string): boolean => {
    let depth = 0;
    return tags.every((tag) => {
      if (openings.has(tag)) depth += 1;
      if (tag.inner === end) depth -= 1;
      return tag.inner !== inner || depth > 0;
    });
  };
  const words = [...new Set(bare.map(({ inner }) => inner))].filter((inner) => inner !== end);
  return words.find((inner) => divides.test(core(inner)) && isWithin(inner)) ?? null;
}

function leadOf({ tag: { inner }, rest }: Opener): string {
  return inner.slice(0, inner.lastIndexOf(rest));
}

function trailOf({ tag: { inner }, rest }: Opener): string {
  return inner.slice(inner.lastIndexOf(rest) + rest.length);
}

/** A loop names an item and a list, with a word or a mark between them. Null where the rest is no such thing. */
function loopPattern(opener: Opener, tags: readonly FoundTag[]): string | null {
  const match = /^([\p{L}_][\p{L}\p{N}_-]*)(\s+[\p{L}]+\s+|\s*(?:->|=>|:|,)\s*|\s+)([\p{L}_][\p{L}\p{N}_.-]*)$/u.exec(
    opener.rest,
  );
  if (match === null) return null;
  const [, first = '', between = '', second = ''] = match;
  if (/^(?:is|eq|equals?|and|or|not|ne)$/i.test(between.trim())) return null;
  const isItem = (name: string): boolean =>
    tags.some(({ inner }) => inner.includes(`${name}.`) || inner.includes(`${name}/`));
  const itemFirst = isItem(first) || (!isItem(second) && !/^as$/i.test(between.trim()));
  const names = itemFirst ? `{item}${between}{list}` : `{list}${between}{item}`;
  return leadOf(opener) + names + trailOf(opener);
}

/** How a condition compares a field with a text in quotes. */
function equalIn(rest: string): string | null {
  const match = /^[\p{L}_][\p{L}\p{N}_.-]*(\s*[^\p{L}\p{N}\s"']+\s*|\s+[\p{L}]+\s+)["'][^"']*["']$/u.exec(rest);
  const between = match?.[1];
  return between === undefined || /^\s*(?:!=|<>|ne|not)\s*$/i.test(between) ? null : `{left}${between}{right}`;
}
