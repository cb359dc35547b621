import { mkdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, test } from '@jest/globals';
import { EditorClient } from '../support/editor-client.js';
import { TestFolder } from '../support/project.js';

let folder: TestFolder;
let editor: EditorClient;

const page = (body: string): string =>
  `<!doctype html>\n<html lang="en">\n<head><title>Hours</title><meta name="preheader" content="From Monday on, the shed opens an hour longer"></head>\n<body><h1>Hours</h1>\n${body}\n<p>Alder Lane Tool Library, 14 Alder Lane, Harrowby. <a href="@{link.unsubscribe}">Leave the list</a></p></body>\n</html>\n`;

const config = `name: Shed
sender: { name: Shed, address: desk@shed.example, postal_address: '14 Alder Lane, Harrowby' }
fields:
  first_name: { sample: Ines, fallback: neighbour }
destinations:
  archive: { dialect: neutral }
`;

beforeEach(async () => {
  folder = new TestFolder();
  folder.write({ 'a/inscriba.yaml': config, 'a/messages/hours.html': page('<p>Hello @{first_name}.</p>') });
  editor = await EditorClient.start(folder.path);
});

afterEach(async () => {
  expect(await editor.stop()).toBe(0);
  expect(editor.errors).toBe('');
  folder.remove();
});

const hours = 'a/messages/hours.html';

test('a file outside of projects is left alone, and so is what no message is made of', async () => {
  folder.write({ 'page.html': '<p><img src=x>', 'a/notes/page.html': '<p><img src=x>', 'a/out/x/index.html': '<p>' });
  for (const name of ['page.html', 'a/notes/page.html', 'a/out/x/index.html']) {
    await editor.open(name);
    await editor.settled(name);
    expect(await editor.completions(name, '<p')).toEqual([]);
    expect(await editor.hover(name, '<p')).toBeNull();
    expect(await editor.outline(name)).toEqual([]);
  }
  await editor.open('untitled.html', '<p>');
  expect(editor.all()).toEqual({});
});

test('a message, a part and a style sheet that have not been saved', async () => {
  await editor.open('a/messages/new.html', page('<p>Hello @{frist_name}.</p>'));
  expect(await editor.findings('a/messages/new.html')).toEqual(['5:12-5:22 error unknown-field']);
  await editor.open('a/parts/house-sign.html', '<template accepts="name"><p>${nmae}</p></template>');
  expect(await editor.findings('a/parts/house-sign.html')).toEqual([]);
  await editor.set('a/messages/new.html', page('<house-sign name="x"></house-sign>'));
  expect(await editor.findings('a/messages/new.html')).toEqual([]);
  expect(await editor.findings('a/parts/house-sign.html')).toEqual(['1:31-1:35 error unknown-build-value']);
  expect(await editor.definitions('a/messages/new.html', '<house-sign na')).toEqual(['a/parts/house-sign.html:1:20']);
  // Closed without being saved, it never was.
  await editor.close('a/parts/house-sign.html');
  expect(await editor.findings('a/messages/new.html')).toEqual(['5:1-5:22 error unknown-part']);
  await editor.open('a/styles/house.css', 'p { colr: red }');
  expect(await editor.findings('a/styles/house.css')).toEqual(['1:5-1:15 warning css-ignored']);
});

test('several projects in one workspace, one in another', async () => {
  folder.write({
    'b/inscriba.yaml': config.replace('first_name', 'given_name'),
    'b/messages/hours.html': page('<p>Hello @{first_name}.</p>'),
    'b/inner/inscriba.yaml': config,
    'b/inner/messages/hours.html': page('<p>Hello @{given_name}.</p>'),
  });
  for (const name of ['a', 'b', 'b/inner']) await editor.open(`${name}/messages/hours.html`);
  for (const name of ['a', 'b', 'b/inner']) await editor.settled(`${name}/messages/hours.html`);
  expect(editor.all()).toEqual({
    'b/inner/messages/hours.html': ['5:12-5:22 error unknown-field'],
    'b/messages/hours.html': ['5:12-5:22 error unknown-field'],
  });
  const names = async (name: string): Promise<string[]> =>
    (await editor.completions(name, 'Hello @{')).map(({ label }) => label).slice(0, 1);
  expect(await names('a/messages/hours.html')).toEqual(['first_name']);
  expect(await names('b/messages/hours.html')).toEqual(['given_name']);
  expect(await editor.references('b/messages/hours.html', '@{link.un')).toEqual(['b/messages/hours.html:6:70']);
});

