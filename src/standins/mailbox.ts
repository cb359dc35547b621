import type { AddressInfo, Server } from 'node:net';
import { SMTPServer } from 'smtp-server';
import { mailPages } from './mail-pages.js';
import type { KeptMail } from './mail-views.js';

/** Where the simulated mailbox listens. Port 0 is any that is free. */
export interface MailboxOptions {
  readonly smtpPort: number;
  readonly pagePort: number;
  /** Is told of each mail that came in, before the sender is. */
  readonly received: (mail: KeptMail) => Promise<void>;
}

/** A simulated mailbox that is running. */
export interface RunningMailbox {
  readonly smtpPort: number;
  /** The address of the page that shows the mails. */
  readonly page: string;
  readonly stop: () => Promise<void>;
}

/** Only programs of this machine reach it. */
const LOOPBACK = '127.0.0.1';

/** No mail may be larger, in bytes, and no more of them are kept. */
const LARGEST_MAIL = 40 * 1024 * 1024;
const MOST_MAILS = 500;

/**
 * Starts a simulated mailbox: a server that takes every mail over SMTP and sends none on, and a page that shows them.
 * Fails as the system does where a port is taken.
 */
export async function startMailbox({ smtpPort, pagePort, received }: MailboxOptions): Promise<RunningMailbox> {
  const mails: KeptMail[] = [];
  let count = 0;
  const smtp = new SMTPServer({
    // It takes whatever name and password it is given, and so nobody's secret should travel here.
    authOptional: true,
    disabledCommands: ['STARTTLS'],
    allowInsecureAuth: true,
    onAuth: (auth, _session, done) => done(null, { user: auth.username ?? 'anybody' }),
    disableReverseLookup: true,
    size: LARGEST_MAIL,
    logger: false,
    onData: (stream, session, done) => {
      const chunks: Buffer[] = [];
      stream.on('data', (chunk: Buffer) => {
        if (!stream.sizeExceeded) chunks.push(chunk);
      });
      stream.on('end', () => {
        if (stream.sizeExceeded) {
          done(Object.assign(new Error('The mail is larger than this mailbox takes.'), { responseCode: 552 }));
          return;
        }
        count += 1;
        const { mailFrom, rcptTo } = session.envelope;
        const mail: KeptMail = {
          number: count,
          bytes: Buffer.concat(chunks),
          sender: mailFrom === false ? '' : mailFrom.address,
          readers: rcptTo.map(({ address }) => address),
          at: new Date(),
        };
        mails.push(mail);
        if (mails.length > MOST_MAILS) mails.shift();
        received(mail).then(
          () => done(null, 'taken'),
          () => done(Object.assign(new Error('The mail could not be kept.'), { responseCode: 452 })),
        );
      });
    },
  });
  smtp.on('error', () => undefined);
  await listening((done) => smtp.listen(smtpPort, LOOPBACK, done), smtp.server);
  const pages = mailPages(mails);
  try {
    await listening((done) => pages.listen(pagePort, LOOPBACK, done), pages);
  } catch (error) {
    await new Promise<void>((resolve) => smtp.close(() => resolve()));
    throw error;
  }
  return {
    smtpPort: portOf(smtp.server),
    page: `http://${LOOPBACK}:${portOf(pages)}/`,
    stop: async () => {
      pages.closeAllConnections();
      await Promise.all([
        new Promise<void>((resolve) => smtp.close(() => resolve())),
        new Promise<void>((resolve) => pages.close(() => resolve())),
      ]);
    },
  };
}

function listening(listen: (done: () => void) => unknown, server: Server): Promise<void> {
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    listen(() => {
      server.off('error', reject);
      resolve();
    });
  });
}

function portOf(server: Server): number {
  return (server.address() as AddressInfo).port;
}
