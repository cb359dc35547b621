import { finding, type Finding } from '../core/findings/finding.js';

/** How a connection is kept private: from its beginning, after asking for it, or not at all. */
export type Security = 'tls' | 'starttls' | 'none';

/** A server that takes mail. */
export interface MailServer {
  readonly host: string;
  readonly port: number;
  readonly security: Security;
  readonly login: { readonly user: string; readonly password: string } | null;
  /** How long it may let one wait. */
  readonly milliseconds: number;
}

/** What a failure says, wherever it comes from. */
interface Failure {
  readonly code?: unknown;
  readonly message?: unknown;
  readonly cause?: unknown;
}

/**
 * What a connection to a mail server failed by, as a finding; null for anything that has to do with what was said on it.
 * @param key the key of the server in inscriba.yaml
 */
export function connectionFinding(error: unknown, server: MailServer, key: string): Finding | null {
  const { code, message } = reasonOf(error);
  const host = `${server.host}:${server.port}`;
  if (/^(?:ENOTFOUND|EAI_AGAIN|EDNS)$/.test(code))
    return finding('host-unreachable', null, { host, detail: 'no such name is known' });
  if (code === 'ECONNREFUSED') return finding('host-unreachable', null, { host, detail: 'nothing listens there' });
  if (/^(?:EHOSTUNREACH|ENETUNREACH|EADDRNOTAVAIL)$/.test(code))
    return finding('host-unreachable', null, { host, detail: 'no way leads there' });
  if (
    /^(?:ETIMEDOUT|ETIMEOUT|CONNECT_TIMEOUT|GREETING_TIMEOUT|UPGRADE_TIMEOUT)$/.test(code) ||
    /timed? ?out|timeout/i.test(message)
  )
    return finding('host-timeout', null, {
      host,
      seconds: String(server.milliseconds / 1000),
      how: `timeout under ${key} in inscriba.yaml`,
    });
  const isTls = /^(?:ETLS|ERR_TLS|ERR_SSL|EPROTO|CERT_|DEPTH_ZERO|SELF_SIGNED|UNABLE_TO|ERR_OSSL)/.test(code);
  if (isTls || /certificate|wrong version number|STARTTLS|self[- ]signed/i.test(message))
    return finding('mail-tls', null, { host, detail: tlsDetail(code, message), key });
  if (/^(?:ECONNRESET|EPIPE|ECONNECTION|ESOCKET|EConnectionClosed|NoConnection|ClosedAfterConnectText)$/.test(code))
    return finding('host-broken', null, { host, what: 'the mail' });
  return null;
}

/** The first cause that has a code, as the failures of libraries wrap those of the system. */
function reasonOf(error: unknown): { code: string; message: string } {
  let code = '';
  let message = '';
  for (let at: unknown = error; typeof at === 'object' && at !== null; at = (at as Failure).cause) {
    const failure = at as Failure;
    message += ` ${typeof failure.message === 'string' ? failure.message : ''}`;
    if (typeof failure.code === 'string' && (code === '' || /^(?:ESOCKET|ECONNECTION|ECONNRESET)$/.test(code)))
      code = failure.code;
  }
  // Some wrap the system's failure in a text alone.
  const inText = /\b(ECONNREFUSED|ENOTFOUND|EAI_AGAIN|EHOSTUNREACH|ENETUNREACH|ETIMEDOUT|ECONNRESET)\b/.exec(
    message,
  )?.[1];
  return { code: inText ?? code, message };
}

function tlsDetail(code: string, message: string): string {
  if (/self[- ]signed|DEPTH_ZERO|SELF_SIGNED/i.test(code + message)) return 'its certificate is signed by itself';
  if (/expired/i.test(code + message)) return 'its certificate has expired';
  if (/altname|hostname/i.test(code + message)) return 'its certificate is for another name';
  if (/UNABLE_TO|unable to (?:get|verify)/i.test(code + message)) return 'nobody known has signed its certificate';
  if (/wrong version number|EPROTO/i.test(code + message)) return 'it does not speak TLS on this port';
  if (/STARTTLS/i.test(message)) return 'it does not offer STARTTLS';
  return 'no agreement was found';
}