test('a project whose configuration is broken', async () => {
  folder.write({ 'a/inscriba.yaml': `${config}widht: 600\n` });
  await editor.open(hours);
  await editor.open('a/inscriba.yaml');
  await editor.set(hours, page('<p>Hello @{first_name}. <b>${</p>'));
  await editor.settled(hours);
  expect(editor.all()).toEqual({
    'a/inscriba.yaml': ['7:1-7:6 error config-unknown-key'],
    // What needs no configuration is told all the same.
    [hours]: ['5:25-5:28 error unclosed-tag', '5:28-5:30 error tag-unclosed'],
  });
  expect((await editor.completions(hours, 'Hello @{')).map(({ label }) => label)).toContain('first_name');
  await editor.replace('a/inscriba.yaml', 'widht', 'width');
  await editor.set(hours, page('<p>Hello @{frist_name}.</p>'));
  await editor.settled(hours);
  expect(editor.all()).toEqual({ [hours]: ['5:12-5:22 error unknown-field'] });
  await editor.set('a/inscriba.yaml', 'fields: {');
  await editor.settled(hours);
  expect(Object.keys(editor.all())).toEqual(['a/inscriba.yaml']);
});

test('what changes on the disk beside the editor', async () => {
  folder.write({ 'a/parts/house-sign.html': '<template><p>The shed</p></template>' });
  await editor.open(hours, page('<house-sign></house-sign>'));
  expect(await editor.findings(hours)).toEqual([]);
  folder.write({ 'a/parts/house-sign.html': '<template accepts="name"><p>${name}</p></template>' });
  await expectSoon(() => editor.findings(hours), ['5:1-5:13 error part-value-missing']);
  rmSync(join(folder.path, 'a/parts/house-sign.html'));
  await expectSoon(() => editor.findings(hours), ['5:1-5:13 error unknown-part']);
  folder.write({ 'a/inscriba.yaml': config.replace('neutral', 'belmoor') });
  await expectSoon(() => editor.findings(hours), ['5:1-5:13 error unknown-part']);
  // What is open counts as it is there: what another program makes of it on the disk changes nothing.
  folder.write({ 'a/inscriba.yaml': config, [hours]: page('<house-sgin></house-sgin>') });
  await new Promise((resolve) => setTimeout(resolve, 300));
  expect(await editor.findings(hours)).toEqual(['5:1-5:13 error unknown-part']);
  mkdirSync(join(folder.path, 'c/messages'), { recursive: true });
  await editor.open('c/messages/later.html', page('<p>@{frist_name}</p>'));
  await editor.settled('c/messages/later.html');
  expect(editor.told('c/messages/later.html')).toEqual([]);
  // A project comes to be around what is open already.
  folder.write({ 'c/inscriba.yaml': config });
  await editor.saved('c/messages/later.html');
  expect(await editor.findings('c/messages/later.html')).toEqual(['5:6-5:16 error unknown-field']);
});

/** Waits until an answer is what is expected: who watches the disk hears of it a moment later. */
async function expectSoon(ask: () => Promise<string[]>, expected: readonly string[]): Promise<void> {
  for (let left = 60; left > 0 && JSON.stringify(await ask()) !== JSON.stringify(expected); left -= 1)
    await new Promise((resolve) => setTimeout(resolve, 50));
  expect(await ask()).toEqual(expected);
}
