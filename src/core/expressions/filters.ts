import { valueAdvice } from '../findings/wording/values.js';
import type { FindingCode } from '../findings/catalogue.js';
import { adviceForName } from '../findings/finding.js';
import { replaceSentinels, splitAtSentinels, sentinel } from '../html/tags.js';
import { nearestName } from '../text/nearest.js';
import { formatDate, readDate } from './format-date.js';
import { formatNumber } from './format-number.js';
import { markdownToHtml } from '../html/markdown.js';
import { asHtml, describeValue, isList, numberOf, textOf, type BuildValue } from './values.js';

/** What a filter may ask of what is around it. */
export interface FilterContext {
  readonly language: string;
  /** Reports what is wrong; the filter then has no value. */
  readonly fail: (code: FindingCode, data: Readonly<Record<string, string>>) => undefined;
  /** Evaluates the text of an expression over the fields of an item. */
  readonly evaluateIn: (text: string, item: BuildValue) => BuildValue | undefined;
}

type Filter = (
  value: BuildValue,
  parameter: string | null,
  context: FilterContext,
  second: string | null,
) => BuildValue | undefined;

interface FilterEntry {
  readonly run: Filter;
  /** Example of its parameter; null where it takes none. */
  readonly parameter: string | null;
  readonly says: string;
}

/** Every filter of build values, with what the documentation says of it. */
export const filters: ReadonlyMap<string, FilterEntry> = new Map<string, FilterEntry>([
  ['upper', { run: onText((text) => text.toUpperCase()), parameter: null, says: 'in capitals' }],
  ['lower', { run: onText((text) => text.toLowerCase()), parameter: null, says: 'in small letters' }],
  ['capital', { run: onText(capital), parameter: null, says: 'with a capital first letter' }],
  ['date', { run: date, parameter: '"d MMMM yyyy"', says: 'a date (2026-05-14) by a pattern of Unicode date fields' }],
  ['number', { run: number, parameter: '"#,##0.00"', says: 'a number by a pattern of Unicode number formats' }],
  ['join', { run: join, parameter: '", "', says: 'the items of a list, with this text between them' }],
  ['size', { run: size, parameter: null, says: 'how many items a list has, or characters a text' }],
  [
    'truncate',
    { run: truncate, parameter: '20', says: 'a text of at most so many characters, the last three of them dots' },
  ],
  ['shorten', { run: shorten, parameter: '20', says: 'the whole words within so many characters, and three dots' }],
  ['replace', { run: replace, parameter: '"drill" "saw"', says: 'with the second text in the place of the first' }],
  ['plus', { run: onNumbers('plus', (a, b) => a + b), parameter: '1', says: 'a number and this together' }],
  ['minus', { run: onNumbers('minus', (a, b) => a - b), parameter: '1', says: 'a number less this' }],
  ['times', { run: onNumbers('times', (a, b) => a * b), parameter: '2', says: 'a number so many times' }],
  ['round', { run: round, parameter: '2', says: 'a number with so many decimals at most; whole without a parameter' }],
  [
    'sum',
    { run: sum, parameter: '"count * price"', says: 'the sum of a list: of its numbers, or of this for each item' },
  ],
  [
    'markdown',
    {
      run: markdown,
      parameter: null,
      says: 'Markdown as HTML; HTML in it is escaped, and a single paragraph comes without <p>',
    },
  ],
  ['url', { run: onText(encodeAddress), parameter: null, says: 'encoded for use within an address' }],
  ['slug', { run: onText(slug), parameter: null, says: 'in small letters, digits and hyphens, for names of files' }],
]);

/** Applies a filter by its name. */
export function applyFilter(
  name: string,
  value: BuildValue,
  parameter: string | null,
  context: FilterContext,
  second: string | null = null,
): BuildValue | undefined {
  const filter = filters.get(name);
  if (filter === undefined) {
    const known = [...filters.keys()];
    return context.fail('unknown-filter', { name, advice: adviceForName(nearestName(name, known), known, '') });
  }
  if (filter.parameter === null && parameter !== null)
    return context.fail('filter-parameter', { name, advice: valueAdvice.withoutParameter(name) });
  return filter.run(value, parameter, context, second);
}

function onText(change: (text: string) => string): Filter {
  return (value, _, context) => {
    const text = textOf(value);
    if (text === null) return refuse(value, 'a text', context);
    // Merge tags in the text stay what they are.
    return splitAtSentinels(text)
      .map((piece) => (typeof piece === 'number' ? sentinel(piece) : change(piece)))
      .join('');
  };
}

function refuse(value: BuildValue, expected: string, context: FilterContext): undefined {
  return context.fail('filter-input', { expected, found: describeValue(value) });
}

function capital(text: string): string {
  const [first = ''] = text;
  return first.toUpperCase() + text.slice(first.length);
}

