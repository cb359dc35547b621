import { afterAll, afterEach, beforeAll, expect, test } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { createServer, type AddressInfo, type Server, type Socket } from 'node:net';
import { join } from 'node:path';
import { Random } from '../support/random.js';
import { repository, TestFolder, type Run } from '../support/project.js';
import { brokenLaw, count, keepCounts, ROUNDS, runInTime, SEED } from './law.js';
import { mutated } from './mutations.js';

/** A server that asks for patience is asked again, five times and later each time; in milliseconds. */
const PATIENCE_WITH_SERVERS = 120_000;

const env = { PUSH_KEY: 'key-for-trying', IMAP_KEY: 'key-for-trying' };

let project: TestFolder;
let server: Server | null = null;

beforeAll(() => {
  project = TestFolder.builtDemo();
});

afterEach(() => {
  server?.close();
});

afterAll(() => {
  project.remove();
  keepCounts('talks');
});

/** A server that says something whenever it hears something (at first too, if `greets`), and hangs up when that is done. */
async function talker(greets: boolean, say: (heard: string) => Buffer): Promise<number> {
  server = createServer((socket: Socket) => {
    const answer = (heard: string): void => {
      socket.write(say(heard));
      socket.setTimeout(150, () => socket.destroy());
    };
    socket.on('error', () => undefined);
    socket.on('data', (chunk: Buffer) => answer(chunk.toString('latin1')));
    if (greets) answer('');
  });
  await new Promise<void>((resolve) => server?.listen(0, '127.0.0.1', resolve));
  return (server.address() as AddressInfo).port;
}

/** Runs commands against a server whose answers have mistakes. */
async function law(
  random: Random,
  rounds: number,
  talk: { greets: boolean; say: (heard: string) => string | Buffer },
  commands: (port: number) => readonly (readonly string[])[],
): Promise<string[]> {
  const broken: string[] = [];
  let said: string[] = [];
  const port = await talker(talk.greets, (heard) => {
    const whole = Buffer.from(talk.say(heard));
    const answer = random.chance(0.4) ? mutated(whole, random) : whole;
    said.push(answer.toString('latin1').slice(0, 300));
    return answer;
  });
  for (let round = 0; round < rounds * ROUNDS; round += 1) {
    const words = random.pick(commands(port));
    said = [];
    const run = await runInTime(project, words, { env, patience: PATIENCE_WITH_SERVERS });
    count(words.slice(0, words[0] === 'images' ? 2 : 1).join(' '));
    const problem = run === 'hang' ? 'it hangs' : brokenLaw(run);
    if (heardNothing(run, said))
      broken.push(`nobody was asked: inscriba ${words.join(' ')}: ${run === 'hang' ? '' : run.err}`);
    if (problem !== null) broken.push(`${problem}: inscriba ${words.join(' ')} heard ${JSON.stringify(said)}`);
    if (run === 'hang') break;
  }
  return broken;
}

/** A command that fails before it says a word to the server tries nothing. */
const heardNothing = (run: Run | 'hang', said: readonly string[]): boolean => run !== 'hang' && said.length === 0;

const picture = readFileSync(join(repository, 'demo/images/sign.png'));

/** Answers of a web server, of every kind. */
function webAnswer(random: Random, port: () => number): string | Buffer {
  const [status, type] = [
    random.pick([
      '200 OK',
      '201 Created',
      '204 No Content',
      '301 Moved',
      '404 Not Found',
      '405 No',
      '429 Busy',
      '500 Oh',
    ]),
    random.pick(['image/png', 'text/html', 'application/json', 'multipart/x']),
  ];
  const body = random.pick([
    picture,
    Buffer.from('{"items":[{"id":1,"name":"x"}],"id":7}'),
    Buffer.from('<p>no</p>'),
    Buffer.alloc(0),
  ]);
  const more = status.startsWith('3')
    ? `Location: ${random.pick([`http://127.0.0.1:${port()}/again`, '/', 'ftp://x', 'http://['])}\r\n`
    : '';
  const length = random.pick([
    `Content-Length: ${body.length}\r\n`,
    'Content-Length: 99999\r\n',
    'Transfer-Encoding: chunked\r\n',
    '',
    'Content-Encoding: gzip\r\n',
  ]);
  return Buffer.concat([
    Buffer.from(`HTTP/1.1 ${status}\r\nContent-Type: ${type}\r\n${more}${length}Connection: close\r\n\r\n`),
    body,
  ]);
}

