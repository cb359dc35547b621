import { lookup as lookupName, type LookupAddress, type LookupOptions } from 'node:dns';
import type { Dispatcher } from 'undici';
import { inspectPicture, type PictureFacts } from './inspect-picture.js';
import { shownAddress } from '../web/web-address.js';
import { callWeb, type Failure } from '../web/web-client.js';

/** What a picture may cost on its way here. */
export interface FetchLimits {
  readonly mostBytes: number;
  /** The milliseconds for one picture, redirects included. */
  readonly milliseconds: number;
  /** Whether addresses of this machine and of private networks may be asked. */
  readonly allowLocal: boolean;
}

/** A picture from the web. */
export interface FetchedPicture {
  readonly bytes: Uint8Array;
  readonly facts: PictureFacts;
  /** The last part of the address that showed it. */
  readonly name: string;
}

/** Why a picture was not brought: the service failed, or what it gave is refused. */
export interface FetchProblem {
  readonly isRefusal: boolean;
  readonly detail: string;
  /** What to do about a refusal. */
  readonly advice: string;
}

/** Takes why a picture was not brought, and gives null, for its caller to return. */
type Refuse = (problem: FetchProblem) => null;

/** More steps from address to address than this lead nowhere. */
const MOST_REDIRECTS = 5;

const PRIVATE = 'it leads to this machine or a private network';

/** Brings pictures from the web, each within limits. */
export class PictureFetcher {
  #dispatcher: Promise<Dispatcher> | null = null;

  constructor(private readonly limits: FetchLimits) {}

  /** Brings one picture. Redirects are followed, and each step is held to the same rules (RFC 9110, 15.4). Null where it is not brought. */
  async fetch(address: string, refuse: Refuse): Promise<FetchedPicture | null> {
    const until = performance.now() + this.limits.milliseconds;
    let next = address.startsWith('//') ? `https:${address}` : address;
    for (let step = 0; step <= MOST_REDIRECTS; step += 1) {
      const refusal = await this.refusalOf(next);
      if (refusal !== null) return refuse(refusal);
      const { answer, failure } = await callWeb({
        method: 'GET',
        url: next,
        headers: { accept: 'image/*' },
        milliseconds: Math.max(1, until - performance.now()),
        mostBytes: this.limits.mostBytes,
        dispatcher: await this.dispatcher(),
      });
      if (failure !== null) return refuse(this.failed(failure));
      const target = answer.headers.get('location');
      if ([301, 302, 303, 307, 308].includes(answer.status) && target !== undefined) {
        if (!URL.canParse(target, next)) return refuse(failed(`it redirects to no address`));
        next = new URL(target, next).href;
        continue;
      }
      if (answer.status !== 200) return refuse(failed(`the server answers ${answer.status}`));
      const type = answer.headers.get('content-type')?.replace(/;.*$/, '').trim().toLowerCase() ?? '';
      if (answer.body === null)
        return refuse(
          refused(`it has more than ${Math.round(this.limits.mostBytes / 1024)} KB`, 'Allow more with --max-kb.'),
        );
      const coding = answer.headers.get('content-encoding') ?? 'identity';
      if (coding !== 'identity')
        return refuse(failed(`the server sends it coded (${coding}), which was not asked for`));
      return this.taken({ bytes: answer.body, type, address: next }, refuse);
    }
    return refuse(failed(`it redirects more than ${MOST_REDIRECTS} times`));
  }

