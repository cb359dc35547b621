import { SourceText } from '../../text/source-text.js';
import { convertTags } from '../convert/convert-tags.js';
import { neutralDialect, type Dialect } from '../dialect.js';
import { systemValues } from '../model.js';

/** One thing that a message may say, and how a dialect says it. */
export interface DialectAbility {
  readonly what: string;
  readonly neutral: string;
  /** Null where the dialect cannot say it. */
  readonly written: string | null;
  /** Whether it is said by a construct of the dialect's own, or in other words. */
  readonly isExact: boolean;
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
  ['a list in a line', '@{tools | join ", "}'],
  ['how many', '@{loans | size}'],
  ['cut to a length', '@{story | truncate 20}'],
  ['cut behind a word', '@{story | shorten 20}'],
  ['one text for another', '@{story | replace "a" "b"}'],
  ['a sum', '@{points | plus 1}'],
  ['a product', '@{points | times 2}'],
  ['rounded', '@{points | round 1}'],
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
  ['is there at all', '@{if given vip}…@{end}'],
  ['one of two values', '@{vip ? "yes" : "no"}'],
  ['a loop', '@{each loans as x}@{x.tool}@{end}'],
  ['a loop or else', '@{each loans as x}@{x.tool}@{else}…@{end}'],
  ['the place in a loop', '@{each loans as x}@{x.#index}@{end}'],
  ['a field in a loop', '@{each loans as x}@{branch}@{end}'],
  ['a comment', '@{# note }'],
];

/** What a message may say, and how a dialect says it, by writing each thing in it. */
export function dialectAbilities(dialect: Dialect): DialectAbility[] {
  const system = [...systemValues].map(([name, what]) => [what.replace(/^the /, ''), `@{${name}}`] as const);
  return [...constructs, ...system].map(([what, neutral]) => {
    const setting = { from: neutralDialect, to: dialect, others: [], fields: new Map(), answers: null };
    const { text, tags } = convertTags(new SourceText(what, neutral), setting, () => undefined);
    const isExact = tags.every(({ verdict }) => verdict === 'exact' || verdict === 'removed');
    return { what, neutral, written: text === '' ? '(left out)' : text, isExact };
  });
}