test('web servers that answer anything', async () => {
  const random = new Random(SEED);
  let own = 0;
  const broken = await law(random, 30, { greets: false, say: () => webAnswer(random, () => own) }, (port) => {
    own = port;
    const url = `http://127.0.0.1:${port}/`;
    project.write({
      'page.html': `<!doctype html><title>x</title><p><a href="${url}a">a page</a><img src="${url}p.png" alt="p"></p>`,
      'local.html': '<!doctype html><title>x</title><p><img src="images/sign.png" alt="p"></p>',
    });
    return [
      ['images', 'fetch', 'page.html', '--out', 'home/page.html', '--allow-local'],
      ['images', 'host', 'local.html', '--base-url', url, '--upload', url, '--out', 'hosted.html'],
      ['check', 'page.html', '--links', '--timeout', '1'],
    ];
  });
  expect(broken).toEqual([]);
}, 3_600_000);

test('sending platforms that answer anything', async () => {
  const random = new Random(SEED + 1);
  let own = 0;
  const broken = await law(random, 8, { greets: false, say: () => webAnswer(random, () => own) }, (port) => {
    own = port;
    const before = readFileSync(join(repository, 'demo/inscriba.yaml'), 'utf8');
    const push = `push: { url: 'http://127.0.0.1:${port}/', account: a, key: '\${env.PUSH_KEY}', timeout: 1 }`;
    project.write({
      'inscriba.yaml': before.replace('images: { mode: package }', `images: { mode: package }\n    ${push}`),
    });
    return [['push', 'repair-day', '--to', 'members', '--yes']];
  });
  expect(broken).toEqual([]);
}, 3_600_000);

/** The project with a mail server of its own. */
function withMail(what: string): void {
  const before = readFileSync(join(repository, 'demo/inscriba.yaml'), 'utf8');
  project.write({ 'inscriba.yaml': before.replace(/ {2}smtp: .*\n/, `  ${what}\n`) });
}

test('mail servers that say anything, over SMTP', async () => {
  const random = new Random(SEED + 2);
  const say = (heard: string): string =>
    heard === ''
      ? '220 alderlane ESMTP\r\n'
      : /^EHLO/i.test(heard)
        ? '250-alderlane\r\n250-SIZE 100000\r\n250 8BITMIME\r\n'
        : /^DATA/i.test(heard)
          ? '354 go on\r\n'
          : random.pick(['250 ok\r\n', '250 ok\r\n', '250 ok\r\n', '550 no\r\n', '421 bye\r\n']);
  const broken = await law(random, 12, { greets: true, say }, (port) => {
    withMail(`smtp: { host: 127.0.0.1, port: ${port}, security: none }`);
    return [['proof', 'loans-due', '--to', 'members', '--with', 'ines']];
  });
  expect(broken).toEqual([]);
}, 3_600_000);

test('mailboxes that say anything, over IMAP', async () => {
  const random = new Random(SEED + 3);
  const say = (heard: string): string => {
    const [, tag = '*', verb = ''] = /^(\S+) (\w+)/.exec(heard) ?? [];
    const told: Record<string, string> = {
      CAPABILITY: '* CAPABILITY IMAP4rev1 SPECIAL-USE UIDPLUS\r\n',
      LIST: '* LIST (\\Drafts) "/" "Drafts"\r\n',
      SELECT: '* 3 EXISTS\r\n* OK [UIDVALIDITY 1] ok\r\n',
      SEARCH: '* SEARCH\r\n',
      UID: '* SEARCH 1\r\n',
      APPEND: '+ go on\r\n',
    };
    return heard === ''
      ? '* OK IMAP4rev1 ready\r\n'
      : `${told[verb.toUpperCase()] ?? ''}${verb.toUpperCase() === 'APPEND' ? '' : `${tag} ${random.pick(['OK', 'OK', 'OK', 'NO', 'BAD'])} done\r\n`}`;
  };
  const broken = await law(random, 8, { greets: true, say }, (port) => {
    withMail(`imap: { host: 127.0.0.1, port: ${port}, security: none, user: desk, password: '\${env.IMAP_KEY}' }`);
    return [['draft', 'loans-due', '--to', 'members', '--with', 'ines', '--imap']];
  });
  expect(broken).toEqual([]);
}, 3_600_000);
