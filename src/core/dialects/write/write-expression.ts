import { losses } from '../../findings/wording/losses.js';
import { formatFromLdml } from '../date-format.js';
import type { Expression } from '../../expressions/expression.js';
import { grammarOf, type Grammar } from '../grammar.js';
import { Loss } from './loss.js';
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

/** Writes the expressions of one tag in a dialect. What the dialect cannot say is thrown as a `Loss`. */
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

  condition(expression: Expression): string {
    return this.test(expression).text;
  }

  /**
   * A value within a tag.
   * @param keepsAttributes whether a text whose quotes would end the attribute around the tag is a loss
   */
  value(expression: Expression, keepsAttributes = false): string {
    this.#keepsAttributes = keepsAttributes;
    try {
      return this.printed(expression).text;
    } finally {
      this.#keepsAttributes = false;
    }
  }

  private printed(expression: Expression): Written {
    const operand = this.literal(expression);
    if (operand !== null) return operand;
    switch (expression.kind) {
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
        throw new Loss(losses.expression);
    }
  }

  private filter({ value, name, parameter, second }: Expression & { kind: 'filter' }): Written {
    const what = `the filter "${name}"`;
    const format = (): Written => {
      if (parameter === null) throw new Loss(losses.withoutFormat(what));
      const written = parameter.kind === 'text' ? parameter.value : this.printed(parameter).text;
      const own = formatFromLdml(written, this.context.dialect.formats[name] ?? 'ldml');
      if (own === null) throw new Loss(losses.format(written));
      return { text: this.text(own), level: this.#grammar.tightest };
    };
    const parameters = { ...given('first', parameter, this), ...given('second', second ?? null, this) };
    return this.fill(name, what, { value: () => this.printed(value), format, ...parameters }, (pattern) =>
      fitsParameters(pattern, Object.keys(parameters)),
    );
  }

  /** A parameter of a filter. */
  parameter(expression: Expression): Written {
    return this.printed(expression);
  }

  private literal(expression: Expression): Written | null {
    const level = this.#grammar.tightest;
    switch (expression.kind) {
      case 'path':
        return { text: writePath(expression, this.context), level };
      case 'text':
        return { text: this.text(expression.value), level };
      case 'number':
        return { text: expression.written, level };
      case 'flag':
        return { text: this.pattern(expression.value ? 'yes' : 'no', 'true and false'), level };
      default:
        return null;
    }
  }

  private test(expression: Expression): Written {
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
      case 'flag': {
        const literal = this.literal(expression);
        if (literal !== null) return literal;
        throw new Loss(losses.condition);
      }
      default:
        throw new Loss(losses.condition);
    }
  }

  /** Whether a value is filled, or is not, in the words that its type needs. */
  private presence(construct: 'present' | 'absent', value: Expression): Written {
    const { dialect } = this.context;
    const type =
      value.kind === 'path'
        ? shapeOf(value.segments, itemsOf(this.context.scopes), this.context.data)?.type
        : undefined;
    const special = `${construct}_${type ?? ''}`;
    const name = dialect.expressions[special] === undefined ? construct : special;
    return this.fill(name, 'whether a field is filled', { left: () => this.operand(value) });
  }

  private given(value: Expression): Written {
    if (this.context.dialect.expressions['given'] !== undefined)
      return this.fill('given', 'whether a field is there', { left: () => this.operand(value) });
    // Elsewhere what is there and what is filled are told by one and the same word.
    this.isRewritten = true;
    return this.test(value);
  }

  private negation(value: Expression): Written {
    const { expressions } = this.context.dialect;
    const negated = (inner: Expression): Expression => ({ kind: 'not', value: inner, span: inner.span });
    if (value.kind === 'not') return this.test(value.value);
    if (value.kind === 'exists' && expressions['not_given'] !== undefined)
      return this.fill('not_given', 'whether a field is missing', { left: () => this.operand(value.value) });
    if (value.kind === 'path' && expressions['absent'] !== undefined) return this.presence('absent', value);
    if (expressions['not'] !== undefined) {
      const written = this.negated(value);
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
    throw new Loss(losses.not);
  }

  /** `not` before an expression; null where the expression needs parentheses that the dialect does not have. */
  private negated(value: Expression): Written | null {
    const level = this.#grammar.levelOf('not');
    const inner = this.test(value);
    const isPlain = value.kind !== 'comparison' || this.context.dialect.expressions['group'] === undefined;
    if (inner.level >= level && isPlain)
      return { text: writePattern(this.pattern('not', '"not"'), { left: inner.text }), level };
    const grouped = this.grouped(inner);
    return grouped === null
      ? null
      : { text: writePattern(this.pattern('not', '"not"'), { left: grouped.text }), level };
  }

  /** `and` and `or`. Where a language has no parentheses, the parts are put in an order that needs none. */
  private chain(expression: Expression & { kind: 'and' | 'or' }): Written {
    const construct = expression.kind === 'and' ? 'and' : 'or';
    const pattern = this.pattern(construct, `"${construct}"`);
    const level = this.#grammar.levelOf(construct);
    const parts = linksOf(expression, expression.kind).map((part) => this.test(part));
    const isLoose = (part: Written): boolean => part.level <= level;
    const fitted = parts.map((part) => (isLoose(part) ? (this.grouped(part) ?? part) : part));
    const loose = fitted.filter(isLoose);
    const ordered = loose.length === 0 ? fitted : this.inOrder(fitted, loose, level);
    const isRight = this.#grammar.associates(level) === 'right';
    const join = (left: string, right: string): string => writePattern(pattern, { left, right });
    const texts = ordered.map(({ text }) => text);
    return { text: isRight ? texts.reduceRight((rest, text) => join(text, rest)) : texts.reduce(join), level };
  }

  private inOrder(parts: readonly Written[], loose: readonly Written[], level: number): readonly Written[] {
    const [one] = loose;
    if (loose.length > 1 || one === undefined || one.level < level) throw new Loss(losses.parenthesesInCondition);
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

  private operand(expression: Expression): Written {
    const { dialect } = this.context;
    if (expression.kind === 'path' && dialect.expressions['path'] !== undefined) {
      const field = writePath(expression, this.context);
      return {
        text: writePattern(dialect.expressions['path'][0]?.pattern ?? '{field}', { field }),
        level: this.#grammar.tightest,
      };
    }
    const literal = this.literal(expression);
    if (literal !== null) return literal;
    // The length of a list is a property in some languages, which a condition may ask for.
    const isProperty = (pattern: string): boolean => /^\{value\}[.\w]+$/.test(pattern);
    if (
      expression.kind === 'filter' &&
      dialect.expressions[expression.name]?.some(({ pattern }) => isProperty(pattern))
    )
      return this.fill(expression.name, '', { value: () => this.printed(expression.value) }, isProperty);
    if (dialect.filtersInConditions && (expression.kind === 'filter' || expression.kind === 'fallback'))
      return this.printed(expression);
    throw new Loss(losses.filterInCondition);
  }

  /** Fills the pattern of a construct; parts that bind looser than their place get parentheses. */
  private fill(
    construct: string,
    what: string,
    parts: Readonly<Record<string, () => Written>>,
    fits: (pattern: string) => boolean = () => true,
  ): Written {
    const pattern = this.pattern(construct, what, fits);
    const level = this.#grammar.levelOf(construct);
    const pieces = piecesOf(pattern);
    const isRight = this.#grammar.associates(level) === 'right';
    const filled: Record<string, string> = {};
    pieces.forEach((piece, index) => {
      if (!('hole' in piece)) return;
      const part = parts[piece.hole];
      if (part === undefined || filled[piece.hole] !== undefined) return;
      const isFirst = index === 0;
      const isLast = index === pieces.length - 1;
      // What stands between literals needs no parentheses; at an end it must bind as tight as its place asks.
      const needed = isFirst ? (isRight ? level + 1 : level) : isLast ? (isRight ? level : level + 1) : 0;
      filled[piece.hole] = this.fitted(part(), pieces.length === 1 ? 0 : needed).text;
    });
    return { text: writePattern(pattern, filled), level };
  }

  private fitted(part: Written, needed: number): Written {
    if (part.level >= needed) return part;
    const grouped = this.grouped(part);
    if (grouped === null) throw new Loss(losses.parentheses);
    return grouped;
  }

  private pattern(construct: string, what: string, fits: (pattern: string) => boolean = () => true): string {
    const { expressions } = this.context.dialect;
    const spellings = Object.hasOwn(expressions, construct) ? expressions[construct] : undefined;
    const pattern = spellings?.find((spelling) => fits(spelling.pattern))?.pattern;
    if (pattern === undefined) throw new Loss({ what });
    return pattern;
  }

  /** A text in quotes: of the kind that neither the text nor the attribute around has, where that can be. */
  text(value: string): string {
    const { dialect } = this.context;
    const pattern = this.pattern('text', 'texts within tags');
    const { stringEscape } = dialect;
    const usual = pattern.includes("'") ? "'" : '"';
    const kinds = usual === '"' ? ['"', "'"] : ["'", '"'];
    const fits = kinds.filter((kind) => !value.includes(kind));
    this.checkEnds(value);
    const best = fits.find((one) => one !== this.quote);
    const kind = best ?? (stringEscape === null && !this.#keepsAttributes ? fits[0] : undefined);
    if (kind !== undefined) return pattern.replaceAll(usual, kind).replace('{text}', () => this.escaped(value, kind));
    if (stringEscape === null) throw new Loss(fits.length === 0 ? losses.bothQuotes : losses.quotesOfAttribute);
    const other = kinds.find((one) => one !== this.quote) ?? usual;
    return pattern.replaceAll(usual, other).replace('{text}', () => this.escaped(value, other));
  }

  private escaped(value: string, quote: string): string {
    const { stringEscape } = this.context.dialect;
    if (stringEscape === null) return value;
    return value.replaceAll(stringEscape, stringEscape + stringEscape).replaceAll(quote, stringEscape + quote);
  }

  /** A text within a tag may not end the tag, where quotes do not keep it from doing so. */
  private checkEnds(value: string): void {
    const end = this.context.dialect.delimiters.find(({ close, quotes }) => !quotes && value.includes(close));
    if (end !== undefined) throw new Loss(losses.textThatHolds(end.close));
  }
}

function given(hole: string, parameter: Expression | null, writer: ExpressionWriter): Record<string, () => Written> {
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
