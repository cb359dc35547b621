import { spanAt, type Span } from '../text/span.js';
import type { BindingLevel, Dialect } from './dialect.js';
import { escapeRegExp, literalSource, piecesOf, type PatternPiece } from './pattern.js';

/** A parsed text of a dialect, before it is known what it means: constructs and their parts. */
export type Node =
  | { readonly kind: 'leaf'; readonly what: LeafKind; readonly text: string; readonly span: Span }
  | {
      readonly kind: 'construct';
      readonly construct: string;
      readonly verdict: 'exact' | 'rewritten';
      readonly parts: ReadonlyMap<string, Node>;
      readonly span: Span;
    };

export type LeafKind = 'path' | 'text' | 'number' | 'flag';

/** A way to write a construct that is made of others (`{left} and {left} != 0`), and so is found by comparing. */
export interface Template {
  readonly construct: string;
  readonly verdict: 'exact' | 'rewritten';
  readonly node: Node;
}

/** How a dialect writes expressions, ready to read and to write them. */
export interface Grammar {
  readonly parse: (text: string, offset: number) => Node | null;
  readonly templates: readonly Template[];
  /** How tight a construct binds: the number of its level, loosest first. */
  readonly levelOf: (construct: string) => number;
  /** The level of what never needs parentheses. */
  readonly tightest: number;
  readonly associates: (level: number) => 'left' | 'right';
}

/** From loose to tight, where a dialect says nothing else. What no level names binds tightest of all. */
export const usualBinding: readonly BindingLevel[] = [
  { expressions: ['choice'], associates: 'right' },
  { expressions: ['or'], associates: 'left' },
  { expressions: ['and'], associates: 'left' },
  { expressions: ['not'], associates: 'right' },
  { expressions: ['equal', 'unequal', 'less', 'at_most', 'more', 'at_least'], associates: 'left' },
  { expressions: ['present', 'absent', 'given', 'not_given'], associates: 'left' },
];

/** Constructs that connect others are always syntax; all others may be made of them. */
const connecting: ReadonlySet<string> = new Set([
  'or',
  'and',
  'not',
  'equal',
  'unequal',
  'less',
  'at_most',
  'more',
  'at_least',
  'choice',
  'group',
]);

/** What says how texts and paths are written, and is no expression by itself. */
const operands: ReadonlySet<string> = new Set(['text', 'path', 'yes', 'no']);

/** Expressions nested deeper than this are not read. */
const DEEPEST = 60;

interface Rule {
  readonly construct: string;
  readonly verdict: 'exact' | 'rewritten';
  readonly pieces: readonly PatternPiece[];
  /** For each literal piece what it matches. */
  readonly literals: readonly (RegExp | null)[];
}

interface Level {
  readonly prefix: readonly Rule[];
  readonly infix: readonly Rule[];
  readonly associates: 'left' | 'right';
}

/** A hole of a template, as the name that stands for it. */
const holeMark = (hole: string): string => `\uE000${hole}\uE001`;
const MARKED = /^\uE000(\w+)\uE001/;

const grammars = new WeakMap<Dialect, Grammar>();

/** The grammar of a dialect's expressions. */
export function grammarOf(dialect: Dialect): Grammar {
  const known = grammars.get(dialect);
  if (known !== undefined) return known;
  const grammar = makeGrammar(dialect);
  grammars.set(dialect, grammar);
  return grammar;
}

