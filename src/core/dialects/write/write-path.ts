import { conversionNote } from '../../findings/wording/conversions.js';
import { losses } from '../../findings/wording/losses.js';
import { platformFieldName, type Counter, type Dialect } from '../dialect.js';
import type { Expression } from '../../expressions/expression.js';
import { allSaid, type LossNotes } from './loss-notes.js';
import { writePattern } from '../pattern.js';
import { itemHas, type KnownData, type LoopItem } from '../shapes.js';

/** A block around a tag that is written: the item of a loop, or a text that a block makes the item. */
export type WritingScope =
  | { readonly kind: 'item'; readonly item: LoopItem; readonly written: string; readonly uses: ReadonlySet<string> }
  | { readonly kind: 'value' };

/** What writing names needs to know. */
export interface WritingContext {
  readonly dialect: Dialect;
  readonly scopes: readonly WritingScope[];
  readonly data: KnownData;
  /** The first names of all fields of the recipient that the text uses. */
  readonly fieldsInUse: ReadonlySet<string>;
  /** Takes note of what is only right under a condition. */
  readonly assume: (note: string) => void;
  /** Takes note of what the dialect cannot say. */
  readonly lost: LossNotes;
}

type ItemScope = Extract<WritingScope, { kind: 'item' }>;

/** The items of the loops around, the innermost last. */
export function itemsOf(scopes: readonly WritingScope[]): LoopItem[] {
  return scopes.flatMap((scope) => (scope.kind === 'item' ? [scope.item] : []));
}

/** The path of a field, or of an item of a loop around, as a dialect writes it; null where it cannot. */
export function writePath(expression: Expression, context: WritingContext): string | null {
  if (expression.kind !== 'path') return context.lost.add(losses.expression);
  const [first = '', ...rest] = expression.segments;
  const scope = context.scopes.findLast(
    (candidate): candidate is ItemScope => candidate.kind === 'item' && candidate.item.name === first,
  );
  const [counter = ''] = rest;
  if (counter.startsWith('#')) return counterPath(first, counter.slice(1), context);
  const property = rest.find((name) => context.dialect.names.properties.includes(name));
  if (property !== undefined) return context.lost.add(losses.propertyName(property));
  return scope === undefined ? fieldPath(expression.segments, context) : itemPath(scope, rest, context);
}

/** What a loop knows of its item; languages ask the innermost loop. */
function counterPath(item: string, name: string, { dialect, scopes, lost }: WritingContext): string | null {
  const innermost = scopes.findLast((scope) => scope.kind === 'item');
  const what = `the number of an item in a loop (${name})`;
  if (innermost?.kind !== 'item' || innermost.item.name !== item) return lost.add(losses.fromOtherLoop(what));
  return dialect.paths.counters[name as Counter]?.[0] ?? lost.add(losses.counter(what));
}

function fieldPath(segments: readonly string[], context: WritingContext): string | null {
  const { dialect, scopes, lost } = context;
  const names = allSaid(segments, (segment) => written(segment, context));
  if (names === null) return null;
  const [first = ''] = segments;
  const inLoop = scopes.some(({ kind }) => kind === 'item');
  if (dialect.paths.lookup === 'outward')
    for (const scope of scopes)
      if (scope.kind === 'item' && (itemHas(scope.item.shape, first) === true || scope.uses.has(first)))
        return lost.add(losses.hiddenField(first, scope.item.list));
  const pattern = inLoop ? (dialect.paths.field_in_loop[0] ?? dialect.paths.field[0]) : dialect.paths.field[0];
  const isAlone = pattern === '{name}';
  if (isAlone && dialect.names.reserved.includes(names[0] ?? '')) {
    if (dialect.names.quoted === null || names.length > 1) return lost.add(losses.fieldName(first));
    return writePattern(dialect.names.quoted, { name: names[0] ?? '' });
  }
  return writePattern(pattern ?? '{name}', { name: names.join('.') });
}

function itemPath(scope: ItemScope, rest: readonly string[], context: WritingContext): string | null {
  const { dialect } = context;
  if (dialect.paths.lookup === 'outward') return outwardPath(scope, rest, context);
  const item = scope.written;
  if (rest.length === 0) return writePattern(dialect.paths.plain_item[0] ?? '{item}', { item });
  const names = allSaid(rest, (name) => written(name, context));
  if (names === null) return null;
  return writePattern(dialect.paths.item[0] ?? '{item}.{name}', { item, name: names.join('.') });
}

/** A field of an item, where names are looked up in the innermost item first, and then outward. */
function outwardPath(scope: ItemScope, rest: readonly string[], context: WritingContext): string | null {
  const { dialect, scopes, data, fieldsInUse, lost } = context;
  const inner = scopes.slice(scopes.indexOf(scope) + 1);
  const [first] = rest;
  if (first === undefined) {
    if (inner.length > 0) return lost.add(losses.itemInBlock);
    return dialect.paths.plain_item[0] ?? '.';
  }
  for (const other of inner)
    if (other.kind === 'item' && (itemHas(other.item.shape, first) === true || other.uses.has(first)))
      return lost.add(losses.hiddenOuterField(first));
  const isField = data.fields.has(first) || fieldsInUse.has(first);
  if (isField) context.assume(conversionNote.showsRecipient(first));
  return allSaid(rest, (name) => written(name, context))?.join('.') ?? null;
}

function written(name: string, { dialect, lost }: WritingContext): string | null {
  const own = platformFieldName(dialect, name);
  return own.includes('-') && !dialect.names.hyphens ? lost.add(losses.hyphenName(own)) : own;
}
