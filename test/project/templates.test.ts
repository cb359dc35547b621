import { afterAll, afterEach, beforeAll, describe, expect, test } from '@jest/globals';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import type { TestFolder } from '../support/project.js';
import { builtText, findingsOf, page, projectOf } from '../support/parts-project.js';

let folder: TestFolder | undefined;

afterEach(() => folder?.remove());

const tools = `tools:
  - { name: Drill & bits, fee: 3.5, tags: [loud, heavy], due: 2026-05-09 }
  - { name: "<b>Ladder</b>", fee: 0 }
none: []
note: "*Bring* it <b>back</b>, @{first_name}"
`;

const dataHead = '<meta name="data" content="../data/tools.yaml">';

/** A project with a message for each piece of HTML, by its number, built once. */
function buildPieces(pieces: readonly string[]): { folder: TestFolder; err: string } {
  const messages = pieces.map(
    (piece, index) => [`messages/m${index}.html`, page(`<p>${piece}</p>`, dataHead)] as const,
  );
  const project = projectOf({ 'data/tools.yaml': tools, ...Object.fromEntries(messages) });
  return { folder: project, err: project.run(['build', '--quiet']).err };
}

const values: [source: string, text: string][] = [
  ['${tools.1.name}', 'Drill & bits'],
  ['${tools.2.name}', '<b>Ladder</b>'],
  ['${tools.1.name | upper} ${tools.1.name | lower} ${"saw" | capital}', 'DRILL & BITS drill & bits Saw'],
  ['${tools.1.fee | number "0.00"} ${tools.1.fee * 3 - 1} ${1234.5 | number "£#,##0.00"}', '3.50 9.5 £1,234.50'],
  ['${tools.1.due | date "EEEE, d MMMM yyyy"}', 'Saturday, 9 May 2026'],
  ['${tools.1.tags | join " and "} ${tools | sum "fee"} ${tools.count}', 'loud and heavy 3.5 2'],
  ['${tools.2.note ?? "no note"} ${given tools.2.note ? "a" : "b"}', 'no note b'],
  ['${tools.1.fee > 3 and not tools.2.fee ? "dear" : "cheap"}', 'dear'],
  ['${tools.1.fee &gt; 3 ? &quot;a b&quot; : "c"}', 'a b'],
  [
    '<a href="https://a.example/?q=${tools.1.name | url}">a</a>',
    'a [1]\n\n[1] https://a.example/?q=Drill%20%26%20bits',
  ],
  ['${note | markdown}', 'Bring it <b>back</b>, @@{first_name}'],
  ['${+note}', '*Bring* it back, @{first_name}'],
  ['${note}', '*Bring* it <b>back</b>, @@{first_name}'],
  ['$${tools} @@{first_name}', '${tools} @@{first_name}'],
  ['@{if branch == "${tools.1.name}"}a@{end}', '@{if branch == "Drill & bits"}a@{end}'],
  ['@{${"first_" | lower}name}', '@{first_name}'],
  [
    '${message.file | upper} of ${project.name}, ${sender.address}',
    'MESSAGES/M16.HTML of Alder Lane Tool Library, desk@alderlane.example',
  ],
  ['${tools.2.note ?? "to @{first_name}"}', 'to @{first_name}'],
  [
    '<template each="t of tools">${t.index}/${t.count} ${t.name}<template if="t.last">.</template><template else>, </template></template>',
    '1/2 Drill & bits, 2/2 <b>Ladder</b>.',
  ],
  ['<template each="t of none">never</template> <template else>nothing</template>', 'nothing'],
  [
    '<template if="none">a</template><template else if="tools.1.fee == 3.5">b</template><template else>c</template>',
    'b',
  ],
  ['<template for="text">text</template><template for="html">html</template>', 'text'],
];

