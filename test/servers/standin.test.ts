import { afterEach, expect, test } from '@jest/globals';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { TestFolder, type RunningProgram } from '../support/project.js';
import { pushProject } from '../support/push-project.js';

const folders: TestFolder[] = [];

afterEach(() => folders.splice(0).forEach((folder) => folder.remove()));

function made(folder: TestFolder): TestFolder {
  folders.push(folder);
  return folder;
}

const anyPorts = ['--smtp-port', '0', '--page-port', '0', '--image-port', '0', '--platform-port', '0'];

/** Starts stand-ins, and reads what they say a project has to know. */
async function start(
  folder: TestFolder,
  words: readonly string[] = [],
): Promise<{ program: RunningProgram; variables: Record<string, string> }> {
  const program = folder.start(['standin', ...anyPorts, '--env', 'there.env', ...words]);
  await program.says(/Ctrl-C stops\./);
  const lines = folder.read('there.env').trim().split('\n');
  return {
    program,
    variables: Object.fromEntries(lines.map((line) => line.split(/=(.*)/).slice(0, 2) as [string, string])),
  };
}

test('many at once, on free ports; what they were given is there after a restart', async () => {
  const folder = made(new TestFolder());
  const [one, two] = await Promise.all([
    start(folder, ['--state', 'kept', '--only', 'platforms,images']),
    start(made(new TestFolder())),
  ]);
  const project = made(pushProject('larkfold'));
  const { LARKFOLD_URL: url = '', LARKFOLD_PASSWORD: password = '' } = one.variables;
  expect((await project.runBeside(['push'], { P_URL: url, P_SECRET: password })).code).toBe(0);
  expect(await (await fetch(url)).text()).toContain('1 template, 2 pictures');
  // The other ones know nothing of it.
  expect(await (await fetch(two.variables['LARKFOLD_URL'] ?? '')).text()).toContain('There are no templates yet.');
  expect(await Promise.all([one.program.stop(), two.program.stop()])).toEqual([130, 130]);
  expect(existsSync(join(folder.path, 'kept/larkfold/state.json'))).toBe(true);

  const again = await start(folder, ['--state', 'kept', '--only', 'larkfold']);
  const page = await (await fetch(`${again.variables['LARKFOLD_URL'] ?? ''}stored/4`)).text();
  expect(page).toContain('Repair Day at Alder Lane');
  expect(page).toContain('src="/stored/4/shown?for=ines" style="width:390px"');
  const shown = await fetch(`${again.variables['LARKFOLD_URL'] ?? ''}stored/4/shown?for=ines`);
  expect(await shown.text()).toContain('Hello Ines, bring what is broken');
  expect(shown.headers.get('content-security-policy')).toContain("default-src 'none'");
  expect(await again.program.stop()).toBe(130);
}, 40_000);

test('the documentation of each is to be had from it, and a port that is taken is told', async () => {
  const folder = made(new TestFolder());
  const { program, variables } = await start(folder, ['--only', 'oxbow']);
  expect(Object.keys(variables)).toEqual(['OXBOW_URL', 'OXBOW_CLIENT', 'OXBOW_SECRET']);
  const url = variables['OXBOW_URL'] ?? '';
  expect(await (await fetch(`${url}openapi.yaml`)).text()).toContain('/sign-in/token');
  const port = new URL(url).port;
  const taken = folder.runProgram(['standin', '--only', 'tansy', '--platform-port', port]);
  expect([taken.code, taken.err]).toEqual([2, expect.stringContaining(`error  port-taken`)]);
  await program.stop();
  expect(folder.run(['standin', '--only', 'nonsense']).code).toBe(2);
}, 30_000);

test('faults on demand: some answers are wrong, and the same ones with the same seed', async () => {
  const statuses = async (): Promise<string[]> => {
    const { program, variables } = await start(made(new TestFolder()), [
      '--only',
      'tansy',
      '--faults',
      'cut,garbage,fail,busy',
      '--seed',
      '3',
    ]);
    const said: string[] = [];
    for (let count = 0; count < 80; count += 1) {
      // No faster than a platform allows, whatever the faults are: that it refuses by the clock.
      await new Promise((resolve) => setTimeout(resolve, 30));
      const answer = await fetch(`${variables['TANSY_URL'] ?? ''}pages`, {
        headers: { authorization: 'Tansy tansy-key-for-trying', connection: 'close' },
      }).catch(() => null);
      said.push(
        answer === null ? 'cut' : `${answer.status} ${(answer.headers.get('content-type') ?? '').replace(/;.*/, '')}`,
      );
    }
    await program.stop();
    return said;
  };
  const [first, second] = [await statuses(), await statuses()];
  expect(second).toEqual(first);
  expect(new Set(first)).toEqual(
    new Set(['200 application/json', 'cut', '200 text/html', '500 application/json', '429 application/json']),
  );
}, 30_000);

