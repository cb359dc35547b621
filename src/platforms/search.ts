import type { Exchange } from '../core/dialects/push-api.js';
import { filledText, type RequestValues } from '../core/delivery/values.js';
import { pointedAt } from '../core/delivery/json-pointer.js';
import { itemsOf, type Taken } from '../core/delivery/read-answer.js';
import type { PlatformClient, PlatformResult } from './platform-client.js';

/** More pages than this no search has. */
const MOST_PAGES = 100;

export type Failed = Extract<PlatformResult, { readonly kind: 'failed' }>;

export type SearchResult =
  { readonly found: readonly Taken[]; readonly failed: null } | { readonly found: null; readonly failed: Failed };

/** What is to be looked for. */
export interface Search {
  readonly exchange: Exchange;
  readonly what: string;
  readonly values: RequestValues;
  /** The name that it has: platforms also give what only holds the words that are looked for. */
  readonly name: string;
}

/** Looks through a list of a platform, page by page, for what has a name. Nothing found is no failure, and no more is 404. */
export async function searchFor(
  client: PlatformClient,
  { exchange, what, values, name }: Search,
): Promise<SearchResult> {
  const found: Taken[] = [];
  const seen = new Set<string>();
  let page = exchange;
  for (let count = 0; count < MOST_PAGES; count += 1) {
    const result = await client.call({ exchange: page, what, values, isRepeatable: true });
    if (result.kind === 'failed')
      return result.status === 404 ? { found, failed: null } : { found: null, failed: result };
    const { items, problem } = itemsOf(result.content, exchange, ['id']);
    const odd = (detail: string): SearchResult => ({
      found: null,
      failed: {
        kind: 'failed',
        status: result.status,
        mayHaveHappened: false,
        finding: client.oddAnswer(what, detail),
      },
    });
    if (items === null) return odd(problem);
    found.push(...items.filter((item) => (item.get('name') ?? name) === name));
    const next = nextPath(result.content, exchange, client, values);
    if (next === null) return { found, failed: null };
    if (next === '' || seen.has(next))
      return odd('its next page is none of this interface, or one that was read before');
    seen.add(next);
    page = { ...exchange, path: next };
  }
  return { found, failed: null };
}

/** The path of the next page; null where there is none, empty where it would lead elsewhere: secrets go along. */
function nextPath(
  content: unknown,
  { next, path }: Exchange,
  client: PlatformClient,
  values: RequestValues,
): string | null {
  const given = next === null ? undefined : pointedAt(content, next.at);
  if (next === null || (typeof given !== 'string' && typeof given !== 'number') || given === '') return null;
  const base = new URL(client.access.url);
  if (next.parameter !== null) {
    const filled = filledText(path, new Map([...values, ...client.access.settings]), encodeURIComponent);
    const url = new URL(`http://host${filled}`);
    url.searchParams.set(next.parameter, String(given));
    return plainPath(`${url.pathname}${url.search}`);
  }
  const text = String(given);
  if (!URL.canParse(text, base.href)) return '';
  const url = new URL(text, base);
  const root = base.pathname.replace(/\/$/, '');
  if (url.origin !== base.origin || !url.pathname.startsWith(root)) return '';
  return plainPath(`${url.pathname.slice(root.length)}${url.search}`);
}

/** A path that is complete: nothing in it is filled once more. */
function plainPath(path: string): string {
  return path.replaceAll('${', '%24%7B');
}
