import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { escapeHtml } from '../core/html/escape.js';
import { readView, writeView, type View } from '../core/views/view.js';
import { PICTURE_PATH, type Looked, type PreviewSource } from '../project/preview/preview-source.js';
import { json, messagePage, ownPage, plain, type Answer } from './answers.js';

/** The files of the preview's own page. */
export interface PageFiles {
  readonly script: string;
  readonly style: string;
  /** What a row of views holds before anybody chooses, in words. */
  readonly views: readonly string[];
}

/** A preview that is being served. */
export interface RunningPreview {
  readonly address: string;
  readonly port: number;
  /** The messages that somebody looks at just now. */
  readonly open: () => ReadonlySet<string>;
  readonly stop: () => Promise<void>;
}

/** The address of the page of a view, below that of a preview. */
export function frameAddress({ name, edition, destination }: Looked, view: View): string {
  const query = new URLSearchParams({ view: writeView(view) });
  if (edition !== null) query.set('edition', edition);
  if (destination !== null) query.set('to', destination);
  return `-/frame/${encodeURIComponent(name)}?${query}`;
}

/** Only programs of this machine reach it. */
const LOOPBACK = '127.0.0.1';

/** So many ports are tried behind the one that was asked for. */
const MORE_PORTS = 20;

/** Browsers and servers between them end what is silent for long, in ms. */
const HEARTBEAT = 20_000;

/**
 * Serves a preview to the browsers of this machine. Where the port is taken, the next one that is free; fails as the system
 * does where there is none.
 * @param port 0 for any that is free
 */
export async function servePreview(source: PreviewSource, files: PageFiles, port: number): Promise<RunningPreview> {
  const streams = new Map<ServerResponse, string | null>();
  const server = createServer((request, response) => {
    answerTo(request, response, { source, files, streams }).then(
      (answer) => answer !== null && send(request, response, answer),
      () => send(request, response, plain(500, 'The page could not be made.')),
    );
  });
  const stopListening = source.listen((changed) => {
    for (const stream of streams.keys()) stream.write(`event: changed\ndata: ${JSON.stringify(changed)}\n\n`);
  });
  const heart = setInterval(() => {
    for (const stream of streams.keys()) stream.write(': still here\n\n');
  }, HEARTBEAT);
  const taken = await listenFrom(server, port).catch((error: unknown) => {
    clearInterval(heart);
    stopListening();
    throw error;
  });
  return {
    address: `http://${LOOPBACK}:${taken}/`,
    port: taken,
    open: () => new Set([...streams.values()].filter((name) => name !== null)),
    stop: async () => {
      clearInterval(heart);
      stopListening();
      for (const stream of streams.keys()) stream.end();
      server.closeAllConnections();
      await new Promise<void>((resolve) => server.close(() => resolve()));
    },
  };
}

async function listenFrom(server: Server, first: number): Promise<number> {
  const last = first === 0 ? 0 : Math.min(65_535, first + MORE_PORTS);
  for (let port = first; ; port += 1)
    try {
      await new Promise<void>((resolve, reject) => {
        server.once('error', reject);
        server.listen(port, LOOPBACK, () => {
          server.off('error', reject);
          resolve();
        });
      });
      return (server.address() as AddressInfo).port;
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EADDRINUSE' || port >= last) throw error;
    }
}

interface Served {
  readonly source: PreviewSource;
  readonly files: PageFiles;
  /** Who listens for changes, and which message each looks at. */
  readonly streams: Map<ServerResponse, string | null>;
}

