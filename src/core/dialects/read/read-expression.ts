import type { Span } from '../../text/span.js';
import { formatToLdml } from '../date-format.js';
import type { Dialect } from '../dialect.js';
import type { ComparisonOperator, Expression } from '../../expressions/expression.js';
import { chainOf, grammarOf, matchesTemplate, ungrouped, type Grammar, type Node, type Template } from '../grammar.js';

/** What a path in a dialect's text means; null where it is none. */
export type PathResolver = (text: string, span: Span) => Expression | null;

/** An expression, and whether it says exactly what was written. */
export interface ReadExpression {
  readonly expression: Expression;
  readonly verdict: 'exact' | 'rewritten';
}

const comparisons: Readonly<Record<string, ComparisonOperator>> = {
  equal: '==',
  unequal: '!=',
  less: '<',
  at_most: '<=',
  more: '>',
  at_least: '>=',
};

/** How the presence of a value may be said, whatever its type. */
const presences = ['present', 'present_number', 'present_list'];
const absences = ['absent', 'absent_number', 'absent_list'];

/** Reads what a dialect prints. Null where it is nothing that the dialect says. */
export const readValue: Reading = (...text) => readAs('value', ...text);

/** Reads a dialect's condition. Null where it is nothing that the dialect says. */
export const readCondition: Reading = (...text) => readAs('condition', ...text);

type Reading = (dialect: Dialect, text: string, offset: number, resolve: PathResolver) => ReadExpression | null;

function readAs(
  kind: 'value' | 'condition',
  ...[dialect, text, offset, resolve]: Parameters<Reading>
): ReturnType<Reading> {
  const reader = new ExpressionReader(dialect, resolve);
  const node = grammarOf(dialect).parse(text, offset);
  const expression = node === null ? null : reader[kind](node);
  return expression === null ? null : { expression, verdict: reader.verdict };
}

class ExpressionReader {
  verdict: 'exact' | 'rewritten' = 'exact';
  readonly #grammar: Grammar;

  constructor(
    private readonly dialect: Dialect,
    private readonly resolve: PathResolver,
  ) {
    this.#grammar = grammarOf(dialect);
  }

  value(written: Node): Expression | null {
    const node = ungrouped(written);
    for (const template of this.#grammar.templates) {
      const bound = new Map<string, Node>();
      if (!matchesTemplate(template.node, node, bound) || !bound.has('value')) continue;
      const isFallback = template.construct === 'fallback';
      const found = isFallback ? this.fallback(bound, node.span) : this.filter(template.construct, bound, node.span);
      if (found === null) continue;
      this.note(template.verdict);
      return found;
    }
    if (node.kind === 'leaf') return this.leaf(node);
    const { construct, parts, span } = node;
    if (construct === 'fallback') {
      this.note(node.verdict);
      return this.fallback(parts, span);
    }
    if (construct === 'choice') return this.choice(parts, span);
    this.note(node.verdict);
    return this.filter(construct, parts, span);
  }

  private filter(name: string, parts: ReadonlyMap<string, Node>, span: Span): Expression | null {
    const value = this.part(parts, 'value');
    if (value === null) return null;
    const format = parts.get('format');
    if (format?.kind === 'leaf') {
      const ldml = formatToLdml(format.text, this.dialect.formats[name] ?? 'ldml');
      if (ldml === null) return null;
      return { kind: 'filter', value, name, parameter: { kind: 'text', value: ldml, span: format.span }, span };
    }
    const parameters = ['first', 'second'].filter((hole) => parts.has(hole)).map((hole) => this.part(parts, hole));
    const [parameter = null, second = null] = parameters;
    // Only texts and numbers are parameters in the neutral notation.
    if (parameters.some((part) => part?.kind !== 'text' && part?.kind !== 'number')) return null;
    return { kind: 'filter', value, name, parameter, ...(second === null ? {} : { second }), span };
  }

  private fallback(parts: ReadonlyMap<string, Node>, span: Span): Expression | null {
    const value = this.part(parts, 'value');
    const otherwise = this.part(parts, 'otherwise');
    return value === null || otherwise === null ? null : { kind: 'fallback', value, otherwise, span };
  }

  private choice(parts: ReadonlyMap<string, Node>, span: Span): Expression | null {
    const test = parts.get('condition');
    const condition = test === undefined ? null : this.condition(test);
    const yes = this.part(parts, 'yes');
    const no = this.part(parts, 'no');
    return condition === null || yes === null || no === null ? null : { kind: 'conditional', condition, yes, no, span };
  }

