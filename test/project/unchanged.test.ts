import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { TestFolder } from '../support/project.js';

let folder: TestFolder;

const page = (body: string): string =>
  `<!doctype html><html lang="en"><head><title>A</title><link rel="stylesheet" href="../styles/own.css"></head><body>${body}</body></html>`;

beforeEach(() => {
  folder = new TestFolder().write({
    'inscriba.yaml': `name: P
sender: { name: P, address: p@p.example }
fields: { first: { sample: Ann } }
destinations:
  plain: { dialect: neutral }
  other: { dialect: neutral }
`,
    'styles/own.css': 'p { color: #223; }',
    'parts/own-card.html': '<template accepts="text"><p>Card</p></template>',
    'messages/one.html': page('<own-card text="x"></own-card>'),
    'messages/two.html': page('<p>Two</p>'),
  });
});
afterEach(() => folder.remove());

/** Builds, and returns what is said; nothing may be wrong. */
function build(...words: readonly string[]): string[] {
  const { code, err } = folder.run(['build', ...words]);
  expect([code, err]).toEqual([0, expect.any(String)]);
  return err.trimEnd().split('\n');
}

/** The outputs that a build names, and its last line. */
function built(...words: readonly string[]): string[] {
  return build(...words).map((line) => /^\w+: \w+(?= {2})/.exec(line)?.[0] ?? line);
}

describe('a build of what has been built', () => {
  test('is the same as before', () => {
    expect(built()).toEqual(['plain: one', 'other: one', 'plain: two', 'other: two']);
    expect(built()).toEqual(['unchanged: 4']);
    expect(built('two')).toEqual(['unchanged: 2']);
    expect(built('--to', 'other')).toEqual(['unchanged: 2']);
    expect(folder.run(['build', '--quiet']).err).toBe('');
  });

  test('with --fresh builds all', () => {
    build();
    expect(built('--fresh')).toEqual(['plain: one', 'other: one', 'plain: two', 'other: two']);
  });

  test.each([
    ['its own text', 'messages/two.html', page('<p>Changed</p>'), ['plain: two', 'other: two', 'unchanged: 2']],
    [
      'a part',
      'parts/own-card.html',
      '<template accepts="text"><p>New</p></template>',
      ['plain: one', 'other: one', 'unchanged: 2'],
    ],
    ['a style sheet', 'styles/own.css', 'p { color: #900; }', ['plain: one', 'other: one', 'plain: two', 'other: two']],
    [
      'what was looked for in vain',
      'messages/two.txt',
      'Two, in words\n',
      ['plain: two', 'other: two', 'unchanged: 2'],
    ],
    [
      'the names of parts',
      'parts/new-part.html',
      '<p>New</p>',
      ['plain: one', 'other: one', 'plain: two', 'other: two'],
    ],
  ])('builds what a change of %s touches', (_, path, text, expected) => {
    build();
    folder.write({ [path]: text });
    expect(built()).toEqual(expected);
    expect(built()).toEqual(['unchanged: 4']);
  });

  test('builds again what somebody has changed, removed or left half in the outputs', () => {
    build();
    folder.write({ 'out/plain/one/index.html': 'mine' });
    expect(built()).toEqual(['plain: one', 'unchanged: 3']);
    expect(folder.read('out/plain/one/index.html')).toContain('Card');
    folder.write({ 'out/other/two/index.txt': folder.read('out/other/two/index.txt').toUpperCase() });
    expect(built()).toEqual(['other: two', 'unchanged: 3']);
  });

  test('knows outputs that were copied by what is in them', () => {
    build();
    const path = join(folder.path, 'out/plain/one/index.html');
    writeFileSync(path, readFileSync(path));
    expect(built()).toEqual(['unchanged: 4']);
  });

  test('throws away a record that is damaged, and one of another version', () => {
    build();
    const record = folder.read('out/.record/one.json');
    folder.write({ 'out/.record/one.json': record.slice(0, -40), 'out/.record/two.json': 'no record' });
    expect(built()).toEqual(['plain: one', 'other: one', 'plain: two', 'other: two']);
    folder.write({ 'out/.record/one.json': record.replace('"format":1', '"format":9') });
    expect(built()).toEqual(['plain: one', 'other: one', 'unchanged: 2']);
  });

  test('says again what it said, where it is written', () => {
    folder.write({ 'messages/two.html': page('<p style="colour: red">Two</p>') });
    const said = folder.run(['build', 'two']);
    expect(said.err).toContain('messages/two.html:1:');
    const again = folder.run(['build', 'two']);
    expect(again.code).toBe(said.code);
    expect(again.err.slice(again.err.indexOf('\n\n'))).toBe(said.err.slice(said.err.indexOf('\n\n')));
    expect(again.err).toMatch(/^unchanged: 2\n/);
  });

  test('does not keep what could not be built', () => {
    folder.write({ 'messages/two.html': page('<p>${missing}</p>') });
    expect(folder.run(['build']).code).toBe(1);
    expect(readdirSync(join(folder.path, 'out/.record'))).toEqual(['one.json']);
    const { code, err } = folder.run(['build']);
    expect(code).toBe(1);
    expect(err).toContain('unchanged: 2\n');
    expect(err).toContain('missing');
  });

  test('takes the text of a row that changed, and removes the edition of a row that is gone', () => {
    const rows = (...names: string[]): string => `branch\n${names.join('\n')}\n`;
    folder.write({
      'data/rows.csv': rows('mill', 'yard'),
      'messages/two.html': page('<p>${branch}</p>').replace(
        '<title>',
        '<meta name="editions" content="../data/rows.csv"><title>',
      ),
    });
    build();
    expect(existsSync(join(folder.path, 'out/plain/two/yard/index.html'))).toBe(true);
    folder.write({ 'data/rows.csv': rows('mill') });
    expect(built('two')).toEqual(['plain: two', 'other: two']);
    expect(existsSync(join(folder.path, 'out/plain/two/yard'))).toBe(false);
  });
});

