import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';

/** What a test server answers to a request. */
export type Handler = (request: IncomingMessage, response: ServerResponse, body: Buffer) => void;

/** A server on loopback whose answers a test decides; it counts what it is asked. */
export class PictureServer {
  readonly requests: string[] = [];
  readonly #server: Server;

  private constructor(server: Server) {
    this.#server = server;
  }

  static async start(handler: Handler): Promise<PictureServer> {
    const server = createServer((request, response) => {
      const chunks: Buffer[] = [];
      started.requests.push(`${request.method ?? ''} ${request.url ?? ''}`);
      request.on('data', (chunk: Buffer) => chunks.push(chunk));
      request.on('error', () => undefined);
      request.on('end', () => handler(request, response, Buffer.concat(chunks)));
    });
    const started = new PictureServer(server);
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    return started;
  }

  url(path: string): string {
    return `http://127.0.0.1:${(this.#server.address() as AddressInfo).port}/${path}`;
  }

  async stop(): Promise<void> {
    this.#server.closeAllConnections();
    await new Promise((resolve) => this.#server.close(resolve));
  }
}
