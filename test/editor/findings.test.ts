import { afterAll, afterEach, beforeAll, describe, expect, test } from '@jest/globals';
import { EditorClient } from '../support/editor-client.js';
import { TestFolder } from '../support/project.js';

const newsletter = 'messages/may-newsletter.html';
const notice = 'messages/branch-notice.md';

let folder: TestFolder;
let editor: EditorClient;

/** An editor in a copy of the sample project, with some documents open. */
async function openDemo(...names: readonly string[]): Promise<void> {
  folder = TestFolder.demoProject();
  editor = await EditorClient.start(folder.path);
  for (const name of names) await editor.open(name);
}

async function close(): Promise<void> {
  expect(await editor.stop()).toBe(0);
  expect(editor.errors).toBe('');
  folder.remove();
}

describe('what is wrong with a document, while it is typed', () => {
  beforeAll(() => openDemo(newsletter, notice));
  afterAll(close);
  afterEach(async () => {
    for (const name of [newsletter, notice]) await editor.set(name, folder.read(name));
    await editor.settled(newsletter);
    expect(editor.all()).toEqual({});
  });

  test('nothing is wrong with the sample project', async () => {
    await editor.settled(newsletter);
    expect(editor.all()).toEqual({});
  });

  const last = '<p>No need to book: just come, and wait your turn with a biscuit.</p>';

  test.each<[what: string, name: string, written: string, by: string, found: string[]]>([
    ['a build value', newsletter, '${tool.name}', '${tool.nmae}', ['46:32-46:41 error unknown-build-value']],
    ['a merge field', newsletter, last, '<p>@{frist_name}</p>', ['37:14-37:24 error unknown-field']],
    [
      'a part',
      newsletter,
      '<house-sign>',
      '<house-sing>',
      ['17:7-17:19 error unclosed-tag', '17:19-17:32 error stray-end-tag'],
    ],
    [
      'a value of a part',
      newsletter,
      'heading=',
      'headng=',
      ['20:9-20:35 error part-value-unknown', '19:7-25:8 error part-value-missing'],
    ],
    ['a declaration', newsletter, 'padding-top: 24px', 'paddin-top: 24px', ['29:36-29:52 warning css-ignored']],
    [
      'a picture',
      newsletter,
      last,
      '<p><img src="../images/sign.png" width="20"></p>',
      ['37:12-37:53 warning alt-missing'],
    ],
    [
      'a link',
      newsletter,
      'https://alderlane.example/repair-day',
      'htp://alderlane.example',
      ['31:161-31:191 error link-scheme-unknown'],
    ],
    ['a data file', newsletter, '../data/tools.yaml', '../data/tool.yaml', ['11:23-11:50 error data-missing']],
    [
      'a style sheet',
      newsletter,
      '../styles/house.css',
      '../styles/hose.css',
      ['12:28-12:53 error style-sheet-missing'],
    ],
    ['a frame', notice, 'frame: letterhead', 'frame: leterhead', ['6:8-6:17 error unknown-frame']],
    ['a value in Markdown', notice, '**${street}**', '**${stret}**', ['15:35-15:40 error unknown-build-value']],
    ['Markdown without its front matter', notice, '---\nsubject', 'subject', ['1:1-1:40 error front-matter-missing']],
  ])('%s', async (_, name, written, by, found) => {
    await editor.replace(name, written, by);
    expect(await editor.findings(name)).toEqual(found.sort());
  });

  test('a finding says what to do, and where a part was used', async () => {
    await editor.replace(newsletter, 'photo="${tool.photo}"', 'photo=""');
    await editor.settled(newsletter);
    expect(Object.keys(editor.all())).toEqual(['parts/tool-card.html']);
    const [item] = editor.diagnosticsOf('parts/tool-card.html');
    expect(item).toMatchObject({
      code: 'picture-no-source',
      source: 'inscriba',
      message: 'This picture names no file\nGive it src="…" with a path.',
      relatedInformation: [{ message: 'used here', location: { range: { start: { line: 45, character: 12 } } } }],
    });
    expect(item?.relatedInformation?.[0]?.location.uri).toMatch(/messages\/may-newsletter\.html$/);
  });

  // Two mistakes that have nothing to do with what is being typed behind them are told all the while.
  const planted = '<p><img src="../images/nope.png" alt="x" width="9"> <a href="htp://x.example">the hours</a></p>\n';
  const standing = ['37:22-37:40 error picture-missing', '37:64-37:86 error link-scheme-unknown'];

  test.each<[typed: string, found: string[]]>([
    ['', []],
    ['<', ['38:2-38:2 error markup-broken']],
    ['<div>', ['38:1-38:6 error unclosed-tag']],
    ['</em>', ['38:1-38:6 error stray-end-tag']],
    ['<p', ['29:7-29:55 error unclosed-tag', '39:7-39:7 error markup-broken', '39:9-39:9 error markup-broken']],
    ['${', ['38:1-38:3 error tag-unclosed']],
    ['${tools.}', ['38:9-38:9 error build-syntax']],
    ['${tools | }', ['38:11-38:11 error build-syntax']],
    ['@{', ['38:1-38:3 error tag-unclosed']],
    ['@{if branch}', ['38:1-38:13 error merge-unclosed']],
    ['@{if branch} a', ['38:1-38:13 error merge-unclosed']],
    ['<tool-crad name="x"></tool-crad>', ['38:1-38:21 error unknown-part']],
    ['<tool-card name="x"></tool-card>', ['38:1-38:21 error part-value-missing']],
    ['<p style="float: left">x</p>', ['38:11-38:22 error css-unsupported']],
    ['<template each="tool of">x</template>', ['38:17-38:24 error build-syntax']],
    ['<template if="">x</template>', ['38:15-38:15 error build-syntax']],
    ['<style>p { color: </style>', ['38:12-38:19 error css-syntax', '38:8-38:11 error css-syntax']],
  ])('behind %j nothing is silent', async (typed, found) => {
    await editor.replace(newsletter, last, planted + typed);
    expect(await editor.findings(newsletter)).toEqual([...standing, ...found].sort());
  });

  test('lines that end with CRLF, and characters of two code units', async () => {
    await editor.replace(newsletter, last, '<p>🔨🪚 @{frist_name}</p>');
    await editor.set(newsletter, editor.text(newsletter).replace(/\n/g, '\r\n'));
    expect(await editor.findings(newsletter)).toEqual(['37:19-37:29 error unknown-field']);
    expect((await editor.remedied(newsletter, 'Write first_name')).split('\r\n')[36]).toBe(
      '        <p>🔨🪚 @{first_name}</p>',
    );
    await editor.replace(newsletter, '<p>🔨🪚', '<p><a href="https://a.example/">click</a>🔨🪚');
    expect((await editor.remedied(newsletter, 'Accept link-words-vague here')).replace(/\r\n/g, '')).not.toContain(
      '\n',
    );
    const [item] = await editor.completions(newsletter, '🔨🪚 @{');
    expect(item).toMatchObject({ label: 'first_name', textEdit: { range: { start: { line: 36, character: 56 } } } });
    expect(await editor.hover(newsletter, '${tool.na')).toBe('**tool.name**: Cordless drill\n\nfrom data/tools.yaml');
  });

  test('one tag that is never closed is one finding, though it swallows the rest', async () => {
    const before = editor.text(newsletter);
    await editor.replace(newsletter, '</title>', '');
    expect(await editor.findings(newsletter)).toEqual(['6:5-6:12 error unclosed-tag']);
    await editor.set(newsletter, before);
    await editor.replace(newsletter, '<house-footer></house-footer>', '<house-footr></house-footr>');
    expect(await editor.findings(newsletter)).toEqual(['51:7-51:20 error unknown-part']);
    await editor.set(newsletter, '');
    expect(await editor.findings(newsletter)).toEqual(['1:1-1:1 error file-empty']);
    await editor.set(newsletter, before);
    expect(await editor.findings(newsletter)).toEqual([]);
  });
});