function makeGrammar(dialect: Dialect): Grammar {
  const named = dialect.binding.flatMap(({ expressions }) => expressions);
  const constructs = Object.keys(dialect.expressions).filter((name) => !operands.has(name));
  const levels: readonly BindingLevel[] = [
    ...dialect.binding,
    { expressions: constructs.filter((name) => !named.includes(name) && name !== 'group'), associates: 'left' },
    { expressions: ['group'], associates: 'left' },
  ];
  const levelOf = (construct: string): number => levels.findIndex(({ expressions }) => expressions.includes(construct));
  const rules: Rule[] = [];
  const pending: { rule: Rule; pattern: string }[] = [];
  for (const construct of constructs)
    for (const { pattern, verdict } of dialect.expressions[construct] ?? []) {
      const rule = ruleOf(construct, pattern, verdict);
      if (connecting.has(construct)) rules.push(rule);
      else pending.push({ rule, pattern });
    }
  const templates: Template[] = [];
  // A filter is syntax; a condition may be made of one (`{left} | length`).
  const isFilter = ({ rule }: { rule: Rule }): boolean =>
    rule.construct !== 'fallback' && rule.pieces.some((piece) => 'hole' in piece && piece.hole === 'value');
  for (const { rule, pattern } of pending.sort((a, b) => Number(isFilter(b)) - Number(isFilter(a)))) {
    const text = piecesOf(pattern)
      .map((piece) => ('hole' in piece ? holeMark(piece.hole) : piece.literal))
      .join('');
    const node = new Parser(dialect, levelsOf(levels, rules)).whole(text, 0);
    if (node === null) rules.push(rule);
    else templates.push({ construct: rule.construct, verdict: rule.verdict, node });
  }
  const compiled = levelsOf(levels, rules);
  const templateLevel = (construct: string): number | null => {
    const template = templates.find((one) => one.construct === construct)?.node;
    if (template === undefined) return null;
    return template.kind === 'leaf' ? levels.length : levelOf(template.construct);
  };
  return {
    parse: (text, offset) => new Parser(dialect, compiled).whole(text, offset),
    templates: templates.sort((a, b) => Number(isBare(a.node)) - Number(isBare(b.node))),
    levelOf: (construct) => {
      const isSyntax = rules.some((rule) => rule.construct === construct);
      return (isSyntax ? null : templateLevel(construct)) ?? levelOf(construct);
    },
    tightest: levels.length,
    associates: (level) => levels[level]?.associates ?? 'left',
  };
}

function isBare(node: Node): boolean {
  return node.kind === 'leaf';
}

function levelsOf(levels: readonly BindingLevel[], rules: readonly Rule[]): Level[] {
  return levels.map(({ expressions, associates }) => {
    const own = rules
      .filter(({ construct }) => expressions.includes(construct))
      .sort((a, b) => literalLength(b) - literalLength(a));
    const begins = (rule: Rule): boolean => rule.pieces[0] !== undefined && 'hole' in rule.pieces[0];
    return { prefix: own.filter((rule) => !begins(rule)), infix: own.filter(begins), associates };
  });
}

function literalLength({ pieces }: Rule): number {
  return pieces.reduce((length, piece) => length + ('literal' in piece ? piece.literal.length : 0), 0);
}

function ruleOf(construct: string, pattern: string, verdict: 'exact' | 'rewritten'): Rule {
  const pieces = piecesOf(pattern);
  return {
    construct,
    verdict,
    pieces,
    literals: pieces.map((piece) => {
      if ('hole' in piece) return null;
      const boundary = /\w$/.test(piece.literal) ? '(?!\\w)' : '';
      return new RegExp(`\\s*${literalSource(piece.literal)}${boundary}`, 'yu');
    }),
  };
}

/** The regular expression of a field's name. */
export function nameSource({ names }: Pick<Dialect, 'names'>): string {
  return `[\\p{L}_][\\p{L}\\d_${names.hyphens ? '-' : ''}]*`;
}

/** The regular expression of all paths that a dialect writes. */
export function pathSource(dialect: Dialect): string {
  const { paths } = dialect;
  const name = nameSource(dialect);
  const counters = Object.values(paths.counters).flat();
  return [...counters, ...paths.item, ...paths.field_in_loop, ...paths.field, ...paths.outer, ...paths.plain_item]
    .map((pattern) =>
      piecesOf(pattern)
        .map((piece) => {
          if ('literal' in piece) return escapeRegExp(piece.literal);
          if (piece.hole === 'path') return '(?:\\.\\.\\/)*(?:[\\p{L}\\d_.@-]+)';
          return piece.hole === 'item' ? name : `${name}(?:\\.${name})*`;
        })
        .join(''),
    )
    .sort((a, b) => b.length - a.length)
    .join('|');
}

class Parser {
  readonly #path: RegExp;
  #text = '';
  #offset = 0;
  #depth = 0;

