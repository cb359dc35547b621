import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { setTimeout as pause } from 'node:timers/promises';
import type { Dialect } from '../../core/dialects/dialect.js';
import type { Fault } from './faults.js';
import { AnswerBytes, answer, type Platform, type PlatformAnswer, type PlatformRequest } from './platform.js';
import type { PlatformState } from './platform-state.js';
import { pageAnswer } from './platform-pages.js';
import { receivedBody } from './received-body.js';
import { percentDecoded } from '../../core/text/percent-decoded.js';

/** One request and its answer, as they went over the wire. */
export interface SeenExchange {
  readonly method: string;
  /** With its query. */
  readonly path: string;
  readonly request: PlatformRequest;
  readonly answer: PlatformAnswer;
}

/** How a simulated platform is run. */
export interface PlatformOptions {
  readonly platform: Platform;
  readonly dialect: Dialect;
  readonly state: PlatformState;
  /** 0 for any that is free. */
  readonly port: number;
  /** The documentation of its interface (OpenAPI). */
  readonly documentation: string;
  /** Is asked once for each request to its interface. */
  readonly nextFault: () => Fault | null;
  /** Is told of each request to its interface that was answered. */
  readonly seen: (exchange: SeenExchange) => void;
}

/** A simulated platform that is running. */
export interface RunningPlatform {
  readonly name: string;
  /** With a slash at its end. */
  readonly address: string;
  readonly port: number;
  readonly stop: () => Promise<void>;
}

/** Only programs of this machine reach it. */
const LOOPBACK = '127.0.0.1';

const LARGEST_REQUEST = 30 * 1024 * 1024;

/** Within a second it answers no more requests than these to its interface. */
const MOST_A_SECOND = 50;

/** A slow answer takes so long, in ms. */
const SLOW = 700;

/** Starts a simulated platform. Fails as the system does where its port is taken. */
export async function servePlatform(options: PlatformOptions): Promise<RunningPlatform> {
  const times: number[] = [];
  const server = createServer((request, response) => {
    answerTo(request, response, options, times).catch(() => {
      if (!response.headersSent) send(response, answer(500, null));
      else response.destroy();
    });
  });
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(options.port, LOOPBACK, resolve);
  });
  const { port } = server.address() as AddressInfo;
  return {
    name: options.platform.name,
    address: `http://${LOOPBACK}:${port}/`,
    port,
    stop: async () => {
      server.closeAllConnections();
      await new Promise<void>((resolve) => server.close(() => resolve()));
    },
  };
}

async function answerTo(
  request: IncomingMessage,
  response: ServerResponse,
  options: PlatformOptions,
  times: number[],
): Promise<void> {
  const port = request.socket.localPort ?? 0;
  // A page elsewhere that points its own name to this machine must not read what is here (DNS rebinding).
  if (![`${LOOPBACK}:${port}`, `localhost:${port}`].includes(request.headers.host ?? '')) {
    send(response, answer(403, null));
    return;
  }
  const address = `http://${LOOPBACK}:${port}`;
  const url = new URL(request.url ?? '/', address);
  const { platform, state, dialect } = options;
  if (url.pathname === '/openapi.yaml') {
    send(response, answer(200, new AnswerBytes('application/yaml', Buffer.from(options.documentation))));
    return;
  }
  const page = request.method === 'GET' ? pageAnswer(url, { platform, state, dialect }) : null;
  if (page !== null) {
    send(response, page);
    return;
  }
  const fault = options.nextFault();
  if (fault?.kind === 'slow') await pause(SLOW);
  if (fault !== null && !fault.isDone && spoil(response, fault, platform)) return;
  const bytes = await readAll(request);
  const headers = Object.fromEntries(
    Object.entries(request.headers).map(([name, value]) => [name, String(Array.isArray(value) ? value[0] : value)]),
  );
  const told: PlatformRequest = {
    method: request.method ?? 'GET',
    params: {},
    query: url.searchParams,
    headers,
    body: await receivedBody(bytes ?? new Uint8Array(), headers['content-type'] ?? ''),
    state,
    address,
    now: Date.now(),
  };
  const result =
    bytes === null
      ? platform.error(413, 'No request may be larger than 30 MB.')
      : await act(platform, url, told, times);
  options.seen({ method: told.method, path: `${url.pathname}${url.search}`, request: told, answer: result });
  if (fault !== null && fault.isDone && spoil(response, fault, platform)) return;
  send(response, result);
}

