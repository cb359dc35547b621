import type { Exchange, Pointer } from '../dialects/push-api.js';
import { pointedAt } from './json-pointer.js';

/** What was taken of an answer, by the names under `take`. */
export type Taken = ReadonlyMap<string, string>;

/** What an answer gave, or in words what is not as it should be. */
export type AnswerResult =
  { readonly taken: Taken; readonly problem: null } | { readonly taken: null; readonly problem: string };

/** What is taken of one answer, or of one item of a list. What is null there is taken as missing, and may be. */
export function takenOf(value: unknown, { take }: Pick<Exchange, 'take'>, needed: readonly string[]): AnswerResult {
  const taken = new Map<string, string>();
  for (const [name, pointer] of Object.entries(take)) {
    const found = pointedAt(value, pointer);
    const text = plainText(found);
    if (text !== null) taken.set(name, text);
    else if (needed.includes(name))
      return { taken: null, problem: `${pointer === '' ? 'it' : pointer} holds ${kindOf(found)}` };
  }
  return { taken, problem: null };
}

/** The items of a list that is looked through, each with what is taken of it. */
export function itemsOf(
  value: unknown,
  exchange: Exchange,
  needed: readonly string[],
): { readonly items: readonly Taken[]; readonly problem: null } | { readonly items: null; readonly problem: string } {
  const list = exchange.items === null ? [value] : pointedAt(value, exchange.items);
  if (!Array.isArray(list))
    return { items: null, problem: `${exchange.items ?? ''} holds ${kindOf(list)}, and no list` };
  const items: Taken[] = [];
  for (const item of list) {
    const { taken, problem } = takenOf(item, exchange, needed);
    if (taken === null) return { items: null, problem };
    items.push(taken);
  }
  return { items, problem: null };
}

/** The sentence with which a platform refuses something; null where it says none. */
export function refusalOf(value: unknown, pointer: Pointer | null): string | null {
  const said = pointer === null ? undefined : pointedAt(value, pointer);
  const text =
    typeof said === 'string' ? said : Array.isArray(said) ? said.map((entry) => plainText(entry) ?? '').join('; ') : '';
  const line = text.replace(/\s+/g, ' ').trim();
  return line === '' ? null : line;
}

function plainText(value: unknown): string | null {
  if (typeof value === 'string') return value;
  if (typeof value === 'number' || typeof value === 'boolean') return String(value);
  return value === null || value === undefined ? null : JSON.stringify(value);
}

function kindOf(value: unknown): string {
  if (value === undefined || value === null) return 'nothing';
  if (Array.isArray(value)) return 'a list';
  return typeof value === 'object' ? 'a group' : `the ${typeof value} ${JSON.stringify(value)}`;
}