test('a push comes through platforms that fail at random', async () => {
  const { program, variables } = await start(made(new TestFolder()), [
    '--only',
    'gannetry',
    '--faults',
    'cut,garbage,fail,busy',
    '--seed',
    '5',
  ]);
  const project = made(pushProject('gannetry'));
  const env = { P_URL: variables['GANNETRY_URL'] ?? '', P_SECRET: variables['GANNETRY_TOKEN'] ?? '' };
  let last = await project.runBeside(['push'], env);
  for (let count = 0; count < 5 && last.code !== 0; count += 1) last = await project.runBeside(['push'], env);
  expect(last.code).toBe(0);
  expect(await (await fetch(env.P_URL)).text()).toContain('1 template, 2 pictures');
  await program.stop();
}, 40_000);

test('the image host takes pictures over WebDAV from whoever signs in, and shows them to everybody', async () => {
  const folder = made(new TestFolder());
  const { program, variables } = await start(folder, ['--only', 'images', '--state', 'kept']);
  const { IMAGE_HOST: url = '', IMAGE_HOST_USER: user = '', IMAGE_HOST_PASSWORD: password = '' } = variables;
  const authorization = `Basic ${Buffer.from(`${user}:${password}`).toString('base64')}`;
  const ask = async (method: string, path: string, body?: string): Promise<number> =>
    (
      await fetch(`${url}${path}`, {
        method,
        headers: { authorization, connection: 'close' },
        ...(body === undefined ? {} : { body }),
      })
    ).status;
  expect((await fetch(`${url}a.png`, { method: 'PUT', body: 'x' })).status).toBe(401);
  expect([await ask('PUT', 'mail/a.png', 'x'), await ask('MKCOL', 'mail/'), await ask('MKCOL', 'mail/')]).toEqual([
    409, 201, 405,
  ]);
  expect([await ask('PUT', 'mail/a.png', 'x'), await ask('PUT', 'mail/a.png', 'y')]).toEqual([201, 204]);
  const shown = await fetch(`${url}mail/a.png`);
  expect([await shown.text(), shown.headers.get('content-type')]).toEqual(['y', 'image/png']);
  expect([await ask('PUT', '..%2f..%2fout.png', 'x'), existsSync(join(folder.path, 'out.png'))]).toEqual([403, false]);
  const list = await (await fetch(`${url}mail/`, { method: 'PROPFIND', headers: { authorization } })).text();
  expect(list).toContain('<d:href>/mail/a.png</d:href>');
  // Pictures of a message go there as to any other server.
  const demo = TestFolder.demoProject();
  folder.write({ 'page.html': '<p><img src="sign.png" width="240"></p>\n', 'sign.png': demo.bytes('images/sign.png') });
  demo.remove();
  const host = ['images', 'host', 'page.html', '--base-url', url, '--upload', url, '--out', 'hosted.html'];
  const env = { INSCRIBA_UPLOAD_USER: user, INSCRIBA_UPLOAD_PASSWORD: password };
  expect((await folder.runBeside(host, env)).code).toBe(0);
  const [address = ''] = /http[^"]*/.exec(folder.read('hosted.html')) ?? [];
  expect((await fetch(address)).status).toBe(200);
  await program.stop();
}, 30_000);

test.each([
  ['/proc/x/kept', 'there is no such place'],
  ['taken/kept', 'part of the path is no folder'],
  ['taken', 'something else is there'],
])('a folder for what they are given that cannot be there is told at once: %s', async (state, why) => {
  const folder = made(new TestFolder()).write({ taken: 'a file' });
  const { code, err } = await folder.runBeside(['standin', ...anyPorts, '--state', state]);
  expect([code, err.split('\n')[0]]).toEqual([2, `error  file-unwritable  ${state} cannot be written: ${why}`]);
});
