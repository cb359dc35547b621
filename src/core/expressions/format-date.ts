/** A point of the calendar and the clock, as it is written in data; it has no time zone of its own. */
export interface CalendarTime {
  readonly year: number;
  readonly month: number;
  readonly day: number;
  readonly hour: number;
  readonly minute: number;
  readonly second: number;
}

const written = /^\s*(\d{4})-(\d{2})-(\d{2})(?:[T ](\d{2}):(\d{2})(?::(\d{2})(?:\.\d+)?)?(?:Z|[+-]\d{2}:?\d{2})?)?\s*$/;

/** Reads a date, or a date with a time, as ISO 8601 writes it. Null for any other text and for days that no calendar has. */
export function readDate(text: string): CalendarTime | null {
  const match = written.exec(text);
  if (match === null) return null;
  const [year = 0, month = 0, day = 0, hour = 0, minute = 0, second = 0] = match
    .slice(1)
    .map((digits: string | undefined) => Number(digits ?? 0));
  const daysInMonth = [31, isLeap(year) ? 29 : 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31][month - 1] ?? 0;
  if (day < 1 || day > daysInMonth || hour > 23 || minute > 59 || second > 59) return null;
  return { year, month, day, hour, minute, second };
}

function isLeap(year: number): boolean {
  return (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0;
}

const field = /'((?:[^']|'')*)'|([A-Za-z])\2*/g;

/**
 * Writes a date by a pattern of Unicode's date fields (UTS 35, "Date Field Symbol Table"): `d MMMM yyyy`, `EEEE, HH:mm`.
 * Text in single quotes stands as it is. Returns the first letter that is no known field instead, where there is one.
 * @param language the language of names of months and days, as a BCP 47 tag
 */
export function formatDate(
  time: CalendarTime,
  pattern: string,
  language: string,
): { readonly text: string; readonly unknown: null } | { readonly text: null; readonly unknown: string } {
  let unknown: string | null = null;
  const text = pattern.replace(field, (symbols: string, quoted: string | undefined) => {
    if (quoted !== undefined) return quoted === '' ? "'" : quoted.replaceAll("''", "'");
    const value = fieldValue(time, symbols, language);
    unknown ??= value === null ? symbols : null;
    return value ?? '';
  });
  return unknown === null ? { text, unknown } : { text: null, unknown };
}

function fieldValue(time: CalendarTime, symbols: string, language: string): string | null {
  const length = symbols.length;
  const padded = (value: number): string => String(value).padStart(length, '0');
  const hour = time.hour % 12 === 0 ? 12 : time.hour % 12;
  switch (symbols[0]) {
    case 'd':
      return length <= 2 ? padded(time.day) : null;
    case 'M':
    case 'L':
      return length <= 2 ? padded(time.month) : monthName(time, length, language, symbols[0] === 'L');
    case 'y':
      return length === 2 ? String(time.year).slice(-2) : padded(time.year);
    case 'E':
      return length <= 4 ? dayName(time, length === 4 ? 'long' : 'short', language) : null;
    case 'H':
      return length <= 2 ? padded(time.hour) : null;
    case 'h':
      return length <= 2 ? padded(hour) : null;
    case 'm':
      return length <= 2 ? padded(time.minute) : null;
    case 's':
      return length <= 2 ? padded(time.second) : null;
    case 'a':
      return dayPeriod(time, language);
    default:
      return null;
  }
}

function named(time: CalendarTime, language: string, options: Intl.DateTimeFormatOptions, type: string): string {
  const moment = Date.UTC(time.year, time.month - 1, time.day, time.hour);
  const parts = new Intl.DateTimeFormat(knownLanguage(language), { timeZone: 'UTC', ...options }).formatToParts(moment);
  return parts.find((part) => part.type === type)?.value ?? '';
}

/** With a day beside it a month's name takes the form of a date ("14 maja"), as the pattern letter M asks. */
function monthName(time: CalendarTime, length: number, language: string, alone: boolean): string | null {
  if (length > 4) return null;
  const month = length === 4 ? 'long' : 'short';
  return named(time, language, alone ? { month } : { month, day: 'numeric' }, 'month');
}

function dayName(time: CalendarTime, weekday: 'long' | 'short', language: string): string {
  return named(time, language, { weekday }, 'weekday');
}

function dayPeriod(time: CalendarTime, language: string): string {
  return named(time, language, { hour: 'numeric', hour12: true }, 'dayPeriod');
}

/** A language that Unicode's data know; English for a tag that is none. */
export function knownLanguage(language: string): string {
  try {
    return Intl.getCanonicalLocales(language)[0] ?? 'en';
  } catch {
    return 'en';
  }
}
