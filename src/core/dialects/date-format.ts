import type { DateFormat } from './dialect.js';

/** Date fields of Unicode's locale data (UTS 35, date field symbols) and what C's `strftime` calls them. */
const fields: readonly (readonly [ldml: string, strftime: string])[] = [
  ['yyyy', '%Y'],
  ['yy', '%y'],
  ['MMMM', '%B'],
  ['MMM', '%b'],
  ['MM', '%m'],
  ['M', '%-m'],
  ['dd', '%d'],
  ['d', '%-d'],
  ['EEEE', '%A'],
  ['EEE', '%a'],
  ['HH', '%H'],
  ['H', '%-H'],
  ['hh', '%I'],
  ['h', '%-I'],
  ['mm', '%M'],
  ['ss', '%S'],
  ['a', '%p'],
];

/** A format of the neutral notation in another way of writing formats. Null where it cannot be said. */
export function formatFromLdml(format: string, to: DateFormat): string | null {
  if (to === 'ldml') return format;
  let isSayable = true;
  const text = format.replace(/'((?:[^']|'')*)'|([A-Za-z])\2*|%/g, (run, quoted: string | undefined) => {
    if (quoted !== undefined) return quoted === '' ? "'" : quoted.replaceAll("''", "'").replaceAll('%', '%%');
    if (run === '%') return '%%';
    const field = fields.find(([ldml]) => ldml === run);
    if (field === undefined) isSayable = false;
    return field?.[1] ?? run;
  });
  return isSayable ? text : null;
}

/** A format in the neutral notation's way. Null where that has no word for it. */
export function formatToLdml(format: string, from: DateFormat): string | null {
  if (from === 'ldml') return format;
  let isSayable = true;
  const text = format.replace(/%-?[A-Za-z%]|[A-Za-z]+|'/g, (run) => {
    if (run === '%%') return '%';
    if (run === "'") return "''";
    if (!run.startsWith('%')) return `'${run}'`;
    const field = fields.find(([, strftime]) => strftime === run);
    if (field === undefined) isSayable = false;
    return field?.[0] ?? run;
  });
  return isSayable ? text : null;
}
