import type { Dialect } from './dialect.js';
import { systemValues } from './model.js';
import { fromNeutral } from './prove-dialect.js';

/** One thing that a message may say, and how a dialect says it. */
export interface DialectAbility {
  readonly what: string;
  readonly neutral: string;
  /** Null where the dialect cannot say it. */
  readonly written: string | null;
}

const constructs: readonly (readonly [what: string, neutral: string])[] = [
  ['a field', '@{first_name}'],
  ['a fallback', '@{first_name ?? "friend"}'],
  ['a value as HTML', '@{+story}'],
  ['in capitals', '@{branch | upper}'],
  ['in small letters', '@{branch | lower}'],
  ['with a capital', '@{branch | capital}'],
  ['a date', '@{due | date "d MMMM"}'],
  ['a number', '@{points | number "0.00"}'],
  ['if', '@{if vip}…@{end}'],
  ['else', '@{if vip}…@{else}…@{end}'],
  ['else if', '@{if vip}…@{else if points}…@{end}'],
  ['is equal', '@{if branch == "Mill Yard"}…@{end}'],
  ['is not equal', '@{if branch != "Mill Yard"}…@{end}'],
  ['is more', '@{if points > 3}…@{end}'],
  ['is at least', '@{if points >= 3}…@{end}'],
  ['is less', '@{if points < 3}…@{end}'],
  ['is at most', '@{if points <= 3}…@{end}'],
  ['not', '@{if not vip}…@{end}'],
  ['and', '@{if vip and points}…@{end}'],
  ['or', '@{if vip or points}…@{end}'],
  ['a loop', '@{each loans as loan}@{loan.tool}@{end}'],
  ['a comment', '@{# note }'],
];

/** What a message may say, and how a dialect says it, by writing each thing in it. */
export function dialectAbilities(dialect: Dialect): DialectAbility[] {
  const system = [...systemValues].map(([name, what]) => [what.replace(/^the /, ''), `@{${name}}`] as const);
  return [...constructs, ...system].map(([what, neutral]) => {
    const written = fromNeutral(neutral, dialect);
    const isLost = /^[a-z]+-[a-z-]+: /.test(written);
    return { what, neutral, written: isLost ? null : written === '' ? '(left out)' : written };
  });
}
