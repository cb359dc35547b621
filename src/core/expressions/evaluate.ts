import { valueAdvice } from '../findings/wording/values.js';
import { adviceForName, finding, type Report, type FindingCode } from '../findings/finding.js';
import { parseExpression, pathsIn, type Expression, type PathExpression } from './expression.js';
import { nearestName } from '../text/nearest.js';
import type { SourceText } from '../text/source-text.js';
import type { Span } from '../text/span.js';
import { applyFilter } from './filters.js';
import type { Scope } from './scope.js';
import { describeValue, isBlank, isList, isPresent, isRecord, numberOf, textOf, type BuildValue } from './values.js';

/** What an expression is evaluated in. */
export interface Evaluation {
  readonly scope: Scope;
  /** Where the expression stands; its spans refer to this text. */
  readonly source: SourceText;
  /** BCP 47 tag of the language of the message, for names of months and decimal separators. */
  readonly language: string;
  /** The names of the merge fields, to advise those who write one as a build value. */
  readonly fields: ReadonlySet<string>;
  /** Keeps merge tags that stand in a text of an expression apart from its words. */
  readonly keepTags: (text: string, span: Span) => string;
  readonly report: Report;
}

/** The value of an expression. What is wrong is reported, and makes the value undefined. */
export function evaluate(expression: Expression, context: Evaluation): BuildValue | undefined {
  switch (expression.kind) {
    case 'text':
      return context.keepTags(expression.value, expression.span);
    case 'number':
      return Number(expression.written);
    case 'flag':
      return expression.value;
    case 'path':
      return follow(expression, context, 'needed');
    case 'fallback':
      return evaluateFallback(expression.value, expression.otherwise, context);
    case 'exists':
      return isGiven(expression.value, context);
    case 'not':
      return !isPresent(evaluate(expression.value, context));
    case 'and':
      return isPresent(evaluate(expression.left, context)) && isPresent(evaluate(expression.right, context));
    case 'or':
      return isPresent(evaluate(expression.left, context)) || isPresent(evaluate(expression.right, context));
    case 'conditional':
      return evaluate(isPresent(evaluate(expression.condition, context)) ? expression.yes : expression.no, context);
    case 'comparison':
      return compare(
        expression.operator,
        evaluate(expression.left, context) ?? null,
        evaluate(expression.right, context) ?? null,
      );
    case 'arithmetic':
      return calculate(expression, context);
    case 'filter':
      return filtered(expression, context);
  }
}

function evaluateFallback(value: Expression, otherwise: Expression, context: Evaluation): BuildValue | undefined {
  const found = value.kind === 'path' ? follow(value, context, 'may be missing') : evaluateQuietly(value, context);
  return isBlank(found) ? evaluate(otherwise, context) : found;
}

/** Under `??` a path may lead nowhere; everything else that is wrong stays wrong. */
function evaluateQuietly(value: Expression, context: Evaluation): BuildValue | undefined {
  const missing = pathsIn(value).some((path) => follow(path, context, 'may be missing') === undefined);
  return missing ? undefined : evaluate(value, context);
}

function isGiven(value: Expression, context: Evaluation): boolean {
  const found = value.kind === 'path' ? follow(value, context, 'may be missing') : evaluate(value, context);
  return found !== undefined && found !== null && found !== false;
}

/** The name under which a loop keeps what it knows of its current item; no path can spell it. */
export function loopName(item: string): string {
  return `${item}\0`;
}

/** Whether a path that leads nowhere is an error. */
type Need = 'needed' | 'may be missing';

function follow(path: PathExpression, context: Evaluation, need: Need): BuildValue | undefined {
  const [first = '', ...rest] = path.segments;
  const start = context.scope.lookup(first);
  if (start === undefined) {
    reportUnknown(path, context, need);
    return undefined;
  }
  const loop = context.scope.lookup(loopName(first));
  let value: BuildValue = start;
  for (const [index, segment] of rest.entries()) {
    const next: BuildValue | undefined =
      index === 0 ? (member(value, segment) ?? member(loop, segment)) : member(value, segment);
    if (next === undefined) {
      if (need === 'needed') reportMember(path, index + 1, value, loop, context);
      return undefined;
    }
    value = next;
  }
  return value;
}

function member(value: BuildValue | undefined, segment: string): BuildValue | undefined {
  if (isRecord(value)) return value.get(segment);
  if (isList(value) && /^\d+$/.test(segment)) return value[Number(segment) - 1];
  return isList(value) && segment === 'count' ? value.length : undefined;
}

