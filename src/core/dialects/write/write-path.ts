import { conversionNote } from '../../findings/wording/conversions.js';
import { losses } from '../../findings/wording/losses.js';
import { platformFieldName, type Counter, type Dialect } from '../dialect.js';
import type { Expression } from '../../expressions/expression.js';
import { Loss } from './loss.js';
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
}

type ItemScope = Extract<WritingScope, { kind: 'item' }>;

/** The items of the loops around, the innermost last. */
export function itemsOf(scopes: readonly WritingScope[]): LoopItem[] {
  return scopes.flatMap((scope) => (scope.kind === 'item' ? [scope.item] : []));
}

/** The path of a field, or of an item of a loop around, as a dialect writes it. */
export function writePath(expression: Expression, context: WritingContext): string {
  if (expression.kind !== 'path') throw new Loss(losses.expression);
  const [first = '', ...rest] = expression.segments;
  const scope = context.scopes.findLast(
    (candidate): candidate is ItemScope => candidate.kind === 'item' && candidate.item.name === first,
  );
  const [counter = ''] = rest;
  if (counter.startsWith('#')) return counterPath(first, counter.slice(1), context);
  checkProperties(rest, context.dialect);
  return scope === undefined ? fieldPath(expression.segments, context) : itemPath(scope, rest, context);
}

/** What a loop knows of its item; languages ask the innermost loop. */
function counterPath(item: string, name: string, { dialect, scopes }: WritingContext): string {
  const innermost = scopes.findLast((scope) => scope.kind === 'item');
  const what = `the number of an item in a loop (${name})`;
  if (innermost?.kind !== 'item' || innermost.item.name !== item) throw new Loss(losses.fromOtherLoop(what));
  const pattern = dialect.paths.counters[name as Counter]?.[0];
  if (pattern === undefined) throw new Loss(losses.counter(what));
  return pattern;
}

function checkProperties(names: readonly string[], { names: rules }: Dialect): void {
  const property = names.find((name) => rules.properties.includes(name));
  if (property !== undefined) throw new Loss(losses.propertyName(property));
}

function fieldPath(segments: readonly string[], context: WritingContext): string {
  const { dialect, scopes } = context;
  const names = segments.map((segment) => written(segment, dialect));
  const [first = ''] = segments;
  const inLoop = scopes.some(({ kind }) => kind === 'item');
  if (dialect.paths.lookup === 'outward')
    for (const scope of scopes)
      if (scope.kind === 'item' && (itemHas(scope.item.shape, first) === true || scope.uses.has(first)))
        throw new Loss(losses.hiddenField(first, scope.item.list));
  const pattern = inLoop ? (dialect.paths.field_in_loop[0] ?? dialect.paths.field[0]) : dialect.paths.field[0];
  const isAlone = pattern === '{name}';
  if (isAlone && dialect.names.reserved.includes(names[0] ?? '')) {
    if (dialect.names.quoted === null || names.length > 1) throw new Loss(losses.fieldName(first));
    return writePattern(dialect.names.quoted, { name: names[0] ?? '' });
  }
  return writePattern(pattern ?? '{name}', { name: names.join('.') });
}

function itemPath(scope: ItemScope, rest: readonly string[], context: WritingContext): string {
  const { dialect } = context;
  if (dialect.paths.lookup === 'outward') return outwardPath(scope, rest, context);
  const item = scope.written;
  return rest.length === 0
    ? writePattern(dialect.paths.plain_item[0] ?? '{item}', { item })
    : writePattern(dialect.paths.item[0] ?? '{item}.{name}', {
        item,
        name: rest.map((name) => written(name, dialect)).join('.'),
      });
}

/** A field of an item, where names are looked up in the innermost item first, and then outward. */
function outwardPath(scope: ItemScope, rest: readonly string[], context: WritingContext): string {
  const { dialect, scopes, data, fieldsInUse } = context;
  const inner = scopes.slice(scopes.indexOf(scope) + 1);
  const [first] = rest;
  if (first === undefined) {
    if (inner.length > 0) throw new Loss(losses.itemInBlock);
    return dialect.paths.plain_item[0] ?? '.';
  }
  for (const other of inner)
    if (other.kind === 'item' && (itemHas(other.item.shape, first) === true || other.uses.has(first)))
      throw new Loss(losses.hiddenOuterField(first));
  const isField = data.fields.has(first) || fieldsInUse.has(first);
  if (isField) context.assume(conversionNote.showsRecipient(first));
  return rest.map((name) => written(name, dialect)).join('.');
}

function written(name: string, dialect: Dialect): string {
  const own = platformFieldName(dialect, name);
  if (own.includes('-') && !dialect.names.hyphens) throw new Loss(losses.hyphenName(own));
  return own;
}