describe('pack', () => {
  test('packs what is built once, and a build leaves its package', () => {
    build();
    const pack = (...words: string[]): string => folder.run(['pack', '--to', 'plain', '--shape', 'zip', ...words]).err;
    expect(pack()).toContain('out/plain/one.zip');
    expect(pack()).toBe('unchanged: 2\n');
    expect(built()).toEqual(['unchanged: 4']);
    expect(existsSync(join(folder.path, 'out/plain/one.zip'))).toBe(true);
    expect(pack('--fresh')).toContain('out/plain/one.zip');
  });
});

describe('many messages', () => {
  const names = Array.from({ length: 24 }, (_, index) => `m${String(index).padStart(2, '0')}`);

  test('are shared among the cores, and come in the order of their names', () => {
    folder.write(Object.fromEntries(names.map((name) => [`messages/${name}.html`, page(`<p>${name}</p>`)])));
    const lines = built('--to', 'plain');
    expect(lines).toEqual([...names, 'one', 'two'].map((name) => `plain: ${name}`));
    for (const name of names) expect(folder.read(`out/plain/${name}/index.txt`)).toBe(`${name}\n`);
  });

  test('with errors in some: findings in the same order, the others are built', () => {
    folder.write(
      Object.fromEntries(
        names.map((name, index) => [`messages/${name}.html`, page(`<p>${index % 5 === 0 ? '${missing}' : name}</p>`)]),
      ),
    );
    const { code, err } = folder.run(['build', '--to', 'plain']);
    expect(code).toBe(1);
    const places = [...err.matchAll(/^messages\/(m\d\d)\.html:1:/gm)].map((match) => match[1]);
    expect(places).toEqual(['m00', 'm05', 'm10', 'm15', 'm20']);
    expect(folder.read('out/plain/m01/index.txt')).toBe('m01\n');
    expect(existsSync(join(folder.path, 'out/plain/m00'))).toBe(false);
  });
});
