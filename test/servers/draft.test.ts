import { afterAll, afterEach, beforeAll, describe, expect, test } from '@jest/globals';
import type { Finding } from '../../src/core/findings/finding.js';
import { putDrafts } from '../../src/mail/put-draft.js';
import { ImapServer } from '../support/imap-server.js';
import { headerOf, judgeMail, structureOf } from '../support/mail-judge.js';
import { freePort } from '../support/free-port.js';
import { TestFolder, type Run } from '../support/project.js';
import { rudeness, rudeServer } from '../support/smtp-server.js';

let server: ImapServer;
let bare: ImapServer;
let folder: TestFolder;

beforeAll(async () => {
  // The name of the folder says nothing: it is found by its mark.
  server = await ImapServer.start('Entwürfe & mehr');
  bare = await ImapServer.start(null);
});

afterAll(async () => {
  await server?.stop();
  await bare?.stop();
});

afterEach(() => folder.remove());

interface Mailbox {
  readonly port: number;
  readonly user?: string;
  readonly security?: string;
  readonly drafts?: string;
  readonly host?: string;
  readonly timeout?: number;
}

function project({ port, user = 'ines', security = 'none', drafts, host = '127.0.0.1', timeout }: Mailbox): TestFolder {
  const more = `${drafts === undefined ? '' : `, drafts: ${drafts}`}${timeout === undefined ? '' : `, timeout: ${timeout}`}`;
  const imap = `{ host: ${host}, port: ${port}, security: ${security}, user: ${user}, password: '\${env.MAILBOX_KEY}'${more} }`;
  return TestFolder.demoProject().change('inscriba.yaml', 'mail:\n', `mail:\n  imap: ${imap}\n`);
}

function draft(words: readonly string[] = ['repair-day', '--to', 'members'], env: Record<string, string> = {}): Run {
  return folder.run(['draft', ...words, '--imap'], { env: { MAILBOX_KEY: 'secret', ...env } });
}

/** A mail without its date, which is that of the moment. */
function undated(bytes: Uint8Array): string {
  return Buffer.from(bytes)
    .toString('latin1')
    .replace(/^Date: .*\r\n/m, '');
}

