import { afterAll, afterEach, beforeAll, describe, expect, test } from '@jest/globals';
import { spawnSync } from 'node:child_process';
import { readdirSync, readFileSync, statSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import sharp from 'sharp';
import { platformNames, secretOf, TestPlatform } from '../support/platforms.js';
import { environmentOf, pushProject, pushTo } from '../support/push-project.js';
import type { TestFolder } from '../support/project.js';
import { Random } from '../support/random.js';

let folder: TestFolder;

afterEach(() => folder.remove());

/** A platform that answers every request alike. */
class RudePlatform {
  count = 0;
  status = 200;
  body = '';
  headers: Record<string, string> = {};
  private constructor(private readonly server: Server) {}

  static async start(): Promise<RudePlatform> {
    let platform: RudePlatform | null = null;
    const server = createServer((request, response) => {
      if (platform === null) return;
      platform.count += 1;
      request.resume();
      const echoed = platform.body.replaceAll('{headers}', JSON.stringify(request.headers).replaceAll('"', '\\"'));
      response.writeHead(platform.status, { 'content-type': 'application/json', ...platform.headers }).end(echoed);
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    platform = new RudePlatform(server);
    return platform;
  }

  get address(): string {
    return `http://127.0.0.1:${(this.server.address() as AddressInfo).port}/`;
  }

  stop(): Promise<void> {
    this.server.closeAllConnections();
    return new Promise((resolve) => this.server.close(() => resolve()));
  }
}

describe('what a platform refuses', () => {
  let rude: RudePlatform;
  beforeAll(async () => {
    rude = await RudePlatform.start();
  });
  afterAll(() => rude.stop());

  const says = (sentence: string): string => JSON.stringify({ problem: { says: sentence } });

  test.each([
    [401, says('No such key.'), 'push-login', 'does not let you in: No such key. (401)', 1],
    [403, says('Read only.'), 'push-right', 'does not allow', 1],
    [413, says('Too big.'), 'push-heavy', 'Too big. (413)', 1],
    [422, says('No footer.'), 'push-refused', 'No footer. (422)', 1],
    [400, '<html>oops</html>', 'push-refused', 'it answers 400', 1],
    [429, says('Slower.'), 'push-busy', 'Slower. (429)', 5],
    [503, 'Back soon.', 'push-failed', 'Back soon. (503)', 5],
    [302, '', 'push-answer', 'it sends on to', 1],
    [200, '<html>', 'push-answer', 'it is no JSON', 5],
    [200, '{"mailings": 3}', 'push-answer', '/mailings holds the number 3, and no list', 1],
    [200, '{"mailings": [{"name": "repair"}]}', 'push-answer', '/number holds nothing', 1],
  ])(
    '%s %s is told as %s',
    async (status, body, code, sentence, count) => {
      Object.assign(rude, { status, body, count: 0, headers: { 'retry-after': '0' } });
      folder = pushProject('bellmoor');
      const run = await folder.runBeside(['push'], environmentOf('bellmoor', rude.address));
      expect([run.code, run.err]).toEqual([3, expect.stringContaining(`error  ${code}`)]);
      expect(run.err).toContain(sentence);
      expect(rude.count).toBe(count);
      expect(run.err).toContain('\n1 not pushed.');
    },
    20_000,
  );

  test('nobody is there, and nothing more is tried there', async () => {
    folder = pushProject('bellmoor');
    folder.write({ 'messages/second.html': folder.read('messages/repair.html') });
    const run = await folder.runBeside(['push'], environmentOf('bellmoor', 'http://127.0.0.1:9/'));
    expect([run.code, run.err]).toEqual([
      3,
      expect.stringContaining('127.0.0.1:9 cannot be reached: nothing listens there'),
    ]);
    expect(run.err.match(/^error /gm)).toHaveLength(1);
    expect(run.err).toContain('2 not pushed.');
  });

  test.each(platformNames)('the secret of %s stands nowhere, not even where the platform repeats it', async (name) => {
    const secret = secretOf[name] ?? '';
    Object.assign(rude, {
      status: 422,
      body: '{"problem":{"says":"{headers}"},"errors":[{"detail":"{headers}"}],"message":"{headers}","error_description":"{headers}","reason":"{headers}","faults":{"all":["{headers}"]}}',
      headers: {},
    });
    folder = pushProject(name);
    const run = await folder.runBeside(['push'], environmentOf(name, rude.address));
    expect(run.code).toBe(3);
    expect(run.err).toContain('•••');
    const files = readdirSync(folder.path, { recursive: true, encoding: 'utf8' })
      .map((path) => join(folder.path, path))
      .filter((path) => statSync(path).isFile());
    for (const text of [run.out, run.err, ...files.map((path) => readFileSync(path, 'latin1'))]) {
      expect(text).not.toContain(secret);
      expect(text).not.toContain(Buffer.from(secret).toString('base64').slice(0, 12));
      expect(text).not.toContain(Buffer.from(`desk@alderlane.example:${secret}`).toString('base64').slice(-12));
    }
  });
});

describe('what the simulated platforms refuse', () => {
  let platform: TestPlatform;
  afterEach(() => platform.stop());

  test('a token without the scope', async () => {
    platform = await TestPlatform.start('ferrywire');
    folder = pushProject('ferrywire');
    const run = await folder.runBeside(['push'], { P_URL: platform.address, P_SECRET: 'ferrywire-token-for-reading' });
    expect([run.code, run.err]).toEqual([
      3,
      expect.stringContaining('does not allow repair: This token lacks the scope templates:write. (403)'),
    ]);
  });

  test('a picture that is too heavy', async () => {
    platform = await TestPlatform.start('tansy');
    folder = pushProject('tansy');
    const random = new Random(1);
    const noise = Buffer.from(Array.from({ length: 400 * 400 * 3 }, () => random.below(256)));
    const raw = { width: 400, height: 400, channels: 3 } as const;
    folder.write({ 'images/sign.png': await sharp(noise, { raw }).png().toBuffer() });
    const run = await pushTo(folder, platform);
    expect([run.code, run.err]).toEqual([
      3,
      expect.stringMatching(/finds the picture sign-\w+\.png too heavy: No picture may be heavier/),
    ]);
    expect(platform.state.templates).toEqual([]);
  });

  test('a token that has run out is renewed on the way', async () => {
    platform = await TestPlatform.start('oxbow');
    folder = pushProject('oxbow');
    const wrong = await folder.runBeside(['push'], { P_URL: platform.address, P_SECRET: 'nonsense' });
    expect([wrong.code, wrong.err]).toEqual([
      3,
      expect.stringContaining('does not let you in: Client or secret is wrong. (401)'),
    ]);
    expect((await pushTo(folder, platform)).code).toBe(0);
  });
});

describe('what a project has to say', () => {
  test.each([
    ['url that is none', "url: '${env.P_URL}'", 'url: nonsense', 'error  address-wrong'],
    [
      'no account',
      'account: alder-lane, ',
      '',
      'error  push-setting-missing  there needs account: the number of the account',
    ],
    ['a setting that there is not', 'account:', 'acount:', 'Did you mean "account"?'],
    ['a secret in the file', "'${env.P_SECRET}'", 'abc', 'error  secret-in-file'],
    ['a dialect without an interface', 'dialect: bellmoor', 'dialect: mustache', 'error  push-undescribed'],
    [
      'pictures that travel otherwise',
      'dialect: bellmoor,',
      'dialect: bellmoor, images: { mode: attach },',
      'error  push-pictures',
    ],
  ])('%s', (_name, from, to, said) => {
    folder = pushProject('bellmoor').change('inscriba.yaml', from, to);
    const run = folder.run(['push'], { env: environmentOf('bellmoor', 'http://127.0.0.1:9/') });
    expect([run.code, run.err]).toEqual([2, expect.stringContaining(said)]);
  });

  test('a destination that nothing is pushed to, and none at all', () => {
    folder = pushProject('bellmoor').change(
      'inscriba.yaml',
      /, push: .* \}/.exec(pushProject('bellmoor').read('inscriba.yaml'))?.[0] ?? '',
      ' }',
    );
    const named = folder.run(['push', '--to', 'there']);
    expect([named.code, named.err]).toEqual([
      2,
      expect.stringContaining("push: { url: …, account: …, key: '${env.THERE_KEY}' }"),
    ]);
    const none = folder.run(['push']);
    expect([none.code, none.err]).toEqual([2, expect.stringContaining('error  push-nowhere')]);
  });

  test('a variable that is missing is named with its place; a dry run needs no secret', () => {
    folder = pushProject('bellmoor');
    const run = folder.run(['push'], { env: { P_URL: 'http://127.0.0.1:9/' } });
    expect([run.code, run.err]).toEqual([
      2,
      expect.stringMatching(/inscriba\.yaml:\d+:\d+ {2}error {2}environment-missing/),
    ]);
    expect(folder.run(['push', '--dry-run'], { env: { P_URL: 'http://127.0.0.1:9/' } }).out).toContain(
      'X-Bellmoor-Key: <key>',
    );
  });

  test('the number of an account is what is written', () => {
    folder = pushProject('bellmoor').change('inscriba.yaml', 'account: alder-lane', 'account: 0042');
    expect(folder.run(['push', '--dry-run'], { env: { P_URL: 'http://127.0.0.1:9/' } }).out).toContain(
      '/accounts/0042/',
    );
  });

  test('a command that prints the secret', async () => {
    const platform = await TestPlatform.start('bellmoor');
    folder = pushProject('bellmoor').write({ 'keyring.sh': 'echo bellmoor-key-for-trying\n' });
    folder.change('inscriba.yaml', "key: '${env.P_SECRET}'", 'secret_command: sh keyring.sh');
    expect((await folder.runBeside(['push'], { P_URL: platform.address })).code).toBe(0);
    folder.write({ 'keyring.sh': 'echo no entry >&2; exit 3\n' });
    const failed = await folder.runBeside(['push'], { P_URL: platform.address });
    expect([failed.code, failed.err]).toEqual([2, expect.stringContaining('error  secret-command')]);
    await platform.stop();
  });
});

describe('the record of deliveries', () => {
  let platform: TestPlatform;
  beforeAll(async () => {
    platform = await TestPlatform.start('bellmoor');
  });
  afterAll(() => platform.stop());

  test('merges line by line', async () => {
    folder = pushProject('bellmoor');
    const git = (...words: string[]): string => {
      const { stdout, stderr, status } = spawnSync(
        'git',
        ['-c', 'user.name=Desk', '-c', 'user.email=desk@alderlane.example', ...words],
        {
          cwd: folder.path,
          encoding: 'utf8',
        },
      );
      expect([words, status, stderr]).toEqual([words, 0, expect.any(String)]);
      return stdout;
    };
    git('init', '-q', '-b', 'main');
    // The line of docs/push.md.
    folder.write({ '.gitattributes': 'deliveries.json merge=union\n' });
    await pushTo(folder, platform);
    git('add', '-A');
    git('commit', '-qm', 'One.');
    for (const name of ['april', 'may']) {
      git('checkout', '-q', '-b', name, 'main');
      folder.write({ [`messages/${name}.html`]: folder.read('messages/repair.html') });
      expect((await pushTo(folder, platform, [name])).code).toBe(0);
      git('add', '-A');
      git('commit', '-qm', name);
    }
    git('merge', '-q', '-m', 'Both.', 'april');
    const run = await pushTo(folder, platform);
    expect([run.code, run.err.match(/^unchanged/gm)]).toEqual([0, ['unchanged', 'unchanged', 'unchanged']]);
  });

  test('that cannot be read, or is in use, keeps anything from being pushed', async () => {
    folder = pushProject('bellmoor').write({ 'deliveries.json': '[\n<<<<<<< ours\n' });
    const torn = await pushTo(folder, platform);
    expect([torn.code, torn.err]).toEqual([2, expect.stringContaining('it holds the marks of a merge')]);
    folder.write({ 'deliveries.json': '{}' });
    expect((await pushTo(folder, platform)).err).toContain('it is no list');
    folder.delete('deliveries.json').write({ '.deliveries.lock': `${process.pid}\n` });
    const busy = await pushTo(folder, platform);
    expect([busy.code, busy.err]).toEqual([2, expect.stringContaining(`error  push-running`)]);
    // A push that was ended in the middle left its lock there.
    folder.write({ '.deliveries.lock': '999999\n' });
    expect((await pushTo(folder, platform, ['--force'])).code).toBe(0);
  });
});
