import type { CssNode } from '../syntax/css-tree.js';

type NthNode = Extract<CssNode, { type: 'Nth' }>;

/** `An+B` (CSS Syntax 3, 6): each `step`th from `offset` on. */
export function stepAndOffset(node: NthNode): { step: number; offset: number } {
  if (node.nth.type === 'Identifier') return { step: 2, offset: node.nth.name.toLowerCase() === 'odd' ? 1 : 0 };
  const { a, b } = node.nth;
  const step = a === null || a === undefined ? 0 : a === '-' ? -1 : a === '+' || a === '' ? 1 : Number(a);
  return { step, offset: Number(b ?? 0) };
}

/** Whether a position, counted from 1, is among those. */
export function isNth(position: number, step: number, offset: number): boolean {
  if (step === 0) return position === offset;
  const count = (position - offset) / step;
  return Number.isInteger(count) && count >= 0;
}
