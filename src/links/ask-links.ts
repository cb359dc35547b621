import { finding, type Finding, type Place } from '../core/findings/finding.js';

/** A link to ask, and where it stands. */
export interface AskedLink {
  readonly url: string;
  readonly place: Place | null;
}

/** How links are asked. */
export interface LinkBounds {
  /** How long one may take, in milliseconds. */
  readonly milliseconds: number;
  /** How many are asked at a time. */
  readonly atOnce: number;
  /** Told of each that is done, and of how many. */
  readonly progress: (done: number, of: number) => void;
}

/** So often an address may lead on to another. */
const MOST_HOPS = 10;

/** What an address came to. */
type Answer =
  | { readonly kind: 'fine'; readonly way: readonly string[]; readonly isLasting: boolean }
  | { readonly kind: 'dead'; readonly status: string }
  | { readonly kind: 'slow' }
  | { readonly kind: 'loop'; readonly way: readonly string[] }
  | { readonly kind: 'unreachable'; readonly detail: string };

/** Asks web addresses whether anything is there: by HEAD, and by GET where a server does not answer that. Each is asked once. */
export async function askLinks(links: readonly AskedLink[], bounds: LinkBounds): Promise<Finding[]> {
  const urls = [...new Set(links.map(({ url }) => withoutFragment(url)))];
  const answers = new Map<string, Answer>();
  const row = [...urls];
  const work = async (): Promise<void> => {
    for (let url = row.shift(); url !== undefined; url = row.shift()) {
      answers.set(url, await ask(url, bounds.milliseconds));
      bounds.progress(answers.size, urls.length);
    }
  };
  await Promise.all(Array.from({ length: bounds.atOnce }, work));
  return links.flatMap(({ url, place }) => {
    const answer = answers.get(withoutFragment(url));
    return answer === undefined ? [] : findingsFor(url, place, answer, bounds);
  });
}

function withoutFragment(url: string): string {
  return url.replace(/#.*$/, '');
}

function findingsFor(url: string, place: Place | null, answer: Answer, { milliseconds }: LinkBounds): Finding[] {
  switch (answer.kind) {
    case 'fine': {
      const target = answer.way[answer.way.length - 1] ?? url;
      return answer.isLasting && target !== withoutFragment(url) ? [finding('link-moved', place, { url, target })] : [];
    }
    case 'dead':
      return [finding('link-dead', place, { url, status: answer.status })];
    case 'slow':
      return [finding('link-slow', place, { url, seconds: String(milliseconds / 1000) })];
    case 'loop':
      return [finding('link-loop', place, { url, way: answer.way.slice(0, 4).join(', ') })];
    case 'unreachable':
      return [finding('link-unreachable', place, { url, detail: answer.detail })];
  }
}

async function ask(url: string, milliseconds: number): Promise<Answer> {
  const way: string[] = [];
  let isLasting = true;
  let at = url;
  const until = AbortSignal.timeout(milliseconds);
  try {
    for (let hop = 0; hop <= MOST_HOPS; hop += 1) {
      const { status, location } = await statusOf(at, until);
      if (status >= 300 && status < 400 && location !== null) {
        const next = new URL(location, at).href;
        if (!/^https?:/.test(next)) return { kind: 'fine', way, isLasting: false };
        isLasting &&= status === 301 || status === 308;
        if (way.includes(next)) return { kind: 'loop', way: [...way, next] };
        way.push(next);
        at = next;
        continue;
      }
      // What asks who one is, or is not for programs, is there.
      const isThere = status < 400 || [401, 403, 407, 429, 451, 999].includes(status);
      return isThere
        ? { kind: 'fine', way, isLasting: isLasting && way.length > 0 }
        : { kind: 'dead', status: String(status) };
    }
    return { kind: 'loop', way };
  } catch (error) {
    if (until.aborted) return { kind: 'slow' };
    return { kind: 'unreachable', detail: detailOf(error) };
  }
}

/** The answer to HEAD, or to GET where HEAD says little: some servers know no HEAD, or refuse it. */
async function statusOf(url: string, signal: AbortSignal): Promise<{ status: number; location: string | null }> {
  const head = await answerTo('HEAD', url, signal).catch((error: unknown) => {
    if (signal.aborted) throw error;
    return null;
  });
  const saysLittle = head === null || (head.status >= 400 && head.status !== 429);
  return saysLittle ? answerTo('GET', url, signal) : head;
}

async function answerTo(
  method: string,
  url: string,
  signal: AbortSignal,
): Promise<{ status: number; location: string | null }> {
  const headers = { 'user-agent': 'Inscriba link check', accept: '*/*' };
  const answer = await fetch(url, { method, redirect: 'manual', signal, headers });
  // Only whether it answers is asked, not what.
  await answer.body?.cancel().catch(() => undefined);
  return { status: answer.status, location: answer.headers.get('location') };
}

const words: Readonly<Record<string, string>> = {
  ENOTFOUND: 'there is no host of that name',
  EAI_AGAIN: 'the name of its host cannot be looked up now',
  ECONNREFUSED: 'nothing listens there',
  ECONNRESET: 'it broke off the connection',
  UND_ERR_SOCKET: 'it broke off the connection',
  CERT_HAS_EXPIRED: 'its certificate has expired',
  DEPTH_ZERO_SELF_SIGNED_CERT: 'its certificate is signed by itself',
  ERR_TLS_CERT_ALTNAME_INVALID: 'its certificate is for another host',
  ERR_INVALID_URL: 'it is no address',
};

function detailOf(error: unknown): string {
  const cause: unknown = error instanceof Error ? (error.cause ?? error) : error;
  const code = typeof cause === 'object' && cause !== null && 'code' in cause ? String(cause.code) : '';
  return words[code] ?? (cause instanceof Error ? cause.message : String(cause));
}
