import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { readMail, type ReadMail } from '../mail/read-mail.js';
import { listPage, mailPage, type KeptMail } from './mail-views.js';
import { percentDecoded } from '../core/text/percent-decoded.js';

/** What a page answers. */
interface Answer {
  readonly status: number;
  readonly type: string;
  readonly body: string | Uint8Array;
  readonly headers?: Readonly<Record<string, string>>;
}

const HTML = 'text/html; charset=utf-8';
const TEXT = 'text/plain; charset=utf-8';

/** The pages themselves load nothing and run nothing; what a mail shows may come from anywhere, but runs nothing. */
const OWN_POLICY =
  "default-src 'none'; style-src 'unsafe-inline'; frame-src 'self'; base-uri 'none'; form-action 'none'";
const MAIL_POLICY =
  "default-src 'none'; img-src * data:; style-src 'unsafe-inline' *; font-src *; base-uri 'none'; form-action 'none'; sandbox allow-popups";

/** The server of the pages that show the mails. It only answers those who ask for it by its address on this machine. */
export function mailPages(mails: readonly KeptMail[]): Server {
  return createServer((request, response) => {
    answerTo(request, mails).then(
      (answer) => send(response, answer),
      () => send(response, plain(500, 'The page could not be made.')),
    );
  });
}

async function answerTo(
  { method, url, headers, socket }: IncomingMessage,
  mails: readonly KeptMail[],
): Promise<Answer> {
  const port = socket.localPort ?? 0;
  // A page elsewhere that points its own name to this machine must not read mails (DNS rebinding).
  if (![`127.0.0.1:${port}`, `localhost:${port}`].includes(headers.host ?? '')) return plain(403, 'Ask for 127.0.0.1.');
  if (method !== 'GET' && method !== 'HEAD') return plain(405, 'These pages are only read.');
  const path = (url ?? '/').replace(/[?#].*$/, '');
  if (path === '/') return page(await listPage(mails));
  const match = /^\/mail\/(\d{1,9})(?:\/(html|text|source|part)(?:\/(\d{1,4}))?)?$/.exec(path);
  const kept = match === null ? undefined : mails.find(({ number }) => number === Number(match[1]));
  if (match === null || kept === undefined) return plain(404, 'There is no such mail.');
  const [, , view, part] = match;
  if (view === 'source') return { status: 200, type: TEXT, body: kept.bytes };
  const mail = await readMail(kept.bytes);
  if (view === 'html') return htmlOf(mail);
  if (view === 'text') return plain(200, mail.text ?? '');
  if (view === 'part') return partOf(mail, Number(part ?? '-1'));
  return page(mailPage(kept, mail));
}

/** The HTML of a mail, with the pictures of its parts in it: it runs in a frame that may load nothing from this server. */
function htmlOf({ html, parts }: ReadMail): Answer {
  const body = (html ?? '').replace(/\bcid:([^\s"')>]+)/gi, (whole, id: string) => {
    const part = parts.find(({ contentId }) => contentId === percentDecoded(id));
    return part === undefined ? whole : `data:${part.type};base64,${Buffer.from(part.bytes).toString('base64')}`;
  });
  return { status: 200, type: HTML, body, headers: { 'content-security-policy': MAIL_POLICY } };
}

function partOf({ parts }: ReadMail, index: number): Answer {
  const part = parts[index];
  if (part === undefined) return plain(404, 'There is no such part.');
  const isPicture = /^image\/(?:png|jpeg|gif|webp)$/.test(part.type);
  const name = encodeURIComponent(part.name ?? `part-${index}`);
  return {
    status: 200,
    type: isPicture ? part.type : 'application/octet-stream',
    body: part.bytes,
    headers: isPicture ? {} : { 'content-disposition': `attachment; filename*=UTF-8''${name}` },
  };
}

function page(body: string): Answer {
  return { status: 200, type: HTML, body, headers: { 'content-security-policy': OWN_POLICY } };
}

function plain(status: number, text: string): Answer {
  return { status, type: TEXT, body: text };
}

function send(response: ServerResponse, { status, type, body, headers = {} }: Answer): void {
  response.writeHead(status, {
    'content-type': type,
    'cache-control': 'no-store',
    'x-content-type-options': 'nosniff',
    'referrer-policy': 'no-referrer',
    'cross-origin-resource-policy': 'same-origin',
    ...headers,
  });
  response.end(body);
}