describe('files that messages are made of', () => {
  beforeAll(() => openDemo());
  afterAll(close);

  test.each<[name: string, written: string, by: string, found: string[]]>([
    [
      'parts/tool-card.html',
      '<strong>${name}</strong>',
      '<strong>${nmae}</strong>',
      ['5:31-5:35 error unknown-build-value'],
    ],
    ['parts/tool-card.html', 'alt="${name}"', '', ['4:69-4:90 warning alt-missing']],
    [
      'frames/letterhead.html',
      '<house-footer>',
      '<house-footr>',
      ['15:7-15:20 error unclosed-tag', '15:20-15:35 error stray-end-tag'],
    ],
    ['styles/newsletter.css', '.head {', '.head { colr: red;', ['1:9-1:18 warning css-ignored']],
    ['styles/newsletter.css', '.trio {', '.trio { position: absolute;', ['41:9-41:27 error css-unsupported']],
    ['data/tools.yaml', 'tools:', 'tools: [', ['3:3-6:1 error data-syntax']],
    ['data/branches.csv', 'branch,', 'branch,branch,', ['1:1-1:46 error data-syntax']],
    ['inscriba.yaml', 'width: 600', 'widht: 600', ['12:1-12:6 error config-unknown-key']],
    ['inscriba.yaml', 'dialect: bellmoor', 'dialect: belmoor', ['30:14-30:21 error unknown-dialect']],
    ['inscriba.yaml', 'width: 600', 'width: [', ['13:1-13:2 error config-syntax']],
  ])('%s, where %s is %s', async (name, written, by, found) => {
    await editor.open(name);
    expect(await editor.findings(name)).toEqual([]);
    await editor.replace(name, written, by);
    const told = await editor.findings(name);
    await editor.close(name);
    expect(told).toEqual(found.sort());
    // Nothing is open: nothing is told.
    expect(await editor.untilNothing()).toEqual({});
  });

  test('a dialect file is proved by its own samples', async () => {
    const ours = 'dialects/ours.yaml';
    folder.write({
      [ours]: [
        'dialect: ours',
        'title: Ours',
        "delimiters: [{ open: '<<', close: '>>' }]",
        "tags: { field: '<<{name}>>' }",
        'samples:',
        "  - neutral: '@{first_name}'",
        "    written: '<<first>>'",
        '',
      ].join('\n'),
    });
    await editor.open(ours);
    const found = await editor.findings(ours);
    expect(found.length).toBeGreaterThan(0);
    expect(found.every((item) => item.includes(' error '))).toBe(true);
    await editor.replace(ours, 'title: Ours', 'titel: Ours');
    expect((await editor.findings(ours)).some((item) => item.endsWith('config-unknown-key'))).toBe(true);
    await editor.close(ours);
  });
});