describe('a draft in a mailbox', () => {
  test('lies in the folder of drafts as it was made, marked as a draft, once', () => {
    folder = project({ port: server.port });
    const run = draft();
    // docs/mail.md shows this line.
    expect(run.err).toContain('put  repair-day  in Entwürfe & mehr on 127.0.0.1\n');
    expect(run.err).toContain('warning  draft-tags  Merge tags stay in the draft of repair-day');
    expect([run.code, run.out]).toEqual([0, '']);
    const name = 'Entw&APw-rfe &- mehr';
    const fetched = server.fetch('ines', name, 1);
    const written = folder.run(['draft', 'repair-day', '--to', 'members', '--out', 'd.eml']);
    expect(written.code).toBe(0);
    expect(undated(fetched)).toBe(undated(folder.bytes('d.eml')));
    expect(server.flags('ines', name)).toMatch(/\\\\Draft/);
    const judged = judgeMail(fetched);
    expect(judged.defects).toEqual([]);
    expect(structureOf(judged.root)).toBe(
      'multipart/alternative(text/plain, multipart/related(text/html, image/png, image/png, image/png, image/png, image/png))',
    );
    expect(headerOf(judged, 'X-Unsent')).toBe('1');
    expect(draft().err).toContain('is there  repair-day  in Entwürfe & mehr');
    expect(() => server.fetch('ines', name, 2)).toThrow();
  });

  test('comes back byte for byte, whatever it holds', async () => {
    folder = new TestFolder();
    const bytes = Buffer.from(
      `Message-ID: <a@x.example>\r\nSubject: =?utf-8?Q?=C3=A9?=\r\nFrom: a@x.example\r\n\r\n.\r\n..\r\nFrom here\r\n \r\ntab\t\r\n${'x'.repeat(990)}\r\n\r\n\r\n`,
    );
    const puts: string[] = [];
    const mailServer = {
      host: '127.0.0.1',
      port: server.port,
      security: 'none' as const,
      login: { user: 'tomas', password: 'secret' },
      milliseconds: 10_000,
    };
    const findings = await putDrafts(
      mailServer,
      [{ mail: { bytes, messageId: '<a@x.example>' }, what: 'a' }],
      null,
      ({ folder: name }) => puts.push(name),
    );
    expect([findings, puts]).toEqual([[] as Finding[], ['Entwürfe & mehr']]);
    expect(server.fetch('tomas', 'Entw&APw-rfe &- mehr', 1).equals(bytes)).toBe(true);
  });

  test('over TLS from the beginning, and after STARTTLS', () => {
    for (const [port, security, user] of [
      [server.tlsPort, 'tls', 'tls'],
      [server.port, 'starttls', 'later'],
    ] as const) {
      folder = project({ port, security, user, host: 'localhost' });
      const unknown = draft();
      expect([unknown.code, unknown.err]).toEqual([
        3,
        expect.stringContaining(
          `mail-tls  No private connection to localhost:${port}: its certificate is signed by itself`,
        ),
      ]);
      const run = draft(undefined, { NODE_EXTRA_CA_CERTS: server.certificate });
      expect([run.code, run.err]).toEqual([0, expect.stringContaining('put  repair-day  in Entwürfe & mehr')]);
      folder.remove();
    }
    folder = new TestFolder();
  });

  test('a wrong password is told, and not shown', () => {
    folder = project({ port: server.port });
    const run = draft(undefined, { MAILBOX_KEY: 'sesame' });
    expect(run.err).toContain(`mail-login  127.0.0.1:${server.port} does not know this user with this password`);
    expect([run.code, run.err.includes('sesame')]).toEqual([3, false]);
  });

  test('where no folder is marked, one is asked for; a named one is taken', () => {
    folder = project({ port: bare.port });
    const run = draft();
    expect(run.err).toContain('imap-no-drafts  The server marks no folder as that of drafts\n  fix: Name one');
    expect(run.err).toMatch(/There are: (?:INBOX, Sent|Sent, INBOX)\./);
    expect(run.code).toBe(3);
    folder.remove();
    folder = project({ port: bare.port, drafts: 'Sent' });
    expect(draft().err).toContain('put  repair-day  in Sent');
    folder.remove();
    folder = project({ port: bare.port, drafts: 'Nowhere' });
    expect([draft().code, draft().err]).toEqual([3, expect.stringContaining('imap-no-folder')]);
  });

  test('a server that is not there, says nothing, or hangs up', async () => {
    const port = await freePort();
    folder = project({ port });
    expect([draft().code, draft().err]).toEqual([
      3,
      expect.stringContaining(`127.0.0.1:${port} cannot be reached: nothing listens there`),
    ]);
    folder.remove();
    for (const [behaviour, code] of rudeness) {
      const rude = await rudeServer(behaviour);
      folder = project({ port: rude.port, timeout: 0.5 });
      const run = await folder.runBeside(['draft', 'repair-day', '--to', 'members', '--imap'], {
        MAILBOX_KEY: 'secret',
      });
      expect([run.code, run.err]).toEqual([3, expect.stringContaining(code)]);
      folder.remove();
      rude.stop();
    }
    folder = new TestFolder();
  });

  test('passwords do not travel openly, and stand in no file', () => {
    folder = project({ port: 143, host: 'imap.alderlane.example' });
    expect([draft().code, draft().err]).toEqual([
      2,
      expect.stringContaining('security: none is only for servers on this machine'),
    ]);
    folder
      .change('inscriba.yaml', "'${env.MAILBOX_KEY}'", 'sesame')
      .change('inscriba.yaml', 'security: none, user', 'security: tls, user');
    const run = draft();
    expect([run.code, run.err.includes('sesame'), run.err]).toEqual([
      2,
      false,
      expect.stringContaining('secret-in-file'),
    ]);
  });
});

