import type { FieldShape, FieldType, ItemShape } from './model.js';

/** The kinds of data that a field may hold. */
export const fieldKinds = ['text', 'number', 'flag', 'date'] as const;

/** What the items of a list are, as a project file declares it: a kind of datum, or fields with what each holds. */
export type DeclaredItems = FieldType | Readonly<Record<string, DeclaredShape>>;

/** What a field of an item holds: a kind of datum, or a list. */
export type DeclaredShape = FieldType | { readonly list: DeclaredItems };

/** The shape that a project file declares for the items of a list. */
export function declaredItemShape(items: DeclaredItems): ItemShape {
  if (typeof items === 'string') return { plain: { type: items } };
  return { fields: new Map(Object.entries(items).map(([name, shape]) => [name, declaredShape(shape)])) };
}

function declaredShape(shape: DeclaredShape): FieldShape {
  return typeof shape === 'string' ? { type: shape } : { type: 'list', item: declaredItemShape(shape.list) };
}

/** The shape that a sample shows; of a list the fields of all its items together. */
export function sampledShape(sample: unknown): FieldShape {
  if (typeof sample === 'number') return { type: 'number' };
  if (typeof sample === 'boolean') return { type: 'flag' };
  if (sample instanceof Date) return { type: 'date' };
  if (!Array.isArray(sample)) return { type: 'text' };
  const items: readonly unknown[] = sample;
  const [first] = items;
  if (first === undefined) return { type: 'list' };
  const records = items.map(entriesOf);
  if (records.some((entries) => entries === null)) return { type: 'list', item: { plain: sampledShape(first) } };
  const fields = new Map<string, FieldShape>();
  for (const [name, value] of records.flatMap((entries) => entries ?? []))
    if (!fields.has(name)) fields.set(name, sampledShape(value));
  return { type: 'list', item: { fields } };
}

function entriesOf(item: unknown): [string, unknown][] | null {
  if (item instanceof Map) return [...(item as Map<unknown, unknown>)].map(([name, value]) => [String(name), value]);
  const isRecord = typeof item === 'object' && item !== null && !Array.isArray(item) && !(item instanceof Date);
  return isRecord ? Object.entries(item) : null;
}
