import type { SendPattern } from '../dialects/push-api.js';

/** A file on its way to a platform. */
export interface SentFile {
  readonly name: string;
  readonly type: string;
  readonly bytes: Uint8Array;
}

/** What stands for the `${names}` of a request, by the names. */
export type RequestValues = ReadonlyMap<string, SendPattern>;

/** A text with its `${names}` filled; what is null or not known is left out. */
export function filledText(
  pattern: string,
  values: RequestValues,
  written: (value: string) => string = (value) => value,
): string {
  return pattern.replace(/\$\{([^}]*)\}/g, (_whole, name: string) => written(textOf(values.get(name) ?? null)));
}

/** A value as text: lists and groups as JSON. */
export function textOf(value: SendPattern): string {
  if (value === null) return '';
  return typeof value === 'object' ? JSON.stringify(value) : String(value);
}

/** What a request holds, filled. A text that is one `${name}` and nothing else becomes the value itself. */
export function filledValue(pattern: SendPattern, values: RequestValues): SendPattern {
  if (typeof pattern === 'string') {
    const only = /^\$\{([^}]*)\}$/.exec(pattern);
    return only === null ? filledText(pattern, values) : (values.get(only[1] ?? '') ?? null);
  }
  if (isList(pattern)) return pattern.map((entry) => filledValue(entry, values));
  if (typeof pattern === 'object' && pattern !== null)
    return Object.fromEntries(Object.entries(pattern).map(([key, entry]) => [key, filledValue(entry, values)]));
  return pattern;
}

/** The names that a pattern uses. */
export function namesUsed(pattern: SendPattern): string[] {
  if (typeof pattern === 'string') return [...pattern.matchAll(/\$\{([^}]*)\}/g)].map(([, name = '']) => name);
  if (typeof pattern !== 'object' || pattern === null) return [];
  return Object.values(pattern).flatMap(namesUsed);
}

function isList(pattern: SendPattern): pattern is readonly SendPattern[] {
  return Array.isArray(pattern);
}
