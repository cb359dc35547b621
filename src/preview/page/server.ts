/// <reference lib="dom" />
import type { BenchMessage, ChangedMessage, Wall } from '../../core/views/model.js';
import { writeView, type View } from '../../core/views/view.js';

/** Which edition of a message for which destination is looked at; null for the first. */
export interface Looked {
  readonly name: string;
  readonly edition: string | null;
  readonly destination: string | null;
}

async function ask(address: string): Promise<Response> {
  const response = await fetch(address, { cache: 'no-store' });
  if (!response.ok) throw new Error(await response.text());
  return response;
}

/** All messages, as far as the server knows them. */
export async function wallNow(): Promise<Wall> {
  return (await (await ask('/-/wall')).json()) as Wall;
}

/** What there is to say of a message now. */
export async function messageNow(looked: Looked): Promise<BenchMessage> {
  return (await (
    await ask(`/-/message/${encodeURIComponent(looked.name)}?${lookedQuery(looked)}`)
  ).json()) as BenchMessage;
}

/** The address of the page of a view. */
export function frameAddress(looked: Looked, view: View): string {
  const query = lookedQuery(looked);
  query.set('view', writeView({ ...view, fit: false }));
  return `/-/frame/${encodeURIComponent(looked.name)}?${query}`;
}

/** The page of a view as it is now. */
export async function frameNow(address: string): Promise<string> {
  return (await ask(address)).text();
}

function lookedQuery({ edition, destination }: Looked): URLSearchParams {
  const query = new URLSearchParams();
  if (edition !== null) query.set('edition', edition);
  if (destination !== null) query.set('to', destination);
  return query;
}

/**
 * Listens for changes.
 * @param open the message that is looked at, which the server builds before others
 * @param again called when the connection is there again after it was lost: anything may have changed
 */
export function listenForChanges(
  open: string | null,
  changed: (message: ChangedMessage) => void,
  connection: (isThere: boolean) => void,
): void {
  const events = new EventSource(open === null ? '/-/events' : `/-/events?open=${encodeURIComponent(open)}`);
  events.addEventListener('changed', (event) =>
    changed(JSON.parse((event as MessageEvent<string>).data) as ChangedMessage),
  );
  events.addEventListener('open', () => connection(true));
  events.addEventListener('error', () => connection(false));
}