  async close(): Promise<void> {
    await (await this.#dispatcher)?.close();
  }

  private async taken(
    { bytes, type, address }: { readonly bytes: Uint8Array; readonly type: string; readonly address: string },
    refuse: Refuse,
  ): Promise<FetchedPicture | null> {
    const isPage = /^(?:text\/html|application\/xhtml\+xml)$/.test(type);
    if (isPage) return refuse(refused('it is a page, not a picture', 'Give the address of the picture itself.'));
    const facts = await inspectPicture(bytes, (detail) =>
      refuse(refused(detail, 'Save it anew as PNG, JPEG or GIF, and put it there.')),
    );
    if (facts === null) return null;
    const { drawing } = facts;
    const extra = [...(drawing?.active ?? []), ...(drawing?.external ?? [])];
    if (extra.length > 0)
      return refuse(
        refused(
          `it is a drawing that holds more than shapes (${extra.slice(0, 3).join(', ')})`,
          'Save it as PNG, and put that there.',
        ),
      );
    const last = new URL(address).pathname.split('/').at(-1) ?? '';
    return { bytes, facts, name: decodeName(last) };
  }

  /** What an address itself says against it. */
  private async refusalOf(address: string): Promise<FetchProblem | null> {
    if (!URL.canParse(address)) return refused('it is no address', 'Correct it.');
    const { protocol, username, password, hostname } = new URL(address);
    if (protocol !== 'https:' && protocol !== 'http:')
      return refused(`it begins with ${protocol}, not with https:`, 'Give an address on the web.');
    if (username !== '' || password !== '')
      return refused('it holds a name or a password', 'Take them out: whoever gets the message would read them.');
    const host = hostname.replace(/^\[|\]$/g, '');
    const { isIP } = await import('node:net');
    if (this.limits.allowLocal || isIP(host) === 0 || !(await isPrivate(host))) return null;
    return refused(PRIVATE, 'If that is what you want, say so with --allow-local.');
  }

  private failed(failure: Failure): FetchProblem {
    switch (failure.kind) {
      case 'timeout':
        return failed(`it did not arrive within ${this.limits.milliseconds / 1000} s`);
      case 'broken':
        return failed('the server broke off the connection');
      case 'unreachable':
        return failure.detail === PRIVATE
          ? refused(PRIVATE, 'If that is what you want, say so with --allow-local.')
          : failed(failure.detail);
    }
  }

  private dispatcher(): Promise<Dispatcher> {
    this.#dispatcher ??= makeDispatcher(this.limits.allowLocal);
    return this.#dispatcher;
  }
}

function failed(detail: string): FetchProblem {
  return { isRefusal: false, detail, advice: '' };
}

function refused(detail: string, advice: string): FetchProblem {
  return { isRefusal: true, detail, advice };
}

/**
 * Connections whose names are looked up once, by us: an address that passed the test is the one that is asked, whatever the
 * name says a moment later.
 */
async function makeDispatcher(allowLocal: boolean): Promise<Dispatcher> {
  const { Agent } = await import('undici');
  return allowLocal ? new Agent() : new Agent({ connect: { lookup: guardedLookup } });
}

type LookupAnswer = (error: Error | null, addresses: LookupAddress[] | string, family?: number) => void;

function guardedLookup(host: string, options: LookupOptions, answer: LookupAnswer): void {
  lookupName(host, { ...options, all: true }, (error, addresses) => {
    if (error !== null) {
      answer(error, []);
      return;
    }
    void Promise.all(addresses.map(({ address }) => isPrivate(address))).then((found) => {
      const [first] = addresses;
      if (found.includes(true) || first === undefined) answer(new Error(PRIVATE), []);
      else if (options.all === true) answer(null, addresses);
      else answer(null, first.address, first.family);
    });
  });
}

/** Whether an IP address is any but a public one: this machine, private and reserved networks (RFC 6890). */
async function isPrivate(address: string): Promise<boolean> {
  const { default: ipaddr } = await import('ipaddr.js');
  return ipaddr.process(address).range() !== 'unicast';
}

function decodeName(part: string): string {
  try {
    return decodeURIComponent(part).replace(/[/\\\0]/g, '-');
  } catch {
    return part;
  }
}

/** What a finding calls an address: without a password, and not longer than a line. */
export function nameOfAddress(address: string): string {
  const shown = shownAddress(address);
  return shown.length > 100 ? `${shown.slice(0, 99)}…` : shown;
}
