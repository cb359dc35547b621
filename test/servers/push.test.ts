import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { StoredTemplate } from '../../src/standins/platforms/platform-state.js';
import { platformNames, secretOf, TestPlatform } from '../support/platforms.js';
import { pushProject, pushTo } from '../support/push-project.js';
import { repository, type Run, type TestFolder } from '../support/project.js';

let folder: TestFolder;

afterEach(() => folder.remove());

describe.each(platformNames)('the law of a push, at %s', (name) => {
  let platform: TestPlatform;
  let first: Run;

  beforeEach(async () => {
    platform = await TestPlatform.start(name);
    folder = pushProject(name);
    first = await pushTo(folder, platform);
  });

  // Every request and answer is as the documentation of the platform says.
  afterEach(async () => {
    await platform.stop();
    expect(platform.undocumented).toEqual([]);
  });

  const stored = (): StoredTemplate => {
    expect(platform.state.templates).toHaveLength(1);
    return platform.state.templates[0] as StoredTemplate;
  };

  /** What somebody does there. */
  const edit = (change: Partial<StoredTemplate>): void => void platform.state.put({ ...stored(), ...change }, 1);

  test('first makes a template with its pictures, then leaves it alone', async () => {
    expect([first.code, first.err]).toEqual([0, expect.stringMatching(/^created {6}there  repair/)]);
    const { id, name: called, subject, html, text } = stored();
    expect([called, subject]).toEqual(['repair', 'Repair Day at Alder Lane']);
    expect(html).toContain('bring what is broken');
    expect(text).toContain('bring what is broken');
    expect(platform.state.pictures).toHaveLength(name === 'ferrywire' ? 0 : 2);
    platform.asked();
    const second = await pushTo(folder, platform);
    expect([second.code, second.err]).toEqual([0, expect.stringMatching(/^unchanged {4}there  repair/)]);
    expect(platform.asked().writes).toEqual([]);
    expect(stored()).toMatchObject({ id, version: 1 });
  });

  test('updates what it made, and sends the one picture that is new', async () => {
    const { id } = stored();
    platform.asked();
    folder.change('messages/repair.html', 'bring what is broken', 'mend what is broken');
    folder.change('messages/repair.html', 'images/plane.png', 'images/drill.png');
    const run = await pushTo(folder, platform);
    expect([run.code, run.err]).toEqual([0, expect.stringMatching(/^updated {6}there  repair/)]);
    expect(stored()).toMatchObject({ id, version: 2, html: expect.stringContaining('mend what is broken') });
    expect(platform.state.pictures).toHaveLength(name === 'ferrywire' ? 0 : 3);
    const isStore = ['larkfold', 'oxbow', 'tansy'].includes(name);
    expect(platform.asked().writes).toHaveLength(isStore ? 2 : 1);
  });

  test('does not overwrite what somebody changed there, unless it is told to', async () => {
    edit({ html: stored().html.replace('Repair Day', 'Mending Day') });
    const looked = await pushTo(folder, platform);
    expect([looked.code, looked.err]).toEqual([0, expect.stringContaining('warning  push-differs-there')]);
    folder.change('messages/repair.html', 'bring what is broken', 'mend what is broken');
    platform.asked();
    const refused = await pushTo(folder, platform);
    expect([refused.code, refused.err]).toEqual([1, expect.stringContaining('error  push-changed-there')]);
    expect(stored().html).toContain('Mending Day');
    const forced = await pushTo(folder, platform, ['--force']);
    expect([forced.code, stored().html]).toEqual([0, expect.not.stringContaining('Mending Day')]);
    expect((await pushTo(folder, platform)).err).toMatch(/^unchanged/);
  });

  test('does not make anew what somebody deleted there, unless it is told to', async () => {
    platform.state.remove(stored().id);
    const refused = await pushTo(folder, platform);
    expect([refused.code, refused.err]).toEqual([1, expect.stringContaining('error  push-gone')]);
    expect(platform.state.templates).toEqual([]);
    const told = await pushTo(folder, platform, ['--yes']);
    expect([told.code, told.err]).toEqual([0, expect.stringMatching(/^created/)]);
    expect(stored().name).toBe('repair');
  });

  test('tells of a template that was renamed there, and takes a renamed message along', async () => {
    const { id } = stored();
    edit({ name: 'Repair Day, old' });
    expect((await pushTo(folder, platform)).err).toContain('push-differs-there');
    edit({ name: 'repair' });
    folder.write({ 'messages/mending-day.html': folder.read('messages/repair.html') }).delete('messages/repair.html');
    const renamed = await pushTo(folder, platform);
    expect([renamed.code, renamed.err]).toEqual([0, expect.stringMatching(/^updated {6}there  mending-day/)]);
    expect(stored()).toMatchObject({ id, name: 'mending-day' });
    expect(folder.read('deliveries.json')).not.toContain('"repair"');
  });

  test('takes over no template that somebody else made under its name', async () => {
    const { id } = stored();
    folder.delete('deliveries.json');
    // Its own is known again, without a record.
    platform.asked();
    const known = await pushTo(folder, platform);
    expect([known.code, known.err]).toEqual([0, expect.stringMatching(/^found there/)]);
    folder.delete('deliveries.json');
    folder.change('messages/repair.html', 'bring what is broken', 'mend what is broken');
    const refused = await pushTo(folder, platform);
    expect([refused.code, refused.err]).toEqual([1, expect.stringContaining('error  push-name-taken')]);
    expect(stored().version).toBe(1);
    const forced = await pushTo(folder, platform, ['--force']);
    expect([forced.code, stored()]).toEqual([0, expect.objectContaining({ id, version: 2 })]);
  });

  test('makes one template of each edition, and tells of one that is no more', async () => {
    folder.write({ 'data/days.yaml': '- name: may\n- name: june\n' });
    folder.change(
      'messages/repair.html',
      '<meta name="preheader"',
      '<meta name="editions" content="../data/days.yaml"><meta name="preheader"',
    );
    const made = await pushTo(folder, platform);
    expect([made.code, made.err]).toEqual([0, expect.stringContaining('2 created')]);
    expect(made.err).toContain('warning  push-left-over  there has a template of repair,');
    expect(platform.state.templates.map((template) => template.name).sort()).toEqual([
      'repair',
      'repair-june',
      'repair-may',
    ]);
    expect((await pushTo(folder, platform, ['repair/may'])).err).toMatch(/^unchanged {4}there  repair\/may/);
  });

  test('shows every request beforehand, without a secret and without a connection', async () => {
    folder.delete('deliveries.json');
    platform.asked();
    const dry = folder.run(['push', '--dry-run'], { env: { P_URL: 'http://127.0.0.1:9/' } });
    expect([dry.code, dry.err]).toEqual([0, '']);
    expect(dry.out).toMatch(/^# repair to there\n/);
    expect(dry.out).not.toContain(secretOf[name]);
    // What it shows is what a push does.
    const shown = [...dry.out.matchAll(/^([A-Z]+) http:\/\/127\.0\.0\.1:9([^?\s]*)/gm)].map(
      ([, method, path]) => `${method ?? ''} ${path ?? ''}`,
    );
    platform.state.remove(stored().id);
    const lost = platform.seen.length;
    await pushTo(folder, platform);
    const made = platform.seen.slice(lost).map(({ method, path }) => `${method} ${path.replace(/\?.*$/, '')}`);
    const isRead = (line: string): boolean => line.startsWith('GET');
    expect(shown.filter((line) => !isRead(line) && !/\/(?:pictures|images)$/.test(line))).toEqual(
      made.filter((line) => !isRead(line)),
    );
    expect(existsSync(`${folder.path}/.deliveries.lock`)).toBe(false);
  });
});

describe('several messages and platforms', () => {
  let platform: TestPlatform;
  beforeAll(async () => {
    platform = await TestPlatform.start('oxbow');
  });
  afterAll(() => platform.stop());

  test('what fails stops nothing else, and says what to do', async () => {
    folder = pushProject('oxbow');
    const html = folder.read('messages/repair.html');
    folder.write({
      'messages/a-bad.html': html.replace(/<p>@\{sender[^]*<\/p>/, ''),
      'messages/b-untitled.html': html.replace(/<title>.*<\/title>/, '<title></title>'),
    });
    const run = await pushTo(folder, platform);
    expect(run.code).toBe(1);
    expect(run.err).toMatch(/not pushed {3}there  a-bad/);
    expect(run.err).toMatch(/created {6}there  repair/);
    expect(platform.state.templates.map(({ name }) => name)).toEqual(['repair']);
  });

  test('the list says what is pushed, and what was broken off', async () => {
    folder = pushProject('oxbow').change('messages/repair.html', '<p>Hello', '<p>Later: hello');
    const state = (): string => folder.run(['list']).out;
    expect(state()).toContain('there: not built, not pushed');
    await pushTo(folder, platform, ['--force']);
    expect(state()).toContain('there: not built, pushed');
    folder.change('deliveries.json', '"sent":', '"pending":"1","sent":');
    expect(state()).toContain('there: not built, interrupted');
  });

  test('attachments that an interface does not take are told', async () => {
    folder = pushProject('oxbow').write({ 'images/plan.pdf': '%PDF-1.4' });
    folder.change(
      'messages/repair.html',
      '<meta name="preheader"',
      '<meta name="attachment" content="../images/plan.pdf"><meta name="preheader"',
    );
    const run = await pushTo(folder, platform, ['--force']);
    expect([run.code, run.err]).toEqual([0, expect.stringContaining('warning  push-attachments')]);
  });

  test('a dry run shows what would go to a server of one’s own, and needs no password', () => {
    folder = pushProject('ferrywire').change(
      'inscriba.yaml',
      'base_url: https://img.alderlane.example/',
      "base_url: https://img.alderlane.example/, upload: { kind: webdav, url: 'https://files.alderlane.example/', user: desk, password: '${env.UPLOAD_KEY}' }",
    );
    const run = folder.run(['push', '--dry-run'], { env: { P_URL: 'http://127.0.0.1:9/' } });
    expect([run.code, run.err]).toEqual([0, '']);
    expect(run.out).toMatch(/^MKCOL https:\/\/files\.alderlane\.example\/repair\/$/m);
    expect(run.out.match(/^PUT https:\/\/files\.alderlane\.example\/repair\/\w+-[\da-f]{8}\.png$/gm)).toHaveLength(2);
  });
});

test.each([
  ['tansy', /<div class="tansy-edit" id="news">/, { blocks: ['news'] }],
  ['gannetry', /gn-block="news" gn-again/, { editable: expect.stringContaining('"name":"news"') }],
])('what may be edited arrives at %s', async (name, mark, details) => {
  const platform = await TestPlatform.start(name);
  const repeats = name === 'gannetry' ? ' region-repeat' : '';
  folder = pushProject(name).change(
    'messages/repair.html',
    '<p>Hello',
    `<div region="news"${repeats}><p>New saws.</p></div><p>Hello`,
  );
  const run = await pushTo(folder, platform);
  await platform.stop();
  expect([run.code, platform.state.templates[0]]).toEqual([
    0,
    expect.objectContaining({ html: expect.stringMatching(mark), details: expect.objectContaining(details) }),
  ]);
});

describe('a dialect file that describes an interface', () => {
  const check = (from: string, to: string): Run => {
    folder = pushProject('tansy');
    folder.write({ 'dialects/tansy.yaml': readFileSync(join(repository, 'dialects/tansy.yaml')) });
    return folder.change('dialects/tansy.yaml', from, to).run(['dialect', 'check', 'tansy']);
  };

  test.each([
    [
      'a value that there is not',
      '${message.subject}',
      '${message.subjekt}',
      'push-name  No value is called message.subjekt here',
      'Did you mean "message.subject"?',
    ],
    [
      'a picture in a template',
      'words: ${text}',
      'words: ${picture.name}',
      'push-name  No value is called picture.name here',
      '',
    ],
    ['a pointer that is none', '/stamp', 'stamp', 'config-wrong-type', 'a JSON Pointer'],
    ['a method that is none', 'PUT /pages', 'PUSH /pages', 'config-wrong-type', 'a method and a path'],
    [
      'another request than was recorded',
      'label: ${message.name}',
      'name: ${message.name}',
      'exchange-request',
      '"name":"repair-day"',
    ],
    [
      'another answer than was recorded',
      'error: { message: /reason }',
      'error: { message: /why }',
      'exchange-taken',
      'no sentence',
    ],
  ])('%s is found at its place', (_name, from, to, said, more) => {
    const run = check(from, to);
    expect(run.code).toBeGreaterThan(0);
    expect(run.err).toMatch(/^dialects\/tansy\.yaml:\d+:\d+ {2}error {2}/);
    expect(run.err).toContain(said);
    expect(run.err).toContain(more);
  });
});
