import { losses, type LossWording } from '../../findings/wording/losses.js';
import { formatFromLdml } from '../date-format.js';
import type { Expression } from '../../expressions/expression.js';
import { grammarOf, type Grammar } from '../grammar.js';
import { allSaid } from './loss-notes.js';
import { piecesOf, writePattern } from '../pattern.js';
import { shapeOf } from '../shapes.js';
import { itemsOf, writePath, type WritingContext } from './write-path.js';

/** A written expression, and how tight it binds. */
interface Written {
  readonly text: string;
  readonly level: number;
}

const comparisonNames = {
  '==': 'equal',
  '!=': 'unequal',
  '<': 'less',
  '<=': 'at_most',
  '>': 'more',
  '>=': 'at_least',
} as const;

/** Writes the expressions of one tag in a dialect. What the dialect cannot say is null, with a note of why. */
export class ExpressionWriter {
  /** Set where something was said in other words than its own. */
  isRewritten = false;
  /** Whether a text whose quotes would end the attribute around it is a loss; else such quotes stand: engines do not mind. */
  #keepsAttributes = false;
  readonly #grammar: Grammar;

  /** @param quote of the attribute that the tag stands in; empty where it stands in none */
  constructor(
    private readonly context: WritingContext,
    private readonly quote: '' | '"' | "'",
  ) {
    this.#grammar = grammarOf(context.dialect);
  }

  condition(expression: Expression): string | null {
    return this.test(expression)?.text ?? null;
  }

  /**
   * A value within a tag.
   * @param keepsAttributes whether a text whose quotes would end the attribute around the tag is a loss
   */
  value(expression: Expression, { keepsAttributes }: { readonly keepsAttributes: boolean }): string | null {
    this.#keepsAttributes = keepsAttributes;
    const written = this.printed(expression);
    this.#keepsAttributes = false;
    return written?.text ?? null;
  }

  private cannot(loss: LossWording): null {
    return this.context.lost.add(loss);
  }

  private printed(expression: Expression): Written | null {
    switch (expression.kind) {
      case 'path':
      case 'text':
      case 'number':
      case 'flag':
        return this.literal(expression);
      case 'fallback':
        return this.fill('fallback', 'a fallback', {
          value: () => this.printed(expression.value),
          otherwise: () => this.printed(expression.otherwise),
        });
      case 'filter':
        return this.filter(expression);
      case 'conditional':
        return this.fill('choice', 'a choice within a tag', {
          condition: () => this.test(expression.condition),
          yes: () => this.printed(expression.yes),
          no: () => this.printed(expression.no),
        });
      default:
        return this.cannot(losses.expression);
    }
  }

  private filter({ value, name, parameter, second }: Expression & { kind: 'filter' }): Written | null {
    const what = `the filter "${name}"`;
    const format = (): Written | null => {
      if (parameter === null) return this.cannot(losses.withoutFormat(what));
      const written = parameter.kind === 'text' ? parameter.value : this.printed(parameter)?.text;
      if (written === undefined) return null;
      const own = formatFromLdml(written, this.context.dialect.formats[name] ?? 'ldml');
      if (own === null) return this.cannot(losses.format(written));
      return this.atom(this.text(own));
    };
    const parameters = { ...given('first', parameter, this), ...given('second', second ?? null, this) };
    return this.fill(name, what, { value: () => this.printed(value), format, ...parameters }, (pattern) =>
      fitsParameters(pattern, Object.keys(parameters)),
    );
  }

  /** A parameter of a filter. */
  parameter(expression: Expression): Written | null {
    return this.printed(expression);
  }

