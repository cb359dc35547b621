import { afterEach, describe, expect, test } from '@jest/globals';
import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import type { TestFolder } from '../support/project.js';
import { builtText, findingsOf, page, projectOf } from '../support/parts-project.js';

let folder: TestFolder;

afterEach(() => folder.remove());

const frame = `<!doctype html><html lang="de"><head><title>Frame</title></head><body>
<h1>\${subject}</h1><slot></slot><p>\${closing ?? "Bye"}</p></body></html>
`;

const notice = `---
subject: Hours at \${branch}, @{first_name}
preheader: <From> Monday
keywords: [hours, "a & b"]
frame: letter
day: 2026-05-15
editions: ../data/branches.csv
edition-name: "\${branch | slug}"
---

On **\${day | date "d MMMM"}** the branch \${branch} opens. See [the *page*](https://a.example/\${branch | url}?a=1&b=@{branch} "Title").

<tool-card name="\${branch}">in *Markdown*</tool-card>

1. one
2. two

| a | b |
|---|---|
| 1 | 2 |
`;

const files = {
  'frames/letter.html': frame,
  'parts/tool-card.html': '<template accepts="name"><section><h2>${name}</h2><p><slot></slot></p></section></template>',
  'data/branches.csv': 'branch,x\nMill Yard,1\nStation Arches,2\n',
  'messages/notice.md': notice,
};

const editions = (): string[] => readdirSync(join(folder.path, 'out/plain/notice')).sort();

describe('Markdown messages and editions', () => {
  test('a text in Markdown, its front matter and its frame become a message for each row', () => {
    folder = projectOf(files);
    expect(folder.run(['build', '--quiet']).err).toBe('');
    expect(editions()).toEqual(['mill-yard', 'station-arches']);
    const manifest = JSON.parse(folder.read('out/plain/notice/mill-yard/manifest.json')) as Record<string, unknown>;
    expect(manifest).toMatchObject({
      message: 'notice',
      edition: 'mill-yard',
      subject: 'Hours at Mill Yard, @{first_name}',
      preheader: '<From> Monday',
      keywords: ['hours', 'a & b'],
    });
    expect(folder.read('out/plain/notice/mill-yard/index.html')).toContain('<html lang="de">');
    expect(builtText(folder, 'notice/mill-yard')).toBe(`Hours at Mill Yard, @{first_name}
============================

On 15 Mai the branch Mill Yard opens. See the page [1].

Mill Yard
---------

in Markdown

1. one
2. two

a  b
1  2

Bye

[1] https://a.example/Mill%20Yard?a=1&b=@{branch}`);
  });

  test('an HTML message has editions too; without a pattern they are called by their first column', () => {
    folder = projectOf({
      'data/branches.csv': 'branch\nMill Yard\n\nÉtang 3\n',
      'messages/notice.html': page(
        '<p>${branch} ${edition.index} ${edition.name}</p>',
        '<meta name="editions" content="../data/branches.csv">',
      ),
    });
    expect(folder.run(['build', '--quiet']).err).toBe('');
    expect(builtText(folder, 'notice/mill-yard')).toBe('Mill Yard 1 mill-yard');
    expect(builtText(folder, 'notice/etang-3')).toBe('Étang 3 2 etang-3');
  });

  test('a warning about the pattern of names keeps no edition back', () => {
    folder = projectOf(files).change('messages/notice.md', '${branch | slug}"', '${branc ?? branch | slug}"');
    const run = folder.run(['build', '--quiet']);
    expect([run.code, findingsOf(run.err)]).toEqual([0, ['messages/notice.md:8:18 build-value-doubtful']]);
    expect(editions()).toEqual(['mill-yard', 'station-arches']);
  });

  test('an edition whose row is gone is removed, and nothing else', () => {
    folder = projectOf(files);
    folder.run(['build', '--quiet']);
    folder.write({ 'out/plain/notice/mine/notes.txt': 'x', 'data/branches.csv': 'branch,x\nMill Yard,1\n' });
    folder.run(['build', '--quiet']);
    expect(editions()).toEqual(['mill-yard', 'mine']);
  });

  test('pack makes a package for each edition', () => {
    folder = projectOf(files)
      .change('inscriba.yaml', 'neutral }', 'bellmoor }')
      .change('messages/notice.md', '"Title")', '"Title") [x](@{link.unsubscribe}) @{sender.postal_address}');
    expect(folder.run(['pack', '--quiet']).err).toBe('');
    expect(editions()).toEqual(['mill-yard', 'mill-yard.zip', 'station-arches', 'station-arches.zip']);
  });

  test('a thousand rows are a thousand editions in one build, told in one line', () => {
    const rows = Array.from({ length: 1000 }, (_, index) => `Branch ${index + 1},x`).join('\n');
    folder = projectOf({
      'data/branches.csv': `branch,x\n${rows}\n`,
      'messages/notice.html': page('<p>${branch}</p>', '<meta name="editions" content="../data/branches.csv">'),
    });
    const run = folder.run(['build']);
    expect(run.err).toMatch(/^plain: notice {2}1,000 editions, \d\.\d KB HTML each {2}out\/plain\/notice\n$/);
    expect(editions()).toHaveLength(1000);
    expect(builtText(folder, 'notice/branch-1000')).toBe('Branch 1000');
  });
});

