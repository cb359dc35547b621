import { afterEach, beforeAll, describe, expect, test } from '@jest/globals';
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import type { SMTPServerOptions } from 'smtp-server';
import { makeCertificate, type Certificate } from '../support/certificate.js';
import { freePort } from '../support/free-port.js';
import { headerOf, judgeMail, structureOf } from '../support/mail-judge.js';
import { TestFolder, type Run } from '../support/project.js';
import { rudeness, rudeServer, TestSmtpServer } from '../support/smtp-server.js';

let folder: TestFolder;
let certificate: Certificate;
let certificates: TestFolder;

beforeAll(() => {
  certificates = new TestFolder();
  certificate = makeCertificate(certificates.path);
});

afterEach(() => folder.remove());

/** The sample project with another SMTP server. */
function project(smtp: string): TestFolder {
  return TestFolder.demoProject().change(
    'inscriba.yaml',
    'smtp: { host: localhost, port: 4025, security: none }',
    `smtp: { per_minute: 6000, ${smtp} }`,
  );
}

const open = (port: number): string => `host: 127.0.0.1, port: ${port}, security: none`;

function proof(words: readonly string[], env: Record<string, string> = {}): Promise<Run> {
  return folder.runBeside(['proof', ...words, '--to', 'members'], env);
}

/** Runs with a server that behaves as the options say. */
async function withServer<T>(
  options: SMTPServerOptions,
  work: (server: TestSmtpServer) => Promise<T>,
  own: Certificate | null = null,
): Promise<T> {
  const server = await TestSmtpServer.start(options, own);
  try {
    return await work(server);
  } finally {
    await server.stop();
  }
}

