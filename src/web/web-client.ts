import type { Dispatcher } from 'undici';

/** Why no answer came, for the sentence that tells it. */
export type Failure =
  | { readonly kind: 'unreachable'; readonly detail: string }
  | { readonly kind: 'timeout' }
  | { readonly kind: 'broken' };

/** An answer: what it says of itself, and its content up to a bound. */
export interface Answer {
  readonly status: number;
  readonly headers: ReadonlyMap<string, string>;
  /** Null where it has more bytes than were asked for. */
  readonly body: Uint8Array | null;
}

export type CallResult =
  { readonly answer: Answer; readonly failure: null } | { readonly answer: null; readonly failure: Failure };

export interface Call {
  readonly method: 'GET' | 'HEAD' | 'PUT' | 'MKCOL' | 'POST' | 'PATCH' | 'DELETE';
  readonly url: string;
  readonly headers?: Readonly<Record<string, string>>;
  readonly body?: Uint8Array;
  /** The milliseconds that all of it may take. */
  readonly milliseconds: number;
  /** The bytes of an answer that are read at most. */
  readonly mostBytes?: number;
  /** How connections are made; the usual way where it is not given. */
  readonly dispatcher?: Dispatcher;
}

const SHORT_ANSWER = 100_000;

/** Makes one HTTP request (RFC 9110) and reads its answer. Redirects are not followed; nothing is tried again. */
export async function callWeb(call: Call): Promise<CallResult> {
  const { request } = await import('undici');
  const abort = new AbortController();
  const timer = setTimeout(() => abort.abort(), call.milliseconds);
  try {
    const { statusCode, headers, body } = await request(call.url, {
      method: call.method,
      headers: { 'user-agent': 'inscriba', 'accept-encoding': 'identity', ...call.headers },
      body: call.body ?? null,
      signal: abort.signal,
      // One clock for all of it: what trickles in is slow too.
      headersTimeout: call.milliseconds + 1000,
      bodyTimeout: call.milliseconds + 1000,
      ...(call.dispatcher === undefined ? {} : { dispatcher: call.dispatcher }),
    });
    const plain = Object.entries(headers).map(([name, value]): [string, string] => [
      name.toLowerCase(),
      String(Array.isArray(value) ? value[0] : value),
    ]);
    const content = await readUpTo(body, call.mostBytes ?? SHORT_ANSWER);
    return { answer: { status: statusCode, headers: new Map(plain), body: content }, failure: null };
  } catch (error) {
    return { answer: null, failure: abort.signal.aborted ? { kind: 'timeout' } : failureOf(error) };
  } finally {
    clearTimeout(timer);
  }
}

async function readUpTo(
  body: AsyncIterable<Uint8Array> & { destroy: () => void },
  most: number,
): Promise<Uint8Array | null> {
  const chunks: Uint8Array[] = [];
  let length = 0;
  for await (const chunk of body) {
    length += chunk.length;
    if (length > most) {
      body.destroy();
      return null;
    }
    chunks.push(chunk);
  }
  return Buffer.concat(chunks);
}

const unreachable: Readonly<Record<string, string>> = {
  ECONNREFUSED: 'nothing listens there',
  ENOTFOUND: 'there is no server of this name',
  EAI_AGAIN: 'its name could not be looked up',
  EHOSTUNREACH: 'there is no way to it',
  ENETUNREACH: 'there is no way to it',
  UND_ERR_CONNECT_TIMEOUT: 'it does not answer',
  ETIMEDOUT: 'it does not answer',
};

function failureOf(error: unknown): Failure {
  const codes = codesOf(error);
  const known = codes.find((code) => Object.hasOwn(unreachable, code));
  if (known !== undefined) return { kind: 'unreachable', detail: unreachable[known] ?? '' };
  if (codes.some((code) => /^UND_ERR_(?:HEADERS|BODY)_TIMEOUT$/.test(code))) return { kind: 'timeout' };
  if (codes.some((code) => /CERT|SELF_SIGNED|SSL|TLS/.test(code)))
    return { kind: 'unreachable', detail: `its certificate is not trusted (${codes[0] ?? ''})` };
  if (codes.some((code) => /^(?:ECONNRESET|EPIPE|UND_ERR_SOCKET|HPE_.*|UND_ERR_RES_.*|UND_ERR_REQ_.*)$/.test(code)))
    return { kind: 'broken' };
  return { kind: 'unreachable', detail: error instanceof Error ? error.message : String(error) };
}

function codesOf(error: unknown): string[] {
  if (!(error instanceof Error)) return [];
  const { code, cause, errors } = error as Error & { code?: unknown; errors?: unknown[] };
  const inner = [cause, ...(errors ?? [])];
  return [...(typeof code === 'string' ? [code] : []), ...inner.flatMap(codesOf)];
}
