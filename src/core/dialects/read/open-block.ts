import type { Expression } from '../../expressions/expression.js';
import type { NameScope } from './read-path.js';
import type { ReadTag } from './tag-reading.js';
import type { Fillings } from './tag-spellings.js';

/** A block that is open. */
export interface OpenBlock {
  readonly construct: 'if' | 'unless' | 'each' | 'case';
  /** What it is about, as it is written: some languages say it again where the block ends. */
  readonly label: string;
  /** Null in the part for an empty list, which has no item. */
  scope: NameScope | null;
  hasElse: boolean;
  readonly tag: ReadTag;
  /** Of a `case` what its parts are compared with, and the texts and numbers that have come up. */
  readonly compared?: Expression;
  readonly alternatives?: Set<string>;
}

/** What divides each kind of block. */
export const elseConstructs = { if: 'else', unless: 'otherwise_unless', each: 'else_each', case: 'else' } as const;

/** Goes on to the last part of a block. */
export function divide(block: OpenBlock): void {
  block.hasElse = true;
  block.scope = null;
}

/** What a block is about, as it is written; empty where the tag does not say it. */
export function labelOf(fillings: Fillings): string {
  return (fillings.get('condition') ?? fillings.get('list'))?.text.trim() ?? '';
}
