import type { FieldShape, ItemShape, MergeFields } from './model.js';

/** A loop around a place: the name of its item, and what is known of the items. */
export interface LoopItem {
  readonly name: string;
  /** The list, as a path from the recipient: `loans`, `loans[].spares`. */
  readonly list: string;
  readonly shape: ItemShape | null;
}

/** What is known of the data: what the project declares, and which lists the text itself loops over. */
export interface KnownData {
  readonly fields: MergeFields;
  readonly looped: ReadonlySet<string>;
}

/** The path of a value from the recipient, whatever the loops around call their items: `loans[].tool`. */
export function dataPath(segments: readonly string[], items: readonly LoopItem[]): string {
  const [first = '', ...rest] = segments;
  const item = items.findLast(({ name }) => name === first);
  return item === undefined ? segments.join('.') : [`${item.list}[]`, ...rest].join('.');
}

/** What a path holds; null where neither the project nor the text shows it. */
export function shapeOf(segments: readonly string[], items: readonly LoopItem[], data: KnownData): FieldShape | null {
  const [first = '', ...rest] = segments;
  const counter = rest[0] ?? '';
  if (counter.startsWith('#')) return { type: /^#(?:first|last)$/.test(counter) ? 'flag' : 'number' };
  const item = items.findLast(({ name }) => name === first);
  const declared = item === undefined ? declaredField(data.fields, segments) : declaredOfItem(item.shape, rest);
  if (declared !== null) return declared;
  return data.looped.has(dataPath(segments, items)) ? { type: 'list' } : null;
}

function declaredField(fields: MergeFields, segments: readonly string[]): FieldShape | null {
  return segments.length === 1 ? (fields.get(segments[0] ?? '') ?? null) : null;
}

function declaredOfItem(shape: ItemShape | null, rest: readonly string[]): FieldShape | null {
  if (shape === null) return null;
  if ('plain' in shape) return rest.length === 0 ? shape.plain : null;
  return rest.length === 1 ? (shape.fields.get(rest[0] ?? '') ?? null) : null;
}

/** What is known of the items of a list. */
export function itemShapeOf(list: FieldShape | null): ItemShape | null {
  return list?.item ?? null;
}

/** Whether the items have a field of this name; null where nobody says what they have. */
export function itemHas(shape: ItemShape | null, name: string): boolean | null {
  if (shape === null) return null;
  return 'fields' in shape && shape.fields.has(name);
}
