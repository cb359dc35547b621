import { splitValue } from './value.js';

/** A value may grow this long by substitution; longer ones are refused (CSS Custom Properties 1, 3.3). */
const LONGEST_VALUE = 100_000;

/**
 * Replaces `var(--name, fallback)` in a value (CSS Custom Properties Level 1, 3).
 * Null where a property without a value, or a cycle, makes the declaration invalid at computed-value time.
 */
export function substituteVariables(value: string, variables: ReadonlyMap<string, string>): string | null {
  return new Resolver(variables).substitute(value);
}

/** Resolves references; each custom property once. */
class Resolver {
  readonly #resolved = new Map<string, string | null>();
  readonly #open = new Set<string>();

  constructor(private readonly raw: ReadonlyMap<string, string>) {}

  /** The value with its references replaced; null where one has no value and no fallback. */
  substitute(value: string): string | null {
    const pieces: string[] = [];
    let length = 0;
    let position = 0;
    for (let call = findCall(value, 0); call !== null; call = findCall(value, position)) {
      const replacement = this.valueOf(call.name, call.fallback);
      if (replacement === null) return null;
      pieces.push(value.slice(position, call.start), replacement);
      length += call.start - position + replacement.length;
      if (length > LONGEST_VALUE) return null;
      position = call.end;
    }
    pieces.push(value.slice(position));
    return pieces.join('').trim();
  }

  /** The value of a custom property; null where it has none, or refers to itself in a circle. */
  resolve(name: string): string | null {
    const known = this.#resolved.get(name);
    if (known !== undefined) return known;
    const own = this.raw.get(name);
    if (own === undefined || this.#open.has(name)) return null;
    this.#open.add(name);
    const resolved = this.substitute(own);
    this.#open.delete(name);
    this.#resolved.set(name, resolved);
    return resolved;
  }

  private valueOf(name: string, fallback: string | null): string | null {
    if (this.#open.has(name)) return null;
    return this.resolve(name) ?? (fallback === null ? null : this.substitute(fallback));
  }
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
  const resolver = new Resolver(raw);
  const resolved = new Map(inherited);
  for (const name of own.keys()) {
    const value = resolver.resolve(name);
    if (value === null) resolved.delete(name);
    else resolved.set(name, value);
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

interface Call {
  readonly start: number;
  readonly end: number;
  readonly name: string;
  readonly fallback: string | null;
}

function findCall(text: string, from: number): Call | null {
  const opening = /(?<![\w-])var\(/gi;
  opening.lastIndex = from;
  const start = opening.exec(text)?.index;
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
