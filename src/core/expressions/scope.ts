import type { BuildValue } from './values.js';

/** The names that build values may use in one place. Inner names hide outer ones. */
export class Scope {
  constructor(
    private readonly own: ReadonlyMap<string, BuildValue>,
    private readonly outer: Scope | null,
  ) {}

  /** The value of a name; undefined where nobody knows it. */
  lookup(name: string): BuildValue | undefined {
    return this.own.has(name) ? this.own.get(name) : this.outer?.lookup(name);
  }

  /** All names that are known here, inner ones first. */
  names(): string[] {
    return [...new Set([...this.own.keys(), ...(this.outer?.names() ?? [])])];
  }

  /** A scope within this one that knows more names. */
  with(own: ReadonlyMap<string, BuildValue>): Scope {
    return new Scope(own, this);
  }
}
