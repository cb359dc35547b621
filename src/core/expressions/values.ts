import { sentinelFree } from '../html/tags.js';

/** HTML that is inserted as it is: what the filter `markdown` makes. Template tags stand in it as sentinels. */
export interface HtmlValue {
  readonly html: string;
}

/** A datum that is known when a message is built. Texts from parts' attributes may hold merge tags as sentinels. */
export type BuildValue =
  null | string | number | boolean | readonly BuildValue[] | BuildRecord | { readonly [htmlValue]: HtmlValue };

/** Named data. Its keys come from users, so it is a map and no object. */
export type BuildRecord = ReadonlyMap<string, BuildValue>;

const htmlValue: unique symbol = Symbol('html');

/** Marks text as HTML. */
export function asHtml(html: string): BuildValue {
  return { [htmlValue]: { html } };
}

/** The HTML of a value that is HTML; null for all others. */
export function htmlOf(value: BuildValue): string | null {
  return typeof value === 'object' && value !== null && htmlValue in value ? value[htmlValue].html : null;
}

export function isRecord(value: BuildValue | undefined): value is BuildRecord {
  return value instanceof Map;
}

export function isList(value: BuildValue | undefined): value is readonly BuildValue[] {
  return Array.isArray(value);
}

/** Data as read from a file (YAML, JSON, CSV) as build values. */
export function buildValue(data: unknown): BuildValue {
  if (data === null || data === undefined) return null;
  if (typeof data === 'string') return sentinelFree(data);
  if (typeof data === 'number' || typeof data === 'boolean') return data;
  if (typeof data === 'bigint') return Number(data);
  if (data instanceof Date) return data.toISOString().slice(0, 10);
  if (Array.isArray(data)) return data.map(buildValue);
  if (data instanceof Map) return new Map([...data].map(([key, value]) => [String(key), buildValue(value)]));
  if (typeof data === 'object')
    return new Map(Object.entries(data).map(([key, value]): [string, BuildValue] => [key, buildValue(value)]));
  return null;
}

/** Whether a value counts as there: not missing, null, false, empty or zero. The same holds for merge fields. */
export function isPresent(value: BuildValue | undefined): boolean {
  if (value === undefined || value === null || value === false || value === '' || value === 0) return false;
  if (isList(value)) return value.length > 0;
  return isRecord(value) ? value.size > 0 : true;
}

/** Whether a fallback stands in for a value: where it is missing, null or empty text. */
export function isBlank(value: BuildValue | undefined): boolean {
  return value === undefined || value === null || value === '';
}

/** A value as text; null where it is a list or a group of values. */
export function textOf(value: BuildValue | undefined): string | null {
  if (value === undefined || value === null) return '';
  if (typeof value === 'string') return value;
  if (typeof value === 'number') return String(Number(value.toPrecision(15)));
  if (typeof value === 'boolean') return String(value);
  return htmlOf(value);
}

/** A value as a number; null where it is none. A text counts when it is written as a number. */
export function numberOf(value: BuildValue | undefined): number | null {
  if (typeof value === 'number') return value;
  if (typeof value !== 'string' || !/^\s*-?\d+(?:\.\d+)?\s*$/.test(value)) return null;
  return Number(value);
}

/** What kind of value it is, in words. */
export function describeValue(value: BuildValue | undefined): string {
  if (value === undefined || value === null) return 'empty';
  if (isList(value)) return 'a list';
  if (isRecord(value)) return 'a group of values';
  if (typeof value === 'string') return `the text "${value.length > 30 ? `${value.slice(0, 30)}…` : value}"`;
  return typeof value === 'number' ? `the number ${value}` : typeof value === 'boolean' ? String(value) : 'HTML';
}
