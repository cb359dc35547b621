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

function valueOf(
  name: string,
  fallback: string | null,
  variables: ReadonlyMap<string, string>,
  open: ReadonlySet<string>,
): string | null {
  const own = variables.get(name);
  if (own !== undefined && !open.has(name)) {
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
