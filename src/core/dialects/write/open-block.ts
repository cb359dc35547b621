import type { Expression } from '../../expressions/expression.js';
import { losses } from '../../findings/wording/losses.js';
import { patternOf } from '../dialect.js';
import { writePattern } from '../pattern.js';
import { allSaid } from './loss-notes.js';
import { conjunction, linksOf } from './write-expression.js';
import type { Writing } from './writing.js';

/** An opened block: what begins it, divides it and ends it. */
export interface OpenedBlock {
  readonly open: string;
  /** Null where the block cannot have another arm. */
  readonly otherwise: string | null;
  readonly close: string;
  readonly construct: 'if' | 'unless';
}

/**
 * Opens a block on a condition: by itself, turned round, or as several blocks one within the other.
 * @param arms whether another arm follows, which several blocks cannot have
 * @returns null where the dialect cannot say it, with a note of why
 */
export function openBlock(condition: Expression, arms: 'one' | 'more', writing: Writing): OpenedBlock | null {
  if (isOnceIfFilled(condition, writing)) {
    const path = condition.kind === 'exists' ? condition.value : condition;
    return writing.lost.add(losses.onceIfFilled(path.kind === 'path' ? path.segments.join('.') : ''));
  }
  const ways: (() => OpenedBlock | null)[] = [() => opened('if', condition, writing)];
  if (condition.kind === 'not') {
    const turned = (): OpenedBlock | null => opened('unless', condition.value, writing);
    if (condition.value.kind === 'path') ways.push(turned);
    else ways.unshift(turned);
  }
  const parts = arms === 'one' ? conjunction(condition) : [];
  if (parts.length > 1) ways.push(() => nested(parts, writing));
  return writing.lost.firstOf(ways);
}

/** `else if` in one tag; null where the dialect has none that fits. */
export function elseIf(condition: Expression, writing: Writing): string | null {
  const { dialect } = writing.task;
  const way = (pattern: string | undefined, value: Expression) => (): string | null => {
    const inner = pattern === undefined ? null : writing.saying((writer) => writer.condition(value));
    return pattern === undefined || inner === null ? null : writePattern(pattern, { condition: inner });
  };
  const ways = [way(patternOf(dialect, 'else_if'), condition)];
  if (condition.kind === 'not') ways.push(way(patternOf(dialect, 'else_unless'), condition.value));
  return writing.lost.attempt(() => writing.lost.firstOf(ways));
}

/** Whether a block on a value makes the value the item, as languages do that look names up outward. */
export function pushesValue(condition: Expression, writing: Writing): boolean {
  if (writing.task.dialect.paths.lookup !== 'outward') return false;
  return linksOf(condition, 'and').some((link) => {
    const value = link.kind === 'exists' ? link.value : link;
    return value.kind === 'path' && writing.shapeOf(value.segments)?.type !== 'flag';
  });
}

/** Whether content would stand once if a list is filled, which cannot be said where blocks on lists are loops. */
function isOnceIfFilled(condition: Expression, writing: Writing): boolean {
  const { dialect } = writing.task;
  if (patternOf(dialect, 'if')?.replace('{condition}', '{list}') !== patternOf(dialect, 'each')) return false;
  return writing.isList(condition.kind === 'exists' ? condition.value : condition);
}

function opened(construct: 'if' | 'unless', value: Expression, writing: Writing): OpenedBlock | null {
  const { dialect } = writing.task;
  const pattern = patternOf(dialect, construct);
  if (pattern === undefined) return writing.lost.add(construct === 'if' ? losses.conditions : losses.not);
  const condition = writing.saying((writer) => writer.condition(value));
  if (condition === null) return null;
  const fill = (own: string | undefined): string | null =>
    own === undefined ? null : writePattern(own, { condition });
  const close = fill(patternOf(dialect, construct === 'if' ? 'end_if' : 'end_unless'));
  if (close === null) return writing.lost.add(losses.conditions);
  const other = construct === 'unless' ? patternOf(dialect, 'otherwise_unless') : undefined;
  const isLoop = other !== undefined && writing.isList(value);
  const otherwise = isLoop ? null : fill(other ?? patternOf(dialect, 'else'));
  return { open: writePattern(pattern, { condition }), otherwise, close, construct };
}

function nested(parts: readonly Expression[], writing: Writing): OpenedBlock | null {
  const blocks = allSaid(parts, (part) => openBlock(part, 'one', writing));
  if (blocks === null) return null;
  writing.rewritten();
  const joined = (texts: readonly string[]): string => texts.join('');
  return {
    open: joined(blocks.map(({ open }) => open)),
    otherwise: null,
    close: joined(blocks.map(({ close }) => close).reverse()),
    construct: 'if',
  };
}