describe('build values', () => {
  let pieces: ReturnType<typeof buildPieces>;

  beforeAll(() => {
    pieces = buildPieces(values.map(([source]) => source));
  });

  afterAll(() => pieces.folder.remove());

  test.each(values.map(([source, text], index) => [source, text, index] as const))('%s', (_, text, index) => {
    expect(builtText(pieces.folder, `m${index}`)).toBe(text);
  });

  test('HTML, quotes and merge tags in data are escaped in text, in attributes with and without quotes', () => {
    folder = projectOf({
      'data/t.yaml': `evil: "\\"'><img src=x onerror=y> @{first_name}"\n`,
      'messages/m.html': page(
        '<p title="${evil}" lang=${evil}>${evil}</p>',
        '<meta name="data" content="../data/t.yaml">',
      ),
    });
    expect(folder.run(['build']).code).toBe(0);
    const html = folder.read('out/plain/m/index.html');
    expect(html).not.toContain('<img');
    expect(html).not.toMatch(/(?<!@)@\{/);
    expect(html).toContain(`title="&quot;'>&lt;img src=x onerror=y> @@{first_name}"`);
  });

  test('content for the word engine stands in a conditional comment and takes no room elsewhere', () => {
    folder = projectOf({
      'messages/m.html': page('<p>a</p><template for="word"><p>@{first_name}, ${1 + 1}</p></template><p>b</p>'),
    });
    expect(folder.run(['build', '--quiet']).err).toBe('');
    const html = folder.read('out/plain/m/index.html');
    expect(html).toContain('<!--[if mso]><p>@{first_name}, 2</p><![endif]-->');
    expect(html).toMatch(
      /<p style="margin:0">a<\/p>\s*<!--\[if mso\]>[^>]*>[^>]*>[^>]*-->\s*<p style="margin:16px 0 0">b/,
    );
    expect(builtText(folder, 'm')).toBe('a\n\nb');
  });

  test('data come from YAML, JSON and CSV with any of the common separators, by the names of their files', () => {
    folder = projectOf({
      'data/a.json': '{"one": {"x": 1}}',
      'data/two.csv': '\ufeffFirst name;fee\r\n"Ann ""A""; B";2\r\n\r\nBo;3\r\n',
      'data/three.yaml': '- x\n- y\n',
      'messages/m.html': page(
        '<p>${one.x} ${two.1.First_name} ${two | sum "fee"} ${three.2}</p>',
        ['a.json', 'two.csv', 'three.yaml'].map((name) => `<meta name="data" content="../data/${name}">`).join(''),
      ),
    });
    expect(folder.run(['build', '--quiet']).err).toBe('');
    expect(builtText(folder, 'm')).toBe('1 Ann "A"; B 5 y');
  });
});

type Mistake = [source: string, finding: string, fix: string];

/** Each piece stands from line 3, column 4 on. */
const mistakes: Mistake[] = [
  ['${tols}', '3:6 unknown-build-value', 'Did you mean "tools"?'],
  ['${tools.1.nam}', '3:6 unknown-build-value', 'Did you mean "name"?'],
  ['${first_name}', '3:6 unknown-build-value', 'write the merge tag @{first_name}.'],
  ['@{message}', '3:6 unknown-field', 'write ${message}.'],
  ['a ${tools.1.name | uper}', '3:23 unknown-filter', 'Did you mean "upper"?'],
  ['a ${tools.1.fee +}', '3:21 build-syntax', 'Mend it'],
  ['a @{first_name ?? }', '3:22 merge-syntax', 'Write it as'],
  ['${tools}', '3:6 build-value-kind', 'Loop over it'],
  ['${tools.1.name.first}', '3:6 build-value-plain', 'Name the value itself'],
  ['${tools.1.name * 2}', '3:6 build-value-arithmetic', 'numbers only'],
  ['${tools.1.fee / 0}', '3:6 build-value-arithmetic', 'numbers only'],
  ['${tools.1.name | date}', '3:6 filter-input', 'Correct the value'],
  ['${tools.1.due | date "Q"}', '3:20 filter-parameter', 'is no field of a date'],
  ['@{first_name + 1}', '3:6 merge-arithmetic', 'calculate when the message is built'],
  ['${@{first_name}}', '3:6 merge-in-build', 'in quotes as a text'],
  ['@{${tools.1.name}}', '3:6 build-in-merge', 'into quotes'],
  ['a ${tools', '3:6 tag-unclosed', 'write $${'],
  ['<b ${tools.1.name}>x</b>', '3:7 build-value-place', 'value of an attribute'],
  ['<template eech="x of tools"></template>', '3:14 template-unknown', 'Did you mean "each"?'],
  ['<template each="x in tools"></template>', '3:20 build-syntax', 'Mend it'],
  ['<template each="x of tools.1.name"></template>', '3:25 build-value-no-list', 'Name a list'],
  ['<template for="wrd"></template>', '3:14 template-for-unknown', 'Did you mean "word"?'],
  ['x<template else>y</template>', '3:5 template-else-stray', 'directly behind'],
  ['<template for="word"><!-- x --></template>', '3:4 template-word-comment', 'Take the comment out'],
  ['<b slot="x">y</b>', '3:7 slot-stray', 'child of the part'],
  ['<slot>y</slot>', '3:4 slot-outside', 'only parts and frames'],
  ['${missng ?? "x"} ${tolls ?? "x"}', '3:23 build-value-doubtful', 'Did you mean "tools"?'],
];

describe('mistakes in templates', () => {
  let pieces: ReturnType<typeof buildPieces>;

  beforeAll(() => {
    pieces = buildPieces(mistakes.map(([source]) => source));
  });

  afterAll(() => pieces.folder.remove());

  test.each(mistakes.map((row, index) => [...row, index] as const))('%s', (_, finding, fix, index) => {
    const own = pieces.err.split('\n\n').filter((item) => item.trimStart().startsWith(`messages/m${index}.html:`));
    expect(own.flatMap(findingsOf)).toEqual([`messages/m${index}.html:${finding}`]);
    expect(own.join('\n')).toContain(fix);
    const isBuilt = existsSync(join(pieces.folder.path, `out/plain/m${index}/index.html`));
    expect(isBuilt).toBe(finding.endsWith('doubtful'));
  });

  /** A few lines that would unfold to millions of values. */
  const bomb = [
    'a: &a [x, x]',
    ...'bcdefghij'.split('').map((key, index) => `${key}: &${key} [${`*${'abcdefghi'[index]}, `.repeat(9)}x]`),
  ].join('\n');

  const dataMistakes: [name: string, file: string, content: string, finding: string][] = [
    ['a missing file', 'data/other.yaml', '', 'messages/m.html:2:19 data-missing'],
    ['another kind of file', 'data/t.txt', 'x', 'messages/m.html:2:19 data-kind'],
    ['broken YAML', 'data/t.yaml', 'a: [1, 2\nb: 3', 'data/t.yaml:2:1 data-syntax'],
    ['broken JSON', 'data/t.json', '{"a": 1,, "b": 2}', 'data/t.json:1:9 data-syntax'],
    ['a row with a column too many', 'data/t.csv', 'a,b\n1,2\n1,2,3\n', 'data/t.csv:3:1 data-syntax'],
    ['aliases that ask for too much', 'data/t.yaml', bomb, 'data/t.yaml:1:1 data-syntax'],
    ['Latin-1', 'data/t.csv', 'latin', 'data/t.csv:2:2 not-utf8'],
  ];

  test.each(dataMistakes)('data: %s', (_, file, content, finding) => {
    const path = file === 'data/other.yaml' ? 'data/missing.yaml' : file;
    folder = projectOf({ 'messages/m.html': page('<p>x</p>', `<meta name="data" content="../${path}">`) });
    folder.write({ [file]: content === 'latin' ? Buffer.from('a\nf\xfcr\n', 'latin1') : content });
    const { err, code } = folder.run(['build', '--quiet']);
    expect(findingsOf(err)).toEqual([finding]);
    expect(code).toBe(1);
  });

  test('data: endless nesting', () => {
    folder = projectOf({
      'data/t.json': '['.repeat(20_000),
      'messages/m.html': page('<p>x</p>', '<meta name="data" content="../data/t.json">'),
    });
    const { err, code } = folder.run(['build', '--quiet']);
    expect([code, err.split('\n')[0]]).toEqual([
      1,
      expect.stringMatching(/^data\/t\.json:1:\d+ {2}error {2}data-syntax/),
    ]);
  });

  test('data outside the project are not read', () => {
    folder = projectOf({ 'messages/m.html': page('<p>x</p>', '<meta name="data" content="../../etc/passwd.yaml">') });
    expect(findingsOf(folder.run(['build', '--quiet']).err)).toEqual(['messages/m.html:2:19 data-outside']);
  });

  test('a loop over a hundred rows says each thing once', () => {
    folder = projectOf({
      'data/rows.csv': `a\n${'x\n'.repeat(100)}`,
      'messages/m.html': page(
        '<template each="row of rows"><p>@{frst_name}</p></template>',
        '<meta name="data" content="../data/rows.csv">',
      ),
    });
    expect(findingsOf(folder.run(['build', '--quiet']).err)).toEqual(['messages/m.html:3:35 unknown-field']);
  });
});