/** What a platform answers to a request to its interface. */
async function act(platform: Platform, url: URL, request: PlatformRequest, times: number[]): Promise<PlatformAnswer> {
  const found = routeFor(platform, request.method, url.pathname);
  if (found === null) return platform.error(404, `There is nothing at ${request.method} ${url.pathname}.`);
  const wait = secondsToWait(times, request.now);
  if (wait !== null) return { ...platform.error(429, 'You ask too often.'), headers: { 'retry-after': String(wait) } };
  if (!platform.open.includes(found.route)) {
    const refused = platform.refusal({ ...request, params: found.params }, !/^(?:GET|HEAD)$/.test(request.method));
    if (refused !== null) return refused;
  }
  return found.action({ ...request, params: found.params });
}

function routeFor(
  { routes }: Platform,
  method: string,
  path: string,
): {
  readonly route: string;
  readonly action: Platform['routes'][string];
  readonly params: Record<string, string>;
} | null {
  for (const [route, action] of Object.entries(routes)) {
    const [ownMethod, pattern = ''] = route.split(' ');
    if (ownMethod !== method) continue;
    const steps = pattern.split('/');
    const given = path.split('/');
    if (steps.length !== given.length) continue;
    const params: Record<string, string> = {};
    const fits = steps.every((step, index) => {
      const name = /^\{(.+)\}$/.exec(step)?.[1];
      const value = percentDecoded(given[index] ?? '');
      if (name === undefined) return step === value;
      params[name] = value;
      return value !== '';
    });
    if (fits) return { route, action, params };
  }
  return null;
}

/** How many seconds whoever asks too often has to wait; null where nobody does. */
function secondsToWait(times: number[], now: number): number | null {
  while ((times[0] ?? now) <= now - 1000) times.shift();
  if (times.length >= MOST_A_SECOND) return 1;
  times.push(now);
  return null;
}

/** Does to an answer what a fault says; false where the answer is none the worse for it. */
function spoil(response: ServerResponse, { kind }: Fault, platform: Platform): boolean {
  switch (kind) {
    case 'slow':
      return false;
    case 'cut':
      response.destroy();
      return true;
    case 'garbage':
      send(response, answer(200, new AnswerBytes('text/html', Buffer.from('<title>Back in a moment</title>'))));
      return true;
    case 'fail':
      send(response, platform.error(500, 'Something went wrong here.'));
      return true;
    case 'busy':
      // Nothing that is asked too often is done.
      send(response, { ...platform.error(429, 'You ask too often.'), headers: { 'retry-after': '0' } });
      return true;
  }
}

async function readAll(request: IncomingMessage): Promise<Uint8Array | null> {
  const chunks: Buffer[] = [];
  let length = 0;
  for await (const chunk of request as AsyncIterable<Buffer>) {
    length += chunk.length;
    if (length > LARGEST_REQUEST) return null;
    chunks.push(chunk);
  }
  return Buffer.concat(chunks);
}

function send(response: ServerResponse, { status, content, headers = {} }: PlatformAnswer): void {
  const isBytes = content instanceof AnswerBytes;
  const body = isBytes
    ? content.bytes
    : content === null
      ? Buffer.alloc(0)
      : Buffer.from(`${JSON.stringify(content)}\n`);
  response.writeHead(status, {
    ...(content === null ? {} : { 'content-type': isBytes ? content.type : 'application/json' }),
    'content-length': body.length,
    'cache-control': 'no-store',
    'x-content-type-options': 'nosniff',
    ...headers,
  });
  response.end(body);
}
