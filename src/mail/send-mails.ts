import { setTimeout as pause } from 'node:timers/promises';
import { createTransport, type Transporter } from 'nodemailer';
import { finding, type Finding } from '../core/findings/finding.js';
import { connectionFinding, type MailServer } from './mail-server.js';
import type { WrittenMail } from './mail.js';

/** A mail on its way: its envelope (RFC 5321) is what decides who gets it. */
export interface PostedMail {
  readonly from: string;
  readonly to: readonly string[];
  readonly mail: WrittenMail;
  /** What it is, for findings. */
  readonly what: string;
}

/** What came of sending. */
export interface SendResult {
  readonly findings: readonly Finding[];
  /** How many mails a server has taken. */
  readonly sent: number;
}

/** The key of the server in `inscriba.yaml`. */
const KEY = 'mail.smtp';

/** A server that asks for patience is asked again so often, after so many milliseconds, and then twice that. */
const MOST_TRIES = 3;
const FIRST_PAUSE = 1000;

/**
 * Sends mails, one after the other and no more in a minute than is allowed. A failure of the server itself ends the way; a
 * mail that it does not take is told, and the next one is sent.
 * @param onSent is told of each mail that was taken, and for whom
 */
export async function sendMails(
  server: MailServer,
  mails: readonly PostedMail[],
  perMinute: number,
  onSent: (mail: PostedMail, readers: readonly string[]) => void,
): Promise<SendResult> {
  const transport = transportTo(server);
  const findings: Finding[] = [];
  let sent = 0;
  let next = 0;
  try {
    for (const mail of mails) {
      await pause(Math.max(0, next - performance.now()));
      next = performance.now() + 60_000 / perMinute;
      const { readers, problems, isEnd } = await send(transport, mail, server);
      findings.push(...problems);
      if (readers.length > 0) {
        sent += 1;
        onSent(mail, readers);
      }
      if (isEnd) break;
    }
  } finally {
    transport.close();
  }
  return { findings, sent };
}

function transportTo({ host, port, security, login, milliseconds }: MailServer): Transporter {
  return createTransport({
    host,
    port,
    secure: security === 'tls',
    requireTLS: security === 'starttls',
    ignoreTLS: security === 'none',
    ...(login === null ? {} : { auth: { user: login.user, pass: login.password } }),
    connectionTimeout: milliseconds,
    greetingTimeout: milliseconds,
    socketTimeout: milliseconds,
    dnsTimeout: milliseconds,
    disableFileAccess: true,
    disableUrlAccess: true,
    pool: true,
    maxConnections: 1,
  });
}

interface Sending {
  /** Those for whom the server took it. */
  readonly readers: readonly string[];
  readonly problems: readonly Finding[];
  /** True where the next mail would fare no better. */
  readonly isEnd: boolean;
}

async function send(transport: Transporter, posted: PostedMail, server: MailServer): Promise<Sending> {
  const { from, to, mail, what } = posted;
  for (let tries = 1; ; tries += 1) {
    try {
      const info: { rejected?: readonly unknown[] | undefined } = await transport.sendMail({
        envelope: { from, to: [...to] },
        raw: Buffer.from(mail.bytes),
      });
      const refused = (info.rejected ?? []).map((address) => addressText(address));
      const problems = refused.map((address) =>
        finding('mail-reader-refused', null, { host: hostOf(server), address, what, answer: 'it was refused' }),
      );
      return { readers: to.filter((address) => !refused.includes(address)), problems, isEnd: false };
    } catch (error) {
      if (isTemporary(error) && tries < MOST_TRIES) {
        await pause(FIRST_PAUSE * 2 ** (tries - 1));
        continue;
      }
      return failureOf(error, posted, server);
    }
  }
}

function addressText(value: unknown): string {
  if (typeof value === 'string') return value;
  return typeof value === 'object' && value !== null && 'address' in value ? String(value.address) : '';
}

/** What the SMTP library says of a failure. */
interface SmtpError {
  readonly code?: string;
  readonly command?: string;
  readonly responseCode?: number;
  readonly response?: string;
  readonly rejected?: readonly unknown[];
}

/** "Try again later" (RFC 5321, 4.2.1), or a connection that broke off before the mail was taken. */
function isTemporary(error: unknown): boolean {
  const { responseCode, code, command } = error as SmtpError;
  if (code === 'EAUTH') return false;
  const isAsked = responseCode !== undefined && responseCode >= 400 && responseCode < 500;
  return isAsked || (code === 'ECONNECTION' && command !== 'DATA' && command !== 'CONN');
}

function failureOf(error: unknown, { to, what }: PostedMail, server: MailServer): Sending {
  const { code, responseCode, response, rejected, command } = error as SmtpError;
  const host = hostOf(server);
  const answer = shownAnswer(response, responseCode);
  const end = (problem: Finding): Sending => ({ readers: [], problems: [problem], isEnd: true });
  if (code === 'EAUTH') return end(finding('mail-login', null, { host, answer, key: KEY }));
  if (code === 'EENVELOPE' && responseCode !== undefined) {
    const refused = (rejected ?? []).map(addressText).filter((address) => address !== '');
    if (command === 'MAIL FROM' || refused.length === 0)
      return end(finding('mail-sender-refused', null, { host, answer }));
    const problems = (refused.length > 0 ? refused : [...to]).map((address) =>
      finding('mail-reader-refused', null, { host, address, what, answer }),
    );
    return { readers: [], problems, isEnd: false };
  }
  if (responseCode !== undefined && code !== 'ETLS')
    return {
      readers: [],
      problems: [finding('mail-refused', null, { host, what, answer })],
      isEnd: responseCode === 421,
    };
  const problem = connectionFinding(error, server, KEY);
  return end(problem ?? finding('host-broken', null, { host, what }));
}

/** What a server answered, on one line. */
function shownAnswer(response: string | undefined, code: number | undefined): string {
  const text = (response ?? (code === undefined ? 'no answer' : String(code))).replace(/\s+/g, ' ').trim();
  return text.length > 160 ? `${text.slice(0, 159)}…` : text;
}

function hostOf({ host, port }: MailServer): string {
  return `${host}:${port}`;
}
