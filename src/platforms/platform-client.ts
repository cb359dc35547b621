import { setTimeout as pause } from 'node:timers/promises';
import type { Dialect } from '../core/dialects/dialect.js';
import type { Exchange, PushApi, SendPattern } from '../core/dialects/push-api.js';
import { filledRequest, noFiles, type FilledRequest, type RequestFiles } from '../core/delivery/fill-request.js';
import { refusalOf } from '../core/delivery/read-answer.js';
import { filledText, type RequestValues } from '../core/delivery/values.js';
import { finding, type Finding } from '../core/findings/finding.js';
import { retryAfter } from '../web/retry-after.js';
import { callWeb, type Answer, type CallResult } from '../web/web-client.js';
import { encodedBody } from './encode-body.js';
import { SecretMask } from './secrets.js';

/** A platform's interface, and what a project needs to use it. */
export interface PlatformAccess {
  readonly destination: string;
  readonly dialect: Pick<Dialect, 'name' | 'title'>;
  readonly api: PushApi;
  /** Where the interface is, with a slash at its end. */
  readonly url: string;
  /** By the names of its settings (`destination.key`). */
  readonly settings: ReadonlyMap<string, string>;
  /** Those values that nobody may see. */
  readonly secrets: readonly string[];
  /** What one request may take. */
  readonly milliseconds: number;
}

/** One request, and what it is for. */
export interface PlatformCall {
  readonly exchange: Exchange;
  /** In words, for findings: `the picture sign.png`. */
  readonly what: string;
  readonly values: ReadonlyMap<string, SendPattern>;
  readonly files?: RequestFiles;
  /** Whether it comes to the same made twice. */
  readonly isRepeatable: boolean;
}

/** What came of a request. */
export type PlatformResult =
  | { readonly kind: 'answer'; readonly status: number; readonly content: unknown }
  | {
      readonly kind: 'failed';
      /** What the platform answered; null where no answer came. */
      readonly status: number | null;
      /** Whether it may have done what was asked nevertheless. */
      readonly mayHaveHappened: boolean;
      readonly finding: Finding;
    };

/** So often something is tried where the platform stumbles. */
const TRIES = 5;
const FIRST_PAUSE = 200;
const LONGEST_PAUSE = 60_000;

/** No answer may be larger. */
const MOST_BYTES = 20 * 1024 * 1024;

/** Speaks to a platform as a dialect file describes it. Nothing in here knows any platform. */
export class PlatformClient {
  readonly #mask: SecretMask;
  #token: Promise<PlatformResult> | null = null;
  /** When the last requests were made, or will be. */
  #turns: readonly number[] = [];

  constructor(readonly access: PlatformAccess) {
    this.#mask = new SecretMask(access.secrets);
    const { signIn } = access.api;
    if (signIn.kind === 'basic') {
      const fill = (pattern: string): string => filledText(pattern, access.settings);
      this.#mask.add(`${fill(signIn.user)}:${fill(signIn.password)}`);
    }
  }

  /** Makes a request. It is made again where nothing can have come of it, or where that does no harm. */
  async call({ exchange, what, values, files = noFiles, isRepeatable }: PlatformCall): Promise<PlatformResult> {
    const filled = filledRequest(this.access.api, exchange, this.withSettings(values), files);
    let isRenewed = false;
    for (let attempt = 1; ; attempt += 1) {
      const token = await this.token();
      if (token !== null && token.kind === 'failed') return token;
      const result = await this.send(filled, token === null ? {} : { authorization: `Bearer ${tokenIn(token)}` });
      const verdict = this.judge(result, what, exchange, attempt);
      if (verdict.kind === 'answer') return verdict;
      // A token that has run out is renewed, once.
      if (verdict.status === 401 && token !== null && !isRenewed) {
        isRenewed = true;
        this.#token = null;
        continue;
      }
      const wait = attempt >= TRIES ? null : waitBefore(result, verdict, { isRepeatable, attempt });
      if (wait === null) return verdict;
      await pause(wait);
    }
  }

  /** That an answer is not what the dialect says. */
  oddAnswer(what: string, detail: string): Finding {
    return this.told('push-answer', { what, dialect: this.access.dialect.name, detail });
  }

