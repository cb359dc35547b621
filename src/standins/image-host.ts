import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { mkdir, readdir, readFile, rm, stat, writeFile } from 'node:fs/promises';
import type { AddressInfo } from 'node:net';
import { dirname, extname, join, normalize, sep } from 'node:path';

/** A simulated image host that is running. */
export interface RunningImageHost {
  /** With a slash at its end: everybody sees there what was put there. */
  readonly address: string;
  readonly port: number;
  readonly stop: () => Promise<void>;
}

/** Who may put files there. */
export const imageLogin = { user: 'desk', password: 'image-host-for-trying' } as const;

const LOGIN = `Basic ${Buffer.from(`${imageLogin.user}:${imageLogin.password}`).toString('base64')}`;
const LOOPBACK = '127.0.0.1';
const LARGEST = 20 * 1024 * 1024;

const types: Readonly<Record<string, string>> = {
  '.png': 'image/png',
  '.jpg': 'image/jpeg',
  '.gif': 'image/gif',
  '.webp': 'image/webp',
  '.svg': 'image/svg+xml',
};

/** What is answered: a status, and perhaps a content. */
interface Answer {
  readonly status: number;
  readonly type?: string;
  readonly body?: Uint8Array;
  readonly headers?: Readonly<Record<string, string>>;
}

/**
 * Starts a simulated image host: a server that takes files over WebDAV (RFC 4918: PUT, MKCOL, DELETE, PROPFIND) from whoever
 * signs in, and shows them to everybody.
 * @param folder where the files lie
 * @param port 0 for any that is free
 */
export async function startImageHost(folder: string, port: number): Promise<RunningImageHost> {
  await mkdir(folder, { recursive: true });
  const server = createServer((request, response) => {
    answerTo(request, folder).then(
      (answer) => send(request, response, answer),
      () => send(request, response, { status: 500 }),
    );
  });
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, LOOPBACK, resolve);
  });
  const taken = (server.address() as AddressInfo).port;
  return {
    address: `http://${LOOPBACK}:${taken}/`,
    port: taken,
    stop: async () => {
      server.closeAllConnections();
      await new Promise<void>((resolve) => server.close(() => resolve()));
    },
  };
}

async function answerTo(request: IncomingMessage, folder: string): Promise<Answer> {
  const { method = 'GET', url = '/', headers } = request;
  const path = placeOf(folder, url);
  if (path === null) return { status: 403 };
  if (method === 'OPTIONS')
    return { status: 204, headers: { dav: '1', allow: 'OPTIONS, GET, HEAD, PUT, MKCOL, DELETE, PROPFIND' } };
  if (method === 'GET' || method === 'HEAD') return show(path);
  if (headers.authorization !== LOGIN)
    return { status: 401, headers: { 'www-authenticate': 'Basic realm="pictures"' } };
  switch (method) {
    case 'PUT':
      return put(path, request);
    case 'MKCOL':
      return makeFolder(path);
    case 'DELETE':
      await rm(path, { recursive: true, force: true });
      return { status: 204 };
    case 'PROPFIND':
      return list(path, url, headers['depth'] !== '0');
    default:
      return { status: 405 };
  }
}

/** The place of an address in the folder; null for one outside of it. */
function placeOf(folder: string, url: string): string | null {
  let path: string;
  try {
    path = decodeURIComponent(url.replace(/[?#].*$/, ''));
  } catch {
    return null;
  }
  const place = normalize(join(folder, path));
  return path.includes('\0') || !(place === normalize(folder) || place.startsWith(normalize(folder + sep)))
    ? null
    : place;
}

async function show(path: string): Promise<Answer> {
  try {
    return {
      status: 200,
      type: types[extname(path).toLowerCase()] ?? 'application/octet-stream',
      body: await readFile(path),
    };
  } catch {
    return { status: 404 };
  }
}

async function put(path: string, request: IncomingMessage): Promise<Answer> {
  const chunks: Buffer[] = [];
  let length = 0;
  for await (const chunk of request as AsyncIterable<Buffer>) {
    length += chunk.length;
    if (length > LARGEST) return { status: 413 };
    chunks.push(chunk);
  }
  const before = await stat(path).catch(() => null);
  if (before?.isDirectory() === true) return { status: 405 };
  // The folder has to be there (RFC 4918, 9.7.1).
  if ((await stat(dirname(path)).catch(() => null)) === null) return { status: 409 };
  await writeFile(path, Buffer.concat(chunks));
  return { status: before === null ? 201 : 204 };
}

async function makeFolder(path: string): Promise<Answer> {
  try {
    await mkdir(path);
    return { status: 201 };
  } catch (error) {
    return { status: (error as NodeJS.ErrnoException).code === 'EEXIST' ? 405 : 409 };
  }
}

/** What is at a place, and in it (RFC 4918, 9.1). */
async function list(path: string, url: string, isDeep: boolean): Promise<Answer> {
  const own = await stat(path).catch(() => null);
  if (own === null) return { status: 404 };
  const base = url.replace(/[?#].*$/, '').replace(/\/?$/, '');
  const entries = [{ href: own.isDirectory() ? `${base}/` : base, stats: own }];
  if (own.isDirectory() && isDeep)
    for (const name of await readdir(path)) {
      const stats = await stat(join(path, name));
      entries.push({ href: `${base}/${encodeURIComponent(name)}${stats.isDirectory() ? '/' : ''}`, stats });
    }
  const responses = entries.map(
    ({ href, stats }) =>
      `<d:response><d:href>${href}</d:href><d:propstat><d:prop><d:resourcetype>${stats.isDirectory() ? '<d:collection/>' : ''}</d:resourcetype><d:getcontentlength>${stats.size}</d:getcontentlength></d:prop><d:status>HTTP/1.1 200 OK</d:status></d:propstat></d:response>`,
  );
  const body = `<?xml version="1.0" encoding="utf-8"?><d:multistatus xmlns:d="DAV:">${responses.join('')}</d:multistatus>`;
  return { status: 207, type: 'application/xml; charset=utf-8', body: Buffer.from(body) };
}

function send(request: IncomingMessage, response: ServerResponse, { status, type, body, headers = {} }: Answer): void {
  const length = status === 204 ? {} : { 'content-length': body?.length ?? 0 };
  response.writeHead(status, { ...(type === undefined ? {} : { 'content-type': type }), ...length, ...headers });
  response.end(request.method === 'HEAD' ? undefined : body);
}