describe('a draft in a file', () => {
  test('filled for a sample, it holds no merge tag; nothing stays open', () => {
    folder = TestFolder.demoProject();
    const run = folder.run(['draft', 'loans-due', '--to', 'members', '--with', 'nobody']);
    expect([run.code, run.err]).toEqual([0, '']);
    const judged = judgeMail(Buffer.from(run.out));
    expect(judged.defects).toEqual([]);
    expect(headerOf(judged, 'Subject')).toBe('Neighbour, these tools are due');
    expect(`${judged.text}${judged.html}`).not.toMatch(/~~|@\{/);
    expect(judged.text).toContain('Hello neighbour, these tools are waited for:');
  });

  test('a project without samples has the one that its fields make', () => {
    folder = TestFolder.sampleProject();
    const run = folder.run(['draft', 'may-newsletter', '--to', 'members', '--with', 'sample']);
    expect([run.code, run.err]).toEqual([0, '']);
    expect(headerOf(judgeMail(Buffer.from(run.out)), 'Subject')).toBe('Ines, the lathe is back');
  });

  test('samples may stand in a file of their own; what is wrong in it is told', () => {
    folder = TestFolder.demoProject().write({
      'data/people.yaml': 'ines: {}\nodd: { first_name: Ödd, loans: [] }\nnobody:\n',
    });
    const config = folder.read('inscriba.yaml');
    folder.write({ 'inscriba.yaml': config.replace(/^samples:\n(?: .*\n)*/m, 'samples: data/people.yaml\n') });
    const words = ['draft', 'may-newsletter', '--to', 'archive', '--with', 'odd'];
    const run = folder.run(words);
    expect([run.code, run.err]).toEqual([0, '']);
    expect(headerOf(judgeMail(Buffer.from(run.out)), 'Subject')).toBe('Ödd, the lathe is back');
    for (const [content, said] of [
      ['odd: { frist_name: x }', 'has a field frist_name, which recipients do not have\n'],
      ['- odd', 'samples-wrong'],
      ['odd: 3', 'The sample "odd" holds no fields'],
      ['odd: {', 'data/people.yaml:1:7  error  config-syntax'],
    ] as const) {
      folder.write({ 'data/people.yaml': content });
      const wrong = folder.run(words);
      expect([content, wrong.code, wrong.err]).toEqual([content, 2, expect.stringContaining(said)]);
    }
  });

  test('several need a folder; an edition can be named; what is not there is told', () => {
    folder = TestFolder.demoProject();
    expect(folder.run(['draft', 'branch-notice', '--to', 'archive']).code).toBe(2);
    const run = folder.run(['draft', 'branch-notice', '--to', 'archive', '--with', 'ines', '--out', 'drafts/']);
    expect([run.code, run.err.match(/wrote/g)?.length]).toEqual([0, 3]);
    expect(judgeMail(folder.bytes('drafts/branch-notice-mill-yard.eml')).defects).toEqual([]);
    const wrong: [string[], number, string][] = [
      [['branch-notice/mill-yrd', '--to', 'archive'], 2, 'unknown-edition'],
      [['repair-day'], 2, 'destination-needed'],
      [['repair-day', '--to', 'archive', '--with', 'nobdy'], 2, 'Did you mean "nobody"?'],
      [['repair-day', '--to', 'archive', '--imap'], 2, 'server-missing'],
      [['repair-day', '--to', 'archive', '--imap', '--out', 'x.eml'], 2, "option '--imap' cannot be used with"],
    ];
    for (const [words, code, said] of wrong) {
      const failed = folder.run(['draft', ...words]);
      expect([words, failed.code, failed.err]).toEqual([words, code, expect.stringContaining(said)]);
    }
  });
});