  told(code: Parameters<typeof finding>[0], data: Readonly<Record<string, string>>): Finding {
    const all = { host: new URL(this.access.url).host, name: this.access.destination, ...data };
    return finding(
      code,
      null,
      Object.fromEntries(Object.entries(all).map(([key, value]) => [key, this.#mask.masked(value)])),
    );
  }

  private withSettings(values: RequestValues): RequestValues {
    return new Map([...values, ...this.access.settings, ['destination.url', this.access.url]]);
  }

  private async send(
    { method, path, headers, body }: FilledRequest,
    signIn: Readonly<Record<string, string>>,
  ): Promise<CallResult> {
    await this.turn();
    const encoded = encodedBody(body);
    return callWeb({
      method,
      url: path.startsWith('/') ? `${this.access.url.replace(/\/$/, '')}${path}` : path,
      headers: { accept: 'application/json', ...encoded.headers, ...headers, ...signIn },
      ...(encoded.bytes === null ? {} : { body: encoded.bytes }),
      milliseconds: this.access.milliseconds,
      mostBytes: MOST_BYTES,
    });
  }

  /** Waits until the platform may be asked again: within a second it is asked as often as it allows, and no more. */
  private async turn(): Promise<void> {
    const { requestsPerSecond } = this.access.api;
    if (requestsPerSecond === null) return;
    const most = Math.max(1, Math.floor(requestsPerSecond));
    const span = (1000 * most) / requestsPerSecond;
    const now = Date.now();
    const at = this.#turns.length < most ? now : Math.max(now, (this.#turns[0] ?? now) + span);
    this.#turns = [...this.#turns, at].slice(-most);
    if (at > now) await pause(at - now);
  }

  /** The answer with a token (RFC 6749, 4.4); null where the interface wants none. */
  private token(): Promise<PlatformResult> | null {
    const { signIn } = this.access.api;
    if (signIn.kind !== 'client_credentials') return null;
    this.#token ??= this.askForToken(signIn).then((result) => {
      if (result.kind === 'failed') this.#token = null;
      else this.#mask.add(tokenIn(result));
      return result;
    });
    return this.#token;
  }

  private async askForToken(
    signIn: Extract<PushApi['signIn'], { kind: 'client_credentials' }>,
  ): Promise<PlatformResult> {
    const fill = (pattern: string): string => filledText(pattern, this.withSettings(new Map()));
    const login = Buffer.from(`${encodeURIComponent(fill(signIn.id))}:${encodeURIComponent(fill(signIn.secret))}`);
    const scope = signIn.scope === null ? [] : ([['scope', fill(signIn.scope)]] as const);
    const request: FilledRequest = {
      method: 'POST',
      path: fill(signIn.tokenPath),
      headers: { authorization: `Basic ${login.toString('base64')}` },
      body: { kind: 'form', fields: [['grant_type', 'client_credentials'], ...scope] },
    };
    this.#mask.add(login.toString());
    const what = 'the sign-in';
    for (let attempt = 1; ; attempt += 1) {
      const result = await this.send(request, {});
      const judged = this.judge(result, what, null, attempt);
      const verdict =
        judged.kind === 'answer' && tokenIn(judged) === ''
          ? this.refused(this.oddAnswer(what, 'it holds no access_token'), judged.status)
          : this.asLogin(judged);
      const wait =
        verdict.kind === 'answer' || attempt >= TRIES
          ? null
          : waitBefore(result, verdict, { isRepeatable: true, attempt });
      if (wait === null) return verdict;
      await pause(wait);
    }
  }

  /** Whoever asks for a token wrongly is answered 400 (RFC 6749, 5.2). */
  private asLogin(result: PlatformResult): PlatformResult {
    if (result.kind !== 'failed' || result.status !== 400) return result;
    return { ...result, finding: this.told('push-login', { ...result.finding.data, keys: this.settingNames() }) };
  }

  private judge(
    { answer, failure }: CallResult,
    what: string,
    exchange: Exchange | null,
    tries: number,
  ): PlatformResult {
    if (failure !== null) {
      if (failure.kind === 'unreachable')
        return this.refused(this.told('push-unreachable', { detail: failure.detail }), null);
      const seconds = String(this.access.milliseconds / 1000);
      const detail = failure.kind === 'timeout' ? `it takes longer than ${seconds} s` : 'it broke off the connection';
      return this.uncertain(this.told('push-broken', { what, detail }), null);
    }
    const { status } = answer;
    if (status >= 200 && status < 300) return this.readAnswer(answer, what, exchange);
    const said = this.sentenceOf(answer);
    const data = { what, answer: said, tries: String(tries), keys: this.settingNames() };
    if (status >= 500) return this.uncertain(this.told('push-failed', data), status);
    if (status < 400) {
      const to = answer.headers.get('location') ?? 'elsewhere';
      return this.refused(this.oddAnswer(what, `it sends on to ${to} (${status})`), status);
    }
    return this.refused(this.told(refusals[status] ?? 'push-refused', data), status);
  }

  private readAnswer({ status, body }: Answer, what: string, exchange: Exchange | null): PlatformResult {
    const odd = (detail: string): PlatformResult => this.uncertain(this.oddAnswer(what, detail), status);
    if (body === null) return odd(`it is larger than ${MOST_BYTES / 1024 / 1024} MB`);
    const text = Buffer.from(body).toString('utf8');
    if (text.trim() === '') {
      const isNeeded = exchange !== null && (Object.keys(exchange.take).length > 0 || exchange.items !== null);
      return isNeeded ? odd('it is empty') : { kind: 'answer', status, content: null };
    }
    try {
      return { kind: 'answer', status, content: JSON.parse(text) as unknown };
    } catch {
      return exchange !== null && Object.keys(exchange.take).length === 0 && exchange.items === null
        ? { kind: 'answer', status, content: null }
        : odd('it is no JSON');
    }
  }

  /** What a platform says to a refusal: its sentence, or else its status and the beginning of its answer. */
  private sentenceOf({ status, body }: Answer): string {
    const text = body === null ? '' : Buffer.from(body).toString('utf8');
    let said: string | null = null;
    try {
      said = refusalOf(JSON.parse(text), this.access.api.errorMessage);
    } catch {
      // What is no JSON holds no sentence.
    }
    const plain = /^\s*[<{[]/.test(text) ? '' : text.replace(/\s+/g, ' ').trim().slice(0, 200);
    const sentence = said ?? plain;
    return sentence === '' ? `it answers ${status}` : `${sentence} (${status})`;
  }

  private settingNames(): string {
    const names = Object.keys(this.access.api.settings);
    return names.length === 0 ? 'url' : names.join(' and ');
  }

  /** A request that changed nothing. */
  private refused(item: Finding, status: number | null): PlatformResult {
    return { kind: 'failed', status, mayHaveHappened: false, finding: item };
  }

  /** A request of which is not known whether the platform did what it asks. */
  private uncertain(item: Finding, status: number | null): PlatformResult {
    return { kind: 'failed', status, mayHaveHappened: true, finding: item };
  }
}

const refusals: Readonly<Partial<Record<number, Parameters<typeof finding>[0]>>> = {
  401: 'push-login',
  403: 'push-right',
  413: 'push-heavy',
  429: 'push-busy',
};

function tokenIn(result: Extract<PlatformResult, { kind: 'answer' }>): string {
  const { content } = result;
  const token =
    typeof content === 'object' && content !== null && 'access_token' in content ? content.access_token : '';
  return typeof token === 'string' ? token : '';
}

/** How long to wait before a request is made again, in ms; null where it is not. */
function waitBefore(
  { answer }: CallResult,
  { status, mayHaveHappened }: Extract<PlatformResult, { kind: 'failed' }>,
  { isRepeatable, attempt }: { readonly isRepeatable: boolean; readonly attempt: number },
): number | null {
  if (status !== 429 && !(mayHaveHappened && isRepeatable)) return null;
  const usual = FIRST_PAUSE * 2 ** (attempt - 1);
  const asked = answer === null ? null : retryAfter(answer.headers.get('retry-after'));
  return asked === null ? usual : Math.min(asked, LONGEST_PAUSE);
}
