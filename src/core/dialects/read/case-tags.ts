import { conversionNote } from '../../findings/wording/conversions.js';
import type { Expression } from '../../expressions/expression.js';
import type { Filling } from '../pattern.js';
import { readValue } from './read-expression.js';
import type { ScannedTag } from './scan-tags.js';
import type { TagReading } from './tag-reading.js';

/** What a `case` compares its parts with, or what one of them is; null where it cannot be read. */
export function comparedIn(filling: Filling, scanned: ScannedTag, reading: TagReading): Expression | null {
  const offset = scanned.tagSpan.start + filling.start;
  const resolve: TagReading['path'] = (text, span) => reading.path(text, span);
  return readValue(reading.dialect, filling.text, offset, resolve)?.expression ?? null;
}

/** A `case` that is open. */
interface OpenCase {
  readonly compared: Expression;
  /** The texts and numbers that have come up in it. */
  readonly before: Set<string>;
}

/**
 * `when "a", "b"`: equal to the one or to the other. All parts that fit are printed, and of a chain of conditions only
 * the first: so they must be known to differ.
 */
export function whenCondition(
  scanned: ScannedTag,
  { compared, before }: OpenCase,
  reading: TagReading,
): Expression | null {
  for (const { fillings } of reading.spellings.fits('when', scanned.text)) {
    const list = fillings.get('values');
    if (list === undefined) continue;
    const { span } = compared;
    const values = alternativesIn(list).map((filling) => comparedIn(filling, scanned, reading));
    let condition: Expression | null = null;
    for (const right of values) {
      if (right === null) return null;
      const literal = right.kind === 'text' ? right.value : right.kind === 'number' ? right.written : null;
      if (literal === null || before.has(literal)) reading.note('assumed', conversionNote.firstOfCase);
      else before.add(literal);
      const equal: Expression = { kind: 'comparison', operator: '==', left: compared, right, span };
      condition = condition === null ? equal : { kind: 'or', left: condition, right: equal, span };
    }
    if (condition !== null) return condition;
  }
  return null;
}

/** The values of a list that commas or "or" divide, but not within quotes. */
function alternativesIn({ text, start }: Filling): Filling[] {
  const values: Filling[] = [];
  const value = /\s*((?:"[^"]*"|'[^']*'|[^"',\s])+)\s*(?:,|\bor\b|$)/gy;
  for (let match = value.exec(text); match !== null && match[1] !== undefined; match = value.exec(text))
    values.push({ text: match[1], start: start + match.index + match[0].indexOf(match[1]) });
  return values;
}
