import { splitValue } from './value.js';

/** A value may grow this long by substitution; longer ones are refused (CSS Custom Properties 1, 3.3). */
const LONGEST_VALUE = 100_000;

/** The custom properties of an element with their values, those that it inherits included. */
export interface VariableValues {
  /** The value of a custom property, its references resolved; undefined where it has none. */
  readonly get: (name: string) => string | undefined;
}

/** Data by name that elements inherit. Nothing is copied from element to element: a name is looked for outwards. */
export class Inherited<T> {
  /** @param own what is declared here; undefined for what is taken away */
  constructor(
    private readonly outer: Inherited<T> | null,
    private readonly own: ReadonlyMap<string, T | undefined>,
  ) {}

  get(name: string): T | undefined {
    if (this.own.has(name)) return this.own.get(name);
    for (let at = this.outer; at !== null; at = at.outer) if (at.own.has(name)) return at.own.get(name);
    return undefined;
  }
}

/**
 * Replaces `var(--name, fallback)` in a value (CSS Custom Properties Level 1, 3).
 * Null where a property without a value, or a cycle, makes the declaration invalid at computed-value time.
 */
export function substituteVariables(value: string, variables: VariableValues): string | null {
  return new Resolver(new Map(), variables).substitute(value);
}

/** Resolves references; each custom property once. */
class Resolver {
  readonly #resolved = new Map<string, string | null>();
  readonly #open = new Set<string>();

  /** @param own declared values, a null for one that is reset; of all others the inherited value holds */
  constructor(
    private readonly own: ReadonlyMap<string, string | null>,
    private readonly inherited: VariableValues,
  ) {}

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

  /**
   * The value of a custom property; null where it has none, or refers to itself in a circle. What it refers to is resolved
   * first, by a stack of our own, as chains may be longer than the machine's.
   */
  resolve(name: string): string | null {
    const path = [{ name, left: this.references(name) }];
    for (let last = path.at(-1); last !== undefined; last = path.at(-1)) {
      this.#open.add(last.name);
      const next = last.left.pop();
      if (next === undefined) this.finish(last.name);
      if (next === undefined) path.pop();
      else if (this.#open.has(next))
        this.breakCircle(
          path.map((step) => step.name),
          next,
        );
      else if (!this.#resolved.has(next)) path.push({ name: next, left: this.references(next) });
    }
    return this.#resolved.get(name) ?? null;
  }

  private finish(name: string): void {
    const own = this.own.get(name);
    const isKnown = this.#resolved.has(name);
    if (!isKnown) this.#resolved.set(name, typeof own === 'string' ? this.substitute(own) : null);
    this.#open.delete(name);
  }

  /** All that stand in a circle are without a value. */
  private breakCircle(path: readonly string[], repeated: string): void {
    for (const name of path.slice(path.indexOf(repeated))) this.#resolved.set(name, null);
  }

  /** The own properties that a property refers to outside of fallbacks, which count only where they are needed. */
  private references(name: string): string[] {
    const value = this.own.get(name);
    if (typeof value !== 'string') return [];
    const names: string[] = [];
    for (let call = findCall(value, 0); call !== null; call = findCall(value, call.end)) names.push(call.name);
    return names.filter((referred) => this.own.has(referred)).reverse();
  }

  private valueOf(name: string, fallback: string | null): string | null {
    if (this.#open.has(name) && !this.#resolved.has(name)) return null;
    return this.valueNamed(name) ?? (fallback === null ? null : this.substitute(fallback));
  }

  private valueNamed(name: string): string | null {
    if (!this.own.has(name)) return this.inherited.get(name) ?? null;
    const known = this.#resolved.get(name);
    return known === undefined ? this.resolve(name) : known;
  }
}

/**
 * The custom properties of an element: those it inherits, and its own with their references resolved where they are declared
 * (CSS Custom Properties 1, 2.3). One that refers to nothing, or to itself in a circle, has no value.
 * @param own declared values, a null for one that is reset
 */
export function resolveOwnVariables(
  inherited: Inherited<string>,
  own: ReadonlyMap<string, string | null>,
): Inherited<string> {
  if (own.size === 0) return inherited;
  const resolver = new Resolver(own, inherited);
  const resolved = new Map([...own.keys()].map((name) => [name, resolver.resolve(name) ?? undefined] as const));
  return new Inherited(inherited, resolved);
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