function date(value: BuildValue, pattern: string | null, context: FilterContext): BuildValue | undefined {
  const time = typeof value === 'string' ? readDate(value) : null;
  if (value === null || value === '') return '';
  if (time === null) return refuse(value, 'a date such as 2026-05-14', context);
  const { text, unknown } = formatDate(time, pattern ?? 'd MMMM yyyy', context.language);
  if (text === null)
    return context.fail('filter-parameter', {
      name: 'date',
      advice: `"${unknown}" is no field of a date here: use d, dd, M, MM, MMM, MMMM, yy, yyyy, E, EEEE, H, HH, h, mm, ss, a, and write words in single quotes.`,
    });
  return text;
}

function number(value: BuildValue, pattern: string | null, context: FilterContext): BuildValue | undefined {
  if (value === null || value === '') return '';
  const given = numberOf(value);
  if (given === null) return refuse(value, 'a number', context);
  const text = formatNumber(given, pattern ?? '#,##0.##', context.language);
  return text ?? context.fail('filter-parameter', { name: 'number', advice: valueAdvice.numberPattern });
}

function join(value: BuildValue, between: string | null, context: FilterContext): BuildValue | undefined {
  if (!isList(value)) return refuse(value, 'a list', context);
  const texts = value.map(textOf);
  const wrong = texts.indexOf(null);
  if (wrong >= 0) return refuse(value[wrong] ?? null, 'a list of texts', context);
  return texts.join(between ?? ', ');
}

function size(value: BuildValue, _: string | null, context: FilterContext): BuildValue | undefined {
  if (value === null) return 0;
  if (isList(value)) return value.length;
  const text = textOf(value);
  return text === null ? refuse(value, 'a list or a text', context) : [...text].length;
}

const DOTS = '...';

function lengthIn(parameter: string | null, otherwise: number): number {
  const given = parameter === null ? null : numberOf(parameter);
  return given === null ? otherwise : Math.max(0, Math.floor(given));
}

function truncate(value: BuildValue, parameter: string | null, context: FilterContext): BuildValue | undefined {
  const most = lengthIn(parameter, 50);
  const cut = (text: string): string =>
    text.length <= most ? text : text.slice(0, Math.max(0, most - DOTS.length)) + DOTS;
  return onText(cut)(value, null, context, null);
}

function shorten(value: BuildValue, parameter: string | null, context: FilterContext): BuildValue | undefined {
  const most = lengthIn(parameter, 255);
  const cut = (text: string): string => {
    if (text.length <= most) return text;
    const space = text.lastIndexOf(' ', most);
    return text.slice(0, space < 0 ? most : space) + DOTS;
  };
  return onText(cut)(value, null, context, null);
}

function replace(
  value: BuildValue,
  parameter: string | null,
  context: FilterContext,
  second: string | null,
): BuildValue | undefined {
  if (parameter === null || second === null)
    return context.fail('filter-parameter', { name: 'replace', advice: valueAdvice.twoTexts });
  return onText((text) => (parameter === '' ? text : text.replaceAll(parameter, () => second)))(
    value,
    null,
    context,
    null,
  );
}

function onNumbers(name: string, calculate: (a: number, b: number) => number): Filter {
  return (value, parameter, context) => {
    const [a, b] = [
      value === null || value === '' ? 0 : numberOf(value),
      parameter === null ? null : numberOf(parameter),
    ];
    if (b === null) return context.fail('filter-parameter', { name, advice: valueAdvice.numberBehind });
    return a === null ? refuse(value, 'a number', context) : calculate(a, b);
  };
}

function round(value: BuildValue, parameter: string | null, context: FilterContext): BuildValue | undefined {
  const given = value === null || value === '' ? 0 : numberOf(value);
  if (given === null) return refuse(value, 'a number', context);
  const scale = 10 ** Math.min(12, lengthIn(parameter, 0));
  return Math.round(given * scale) / scale;
}

function sum(value: BuildValue, each: string | null, context: FilterContext): BuildValue | undefined {
  if (!isList(value)) return refuse(value, 'a list', context);
  let total = 0;
  for (const item of value) {
    const found = each === null ? item : context.evaluateIn(each, item);
    if (found === undefined) return undefined;
    const given = numberOf(found);
    if (given === null) return refuse(found, 'a list of numbers', context);
    total += given;
  }
  return total;
}

function markdown(value: BuildValue, _: string | null, context: FilterContext): BuildValue | undefined {
  const text = textOf(value);
  if (text === null) return refuse(value, 'a text', context);
  const html = markdownToHtml(text, { html: false });
  // A single paragraph comes without its tags, so that it can stand in one of the author's.
  const lone = /^<p>((?:(?!<p>)[\s\S])*)<\/p>$/.exec(html);
  return asHtml(lone?.[1] ?? html);
}

function encodeAddress(text: string): string {
  // A lone surrogate has no UTF-8 form.
  return encodeURIComponent(text.replace(/\p{Surrogate}/gu, '\uFFFD'));
}

/** "Mill Yard" becomes "mill-yard". */
export function slug(text: string): string {
  return replaceSentinels(text, () => '')
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^\p{L}\d]+/gu, '-')
    .replace(/^-+|-+$/g, '');
}
