import type { FindingCode } from '../catalogue.js';
import { adviceForName } from '../finding.js';
import { replaceSentinels, splitAtSentinels, sentinel } from '../html/tags.js';
import { nearestName } from '../nearest.js';
import { formatDate, readDate } from './format-date.js';
import { formatNumber } from './format-number.js';
import { markdownToHtml } from './markdown.js';
import { asHtml, describeValue, isList, numberOf, textOf, type BuildValue } from './values.js';

/** What a filter may ask of what is around it. */
export interface FilterContext {
  readonly language: string;
  /** Reports what is wrong; the filter then has no value. */
  readonly fail: (code: FindingCode, data: Readonly<Record<string, string>>) => undefined;
  /** Evaluates the text of an expression over the fields of an item. */
  readonly evaluateIn: (text: string, item: BuildValue) => BuildValue | undefined;
}

type Filter = (value: BuildValue, parameter: string | null, context: FilterContext) => BuildValue | undefined;

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
): BuildValue | undefined {
  const filter = filters.get(name);
  if (filter === undefined) {
    const known = [...filters.keys()];
    return context.fail('unknown-filter', { name, advice: adviceForName(nearestName(name, known), known, '') });
  }
  if (filter.parameter === null && parameter !== null)
    return context.fail('filter-parameter', { name, advice: `Write it without: | ${name}` });
  return filter.run(value, parameter, context);
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
  return (
    text ?? context.fail('filter-parameter', { name: 'number', advice: 'Write a pattern with digits, such as "0.00".' })
  );
}

function join(value: BuildValue, between: string | null, context: FilterContext): BuildValue | undefined {
  if (!isList(value)) return refuse(value, 'a list', context);
  const texts = value.map(textOf);
  const wrong = texts.indexOf(null);
  if (wrong >= 0) return refuse(value[wrong] ?? null, 'a list of texts', context);
  return texts.join(between ?? ', ');
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
  const html = markdownToHtml(text, false);
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