  constructor(
    private readonly dialect: Dialect,
    private readonly levels: readonly Level[],
  ) {
    this.#path = new RegExp(`(?:\\uE000\\w+\\uE001(?:\\.\\w+)*|${pathSource(dialect)})(?![\\p{L}\\d_])`, 'yu');
  }

  whole(text: string, offset: number): Node | null {
    this.#text = text;
    this.#offset = offset;
    const result = this.level(0, 0);
    return result !== null && /^\s*$/.test(text.slice(result.end)) ? result.node : null;
  }

  private level(index: number, at: number): { node: Node; end: number } | null {
    const level = this.levels[index];
    if (level === undefined) return this.operand(at);
    if (index > 0) return this.prefixed(level, index, at) ?? this.chained(level, index, at);
    if (this.#depth > DEEPEST) return null;
    this.#depth += 1;
    const result = this.prefixed(level, index, at) ?? this.chained(level, index, at);
    this.#depth -= 1;
    return result;
  }

  private prefixed(level: Level, index: number, at: number): { node: Node; end: number } | null {
    for (const rule of level.prefix) {
      const found = this.pieces(rule, { from: 0, at, parts: new Map() }, index);
      if (found !== null) return this.extended(level, index, this.nodeOf(rule, found.parts, at, found.end), found.end);
    }
    return null;
  }

  private chained(level: Level, index: number, at: number): { node: Node; end: number } | null {
    const left = this.level(index + 1, at);
    return left === null ? null : this.extended(level, index, left.node, left.end);
  }

  /** What follows a node on its level: `left and right`, `left | filter`, again and again. */
  private extended(level: Level, index: number, first: Node, from: number): { node: Node; end: number } {
    let node = first;
    let end = from;
    for (;;) {
      const next = this.extension(level, index, node, end);
      if (next === null) return { node, end };
      ({ node, end } = next);
    }
  }

  private extension(level: Level, index: number, left: Node, at: number): { node: Node; end: number } | null {
    for (const rule of level.infix) {
      const [first] = rule.pieces;
      if (first === undefined || !('hole' in first) || rule.pieces.length === 1) continue;
      const parts = new Map([[first.hole, left]]);
      const found = this.pieces(rule, { from: 1, at, parts }, level.associates === 'right' ? index : index + 1);
      if (found !== null)
        return { node: this.nodeOf(rule, found.parts, left.span.start - this.#offset, found.end), end: found.end };
    }
    return null;
  }

  /**
   * Reads what is left of a rule's pieces.
   * @param begun the piece to go on with, where it begins, and what has been read before it
   * @param lastLevel the level that binds a value at the rule's end
   */
  private pieces(
    rule: Rule,
    { from, at, parts }: { readonly from: number; readonly at: number; readonly parts: Map<string, Node> },
    lastLevel: number,
  ): { parts: Map<string, Node>; end: number } | null {
    let end = at;
    for (let index = from; index < rule.pieces.length; index += 1) {
      const piece = rule.pieces[index];
      const literal = rule.literals[index];
      if (piece === undefined) return null;
      if (literal !== null && literal !== undefined) {
        literal.lastIndex = end;
        if (!literal.test(this.#text)) return null;
        end = literal.lastIndex;
      } else if ('hole' in piece) {
        const isLast = index === rule.pieces.length - 1;
        // The value behind a prefix binds as its level does; what literals enclose may be anything.
        const isText = piece.hole === 'format' || piece.hole === 'text';
        const inner = isText ? this.operand(end) : this.level(isLast ? lastLevel : 0, end);
        if (inner === null) return null;
        if (isText && (inner.node.kind !== 'leaf' || inner.node.what !== 'text')) return null;
        parts.set(piece.hole, inner.node);
        end = inner.end;
      }
    }
    return { parts, end };
  }

  private nodeOf(rule: Rule, parts: ReadonlyMap<string, Node>, start: number, end: number): Node {
    const { construct, verdict } = rule;
    const blank = /^\s*/.exec(this.#text.slice(start))?.[0].length ?? 0;
    const span = { start: this.#offset + start + blank, end: this.#offset + end };
    return { kind: 'construct', construct, verdict, parts, span };
  }

  private operand(at: number): { node: Node; end: number } | null {
    const start = at + (/^\s*/.exec(this.#text.slice(at))?.[0].length ?? 0);
    const leaf = (what: LeafKind, written: string, text: string): { node: Node; end: number } => ({
      node: { kind: 'leaf', what, text, span: spanAt(this.#offset + start, written.length) },
      end: start + written.length,
    });
    const rest = this.#text.slice(start);
    const number = /^-?\d+(?:\.\d+)?(?![\w.])/.exec(rest)?.[0];
    if (number !== undefined) return leaf('number', number, number);
    const quoted = this.quoted(rest);
    if (quoted !== null) return leaf('text', quoted.written, quoted.value);
    this.#path.lastIndex = start;
    const path = this.#path.exec(this.#text)?.[0];
    if (path === undefined) return null;
    const { expressions } = this.dialect;
    if (path === expressions['yes']?.[0]?.pattern) return leaf('flag', path, 'true');
    if (path === expressions['no']?.[0]?.pattern) return leaf('flag', path, 'false');
    return leaf('path', path, path);
  }

  private quoted(rest: string): { written: string; value: string } | null {
    const { expressions, stringEscape } = this.dialect;
    if (expressions['text'] === undefined) return null;
    const escape = stringEscape === null ? null : escapeRegExp(stringEscape);
    const content = (quote: string): string =>
      escape === null ? `[^${quote}]*` : `(?:[^${quote}${escape}]|${escape}[\\s\\S])*`;
    const written = new RegExp(`^(?:"${content('"')}"|'${content("'")}')`).exec(rest)?.[0];
    if (written === undefined) return null;
    const inner = written.slice(1, -1);
    return { written, value: escape === null ? inner : inner.replace(new RegExp(`${escape}([\\s\\S])`, 'g'), '$1') };
  }
}

/** Whether a node is what a template says; the parts that its holes stand for are put into `bound`. */
export function matchesTemplate(template: Node, node: Node, bound: Map<string, Node>): boolean {
  const actual = ungrouped(node);
  const expected = ungrouped(template);
  if (expected.kind === 'leaf') {
    const hole = expected.what === 'path' ? MARKED.exec(expected.text) : null;
    if (hole === null) return actual.kind === 'leaf' && actual.what === expected.what && actual.text === expected.text;
    const rest = expected.text.slice(hole[0].length);
    return bind(hole[1] ?? '', rest, actual, bound);
  }
  if (actual.kind !== 'construct' || actual.construct !== expected.construct) return false;
  return [...expected.parts].every(([name, part]) => {
    const own = actual.parts.get(name);
    return own !== undefined && matchesTemplate(part, own, bound);
  });
}

function bind(hole: string, rest: string, actual: Node, bound: Map<string, Node>): boolean {
  let part = actual;
  if (rest !== '') {
    if (actual.kind !== 'leaf' || actual.what !== 'path' || !actual.text.endsWith(rest)) return false;
    const length = actual.text.length - rest.length;
    part = { ...actual, text: actual.text.slice(0, length), span: spanAt(actual.span.start, length) };
  }
  const before = bound.get(hole);
  if (before !== undefined) return sameNode(before, part);
  bound.set(hole, part);
  return true;
}

function sameNode(a: Node, b: Node): boolean {
  if (a.kind === 'leaf' || b.kind === 'leaf')
    return a.kind === 'leaf' && b.kind === 'leaf' && a.what === b.what && a.text === b.text;
  return (
    a.construct === b.construct &&
    [...a.parts].every(([name, part]) => {
      const other = b.parts.get(name);
      return other !== undefined && sameNode(part, other);
    })
  );
}

/** A node without the parentheses around it. */
export function ungrouped(node: Node): Node {
  const inner = node.kind === 'construct' && node.construct === 'group' ? node.parts.get('inner') : undefined;
  return inner === undefined ? node : ungrouped(inner);
}

/** The parts that a connection connects, through all connections of its kind. */
export function chainOf(node: Node, construct: string): Node[] {
  const actual = ungrouped(node);
  if (actual.kind !== 'construct' || actual.construct !== construct) return [node];
  return ['left', 'right'].flatMap((name) => {
    const part = actual.parts.get(name);
    return part === undefined ? [] : chainOf(part, construct);
  });
}
