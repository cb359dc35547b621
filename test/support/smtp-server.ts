import { readFileSync } from 'node:fs';
import { createServer, type Server } from 'node:net';
import type { AddressInfo } from 'node:net';
import { SMTPServer, type SMTPServerOptions } from 'smtp-server';
import type { Certificate } from './certificate.js';

/** A mail that a server took. */
export interface TakenMail {
  readonly bytes: Buffer;
  readonly from: string;
  readonly to: readonly string[];
  readonly secure: boolean;
  readonly user: string | null;
  readonly at: number;
}

/** An SMTP server that behaves as a test wants it to. */
export class TestSmtpServer {
  private constructor(
    private readonly server: SMTPServer,
    readonly port: number,
    readonly mails: readonly TakenMail[],
  ) {}

  /** @param certificate for TLS; null for a server without */
  static async start(options: SMTPServerOptions, certificate: Certificate | null = null): Promise<TestSmtpServer> {
    const mails: TakenMail[] = [];
    const tls =
      certificate === null ? {} : { key: readFileSync(certificate.key), cert: readFileSync(certificate.certificate) };
    const server = new SMTPServer({
      authOptional: true,
      disableReverseLookup: true,
      logger: false,
      ...(certificate === null ? { disabledCommands: ['STARTTLS', 'AUTH'] } : {}),
      onData: (stream, session, done) => {
        const chunks: Buffer[] = [];
        stream.on('data', (chunk: Buffer) => chunks.push(chunk));
        stream.on('end', () => {
          const { mailFrom, rcptTo } = session.envelope;
          mails.push({
            bytes: Buffer.concat(chunks),
            from: mailFrom === false ? '' : mailFrom.address,
            to: rcptTo.map(({ address }) => address),
            secure: session.secure,
            user: typeof session.user === 'string' ? session.user : null,
            at: performance.now(),
          });
          done();
        });
      },
      ...options,
      ...tls,
    });
    server.on('error', () => undefined);
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    return new TestSmtpServer(server, (server.server.address() as AddressInfo).port, mails);
  }

  stop(): Promise<void> {
    return new Promise((resolve) => this.server.close(() => resolve()));
  }
}

/** How servers may be rude, and what is said of it. */
export const rudeness = [
  ['silent', 'host-timeout'],
  ['hangs up', 'host-broken'],
] as const;

/** A server that takes connections and then does what it is told to: it says nothing, or it hangs up. */
export async function rudeServer(behaviour: 'silent' | 'hangs up'): Promise<{ port: number; stop: () => void }> {
  const sockets = new Set<{ destroy: () => void }>();
  const server: Server = createServer((socket) => {
    sockets.add(socket);
    socket.on('error', () => undefined);
    if (behaviour === 'hangs up') socket.end();
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  return {
    port,
    stop: () => {
      for (const socket of sockets) socket.destroy();
      server.close();
    },
  };
}
