import { afterEach, describe, expect, test } from '@jest/globals';
import { symlinkSync } from 'node:fs';
import { join } from 'node:path';
import { TestFolder } from '../support/project.js';
import { builtText, findingsOf, page, projectOf } from '../support/parts-project.js';

let folder: TestFolder;

afterEach(() => folder.remove());

const card = `<style>.card { padding: 8px; color: #123456 }</style>
<template accepts="name fee='free' note=''">
  <div class="card">
    <h2>\${name}</h2>
    <p>\${fee}<slot>no words</slot></p>
    <slot name="aside"><p>no aside</p></slot>
    <template if="note"><p>\${note}</p></template>
  </div>
</template>
`;

describe('parts', () => {
  test('take values, defaults, content and named slots, also within each other', () => {
    folder = projectOf({
      'parts/tool-card.html': card,
      'parts/two-cards.html': `<template accepts="of"><tool-card name="\${of}"></tool-card><tool-card name="again \${of}" note="@{first_name}"><slot></slot></tool-card></template>`,
      'messages/m.html': page(
        `<tool-card name="Ladder" fee="£2"><b>words</b> of ours<p slot="aside">an aside</p></tool-card>
         <two-cards of="Saw">for @{first_name}</two-cards>`,
      ),
    });
    expect(folder.run(['build', '--quiet']).err).toBe('');
    expect(
      builtText(folder, 'm')
        .replace(/\n-+\n/g, '\n')
        .split('\n\n'),
    ).toEqual([
      'Ladder',
      '£2words of ours',
      'an aside',
      'Saw',
      'freeno words',
      'no aside',
      'again Saw',
      'freefor @{first_name}',
      'no aside',
      '@{first_name}',
    ]);
    const html = folder.read('out/plain/m/index.html');
    expect(html.match(/#123456/g)?.length).toBeGreaterThan(0);
  });

  test('a list is passed as it is, a value without text is true, and what a part does not accept it does not see', () => {
    folder = projectOf({
      'data/d.yaml': 'tools: [a, b]\nsecret: x\n',
      'parts/name-list.html':
        '<template accepts="of loud=\'\'"><p><template each="one of of">${loud ? (one | upper) : one} </template>${secret ?? "unseen"} ${project.name}</p></template>',
      'messages/m.html': page(
        '<name-list of="${tools}" loud></name-list>',
        '<meta name="data" content="../data/d.yaml">',
      ),
    });
    expect(folder.run(['build', '--quiet']).err).toBe('');
    expect(builtText(folder, 'm')).toBe('A B unseen Alder Lane Tool Library');
  });

  test('rows of a table may be parts', () => {
    folder = projectOf({
      'parts/fee-row.html': '<template accepts="what fee"><tr><td>${what}</td><td>${fee}</td></tr></template>',
      'messages/m.html': page(
        '<table><tr><th>What</th><th>Fee</th></tr><template each="n of project"><fee-row what="${n.key}" fee="${n ?? 0}"></fee-row></template></table>',
      ),
    });
    expect(folder.run(['build', '--quiet']).err).toBe('');
    expect(builtText(folder, 'm')).toMatch(
      /^What\s+Fee\nname\s+Alder Lane Tool Library\nwebsite\s+https:\/\/alderlane.example$/,
    );
  });

  test('one change of a part or a style changes every message', () => {
    folder = projectOf({
      'parts/tool-card.html': card,
      'messages/a.html': page('<tool-card name="A"></tool-card>'),
      'messages/b.html': page('<tool-card name="B"></tool-card>'),
    });
    folder.run(['build']);
    folder.change('parts/tool-card.html', 'no words', 'few words').change('parts/tool-card.html', '#123456', '#654321');
    folder.run(['build']);
    for (const name of ['a', 'b']) {
      expect(builtText(folder, name)).toContain('few words');
      expect(folder.read(`out/plain/${name}/index.html`)).toContain('#654321');
    }
  });
});

type Mistake = [name: string, use: string, part: string, findings: string[], fix: string];

const mistakes: Mistake[] = [
  [
    'an unknown part',
    '<tol-card name="x"></tol-card>',
    card,
    ['messages/m.html:3:1 unknown-part'],
    'Did you mean <tool-card>?',
  ],
  [
    'a missing value',
    '<tool-card></tool-card>',
    card,
    ['messages/m.html:3:1 part-value-missing'],
    '<tool-card name="…">',
  ],
  [
    'an unknown value',
    '<tool-card name="x" fe="1"></tool-card>',
    card,
    ['messages/m.html:3:21 part-value-unknown'],
    'Did you mean "fee"?',
  ],
  [
    'an unknown slot',
    '<tool-card name="x"><p slot="asid">y</p></tool-card>',
    card,
    ['messages/m.html:3:21 slot-unknown'],
    'Did you mean "aside"?',
  ],
  [
    'content without a slot',
    '<tool-card>words</tool-card>',
    '<template><p>x</p></template>',
    ['messages/m.html:3:1 part-no-slot'],
    'Put a <slot></slot>',
  ],
  [
    'a file without a part',
    '<tool-card></tool-card>',
    '<p>x</p>',
    ['parts/tool-card.html:1:1 part-empty'],
    '<template accepts="…">',
  ],
  [
    'something beside the part',
    '<tool-card></tool-card>',
    '<template><p>x</p></template>\n<p>y</p>',
    ['parts/tool-card.html:2:1 part-besides'],
    'Put it into the <template>',
  ],
  [
    'an accepted value twice',
    '<tool-card a="1"></tool-card>',
    '<template accepts="a a"><p>x</p></template>',
    ['parts/tool-card.html:1:11 part-accepts'],
    'each once',
  ],
  [
    'an unreadable list of values',
    '<tool-card></tool-card>',
    '<template accepts="=a"><p>x</p></template>',
    ['parts/tool-card.html:1:11 part-accepts'],
    'Write names',
  ],
  [
    'an unclosed tag in a part',
    '<tool-card></tool-card>',
    '<template>\n<p><b>x</p></template>',
    ['parts/tool-card.html:2:4 unclosed-tag'],
    'Close it with </b>',
  ],
  [
    'an unknown value in a part',
    '<tool-card></tool-card>',
    '<template><p>${nme}</p></template>',
    ['parts/tool-card.html:1:16 unknown-build-value'],
    'Known are',
  ],
  [
    'a wrong style in a part',
    '<tool-card></tool-card>',
    '<style>p { float: left }</style>\n<template><p>x</p></template>',
    ['parts/tool-card.html:1:12 css-unsupported'],
    '',
  ],
  [
    'a part that uses itself',
    '<tool-card></tool-card>',
    '<template><tool-card></tool-card></template>',
    ['parts/tool-card.html:1:11 part-cycle'],
    'Take one of these uses out',
  ],
  [
    'an unclosed part',
    '<tool-card name="x">',
    card,
    ['messages/m.html:3:1 unclosed-tag'],
    'Close it with </tool-card>',
  ],
];

describe('mistakes about parts', () => {
  test.each(mistakes)('%s', (_, use, part, findings, fix) => {
    folder = projectOf({ 'parts/tool-card.html': part, 'messages/m.html': page(use) });
    const { err, code } = folder.run(['build', '--quiet']);
    expect(findingsOf(err)).toEqual(findings);
    expect(err).toContain(fix);
    expect(code).toBe(1);
  });

  test('a circle of parts is printed', () => {
    folder = projectOf({
      'parts/a-a.html': '<template><b-b></b-b></template>',
      'parts/b-b.html': '<template><c-c></c-c></template>',
      'parts/c-c.html': '<template>\n<a-a></a-a></template>',
      'messages/m.html': page('<a-a></a-a>'),
    });
    const { err } = folder.run(['build', '--quiet']);
    expect(findingsOf(err)).toEqual(['parts/c-c.html:2:1 part-cycle']);
    expect(err).toContain('in a circle: <a-a> → <b-b> → <c-c> → <a-a>');
  });

  test('a symbolic link out of the project is not followed', () => {
    folder = projectOf({ 'messages/m.html': page('<tool-card></tool-card>'), 'parts/x.html': '' });
    const elsewhere = new TestFolder().write({ 'secret.html': card });
    symlinkSync(join(elsewhere.path, 'secret.html'), join(folder.path, 'parts/tool-card.html'));
    const { err, code } = folder.run(['build', '--quiet']);
    elsewhere.remove();
    expect(code).toBe(2);
    expect(err).toContain('error  file-outside  parts/tool-card.html leads out of the project');
  });

  test('a finding in a part says where the part is used', () => {
    folder = projectOf({
      'parts/tool-card.html': '<template>\n<p>@{frst_name}</p></template>',
      'parts/two-cards.html': '<template><tool-card></tool-card></template>',
      'messages/m.html': page('<two-cards></two-cards>'),
    });
    const { err } = folder.run(['build', '--quiet']);
    expect(err).toContain('parts/tool-card.html:2:6  error  unknown-field');
    expect(err).toContain('used at messages/m.html:3:1\n  used at parts/two-cards.html:1:11\n');
  });

  test('a part whose name is no element is named', () => {
    folder = projectOf({ 'parts/Footer.html': card, 'messages/m.html': page('<p>x</p>') });
    const run = folder.run(['build', '--quiet']);
    expect([run.code, findingsOf(run.err)]).toEqual([0, ['part-name']]);
  });
});

describe('regions', () => {
  const files = {
    'data/d.yaml': 'names: [a, b]\n',
    'parts/tool-card.html':
      '<template accepts="name"><div region="card" region-repeat><h2 region="title">${name}</h2></div></template>',
  };
  const loop = '<template each="n of names"><tool-card name="${n}"></tool-card></template>';
  const names = (): string[] =>
    [...folder.read('out/plain/m/index.html').matchAll(/ region="([^"]*)"/g)].map(([, name]) => name ?? '');

  test('survive parts and loops with names of their own, which content elsewhere does not change', () => {
    const head = '<meta name="data" content="../data/d.yaml">';
    folder = projectOf({ ...files, 'messages/m.html': page(`<p region="lead">x</p>${loop}`, head) });
    expect(folder.run(['build', '--quiet']).err).toBe('');
    expect(names()).toEqual(['lead', 'card-1', 'title-1', 'card-2', 'title-2']);
    folder.write({
      'messages/m.html': page(`<h1>new</h1><p region="top">y</p><p region="lead">x</p><p>z</p>${loop}`, head),
    });
    folder.run(['build', '--quiet']);
    expect(names()).toEqual(['top', 'lead', 'card-1', 'title-1', 'card-2', 'title-2']);
    const { regions } = JSON.parse(folder.read('out/plain/m/manifest.json')) as { regions: object[] };
    expect(regions.slice(2, 4)).toEqual([
      { name: 'card-1', kind: 'block', repeat: true },
      { name: 'title-1', kind: 'text' },
    ]);
  });

  test('mark rows, columns, pictures, links and plain text alike, and are told from a part’s use', () => {
    folder = projectOf({
      ...files,
      'parts/plain-card.html': '<template><section><h2>x</h2><p>y</p></section></template>',
      'messages/m.html': page(
        `<style>.row{display:flex;gap:8px}.row>div{flex:1}</style><div class="row" region="row"><div region="left"><p>a</p></div><div region="right">b</div></div>
         <p><a href="https://a.example" region="link">c</a></p><ul region="list"><li>d</li></ul><div region="words" region-kind="rich" region-label="Words"><p>e</p></div>
         <plain-card region="whole" region-choice="hero" region-label="In \${message.name}"></plain-card>`,
      ),
    });
    expect(folder.run(['build', '--quiet']).err).toBe('');
    expect(names()).toEqual(['row', 'left', 'right', 'link', 'list', 'words', 'whole']);
    expect(folder.read('out/plain/m/index.html')).toContain('region-choice="hero" region-label="In m"');
  });
});
