import { systemValues } from '../../dialects/model.js';
import { filters } from '../../expressions/filters.js';
import { buildDelimiters, closingOffset, neutralDelimiters } from '../../html/tags.js';
import type { Span } from '../../text/span.js';
import type { Completion } from './completion.js';
import type { DataShape, Shapes } from '../data-shape.js';
import { followPath } from '../project-facts.js';

/** An expression that is being written. */
export interface OpenExpression {
  readonly kind: 'build' | 'merge';
  /** Where it begins, behind its delimiter. */
  readonly start: number;
}

/** The expression that a text ends in; null where it ends in none. Expressions are looked for in the last line alone. */
export function openExpression(text: string): OpenExpression | null {
  const from = Math.max(0, text.lastIndexOf('\n'));
  const openings = [...text.slice(from).matchAll(/[@$]\{/g)].map(({ index }) => from + index);
  for (const opening of openings.reverse()) {
    const isMerge = text[opening] === '@';
    const pair = isMerge ? neutralDelimiters : buildDelimiters;
    if (text[opening - 1] === text[opening]) continue;
    if (closingOffset(text, opening + 2, pair) !== null) continue;
    return { kind: isMerge ? 'merge' : 'build', start: opening + 2 };
  }
  return null;
}

/** What may be written where an expression over build values ends. */
export function completeBuildValue(written: string, end: number, scope: Shapes): Completion[] {
  const filter = /\|\s*([A-Za-z]*)$/.exec(written);
  if (filter !== null) return filterItems(spanBefore(end, filter[1] ?? ''));
  const path = pathAtEnd(written);
  return path === null ? [] : valueItems(path, end, scope);
}

/** What may be written where a merge tag ends. */
export function completeMergeTag(written: string, end: number, scope: Shapes): Completion[] {
  const filter = /\|\s*([A-Za-z]*)$/.exec(written);
  if (filter !== null) return filterItems(spanBefore(end, filter[1] ?? ''));
  const path = pathAtEnd(written);
  if (path === null) return [];
  if (path.owner.length > 0) return valueItems(path, end, scope);
  const span = spanBefore(end, path.name);
  const groups = new Set([...systemValues.keys()].map((name) => name.split('.')[0]));
  const known = new Map([...scope].filter(([name]) => !groups.has(name)));
  const system = [...systemValues].map(([name, says]): Completion => ({
    label: name,
    kind: 'value',
    detail: says,
    insert: name,
    span,
  }));
  const isFirst = written.trim() === path.name;
  return [...valueItems(path, end, known, 'field'), ...system, ...(isFirst ? blockItems(span) : [])];
}

const blocks: readonly (readonly [label: string, insert: string, says: string])[] = [
  ['if', 'if ', 'what follows is for those for whom this holds'],
  ['else if', 'else if ', 'what follows is for others for whom this holds'],
  ['else', 'else', 'what follows is for all others'],
  ['each', 'each ${1:list} as ${2:item}', 'what follows is repeated for each item of a list'],
  ['end', 'end', 'the end of if or each'],
];

function blockItems(span: Span): Completion[] {
  return blocks.map(([label, insert, detail]) => ({ label, kind: 'block', detail, insert, span }));
}

function filterItems(span: Span): Completion[] {
  return [...filters].map(([name, { parameter, says }]) => ({
    label: name,
    kind: 'filter',
    detail: says,
    insert: parameter === null ? name : `${name} ${asSnippet(parameter)}`,
    span,
  }));
}

/** A text as a snippet that says it. */
export function asSnippet(text: string): string {
  return text.replace(/[$}\\]/g, '\\$&');
}

interface PathAtEnd {
  readonly owner: readonly string[];
  readonly name: string;
}

/** The path that an expression ends in; null where it ends in a text. */
function pathAtEnd(written: string): PathAtEnd | null {
  const bare = written.replace(/"(?:[^"\\]|\\.)*"|'(?:[^'\\]|\\.)*'/g, '""');
  if (/["']/.test(bare.replace(/""/g, ''))) return null;
  const match = /((?:[A-Za-z_][\w-]*\.|\d+\.)*)([A-Za-z_][\w-]*)?$/.exec(bare);
  const owner = (match?.[1] ?? '').split('.').slice(0, -1);
  return { owner, name: match?.[2] ?? '' };
}

function valueItems(
  { owner, name }: PathAtEnd,
  end: number,
  scope: Shapes,
  kind: 'value' | 'field' = 'value',
): Completion[] {
  const span = spanBefore(end, name);
  const found = owner.length === 0 ? scope : membersOf(owner, scope);
  return [...found.values()].map((shape) => ({
    label: shape.name,
    kind,
    detail: shape.sample ?? describeShape(shape),
    insert: asSnippet(shape.name),
    span,
  }));
}

function membersOf(owner: readonly string[], scope: Shapes): Shapes {
  const found = followPath(owner, (first) => scope.get(first) ?? null);
  return found.length === owner.length ? (found[found.length - 1]?.fields ?? new Map()) : new Map();
}

/** What is known of a value without an example. */
function describeShape({ fields, item }: DataShape): string {
  if (fields.size > 0) return `a group: ${[...fields.keys()].join(', ')}`;
  return item === null ? '' : 'a list';
}

function spanBefore(end: number, word: string): Span {
  return { start: end - word.length, end };
}
