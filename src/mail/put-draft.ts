import { ImapFlow, type ListResponse } from 'imapflow';
import { finding, type Finding, type Report } from '../core/findings/finding.js';
import { connectionFinding, type MailServer } from './mail-server.js';
import type { WrittenMail } from './mail.js';

/** A draft, and what it is, for findings. */
export interface Draft {
  readonly mail: WrittenMail;
  readonly what: string;
}

/** A draft that lies in a mailbox. */
export interface PutDraft {
  readonly draft: Draft;
  readonly folder: string;
  /** False where the very same mail lay there already. */
  readonly isNew: boolean;
}

/** The key of the server in `inscriba.yaml`. */
const KEY = 'mail.imap';

/**
 * Puts drafts into the drafts of a mailbox (RFC 9051, 6.3.12), as they are. What lies there already is not put there again.
 * @param folder the folder that takes them; null for the one that the server marks as that of drafts (RFC 6154)
 */
export async function putDrafts(
  server: MailServer,
  drafts: readonly Draft[],
  folder: string | null,
  onPut: (put: PutDraft) => void,
): Promise<Finding[]> {
  const client = new ImapFlow({
    host: server.host,
    port: server.port,
    secure: server.security === 'tls',
    doSTARTTLS: server.security === 'starttls',
    ...(server.login === null ? {} : { auth: { user: server.login.user, pass: server.login.password } }),
    logger: false,
    connectionTimeout: server.milliseconds,
    greetingTimeout: server.milliseconds,
    socketTimeout: server.milliseconds,
    // The server need not know by which library it is spoken to.
    clientInfo: { name: 'inscriba', version: '', vendor: '', 'support-url': '' },
  });
  // A connection that breaks off is told by the call that waits for it.
  client.on('error', () => undefined);
  try {
    await client.connect();
    const findings: Finding[] = [];
    const path = await draftsFolder(client, folder, (item) => findings.push(item));
    if (path === null) return findings;
    for (const draft of drafts) onPut(await put(client, path, draft));
    return [];
  } catch (error) {
    return [failureOf(error, server)];
  } finally {
    await client.logout().catch(() => client.close());
  }
}

/** The folder that takes drafts; null, and reported, where there is none. */
async function draftsFolder(client: ImapFlow, wanted: string | null, report: Report): Promise<string | null> {
  const all: ListResponse[] = await client.list();
  const known = all.filter(({ flags }) => !flags.has('\\Noselect')).map(({ path }) => path);
  const marked = wanted === null ? all.find(({ specialUse }) => specialUse === '\\Drafts')?.path : wanted;
  if (marked !== undefined && known.includes(marked)) return marked;
  report(
    wanted === null
      ? finding('imap-no-drafts', null, { known: known.join(', ') })
      : finding('imap-no-folder', null, { folder: wanted, known: known.join(', ') }),
  );
  return null;
}

async function put(client: ImapFlow, folder: string, draft: Draft): Promise<PutDraft> {
  const { bytes, messageId } = draft.mail;
  const lock = await client.getMailboxLock(folder);
  try {
    const found = await client.search({ header: { 'message-id': messageId } }, { uid: true });
    if (Array.isArray(found) && found.length > 0) return { draft, folder, isNew: false };
    const answer = await client.append(folder, Buffer.from(bytes), ['\\Draft', '\\Seen']);
    if (answer === false) throw new Error('The server did not take the draft.');
    return { draft, folder, isNew: true };
  } finally {
    lock.release();
  }
}

/** What the IMAP library says of a failure. */
interface ImapError {
  readonly authenticationFailed?: boolean;
  readonly responseStatus?: string;
  readonly responseText?: string;
  readonly serverResponseCode?: string;
  /** What the server said before it hung up. */
  readonly reason?: string;
}

function failureOf(error: unknown, server: MailServer): Finding {
  const { authenticationFailed, responseStatus, responseText, serverResponseCode, reason } = error as ImapError;
  const host = `${server.host}:${server.port}`;
  const answer = (responseText ?? reason ?? responseStatus ?? '').replace(/\s+/g, ' ').trim();
  if (authenticationFailed === true || serverResponseCode === 'AUTHENTICATIONFAILED')
    return finding('mail-login', null, { host, answer: answer === '' ? 'refused' : answer, key: KEY });
  if (serverResponseCode === 'OVERQUOTA')
    return finding('host-full', null, { host, what: 'the draft', status: answer });
  if (answer !== '') return finding('mail-refused', null, { host, what: 'the draft', answer });
  return connectionFinding(error, server, KEY) ?? finding('host-broken', null, { host, what: 'the draft' });
}