/** The answer to a request; null where it goes on by itself. */
async function answerTo(
  request: IncomingMessage,
  response: ServerResponse,
  { source, files, streams }: Served,
): Promise<Answer | null> {
  const refused = refusal(request);
  if (refused !== null) return refused;
  const url = new URL(request.url ?? '/', `http://${LOOPBACK}`);
  const path = decoded(url.pathname);
  if (path === null) return plain(400, 'This address cannot be read.');
  if (path === '/-/page.js') return { status: 200, type: 'text/javascript; charset=utf-8', body: files.script };
  if (path === '/-/page.css') return { status: 200, type: 'text/css; charset=utf-8', body: files.style };
  if (path === '/-/icon.svg') return { status: 200, type: 'image/svg+xml', body: ICON };
  if (path === '/-/wall') return json(await source.wall());
  if (path === '/-/events') {
    listen(request, response, streams, url.searchParams.get('open'));
    return null;
  }
  if (path.startsWith('/-/message/')) {
    const message = await source.bench(lookedAt(path.slice('/-/message/'.length), url));
    return message === null ? plain(404, 'There is no such message.') : json({ ...message, views: files.views });
  }
  if (path.startsWith('/-/frame/')) return frame(lookedAt(path.slice('/-/frame/'.length), url), url, source);
  if (path.startsWith(PICTURE_PATH)) {
    const picture = source.picture(path.slice(PICTURE_PATH.length));
    if (picture === null) return plain(404, 'There is no such picture.');
    // Its name is new whenever its content is.
    const headers = {
      'cache-control': 'private, max-age=3600',
      'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'; sandbox",
    };
    return { status: 200, type: picture.type, body: picture.bytes, headers };
  }
  if (path.startsWith('/-/')) return plain(404, 'There is nothing here.');
  if (path === '/') return ownPage(shell('Preview'));
  const name = path.slice(1);
  return source.names().includes(name) ? ownPage(shell(name)) : plain(404, 'There is no such message.');
}

/** Why a request is not answered: it comes from elsewhere, or asks for more than to look. */
function refusal({ method, headers, socket }: IncomingMessage): Answer | null {
  const port = socket.localPort ?? 0;
  // A page elsewhere that points its own name to this machine must not read messages (DNS rebinding).
  if (![`127.0.0.1:${port}`, `localhost:${port}`].includes(headers.host ?? '')) return plain(403, 'Ask for 127.0.0.1.');
  if (method !== 'GET' && method !== 'HEAD') return plain(405, 'A preview is only looked at.');
  const site = headers['sec-fetch-site'];
  // Somebody who follows a link from elsewhere opens a page; scripts and frames of elsewhere get nothing.
  const isVisit = headers['sec-fetch-mode'] === 'navigate' && headers['sec-fetch-dest'] === 'document';
  if (site !== undefined && site !== 'same-origin' && site !== 'none' && !isVisit)
    return plain(403, 'A preview is shown to its own pages alone.');
  const { origin } = headers;
  if (origin !== undefined && ![`http://127.0.0.1:${port}`, `http://localhost:${port}`].includes(origin))
    return plain(403, 'A preview is shown to its own pages alone.');
  return null;
}

function lookedAt(name: string, { searchParams }: URL): Looked {
  return { name, edition: searchParams.get('edition'), destination: searchParams.get('to') };
}

async function frame(looked: Looked, { searchParams }: URL, source: PreviewSource): Promise<Answer> {
  const { view, unknown } = readView(searchParams.get('view') ?? '', source.samples());
  if (view === null) return plain(400, `"${unknown}" says nothing about a view.`);
  const html = await source.frame(looked, view);
  return html === null ? plain(404, 'There is nothing to show.') : messagePage(html);
}

function listen(
  request: IncomingMessage,
  response: ServerResponse,
  streams: Map<ServerResponse, string | null>,
  open: string | null,
): void {
  response.writeHead(200, { ...commonHeaders, 'content-type': 'text/event-stream; charset=utf-8' });
  response.write('retry: 500\n\n');
  streams.set(response, open);
  request.on('close', () => streams.delete(response));
}

function decoded(path: string): string | null {
  try {
    return decodeURIComponent(path);
  } catch {
    return null;
  }
}

/** A sheet of paper with a line of ink. */
const ICON =
  '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 16 16"><path fill="#faf8f3" stroke="#23221e" d="M3.5 1.5h9v13h-9z"/><path stroke="#2f5d50" stroke-width="1.5" d="M5.5 5h5M5.5 8h5"/></svg>';

/** The page in which the script draws the wall, or the bench. */
function shell(title: string): string {
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1"><meta name="color-scheme" content="light dark"><title>${escapeHtml(title)}</title><link rel="icon" href="/-/icon.svg"><link rel="stylesheet" href="/-/page.css"></head>
<body><div id="preview"></div><noscript>The preview is drawn by a script.</noscript><script type="module" src="/-/page.js"></script></body></html>
`;
}

const commonHeaders = {
  'cache-control': 'no-store',
  'x-content-type-options': 'nosniff',
  'referrer-policy': 'no-referrer',
  'cross-origin-resource-policy': 'same-origin',
};

function send(
  { method }: IncomingMessage,
  response: ServerResponse,
  { status, type, body, headers = {} }: Answer,
): void {
  response.writeHead(status, { ...commonHeaders, 'content-type': type, ...headers });
  response.end(method === 'HEAD' ? undefined : body);
}