describe('metadata', () => {
  test('attachments and what a dialect asks for travel with the message', () => {
    folder = projectOf({
      'files/hours.pdf': '%PDF',
      'messages/m.html': page(
        '<p>x</p>',
        '<meta name="attachment" content="../files/hours.pdf"><meta name="dialect-category" content="News ${message.name}">',
      ),
    });
    expect(folder.run(['build', '--quiet']).err).toBe('');
    const manifest = JSON.parse(folder.read('out/plain/m/manifest.json')) as Record<string, unknown>;
    expect(manifest).toMatchObject({ attachments: ['hours.pdf'], extras: { category: 'News m' } });
    expect(folder.read('out/plain/m/attachments/hours.pdf')).toBe('%PDF');
    folder.change('messages/m.html', 'files/hours', 'files/hour');
    expect(findingsOf(folder.run(['build', '--quiet']).err)).toEqual(['messages/m.html:2:25 attachment-missing']);
  });

  test('what a message does not say, the project says', () => {
    folder = projectOf({
      'data/d.yaml': 'season: May',
      'messages/m.html': page('<p>${season}</p>', '<meta name="topic" content="own">'),
    });
    folder.write({
      'inscriba.yaml': `${folder.read('inscriba.yaml')}defaults:
  topic: news
  preheader: Hello
  keywords: [a, b]
  from: The desk
  reply_to: hello@alderlane.example
  data: [data/d.yaml]
`,
    });
    expect(folder.run(['build', '--quiet']).err).toBe('');
    expect(JSON.parse(folder.read('out/plain/m/manifest.json'))).toMatchObject({
      topic: 'own',
      preheader: 'Hello',
      keywords: ['a', 'b'],
      sender: { name: 'The desk', reply_to: 'hello@alderlane.example' },
    });
    expect(builtText(folder, 'm')).toBe('May');
  });
});

type Mistake = [name: string, change: (project: TestFolder) => unknown, findings: string[], fix: string];

const mistakes: Mistake[] = [
  [
    'no front matter',
    (at) => at.write({ 'messages/notice.md': '# Hello\n' }),
    ['messages/notice.md:1:1 front-matter-missing'],
    'frame: letter',
  ],
  [
    'an unknown frame',
    (at) => at.change('messages/notice.md', 'frame: letter', 'frame: leter'),
    ['messages/notice.md:5:8 unknown-frame'],
    'Did you mean "letter"?',
  ],
  [
    'no frame at all',
    (at) => at.change('messages/notice.md', 'frame: letter\n', '').write({ 'frames/other.html': frame }),
    ['messages/notice.md:1:1 frame-unnamed'],
    'Known are: letter, other.',
  ],
  [
    'a frame without a slot',
    (at) => at.change('frames/letter.html', '<slot></slot>', ''),
    ['frames/letter.html:1:65 frame-no-slot'],
    'Put a <slot>',
  ],
  [
    'broken front matter',
    (at) => at.change('messages/notice.md', 'frame: letter', 'frame: [letter'),
    ['messages/notice.md:6:1 data-syntax'],
    'Mend the file',
  ],
  [
    'a group where a text is asked for',
    (at) => at.change('messages/notice.md', 'frame: letter', 'topic: { a: b }\nframe: letter'),
    ['messages/notice.md:5:8 front-matter-value'],
    'Write a text',
  ],
  [
    'an unknown value in the text',
    (at) => at.change('messages/notice.md', 'branch ${branch}', 'branch ${brnch}'),
    ['messages/notice.md:11:44 unknown-build-value'],
    'Did you mean "branch"?',
  ],
  [
    'an unknown value in the front matter',
    (at) => at.change('messages/notice.md', 'Hours at ${branch}', 'Hours at ${brnch}'),
    ['messages/notice.md:2:21 unknown-build-value'],
    'Did you mean "branch"?',
  ],
  [
    'an unknown part in the text',
    (at) =>
      at.change('messages/notice.md', '<tool-card name="${branch}">in *Markdown*</tool-card>', '<tol-card></tol-card>'),
    ['messages/notice.md:13:1 unknown-part'],
    'Did you mean <tool-card>?',
  ],
  [
    'an unclosed tag in the text',
    (at) => at.change('messages/notice.md', '1. one', '<b>1. one'),
    ['messages/notice.md:15:1 unclosed-tag'],
    'Close it',
  ],
  [
    'no rows',
    (at) => at.write({ 'data/branches.csv': 'branch,x\n' }),
    ['messages/notice.md:7:11 editions-none'],
    'Write a list',
  ],
  [
    'two editions of a name',
    (at) => at.write({ 'data/branches.csv': 'branch,x\nA b,1\na B,2\n' }),
    ['messages/notice.md:7:11 edition-twice'],
    'differ in each row',
  ],
  [
    'a name that is no file name',
    (at) => at.change('messages/notice.md', '${branch | slug}"', '${branch}/x"'),
    ['data/branches.csv:2:1 edition-name', 'data/branches.csv:3:1 edition-name'],
    'Names are letters',
  ],
  [
    'two messages of a name',
    (at) => at.write({ 'messages/notice.html': page('<p>x</p>') }),
    ['message-twice'],
    'Rename one',
  ],
];

describe('mistakes about Markdown messages and editions', () => {
  test.each(mistakes)('%s', (_, change, findings, fix) => {
    folder = projectOf(files);
    change(folder);
    const run = folder.run(['build', '--quiet']);
    expect(findingsOf(run.err)).toEqual(findings);
    expect(run.err).toContain(fix);
    expect(run.code).toBe(findings.includes('message-twice') ? 2 : 1);
    expect(existsSync(join(folder.path, 'out/plain/notice/mill-yard/index.html'))).toBe(false);
  });
});
