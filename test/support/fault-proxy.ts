import { createServer, request as ask, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';

/** What goes wrong on the way to a server: before it hears of a request, or after it has done it. */
export const wireFaults = [
  'cut before',
  'cut after',
  'late',
  'failed before',
  'failed after',
  'garbage before',
  'garbage after',
  'busy',
  'answer lost',
] as const;

export type WireFault = (typeof wireFaults)[number];

/** Stands between a program and a server, and has one request in turn go wrong. */
export class FaultProxy {
  /** How many requests came. */
  count = 0;
  /** What happens to the request of a number, from 1; null where nothing does. */
  plan: (count: number) => WireFault | null = () => null;
  /** Is told of each request as it comes, and once its server has done it. */
  passing: (count: number, when: 'before' | 'after') => void = () => undefined;
  target = '';

  private constructor(
    private readonly server: Server,
    readonly address: string,
  ) {}

  static async start(): Promise<FaultProxy> {
    let proxy: FaultProxy | null = null;
    const server = createServer((incoming, response) => void proxy?.pass(incoming, response));
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    proxy = new FaultProxy(server, `http://127.0.0.1:${(server.address() as AddressInfo).port}/`);
    return proxy;
  }

  stop(): Promise<void> {
    this.server.closeAllConnections();
    return new Promise((resolve) => this.server.close(() => resolve()));
  }

  private async pass(incoming: IncomingMessage, response: ServerResponse): Promise<void> {
    this.count += 1;
    const { count } = this;
    const fault = this.plan(count);
    const chunks: Buffer[] = [];
    for await (const chunk of incoming as AsyncIterable<Buffer>) chunks.push(chunk);
    this.passing(count, 'before');
    if (fault === 'cut before') return void response.destroy();
    if (fault === 'failed before') return void response.writeHead(503).end('Back soon.');
    if (fault === 'garbage before')
      return void response.writeHead(200, { 'content-type': 'text/html' }).end('<p>Back soon.');
    if (fault === 'busy') return void response.writeHead(429, { 'retry-after': '0' }).end('{}');
    const answer = await this.forward(incoming, Buffer.concat(chunks));
    this.passing(count, 'after');
    switch (fault) {
      case 'cut after':
        return void response.destroy();
      case 'failed after':
        return void response.writeHead(500).end('Something went wrong.');
      case 'garbage after':
        return void response.writeHead(200, { 'content-type': 'application/json' }).end('{"half": ');
      case 'late':
        // Longer than anybody waits.
        setTimeout(() => response.destroy(), 1500);
        return;
      case 'answer lost': {
        // The connection breaks in the middle of the answer.
        response.writeHead(answer.status, { ...answer.headers, 'content-length': answer.body.length + 10 });
        response.write(answer.body.subarray(0, answer.body.length / 2));
        setTimeout(() => response.destroy(), 10);
        return;
      }
      default:
        response.writeHead(answer.status, answer.headers).end(answer.body);
    }
  }

  private forward(
    incoming: IncomingMessage,
    body: Buffer,
  ): Promise<{ readonly status: number; readonly headers: IncomingMessage['headers']; readonly body: Buffer }> {
    const url = new URL(incoming.url ?? '/', this.target);
    return new Promise((resolve, reject) => {
      const outgoing = ask(
        url,
        { method: incoming.method, headers: { ...incoming.headers, host: url.host } },
        (answer) => {
          const chunks: Buffer[] = [];
          answer.on('data', (chunk: Buffer) => chunks.push(chunk));
          answer.on('end', () =>
            resolve({ status: answer.statusCode ?? 500, headers: answer.headers, body: Buffer.concat(chunks) }),
          );
        },
      );
      outgoing.on('error', reject);
      outgoing.end(body);
    });
  }
}
