import { request } from 'node:http';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { servePreview, type RunningPreview } from '../../src/preview/preview-server.js';
import type { PreviewSource } from '../../src/project/preview/preview-source.js';
import { TestFolder } from '../support/project.js';

/** A preview of one message that says what it was asked for. */
const source: PreviewSource = {
  names: () => ['may'],
  looked: () => [],
  findings: () => Promise.resolve([]),
  wall: () => Promise.resolve({ project: 'Alder Lane', messages: [] }),
  bench: () => Promise.resolve(null),
  frame: ({ name, edition, destination }, { engine }) =>
    Promise.resolve(name === 'may' ? `<script>1</script>${edition ?? ''} ${destination ?? ''} ${engine}` : null),
  picture: (name) => (name === 'a.svg' ? { bytes: Buffer.from('<svg/>'), type: 'image/svg+xml' } : null),
  samples: () => ['ines'],
  change: () => Promise.resolve(),
  listen: () => () => undefined,
};

let running: RunningPreview;

beforeAll(async () => {
  running = await servePreview(source, { script: 'script', style: 'style', views: [] }, 0);
});

afterAll(() => running.stop());

interface Answer {
  readonly status: number;
  readonly body: string;
  readonly headers: Readonly<Record<string, unknown>>;
}

function ask(path: string, headers: Readonly<Record<string, string>> = {}, method = 'GET'): Promise<Answer> {
  return new Promise((resolve, reject) => {
    const asked = request({ host: '127.0.0.1', port: running.port, path, method, headers }, (response) => {
      const chunks: Buffer[] = [];
      response.on('data', (chunk: Buffer) => chunks.push(chunk));
      response.on('end', () =>
        resolve({
          status: response.statusCode ?? 0,
          body: Buffer.concat(chunks).toString(),
          headers: response.headers,
        }),
      );
    });
    asked.on('error', reject);
    asked.end();
  });
}

describe('what a preview answers', () => {
  test.each<[string, number]>([
    ['/', 200],
    ['/may', 200],
    ['/june', 404],
    ['/-/page.js', 200],
    ['/-/page.css', 200],
    ['/-/icon.svg', 200],
    ['/-/wall', 200],
    ['/-/message/june', 404],
    ['/-/frame/may?view=375%20word%20dark', 200],
    ['/-/frame/may?view=375%20nothing', 400],
    ['/-/frame/june', 404],
    ['/-/picture/a.svg', 200],
    ['/-/picture/..%2f..%2finscriba.yaml', 404],
    ['/../../etc/passwd', 404],
    ['/-/picture/../../../../etc/passwd', 404],
    ['/%00', 404],
    ['/%ff', 400],
    ['/-/nothing', 404],
  ])('%s: %i', async (path, status) => expect((await ask(path)).status).toBe(status));

  test('a view is that which is asked for', async () => {
    const { body } = await ask('/-/frame/may?view=375%20word&edition=mill-yard&to=members');
    expect(body).toBe('<script>1</script>mill-yard members word');
  });
});

describe('whom a preview answers', () => {
  test.each<[string, Readonly<Record<string, string>>, number]>([
    ['by another name of this machine', { host: 'evil.example' }, 403],
    ['by a name with another port', { host: '127.0.0.1:1' }, 403],
    [
      'a script of another site',
      { 'sec-fetch-site': 'cross-site', 'sec-fetch-mode': 'cors', 'sec-fetch-dest': 'empty' },
      403,
    ],
    [
      'a frame of another site',
      { 'sec-fetch-site': 'cross-site', 'sec-fetch-mode': 'navigate', 'sec-fetch-dest': 'iframe' },
      403,
    ],
    [
      'a site of this machine',
      { 'sec-fetch-site': 'same-site', 'sec-fetch-mode': 'no-cors', 'sec-fetch-dest': 'image' },
      403,
    ],
    ['whoever says that they come from elsewhere', { origin: 'https://evil.example' }, 403],
    [
      'a link of another site',
      { 'sec-fetch-site': 'cross-site', 'sec-fetch-mode': 'navigate', 'sec-fetch-dest': 'document' },
      200,
    ],
    ['its own page', { 'sec-fetch-site': 'same-origin' }, 200],
  ])('%s: %s %i', async (_, headers, status) => expect((await ask('/-/wall', headers)).status).toBe(status));

  test.each(['POST', 'PUT', 'DELETE', 'OPTIONS'])('%s is not looking', async (method) =>
    expect((await ask('/', {}, method)).status).toBe(405),
  );

  test('messages run nothing, and stand in no page of others', async () => {
    const { headers } = await ask('/-/frame/may');
    const policy = String(headers['content-security-policy']);
    expect(policy).toContain("default-src 'none'");
    expect(policy).toContain('sandbox allow-same-origin');
    expect(policy).not.toContain('allow-scripts');
    expect(policy).toContain("frame-ancestors 'self'");
    expect(headers['x-content-type-options']).toBe('nosniff');
    expect(headers['cross-origin-resource-policy']).toBe('same-origin');
    expect(String((await ask('/')).headers['content-security-policy'])).toContain("script-src 'self'");
    expect(String((await ask('/-/picture/a.svg')).headers['content-security-policy'])).toContain('sandbox');
  });
});

describe('the program that serves', () => {
  let folder: TestFolder;

  beforeAll(() => {
    folder = TestFolder.demoProject();
  });

  afterAll(() => folder.remove());

  test('takes the next port where one is taken, says so, and ends at Ctrl-C', async () => {
    const port = String(running.port);
    const program = folder.start(['preview', '--port', port]);
    await program.says(/Another program listens on port \d+; this preview takes \d+\.\n/);
    await program.says(/on http:\/\/127\.0\.0\.1:\d+\/; Ctrl-C stops\.\n/);
    const own = /takes (\d+)\./.exec(program.err)?.[1] ?? '';
    const answer = await fetch(`http://127.0.0.1:${own}/-/message/repair-day`);
    const message = (await answer.json()) as { subject: string; samples: string[]; places: unknown[] };
    expect(message.subject).toContain('Repair Day');
    expect(message.samples).toEqual(['ines', 'nobody']);
    expect(message.places).toContain('messages/repair-day.html:2');
    expect(await program.stop()).toBe(130);
    expect(program.err).toContain('Stopped.\n');
  }, 60_000);

  test.each<[string, string[], string]>([
    ['a message that is not there', ['preview', 'nope'], 'unknown-message'],
    ['a file that is not there', ['preview', 'nope.html'], 'file-missing'],
    ['files and messages', ['preview', 'may-newsletter', 'foreign/bellmoor-export.html'], 'preview-mixed'],
    ['a view that says nothing', ['preview', '--view', '375 wbkit'], 'unknown-view  "wbkit"'],
    ['no browser', ['preview', '--shots', 'shots', '--browser', '/nowhere'], 'browser-failed'],
    ['no such revision', ['compare', '--since', 'main'], 'no-repository'],
  ])('%s is told, and nothing is served', (_, words, told) => {
    const { code, err } = folder.run(words);
    expect(err).toContain(told);
    expect(code).toBe(2);
  });
});