  private part(parts: ReadonlyMap<string, Node>, name: string): Expression | null {
    const node = parts.get(name);
    return node === undefined ? null : this.value(node);
  }

  private leaf(node: Node & { kind: 'leaf' }): Expression | null {
    const { text, span } = node;
    switch (node.what) {
      case 'path':
        return this.resolve(text, span);
      case 'text':
        return { kind: 'text', value: text, span };
      case 'number':
        return { kind: 'number', written: text, span };
      case 'flag':
        return { kind: 'flag', value: text === 'true', span };
    }
  }

  condition(written: Node): Expression | null {
    const node = ungrouped(written);
    if (node.kind === 'construct' && (node.construct === 'and' || node.construct === 'or')) return this.chain(node);
    return this.templated([node], node.span)?.expression ?? this.simple(node);
  }

  /** A chain of `and`, or of `or`: some of its links may together say one thing. */
  private chain(node: Node & { kind: 'construct' }): Expression | null {
    const links = chainOf(node, node.construct);
    const kind = node.construct === 'and' ? 'and' : 'or';
    let result: Expression | null = null;
    for (let index = 0; index < links.length;) {
      const rest = links.slice(index);
      const together = this.templated(rest, node.span, node.construct);
      const first = rest[0];
      const link: Expression | null = together?.expression ?? (first === undefined ? null : this.condition(first));
      if (link === null) return null;
      index += together?.length ?? 1;
      result = result === null ? link : { kind, left: result, right: link, span: node.span };
    }
    return result;
  }

  /** What a template says that the first of these nodes match; with a connection, templates that are such chains. */
  private templated(
    nodes: readonly Node[],
    span: Span,
    connection: string | null = null,
  ): { expression: Expression; length: number } | null {
    for (const template of this.#grammar.templates) {
      const links = connection === null ? [template.node] : chainOf(template.node, connection);
      if (connection !== null && (links.length < 2 || links.length > nodes.length)) continue;
      const bound = new Map<string, Node>();
      const fits = links.every((link, index) => {
        const node = nodes[index];
        return node !== undefined && matchesTemplate(link, node, bound);
      });
      const expression = fits ? this.presence(template, bound.get('left'), span) : null;
      if (expression === null) continue;
      this.note(template.verdict);
      return { expression, length: links.length };
    }
    return null;
  }

  private presence(template: Template, left: Node | undefined, span: Span): Expression | null {
    const value = left === undefined ? null : this.value(left);
    if (value === null || value.kind === 'text' || value.kind === 'number') return null;
    return this.ofPresence(template.construct, value, span);
  }

  private ofPresence(construct: string, value: Expression, span: Span): Expression | null {
    const isList = construct.endsWith('_list') && value.kind === 'path';
    if (presences.includes(construct)) return isList ? { ...value, isList } : value;
    if (absences.includes(construct)) return { kind: 'not', value, span };
    if (construct === 'given') return { kind: 'exists', value, span };
    if (construct === 'not_given') return { kind: 'not', value: { kind: 'exists', value, span }, span };
    return null;
  }

  private simple(node: Node): Expression | null {
    if (node.kind === 'leaf') return node.what === 'flag' ? this.leaf(node) : null;
    const { construct, parts, span } = node;
    const left = parts.get('left');
    if (construct === 'not') {
      // Engines of one language differ on what "not a == b" denies; with parentheses, where it has them, all agree.
      const isComparison = left?.kind === 'construct' && Object.hasOwn(comparisons, left.construct);
      if (isComparison && this.dialect.expressions['group'] !== undefined) return null;
      const value = left === undefined ? null : this.condition(left);
      return value === null ? null : { kind: 'not', value, span };
    }
    const operator = Object.hasOwn(comparisons, construct) ? comparisons[construct] : undefined;
    if (operator !== undefined) {
      const one = this.part(parts, 'left');
      const other = this.part(parts, 'right');
      return one === null || other === null ? null : { kind: 'comparison', operator, left: one, right: other, span };
    }
    const value = left === undefined ? null : this.value(left);
    if (value === null) return null;
    this.note(node.verdict);
    return this.ofPresence(construct, value, span);
  }

  private note(verdict: 'exact' | 'rewritten'): void {
    if (verdict === 'rewritten') this.verdict = verdict;
  }
}