/** A name under `??` may be missing, but one that is nearly another is more likely misspelt. */
function reportUnknown(path: PathExpression, context: Evaluation, need: Need): void {
  const name = path.segments[0] ?? '';
  const known = context.scope.names().filter((candidate) => !candidate.includes('\0'));
  const nearest = nearestName(name, known);
  const place = { source: context.source, span: path.span };
  if (need === 'may be missing') {
    if (nearest !== null) context.report(finding('build-value-doubtful', place, { name, nearest }));
    return;
  }
  const advice =
    nearest === null && (context.fields.has(name) || /^(?:link|date)$/.test(name))
      ? valueAdvice.knownWhenSent(path.segments.join('.'))
      : adviceForName(nearest, known, valueAdvice.nameDataFile);
  context.report(finding('unknown-build-value', place, { name, advice }));
}

function reportMember(
  path: PathExpression,
  index: number,
  value: BuildValue,
  loop: BuildValue | undefined,
  context: Evaluation,
): void {
  const name = path.segments[index] ?? '';
  const owner = path.segments.slice(0, index).join('.');
  const place = { source: context.source, span: path.span };
  if (!isRecord(value)) {
    const advice = isList(value) ? valueAdvice.loopOverIt(owner) : valueAdvice.nameValue;
    context.report(finding('build-value-plain', place, { owner, found: describeValue(value), name, advice }));
    return;
  }
  const known = [...value.keys(), ...(isRecord(loop) ? loop.keys() : [])];
  const advice = adviceForName(nearestName(name, known), [...value.keys()], valueAdvice.holdsNothing);
  context.report(
    finding('unknown-build-value', place, {
      name: `${owner}.${name}`,
      advice: valueAdvice.mayBeMissing(advice),
    }),
  );
}

function compare(operator: string, left: BuildValue, right: BuildValue): boolean {
  const [a, b] =
    typeof left === 'number' || typeof right === 'number'
      ? [numberOf(left) ?? left, numberOf(right) ?? right]
      : [left, right];
  if (operator === '==') return a === b;
  if (operator === '!=') return a !== b;
  if (typeof a !== typeof b || (typeof a !== 'number' && typeof a !== 'string')) return false;
  const order = a < (b as typeof a) ? -1 : a > (b as typeof a) ? 1 : 0;
  return operator === '<' ? order < 0 : operator === '<=' ? order <= 0 : operator === '>' ? order > 0 : order >= 0;
}

function calculate(
  { operator, left, right, span }: Extract<Expression, { kind: 'arithmetic' }>,
  context: Evaluation,
): BuildValue | undefined {
  const a = operand(left, context);
  const b = operand(right, context);
  if (a === null || b === null) return undefined;
  if (operator === '/' && b === 0) {
    context.report(
      finding('build-value-arithmetic', { source: context.source, span }, { found: 'a division by zero' }),
    );
    return undefined;
  }
  return operator === '+' ? a + b : operator === '-' ? a - b : operator === '*' ? a * b : a / b;
}

function operand(expression: Expression, context: Evaluation): number | null {
  const value = evaluate(expression, context);
  const number = numberOf(value);
  // What is undefined has been reported.
  if (number === null && value !== undefined)
    context.report(
      finding(
        'build-value-arithmetic',
        { source: context.source, span: expression.span },
        { found: describeValue(value) },
      ),
    );
  return number;
}

function filtered(expression: Extract<Expression, { kind: 'filter' }>, context: Evaluation): BuildValue | undefined {
  const value = evaluate(expression.value, context);
  if (value === undefined) return undefined;
  const parameter = expression.parameter === null ? null : textOf(evaluate(expression.parameter, context));
  const second = expression.second === undefined ? null : textOf(evaluate(expression.second, context));
  const { source } = context;
  // A problem of the filter itself is shown at its name, one of its input at that.
  const fail = (code: FindingCode, data: Readonly<Record<string, string>>): undefined => {
    const atInput = code === 'filter-input';
    const start = atInput ? expression.value.span.start : nameStart(expression, source);
    const end = atInput ? expression.value.span.end : expression.span.end;
    context.report(finding(code, { source, span: { start, end } }, data));
    return undefined;
  };
  const filterContext = {
    language: context.language,
    fail,
    evaluateIn: (text: string, item: BuildValue) => evaluateText(text, item, expression, context),
  };
  return applyFilter(expression.name, value, parameter, filterContext, second);
}

function nameStart({ value, name, span }: Extract<Expression, { kind: 'filter' }>, source: SourceText): number {
  const between = source.slice({ start: value.span.end, end: span.end });
  const at = between.indexOf(name);
  return at < 0 ? span.start : value.span.end + at;
}

/** An expression within a filter's parameter (`sum "count * price"`), evaluated over the fields of an item. */
function evaluateText(
  text: string,
  item: BuildValue,
  { parameter, span }: Extract<Expression, { kind: 'filter' }>,
  context: Evaluation,
): BuildValue | undefined {
  const start = (parameter?.span.start ?? span.start) + 1;
  const { expression, error } = parseExpression(text, start);
  if (error !== null) {
    context.report(finding('build-syntax', { source: context.source, span: error.span }, { detail: error.detail }));
    return undefined;
  }
  return evaluate(expression, { ...context, scope: isRecord(item) ? context.scope.with(item) : context.scope });
}