describe('proofs', () => {
  test('go to the simulated mailbox: one for each sample, filled, to those who are named alone', async () => {
    const [smtp, page] = [await freePort(), await freePort()];
    folder = project(open(smtp));
    folder
      .write({ 'messages/notes.txt': 'Opening hours' })
      .change(
        'messages/loans-due.html',
        '<meta name="topic" content="loans">',
        '<meta name="attachment" content="notes.txt">',
      );
    const mailbox = folder.start([
      'standin',
      '--only',
      'mailbox',
      '--smtp-port',
      String(smtp),
      '--page-port',
      String(page),
      '--keep',
      'mails',
    ]);
    await mailbox.says(/Ctrl-C stops/);
    const run = await proof(['loans-due', '--mail', 'tomas@alderlane.example', 'zoe@alderlane.example']);
    expect([run.code, run.out, run.err]).toEqual([
      0,
      '',
      'sent  loans-due, filled for ines  to tomas@alderlane.example, zoe@alderlane.example\n' +
        'sent  loans-due, filled for nobody  to tomas@alderlane.example, zoe@alderlane.example\n',
    ]);
    expect(readdirSync(join(folder.path, 'mails')).sort()).toEqual(['mail-001.eml', 'mail-002.eml']);
    const [ines, nobody] = [1, 2].map((number) => judgeMail(folder.bytes(`mails/mail-00${number}.eml`)));
    expect([ines?.defects, nobody?.defects]).toEqual([[], []]);
    if (ines === undefined || nobody === undefined) throw new Error('Both mails are there.');
    expect(headerOf(ines, 'Subject')).toBe('[proof] Ines, these tools are due');
    expect(headerOf(nobody, 'Subject')).toBe('[proof] Neighbour, these tools are due');
    expect(headerOf(ines, 'To')).toBe('tomas@alderlane.example, zoe@alderlane.example');
    expect([headerOf(ines, 'Bcc'), headerOf(ines, 'X-Unsent')]).toEqual([undefined, undefined]);
    expect(structureOf(ines.root)).toBe(
      'multipart/mixed(multipart/alternative(text/plain, multipart/related(text/html, image/png)), text/plain)',
    );
    expect(ines.text).toContain('Tool ');
    expect(`${ines.text}${ines.html}${nobody.html}`).not.toMatch(/~~|@\{|\$\{/);
    const address = `http://127.0.0.1:${page}`;
    const list = await (await fetch(`${address}/`)).text();
    expect(list).toContain('[proof] Ines, these tools are due');
    expect(await (await fetch(`${address}/mail/1`)).text()).toContain('notes.txt');
    expect(await (await fetch(`${address}/mail/1/html`)).text()).toMatch(/<img src="data:image\/png;base64,/);
    expect(Buffer.from(await (await fetch(`${address}/mail/1/source`)).arrayBuffer())).toEqual(
      folder.bytes('mails/mail-001.eml'),
    );
    expect((await fetch(`${address}/mail/9`)).status).toBe(404);
    expect((await fetch(`${address}/`, { method: 'POST', body: 'x' })).status).toBe(405);
    expect(await mailbox.stop()).toBe(130);
  });

  test('nobody gets one who is not named or listed', async () => {
    await withServer({}, async ({ port, mails }) => {
      folder = project(open(port)).change('inscriba.yaml', '  readers: [ines@alderlane.example]\n', '');
      const nobody = await proof(['repair-day', '--with', 'ines']);
      expect([nobody.code, nobody.err, mails.length]).toEqual([2, expect.stringContaining('readers-missing'), 0]);
      folder.change('inscriba.yaml', 'mail:\n', 'mail:\n  readers: [desk@alderlane.example]\n');
      expect((await proof(['repair-day', '--with', 'ines'])).code).toBe(0);
      expect((await proof(['repair-day', '--with', 'ines', '--mail', 'a@b.example'])).code).toBe(0);
      expect(mails.map(({ to }) => to)).toEqual([['desk@alderlane.example'], ['a@b.example']]);
      for (const address of [
        'a@b.example\r\nBcc: c@d.example',
        'a@b.example, c@d.example',
        'x',
        '<a@b.example>',
        'zoë@b.example',
      ]) {
        const run = await proof(['repair-day', '--mail', address]);
        expect([address, run.code, run.err]).toEqual([address, 2, expect.stringContaining('address-invalid')]);
      }
      expect(mails.length).toBe(2);
    });
  });

  test('a line end in a sample or in data adds no header: such a mail is refused', async () => {
    await withServer({}, async ({ port, mails }) => {
      folder = project(open(port)).change(
        'inscriba.yaml',
        '  ines: {}',
        '  ines: { first_name: "Ines\\r\\nBcc: x@y.example" }\n  lines: { first_name: "a\\u2028b" }\n  zero: { first_name: "a\\0b" }',
      );
      for (const sample of ['ines', 'lines', 'zero']) {
        const run = await proof(['may-newsletter', '--with', sample]);
        expect([sample, run.code, run.err]).toEqual([sample, 1, expect.stringContaining('header-injection')]);
      }
      folder.change(
        'messages/repair-day.html',
        '<meta name="preheader"',
        '<meta name="from" content="Desk&#10;Bcc: x@y.example"><meta name="preheader"',
      );
      expect((await proof(['repair-day', '--with', 'nobody'])).err).toContain('header-injection');
      expect(mails).toEqual([]);
    });
  });

  test('a message with errors is not sent, nor too many at once', async () => {
    await withServer({}, async ({ port, mails }) => {
      folder = project(open(port)).change('messages/repair-day.html', '<house-footer></house-footer>', '');
      const run = await proof(['repair-day']);
      expect([run.code, run.err]).toEqual([1, expect.stringContaining('footer-missing')]);
      const [head = ''] = folder.read('data/branches.csv').split('\n');
      const columns = head
        .split(',')
        .slice(1)
        .map(() => 'a');
      const rows = Array.from({ length: 40 }, (_, index) => [`Branch ${index}`, ...columns].join(',')).join('\n');
      folder.write({ 'data/branches.csv': `${head}\n${rows}\n` });
      const many = await proof(['branch-notice']);
      expect([many.code, many.err]).toEqual([
        2,
        expect.stringContaining('proof-many  These would be 80 proofs, more than 50'),
      ]);
      expect(mails).toEqual([]);
    });
  });
});

describe('the way to the server', () => {
  test.each<[string, 'tls' | 'starttls']>([
    ['TLS from the beginning', 'tls'],
    ['STARTTLS', 'starttls'],
  ])('%s, with a login', async (_, security) => {
    const options: SMTPServerOptions = {
      secure: security === 'tls',
      authOptional: false,
      onAuth: (auth, _session, done) =>
        auth.username === 'desk' && auth.password === 'hammer' ? done(null, { user: 'desk' }) : done(new Error('No.')),
    };
    await withServer(
      options,
      async ({ port, mails }) => {
        folder = project(
          `host: localhost, port: ${port}, security: ${security}, user: desk, password: '\${env.SMTP_KEY}'`,
        );
        const words = ['repair-day', '--with', 'ines'];
        const unknown = await proof(words, { SMTP_KEY: 'hammer' });
        expect([unknown.code, unknown.err]).toEqual([
          3,
          expect.stringContaining('its certificate is signed by itself'),
        ]);
        const known = { NODE_EXTRA_CA_CERTS: certificate.certificate };
        expect((await proof(words, { SMTP_KEY: 'hammer', ...known })).err).toContain(
          'sent  repair-day, filled for ines',
        );
        expect(mails.map(({ secure, user }) => [secure, user])).toEqual([[true, 'desk']]);
        const wrong = await proof(words, { SMTP_KEY: 'chisel', ...known });
        expect([wrong.code, wrong.err.includes('chisel'), wrong.err]).toEqual([
          3,
          false,
          expect.stringContaining('mail-login'),
        ]);
        expect((await proof(words)).err).toContain('environment-missing');
        expect(mails.length).toBe(1);
      },
      certificate,
    );
  });

  test('a server without STARTTLS gets nothing', async () => {
    await withServer({}, async ({ port, mails }) => {
      folder = project(`host: localhost, port: ${port}`);
      const run = await proof(['repair-day', '--with', 'ines']);
      expect([run.code, run.err, mails.length]).toEqual([3, expect.stringContaining('it does not offer STARTTLS'), 0]);
    });
  });

  const refusing = (
    responseCode: number,
    at: 'onMailFrom' | 'onRcptTo' | 'onData',
    when: (address: string) => boolean = () => true,
  ): SMTPServerOptions => {
    const error = Object.assign(new Error('Not today.'), { responseCode });
    if (at === 'onData')
      return {
        onData: (stream, _session, done) => {
          stream.resume();
          stream.on('end', () => done(error));
        },
      };
    return {
      [at]: (address: { address: string }, _session: unknown, done: (error?: Error) => void) =>
        when(address.address) ? done(error) : done(),
    };
  };

  test.each<[string, SMTPServerOptions, string]>([
    ['refuses the sender', refusing(550, 'onMailFrom'), 'mail-sender-refused'],
    [
      'refuses the reader',
      refusing(550, 'onRcptTo'),
      'does not take repair-day, filled for ines for ines@alderlane.example',
    ],
    ['refuses the mail', refusing(554, 'onData'), 'mail-refused'],
    ['has no room', refusing(552, 'onData'), '552 Not today.'],
  ])('a server that %s is told', async (_, options, said) => {
    await withServer(options, async ({ port }) => {
      folder = project(open(port));
      const run = await proof(['repair-day', '--with', 'ines']);
      expect([run.code, run.err]).toEqual([3, expect.stringContaining(said)]);
    });
  });

  test('a reader whom the server does not know keeps it from nobody else', async () => {
    await withServer(
      refusing(550, 'onRcptTo', (address) => address.startsWith('gone')),
      async ({ port, mails }) => {
        folder = project(open(port));
        const run = await proof(['repair-day', '--with', 'ines', '--mail', 'gone@a.example', 'ines@a.example']);
        expect([run.code, run.err]).toEqual([3, expect.stringContaining('for gone@a.example')]);
        expect(run.err).toContain('sent  repair-day, filled for ines  to ines@a.example\n');
        expect(mails.map(({ to }) => to)).toEqual([['ines@a.example']]);
      },
    );
  });

  test('a server that asks for patience is asked again', async () => {
    let asked = 0;
    const options: SMTPServerOptions = {
      onRcptTo: (_address, _session, done) => {
        asked += 1;
        done(asked === 1 ? Object.assign(new Error('Later.'), { responseCode: 451 }) : null);
      },
    };
    await withServer(options, async ({ port, mails }) => {
      folder = project(open(port));
      expect((await proof(['repair-day', '--with', 'ines'])).code).toBe(0);
      expect([asked, mails.length]).toEqual([2, 1]);
    });
  });

  test('no more go out in a minute than are allowed', async () => {
    await withServer({}, async ({ port, mails }) => {
      folder = project(open(port)).change('inscriba.yaml', 'per_minute: 6000', 'per_minute: 60');
      expect((await proof(['repair-day', 'may-newsletter'])).code).toBe(0);
      const times = mails.map(({ at }) => at);
      expect(times.length).toBe(4);
      for (const [index, at] of times.entries())
        if (index > 0) expect(at - (times[index - 1] ?? 0)).toBeGreaterThan(700);
    });
  });

  test('a server that is not there, says nothing, or hangs up', async () => {
    const port = await freePort();
    folder = project(open(port));
    const absent = await proof(['repair-day']);
    expect([absent.code, absent.err]).toEqual([
      3,
      expect.stringContaining(`127.0.0.1:${port} cannot be reached: nothing listens there`),
    ]);
    // The second proof is not tried: it would fare no better.
    expect(absent.err).toContain('0 of 2 proofs sent.');
    folder.remove();
    for (const [behaviour, code] of rudeness) {
      const rude = await rudeServer(behaviour);
      folder = project(`${open(rude.port)}, timeout: 0.5`);
      const run = await proof(['repair-day', '--with', 'ines']);
      expect([run.code, run.err]).toEqual([3, expect.stringContaining(code)]);
      folder.remove();
      rude.stop();
    }
    folder = new TestFolder();
  });

  test('the simulated mailbox says which port is taken', async () => {
    await withServer({}, async ({ port }) => {
      folder = new TestFolder();
      const run = await folder.runBeside([
        'standin',
        '--only',
        'mailbox',
        '--smtp-port',
        String(port),
        '--page-port',
        '0',
      ]);
      expect([run.code, run.err]).toEqual([
        2,
        expect.stringContaining(`Port ${port} cannot be listened on: another program listens there`),
      ]);
    });
  });
});
