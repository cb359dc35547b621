import { parseMediaQueryList, type CssNode } from '../syntax/css-tree.js';

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
  if (!/width/i.test(text)) return { width: everyWidth, rest: normalized(text) };
  if (/,|\bor\b|^\s*not\b/i.test(text)) return null;
  const parts = text.trim().split(/\s+and\s+/i);
  const widths: WidthCondition[] = [];
  const rest: string[] = [];
  for (const part of parts) {
    const width = readWidthCondition(part);
    if (width === null && /width/i.test(part)) return null;
    if (width === null) rest.push(part);
    else widths.push(width);
  }
  return {
    width: {
      thresholds: widths.flatMap(({ thresholds }) => thresholds),
      matches: (width) => widths.every((condition) => condition.matches(width)),
    },
    rest: rest.length === 0 ? null : normalized(rest.join(' and ')),
  };
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
  const tree = parseMediaQueryList(text);
  if (tree === null || tree.type !== 'MediaQueryList') return null;
  const queries = childrenOf(tree).map(readQuery);
  if (queries.some((query) => query === null)) return null;
  const known = queries.filter((query) => query !== null);
  return {
    thresholds: known.flatMap((query) => query.thresholds),
    matches: (width) => known.some((query) => query.matches(width)),
  };
}

const everyWidth: WidthCondition = { thresholds: [], matches: () => true };

function readQuery(node: CssNode): WidthCondition | null {
  if (node.type !== 'MediaQuery') return null;
  const type = node.mediaType?.toLowerCase() ?? 'all';
  if (type !== 'all' && type !== 'screen') return null;
  const condition = node.condition === null ? everyWidth : readCondition(childrenOf(node.condition));
  if (condition === null) return null;
  return node.modifier?.toLowerCase() === 'not' ? negated(condition) : condition;
}

function negated(condition: WidthCondition): WidthCondition {
  return { thresholds: condition.thresholds, matches: (width) => !condition.matches(width) };
}

/** `a and b`, `a or b`, `not a`. */
function readCondition(nodes: readonly CssNode[]): WidthCondition | null {
  const words = nodes.flatMap((node) => (node.type === 'Identifier' ? [node.name.toLowerCase()] : []));
  const terms = nodes.flatMap((node) => (node.type === 'Identifier' ? [] : [readTerm(node)]));
  if (terms.some((term) => term === null)) return null;
  const known = terms.filter((term) => term !== null);
  const thresholds = known.flatMap((term) => term.thresholds);
  if (words[0] === 'not') return known[0] === undefined ? null : negated(known[0]);
  const any = words.includes('or');
  return {
    thresholds,
    matches: (width) => (any ? known.some((term) => term.matches(width)) : known.every((term) => term.matches(width))),
  };
}

function readTerm(node: CssNode): WidthCondition | null {
  if (node.type === 'Condition') return readCondition(childrenOf(node));
  if (node.type === 'Feature') return readFeature(node.name.toLowerCase(), node.value);
  if (node.type === 'FeatureRange') return readRange(node);
  return null;
}

function readFeature(name: string, value: CssNode | null): WidthCondition | null {
  const limit = pixels(value);
  if (limit === null) return null;
  if (name === 'max-width') return atMost(limit);
  if (name === 'min-width') return atLeast(limit);
  return null;
}

function atMost(limit: number): WidthCondition {
  return { thresholds: [Math.floor(limit)], matches: (width) => width <= limit };
}

function atLeast(limit: number): WidthCondition {
  return { thresholds: [Math.ceil(limit) - 1], matches: (width) => width >= limit };
}

type RangeNode = Extract<CssNode, { type: 'FeatureRange' }>;

/** `width <= 600px`, `600px >= width`, `400px < width <= 600px` (Media Queries 4, 2.4.3). */
function readRange(node: RangeNode): WidthCondition | null {
  const isWidth = (part: CssNode | null): boolean => part?.type === 'Identifier' && part.name.toLowerCase() === 'width';
  if (isWidth(node.left)) return compared(node.leftComparison, pixels(node.middle));
  if (!isWidth(node.middle)) return null;
  const left = compared(mirrored(node.leftComparison), pixels(node.left));
  if (node.right === null) return left;
  const right = compared(node.rightComparison ?? '', pixels(node.right));
  if (left === null || right === null) return null;
  return {
    thresholds: [...left.thresholds, ...right.thresholds],
    matches: (width) => left.matches(width) && right.matches(width),
  };
}

function mirrored(comparison: string): string {
  return comparison.replace(/[<>]/, (sign) => (sign === '<' ? '>' : '<'));
}

function compared(comparison: string, limit: number | null): WidthCondition | null {
  if (limit === null) return null;
  switch (comparison) {
    case '<=':
      return atMost(limit);
    case '>=':
      return atLeast(limit);
    case '<':
      return { thresholds: [Math.ceil(limit) - 1], matches: (width) => width < limit };
    case '>':
      return { thresholds: [Math.floor(limit)], matches: (width) => width > limit };
    default:
      return null;
  }
}

/** Lengths in media queries; em and rem count 16px, the initial font size (Media Queries 4, 1.3). */
function pixels(node: CssNode | null): number | null {
  if (node?.type === 'Number' && Number(node.value) === 0) return 0;
  if (node?.type !== 'Dimension') return null;
  const factor = { px: 1, em: 16, rem: 16, pt: 4 / 3, in: 96 }[node.unit.toLowerCase()];
  return factor === undefined ? null : Number(node.value) * factor;
}

function childrenOf(node: CssNode): CssNode[] {
  return 'children' in node && Array.isArray(node.children) ? node.children : [];
}
