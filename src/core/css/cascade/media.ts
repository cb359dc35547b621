import { readMediaQueries, type Comparison, type MediaCondition, type MediaQuery } from '../syntax/media-query.js';
import { plainLengths, readMath } from '../values/math.js';
import { pixelsOf } from '../values/value.js';

/** What a media query list says about the width of the viewport. */
export interface WidthCondition {
  /**
   * Whole widths after which the answer may change: a threshold of 600 lies between 600 and 601.
   * Widths are whole CSS pixels here, as viewports of mail clients are.
   */
  readonly thresholds: readonly number[];
  /** Whether the list matches a screen of this width. */
  readonly matches: (width: number) => boolean;
}

/**
 * Reads a media query list that speaks of nothing but screen widths (Media Queries Level 4); null for any other,
 * which a layout for a given width cannot decide.
 */
export function readWidthCondition(text: string): WidthCondition | null {
  const known = conditions.get(text);
  if (known !== undefined) return known;
  const read = readQueryList(text);
  if (conditions.size > 500) conditions.clear();
  conditions.set(text, read);
  return read;
}

/** A media query list, taken apart: what it says of widths, and what else it asks for. */
export interface SplitCondition {
  readonly width: WidthCondition;
  /** The rest as a media query, as written; null where there is none. */
  readonly rest: string | null;
}

/**
 * Parts a media query list into widths and the rest, so that `(max-width: 600px) and (prefers-color-scheme: dark)` can be
 * decided for a width; null where the two cannot be told apart (lists and negations that mix them).
 */
export function splitCondition(text: string): SplitCondition | null {
  const whole = readWidthCondition(text);
  if (whole !== null) return { width: whole, rest: null };
  if (!isAboutWidth(text)) return { width: everyWidth, rest: normalized(text) };
  const [query, ...others] = readMediaQueries(text);
  if (query === undefined || query === null || others.length > 0 || query.modifier === 'not') return null;
  const { type, condition } = query;
  const terms = condition === null ? [] : condition.kind === 'and' ? condition.terms : [condition];
  const widths: WidthCondition[] = [];
  const rest = type === null || isScreen(type) ? [] : [type];
  for (const term of terms) {
    const width = readCondition(term);
    const written = text.slice(term.span.start, term.span.end);
    if (width !== null) widths.push(width);
    else if (isAboutWidth(written)) return null;
    else rest.push(written);
  }
  return { width: joined('and', widths), rest: rest.length === 0 ? null : normalized(rest.join(' and ')) };
}

/** Whether a query asks for the width of the window, rather than for that of the screen. */
function isAboutWidth(text: string): boolean {
  return /(?<!device-)width/i.test(text);
}

/** One spelling for what means the same, so that rules under it stand together. */
function normalized(query: string): string {
  return query
    .trim()
    .toLowerCase()
    .replace(/\s+/g, ' ')
    .replace(/\s*:\s*/g, ':')
    .replace(/\(\s+/g, '(')
    .replace(/\s+\)/g, ')')
    .replace(/^(?:only )?(?:screen|all) and /, '');
}

/** Conditions already read: the same few stand on many rules. */
const conditions = new Map<string, WidthCondition | null>();

function readQueryList(text: string): WidthCondition | null {
  const queries = readMediaQueries(text).map((query) => (query === null ? null : readQuery(query)));
  const known = queries.filter((query) => query !== null);
  if (known.length < queries.length) return null;
  return queries.length === 0 ? everyWidth : joined('or', known);
}

const everyWidth: WidthCondition = { thresholds: [], matches: () => true };

function isScreen(type: string): boolean {
  return type === 'all' || type === 'screen';
}

function readQuery({ modifier, type, condition }: MediaQuery): WidthCondition | null {
  if (type !== null && !isScreen(type)) return null;
  const width = condition === null ? everyWidth : readCondition(condition);
  return width !== null && modifier === 'not' ? negated(width) : width;
}

function negated(condition: WidthCondition): WidthCondition {
  return { thresholds: condition.thresholds, matches: (width) => !condition.matches(width) };
}

function joined(joint: 'and' | 'or', conditions: readonly WidthCondition[]): WidthCondition {
  return {
    thresholds: conditions.flatMap(({ thresholds }) => thresholds),
    matches: (width) =>
      joint === 'or'
        ? conditions.some((condition) => condition.matches(width))
        : conditions.every((condition) => condition.matches(width)),
  };
}

function readCondition(condition: MediaCondition): WidthCondition | null {
  switch (condition.kind) {
    case 'not': {
      const term = readCondition(condition.term);
      return term === null ? null : negated(term);
    }
    case 'and':
    case 'or': {
      const terms = condition.terms.map(readCondition);
      const known = terms.filter((term) => term !== null);
      return known.length < terms.length ? null : joined(condition.kind, known);
    }
    case 'feature':
      return readFeature(condition.name.toLowerCase(), condition.value);
    case 'range': {
      if (condition.name.toLowerCase() !== 'width') return null;
      const bounds = condition.bounds.map(({ comparison, value }) => compared(comparison, pixels(value)));
      const known = bounds.filter((bound) => bound !== null);
      return known.length < bounds.length ? null : joined('and', known);
    }
    case 'unknown':
      return null;
  }
}

function readFeature(name: string, value: string | null): WidthCondition | null {
  // What stands by itself asks whether there is any width.
  if (value === null) return name === 'width' ? everyWidth : null;
  const comparison = new Map<string, Comparison>([
    ['max-width', '<='],
    ['min-width', '>='],
    ['width', '='],
  ]).get(name);
  return comparison === undefined ? null : compared(comparison, pixels(value));
}

function compared(comparison: Comparison, limit: number | null): WidthCondition | null {
  if (limit === null) return null;
  const [below, from] = [Math.ceil(limit) - 1, Math.floor(limit)];
  switch (comparison) {
    case '<=':
      return { thresholds: [from], matches: (width) => width <= limit };
    case '>=':
      return { thresholds: [below], matches: (width) => width >= limit };
    case '<':
      return { thresholds: [below], matches: (width) => width < limit };
    case '>':
      return { thresholds: [from], matches: (width) => width > limit };
    case '=':
      return { thresholds: [below, from], matches: (width) => width === limit };
  }
}

/** Lengths in media queries; em and rem count 16px, the initial font size (Media Queries 4, 1.3). */
function pixels(value: string): number | null {
  const plain = pixelsOf(value);
  const length = plain === null ? readMath(value, plainLengths) : null;
  return plain ?? (length?.kind === 'sum' && length.percent === 0 ? length.pixels : null);
}
