import { splitValue } from './value.js';

/** A value may grow this long by substitution; longer ones are refused (CSS Custom Properties 1, 3.3). */
const LONGEST_VALUE = 100_000;

/**
 * Replaces `var(--name, fallback)` in a value (CSS Custom Properties Level 1, 3).
 * Null where a property without a value, or a cycle, makes the declaration invalid at computed-value time.
 */
export function substituteVariables(value: string, variables: ReadonlyMap<string, string>): string | null {
  return substitute(value, variables, new Set());
}

function substitute(value: string, variables: ReadonlyMap<string, string>, open: ReadonlySet<string>): string | null {
  let text = value;
  for (let call = findCall(text); call !== null; call = findCall(text)) {
    const replacement = valueOf(call.name, call.fallback, variables, open);
    if (replacement === null) return null;
    text = text.slice(0, call.start) + replacement + text.slice(call.end);
    if (text.length > LONGEST_VALUE) return null;
  }
  return text.trim();
}

/**
 * The custom properties of an element: those it inherits, and its own with their references resolved where they are declared
 * (CSS Custom Properties 1, 2.3). One that refers to nothing, or to itself in a circle, has no value.
 * @param own declared values, a null for one that is reset
 */
export function resolveOwnVariables(
  inherited: ReadonlyMap<string, string>,
  own: ReadonlyMap<string, string | null>,
): ReadonlyMap<string, string> {
  if (own.size === 0) return inherited;
  const raw = new Map(inherited);
  for (const [name, value] of own) {
    if (value === null) raw.delete(name);
    else raw.set(name, value);
  }
  const resolved = new Map(inherited);
  for (const name of own.keys()) {
    const value = raw.get(name);
    const substituted = value === undefined ? null : substitute(value, raw, new Set([name]));
    if (substituted === null) resolved.delete(name);
    else resolved.set(name, substituted);
  }
  return resolved;
}

/**
 * The raw value that a custom property's declarations come to, weakest first; `inherit` and `unset` leave it to the
 * parent, which is no entry.
 */
export function declaredVariables(
  declarations: readonly { readonly property: string; readonly value: string }[],
): Map<string, string | null> {
  const own = new Map<string, string | null>();
  for (const { property, value } of declarations) {
    const keyword = value.trim().toLowerCase();
    if (/^(?:inherit|unset|revert|revert-layer)$/.test(keyword)) own.delete(property);
    else own.set(property, keyword === 'initial' ? null : value);
  }
  return own;
}

function valueOf(
  name: string,
  fallback: string | null,
  variables: ReadonlyMap<string, string>,
  open: ReadonlySet<string>,
): string | null {
  if (open.has(name)) return null;
  const own = variables.get(name);
  if (own !== undefined) {
    const resolved = substitute(own, variables, new Set([...open, name]));
    if (resolved !== null) return resolved;
  }
  return fallback === null ? null : substitute(fallback, variables, open);
}

interface Call {
  readonly start: number;
  readonly end: number;
  readonly name: string;
  readonly fallback: string | null;
}

function findCall(text: string): Call | null {
  const start = /(?<![\w-])var\(/i.exec(text)?.index;
  if (start === undefined) return null;
  let depth = 0;
  for (let index = start + 3; index < text.length; index += 1) {
    if (text[index] === '(') depth += 1;
    if (text[index] === ')') depth -= 1;
    if (depth === 0) return readCall(text, start, index + 1);
  }
  return readCall(text, start, text.length + 1);
}

function readCall(text: string, start: number, end: number): Call {
  const inner = text.slice(start + 4, end - 1);
  const [name = ''] = splitValue(inner, ',');
  const comma = inner.indexOf(',');
  return {
    start,
    end,
    name: (comma < 0 ? inner : name).trim(),
    fallback: comma < 0 ? null : inner.slice(comma + 1).trim(),
  };
}

/** The names of the custom properties that a value reads. */
export function variableNames(value: string): string[] {
  return [...value.matchAll(/(?<![\w-])var\(\s*(--[^\s,()]+)/gi)].map((match) => match[1] ?? '');
}