  /** What is one word for its surroundings: it needs no parentheses anywhere. */
  private atom(text: string | null): Written | null {
    return text === null ? null : { text, level: this.#grammar.tightest };
  }

  private literal(expression: Literal): Written | null {
    switch (expression.kind) {
      case 'path':
        return this.atom(writePath(expression, this.context));
      case 'text':
        return this.atom(this.text(expression.value));
      case 'number':
        return this.atom(expression.written);
      case 'flag':
        return this.atom(this.pattern(expression.value ? 'yes' : 'no', 'true and false'));
    }
  }

  private test(expression: Expression): Written | null {
    switch (expression.kind) {
      case 'path':
      case 'fallback':
      case 'filter':
        return this.presence('present', expression);
      case 'exists':
        return this.given(expression.value);
      case 'not':
        return this.negation(expression.value);
      case 'and':
      case 'or':
        return this.chain(expression);
      case 'comparison':
        return this.fill(comparisonNames[expression.operator], `the comparison "${expression.operator}"`, {
          left: () => this.operand(expression.left),
          right: () => this.operand(expression.right),
        });
      case 'flag':
        return this.literal(expression);
      default:
        return this.cannot(losses.condition);
    }
  }

  /** Whether a value is filled, or is not, in the words that its type needs. */
  private presence(construct: 'present' | 'absent', value: Expression): Written | null {
    const { dialect } = this.context;
    const type =
      value.kind === 'path'
        ? shapeOf(value.segments, itemsOf(this.context.scopes), this.context.data)?.type
        : undefined;
    const special = `${construct}_${type ?? ''}`;
    const name = dialect.expressions[special] === undefined ? construct : special;
    return this.fill(name, 'whether a field is filled', { left: () => this.operand(value) });
  }

  private given(value: Expression): Written | null {
    if (this.context.dialect.expressions['given'] !== undefined)
      return this.fill('given', 'whether a field is there', { left: () => this.operand(value) });
    // Elsewhere what is there and what is filled are told by one and the same word.
    this.isRewritten = true;
    return this.test(value);
  }

  private negation(value: Expression): Written | null {
    const { expressions } = this.context.dialect;
    const negated = (inner: Expression): Expression => ({ kind: 'not', value: inner, span: inner.span });
    if (value.kind === 'not') return this.test(value.value);
    if (value.kind === 'exists' && expressions['not_given'] !== undefined)
      return this.fill('not_given', 'whether a field is missing', { left: () => this.operand(value.value) });
    if (value.kind === 'path' && expressions['absent'] !== undefined) return this.presence('absent', value);
    if (expressions['not'] !== undefined) {
      const inner = this.test(value);
      if (inner === null) return null;
      const written = this.negated(value, inner);
      if (written !== null) return written;
    }
    if (value.kind === 'comparison' && (value.operator === '==' || value.operator === '!=')) {
      this.isRewritten ||= expressions['not'] !== undefined;
      return this.test({ ...value, operator: value.operator === '==' ? '!=' : '==' });
    }
    if (value.kind === 'and' || value.kind === 'or') {
      this.isRewritten = true;
      const kind = value.kind === 'and' ? 'or' : 'and';
      return this.test({ ...value, kind, left: negated(value.left), right: negated(value.right) });
    }
    return this.cannot(losses.not);
  }

  /** `not` before an expression; null where the expression needs parentheses that the dialect does not have. */
  private negated(value: Expression, inner: Written): Written | null {
    const level = this.#grammar.levelOf('not');
    const isPlain = value.kind !== 'comparison' || this.context.dialect.expressions['group'] === undefined;
    const left = inner.level >= level && isPlain ? inner : this.grouped(inner);
    const pattern = left === null ? null : this.pattern('not', '"not"');
    return left === null || pattern === null ? null : { text: writePattern(pattern, { left: left.text }), level };
  }

  /** `and` and `or`. Where a language has no parentheses, the parts are put in an order that needs none. */
  private chain(expression: Expression & { kind: 'and' | 'or' }): Written | null {
    const construct = expression.kind === 'and' ? 'and' : 'or';
    const pattern = this.pattern(construct, `"${construct}"`);
    if (pattern === null) return null;
    const level = this.#grammar.levelOf(construct);
    const parts = allSaid(linksOf(expression, expression.kind), (part) => this.test(part));
    if (parts === null) return null;
    const isLoose = (part: Written): boolean => part.level <= level;
    const fitted = parts.map((part) => (isLoose(part) ? (this.grouped(part) ?? part) : part));
    const loose = fitted.filter(isLoose);
    const ordered = loose.length === 0 ? fitted : this.inOrder(fitted, loose, level);
    if (ordered === null) return null;
    const isRight = this.#grammar.associates(level) === 'right';
    const join = (left: string, right: string): string => writePattern(pattern, { left, right });
    const texts = ordered.map(({ text }) => text);
    return { text: isRight ? texts.reduceRight((rest, text) => join(text, rest)) : texts.reduce(join), level };
  }

  private inOrder(parts: readonly Written[], loose: readonly Written[], level: number): readonly Written[] | null {
    const [one] = loose;
    if (loose.length > 1 || one === undefined || one.level < level) return this.cannot(losses.parenthesesInCondition);
    const others = parts.filter((part) => part !== one);
    const isRight = this.#grammar.associates(level) === 'right';
    const ordered = isRight ? [...others, one] : [one, ...others];
    if (ordered.some((part, index) => part !== parts[index])) this.isRewritten = true;
    return ordered;
  }

  private grouped(inner: Written): Written | null {
    const pattern = this.context.dialect.expressions['group']?.[0]?.pattern;
    return pattern === undefined
      ? null
      : { text: writePattern(pattern, { inner: inner.text }), level: this.#grammar.tightest };
  }

  private operand(expression: Expression): Written | null {
    const { dialect } = this.context;
    if (expression.kind === 'path' && dialect.expressions['path'] !== undefined) {
      const field = writePath(expression, this.context);
      if (field === null) return null;
      return this.atom(writePattern(dialect.expressions['path'][0]?.pattern ?? '{field}', { field }));
    }
    if (isLiteral(expression)) return this.literal(expression);
    // The length of a list is a property in some languages, which a condition may ask for.
    const isProperty = (pattern: string): boolean => /^\{value\}[.\w]+$/.test(pattern);
    if (
      expression.kind === 'filter' &&
      dialect.expressions[expression.name]?.some(({ pattern }) => isProperty(pattern))
    )
      return this.fill(expression.name, '', { value: () => this.printed(expression.value) }, isProperty);
    if (dialect.filtersInConditions && (expression.kind === 'filter' || expression.kind === 'fallback'))
      return this.printed(expression);
    return this.cannot(losses.filterInCondition);
  }

  /** Fills the pattern of a construct; parts that bind looser than their place get parentheses. */
  private fill(
    construct: string,
    what: string,
    parts: Readonly<Record<string, () => Written | null>>,
    fits: (pattern: string) => boolean = () => true,
  ): Written | null {
    const pattern = this.pattern(construct, what, fits);
    if (pattern === null) return null;
    const level = this.#grammar.levelOf(construct);
    const pieces = piecesOf(pattern);
    const isRight = this.#grammar.associates(level) === 'right';
    const filled: Record<string, string> = {};
    for (const [index, piece] of pieces.entries()) {
      const say = 'hole' in piece ? parts[piece.hole] : undefined;
      if (!('hole' in piece) || say === undefined || filled[piece.hole] !== undefined) continue;
      const isFirst = index === 0;
      const isLast = index === pieces.length - 1;
      // What stands between literals needs no parentheses; at an end it must bind as tight as its place asks.
      const needed = isFirst ? (isRight ? level + 1 : level) : isLast ? (isRight ? level : level + 1) : 0;
      const part = say();
      const fitted = part === null ? null : this.fitted(part, pieces.length === 1 ? 0 : needed);
      if (fitted === null) return null;
      filled[piece.hole] = fitted.text;
    }
    return { text: writePattern(pattern, filled), level };
  }

  private fitted(part: Written, needed: number): Written | null {
    if (part.level >= needed) return part;
    return this.grouped(part) ?? this.cannot(losses.parentheses);
  }

  private pattern(construct: string, what: string, fits: (pattern: string) => boolean = () => true): string | null {
    const { expressions } = this.context.dialect;
    const spellings = Object.hasOwn(expressions, construct) ? expressions[construct] : undefined;
    return spellings?.find((spelling) => fits(spelling.pattern))?.pattern ?? this.cannot({ what });
  }

  /** A text in quotes: of the kind that neither the text nor the attribute around has, where that can be. */
  private text(value: string): string | null {
    const pattern = this.pattern('text', 'texts within tags');
    if (pattern === null) return null;
    const { stringEscape, delimiters } = this.context.dialect;
    // A text within a tag may not end the tag, where quotes do not keep it from doing so.
    const end = delimiters.find(({ close, quotes }) => !quotes && value.includes(close));
    const usual = pattern.includes("'") ? "'" : '"';
    const kinds = usual === '"' ? ['"', "'"] : ["'", '"'];
    const fits = kinds.filter((kind) => !value.includes(kind));
    if (end !== undefined) return this.cannot(losses.textThatHolds(end.close));
    const best = fits.find((one) => one !== this.quote);
    const kind = best ?? (stringEscape === null && !this.#keepsAttributes ? fits[0] : undefined);
    if (kind !== undefined) return pattern.replaceAll(usual, kind).replace('{text}', () => this.escaped(value, kind));
    if (stringEscape === null) return this.cannot(fits.length === 0 ? losses.bothQuotes : losses.quotesOfAttribute);
    const other = kinds.find((one) => one !== this.quote) ?? usual;
    return pattern.replaceAll(usual, other).replace('{text}', () => this.escaped(value, other));
  }

  private escaped(value: string, quote: string): string {
    const { stringEscape } = this.context.dialect;
    if (stringEscape === null) return value;
    return value.replaceAll(stringEscape, stringEscape + stringEscape).replaceAll(quote, stringEscape + quote);
  }
}

/** What stands for itself, without a construct around. */
type Literal = Expression & { kind: 'path' | 'text' | 'number' | 'flag' };

function isLiteral(expression: Expression): expression is Literal {
  return ['path', 'text', 'number', 'flag'].includes(expression.kind);
}

function given(
  hole: string,
  parameter: Expression | null,
  writer: ExpressionWriter,
): Record<string, () => Written | null> {
  return parameter === null ? {} : { [hole]: () => writer.parameter(parameter) };
}

/** Whether a filter's pattern takes the parameters that there are; formats are told by their own hole. */
function fitsParameters(pattern: string, given: readonly string[]): boolean {
  if (pattern.includes('{format}')) return true;
  return ['first', 'second'].every((hole) => pattern.includes(`{${hole}}`) === given.includes(hole));
}

/** The parts of a chain of `and`, or of `or`. */
export function linksOf(expression: Expression, kind: 'and' | 'or'): Expression[] {
  if (expression.kind !== kind) return [expression];
  return [...linksOf(expression.left, kind), ...linksOf(expression.right, kind)];
}

/** The parts that must all hold: `a and b`, and also `not (a or b)`. */
export function conjunction(condition: Expression): Expression[] {
  if (condition.kind === 'and') return linksOf(condition, 'and').flatMap(conjunction);
  if (condition.kind !== 'not') return [condition];
  const { value } = condition;
  if (value.kind === 'not') return conjunction(value.value);
  if (value.kind !== 'or') return [condition];
  return linksOf(value, 'or').flatMap((part) => conjunction({ kind: 'not', value: part, span: part.span }));
}
