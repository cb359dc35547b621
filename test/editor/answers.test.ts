import { afterAll, afterEach, beforeAll, describe, expect, test } from '@jest/globals';
import type { DocumentSymbol } from 'vscode-languageserver-protocol/node';
import { EditorClient } from '../support/editor-client.js';
import { TestFolder } from '../support/project.js';

const newsletter = 'messages/may-newsletter.html';
const loans = 'messages/loans-due.html';
const notice = 'messages/branch-notice.md';
const card = 'parts/tool-card.html';
const story = 'parts/lead-story.html';
const frame = 'frames/letterhead.html';
const styles = 'styles/newsletter.css';
const config = 'inscriba.yaml';
const ours = 'dialects/ours.yaml';
const open = [ours, newsletter, loans, notice, card, story, frame, styles, config];

let folder: TestFolder;
let editor: EditorClient;

beforeAll(async () => {
  folder = TestFolder.demoProject();
  folder.write({ 'dialects/ours.yaml': 'dialect: ours\n' });
  editor = await EditorClient.start(folder.path);
  for (const name of open) await editor.open(name);
});

afterEach(async () => {
  for (const name of open) if (editor.text(name) !== folder.read(name)) await editor.set(name, folder.read(name));
});

afterAll(async () => {
  expect(await editor.stop()).toBe(0);
  expect(editor.errors).toBe('');
  folder.remove();
});

/** What is offered where `‸` stands in what is typed in the place of a text. */
async function offered(name: string, written: string, typed: string): Promise<string[]> {
  const at = editor.text(name).indexOf(written);
  const [before = '', after = ''] = typed.split('‸');
  await editor.replace(name, written, before + after);
  return (await editor.completionsFrom(name, at + before.length)).map(({ label }) => label);
}

describe('completion', () => {
  const parts = ['house-footer', 'house-sign', 'lead-story', 'receipt-line', 'tool-card', 'template'];

  test.each<[what: string, name: string, written: string, typed: string, labels: string[]]>([
    ['parts', newsletter, '<p>No need', '<', parts],
    ['parts, begun', newsletter, '<p>No need', '<too', parts],
    ['parts and slots, in a part', card, '<p data-text', '<', [...parts, 'slot']],
    ['the element that is open', newsletter, '</strong>', '</', ['strong']],
    [
      'values of a part',
      newsletter,
      '<lead-story\n        heading="The lathe is back"',
      '<lead-story ',
      ['heading', 'region', 'region-kind', 'region-repeat', 'region-choice', 'region-label'],
    ],
    ['attributes of a loop', newsletter, '<template each', '<template ', ['each', 'if', 'else', 'for']],
    [
      'values of data, in a loop',
      newsletter,
      '${tool.name}',
      '${tool.',
      ['name', 'photo', 'page', 'note', 'index', 'first', 'last', 'count', 'key'],
    ],
    ['what is seen in a loop', newsletter, '${tool.name}', '${', ['tool', 'tools', 'message', 'sender', 'project']],
    [
      'values of the project',
      newsletter,
      '<p>No need',
      '<p>${sender.',
      ['name', 'address', 'reply_to', 'company', 'postal_address', 'website'],
    ],
    [
      'a list to loop over',
      newsletter,
      'each="tool of tools"',
      'each="tool of t',
      ['tools', 'message', 'sender', 'project'],
    ],
    [
      'a condition',
      notice,
      'if="saturday"',
      'if="',
      [
        'branch',
        'street',
        'weekdays',
        'saturday',
        'keeper',
        'edition',
        'subject',
        'preheader',
        'topic',
        'keywords',
        'frame',
        'editions',
        'edition-name',
        'message',
        'sender',
        'project',
      ],
    ],
    ['what a part accepts', card, '${link}', '${', ['name', 'photo', 'link', 'note', 'sender', 'project']],
    [
      'merge fields',
      newsletter,
      '<p>No need',
      '<p>@{',
      [
        'first_name',
        'branch',
        'member_number',
        'loans',
        'link.unsubscribe',
        'link.preferences',
        'link.browser',
        'link.forward',
        'sender.company',
        'sender.postal_address',
        'date.year',
        'if',
        'else if',
        'else',
        'each',
        'end',
      ],
    ],
    [
      'merge fields in a condition',
      newsletter,
      '<p>No need',
      '<p>@{if ',
      [
        'first_name',
        'branch',
        'member_number',
        'loans',
        'link.unsubscribe',
        'link.preferences',
        'link.browser',
        'link.forward',
        'sender.company',
        'sender.postal_address',
        'date.year',
      ],
    ],
    ['system links', newsletter, '<p>No need', '<p>@{link.', ['unsubscribe', 'preferences', 'browser', 'forward']],
    ['fields of the items of a list', loans, '@{loan.tool}', '@{loan.', ['tool', 'due', 'late', 'fee']],
    ['nothing in a text', newsletter, '${tool.name}', '${"too', []],
    ['nothing in a comment', newsletter, '<p>No need', '<!-- <', []],
    [
      'classes',
      newsletter,
      'class="trio"',
      'class="trio tool',
      [
        'sheet',
        'button',
        'footer',
        'head',
        'pair',
        'news',
        'divider',
        'tools',
        'letter',
        'part',
        'links',
        'social',
        'hero',
        'card',
        'picture',
        'words',
        'quote',
        'by',
        'receipt',
        'amount',
        'total',
        'action',
        'shelf',
        'carousel',
        'pill',
        'lines',
        'late',
      ],
    ],
    [
      'metadata',
      newsletter,
      'name="topic"',
      'name="',
      [
        'preheader',
        'topic',
        'description',
        'keywords',
        'from',
        'reply-to',
        'attachment',
        'data',
        'editions',
        'edition-name',
      ],
    ],
    [
      'topics that there are',
      newsletter,
      'content="monthly-news"',
      'content="‸"',
      ['events', 'loans', 'notices', 'receipts', 'specimen'],
    ],
    [
      'data files',
      newsletter,
      '../data/tools.yaml',
      '../data/',
      ['branches.csv', 'receipt.yaml', 'sample-loans.yaml', 'tools.yaml'],
    ],
    [
      'style sheets',
      newsletter,
      '../styles/house.css',
      '../styles/',
      ['house.css', 'newsletter.css', 'parts.css', 'tables.css'],
    ],
    [
      'pictures, as values of a part',
      newsletter,
      '../images/lathe.jpg',
      '../images/',
      [
        'diary.png',
        'drill.png',
        'ladder.png',
        'lathe.jpg',
        'photos.png',
        'plane.png',
        'poster.png',
        'shed.jpg',
        'sign.png',
        'talk.png',
      ],
    ],
    [
      'keys of the front matter',
      notice,
      'topic: notices\n',
      'topic: notices\nla‸\n',
      ['data', 'lang', 'description', 'from', 'reply-to', 'attachment'],
    ],
    ['frames', notice, 'frame: letterhead', 'frame: ', ['letterhead']],
    [
      'values in the front matter',
      notice,
      'hours at ${branch}',
      'hours at ${',
      [
        'branch',
        'street',
        'weekdays',
        'saturday',
        'keeper',
        'edition',
        'subject',
        'preheader',
        'topic',
        'keywords',
        'frame',
        'editions',
        'edition-name',
        'message',
        'sender',
        'project',
      ],
    ],
    ['keys of the configuration', config, 'width: 600', 'w', ['width', 'fonts', 'footer', 'checks', 'defaults']],
    [
      'keys of a group',
      config,
      '    dialect: neutral\n',
      '    dialect: neutral\n    p‸\n',
      ['link_parameters', 'push', 'checks'],
    ],
    [
      'dialects, those of the project among them',
      config,
      'dialect: bellmoor',
      'dialect: ',
      [
        'bellmoor',
        'ferrywire',
        'gannetry',
        'handlebars',
        'jinja',
        'larkfold',
        'liquid',
        'mustache',
        'neutral',
        'ours',
        'oxbow',
        'tansy',
      ],
    ],
    [
      'words that a key takes',
      config,
      '{ mode: package }',
      '{ mode: ',
      ['package', 'host', 'attach', 'embed', 'library'],
    ],
    ['fields of a sample', config, 'nobody: { first_name: null', 'nobody: { ', ['first_name', 'member_number']],
  ])('%s', async (_, name, written, typed, labels) => {
    expect(await offered(name, written, typed.includes('‸') ? typed : `${typed}‸`)).toEqual(labels);
  });

  test('keys of a dialect file, and the words that they take', async () => {
    const keys = await offered(ours, 'dialect: ours\n', 'dialect: ours\ntit‸');
    expect(keys.slice(0, 4)).toEqual(['title', 'verbatim', 'delimiters', 'tags']);
    expect(keys).not.toContain('dialect');
    await editor.set(ours, 'dialect: ours\n');
    expect(await offered(ours, 'dialect: ours\n', 'dialect: ours\ntags:\n  ‸')).toEqual(
      expect.arrayContaining(['field', 'if', 'each', 'end_each']),
    );
    await editor.set(ours, 'dialect: ours\n');
    expect(await offered(ours, 'dialect: ours\n', "dialect: ours\nfields: { '*': { case: ‸")).toEqual([
      ...['as-is', 'upper-snake', 'snake', 'kebab', 'camel', 'pascal'],
    ]);
  });

  test('a part comes with what it must be given, and a place for the caret', async () => {
    await editor.replace(newsletter, '<p>No need to book: just come, and wait your turn with a biscuit.</p>', '<too');
    const item = (await editor.completions(newsletter, '<too')).find(({ label }) => label === 'tool-card');
    expect(item).toMatchObject({
      detail:
        'name photo link note="" – A tool on the shelf. Its plain text is one line: the picture says the name, so the words below it need not.',
      insertTextFormat: 2,
      textEdit: {
        range: { start: { line: 36, character: 9 }, end: { line: 36, character: 12 } },
        newText: 'tool-card name="$1" photo="$2" link="$3"></tool-card>',
      },
    });
  });

  test('an editor without places for the caret gets the name alone', async () => {
    const plain = await EditorClient.start(folder.path, {});
    await plain.open(newsletter);
    await plain.replace(newsletter, '<p>No need to book: just come, and wait your turn with a biscuit.</p>', '<too');
    const item = (await plain.completions(newsletter, '<too')).find(({ label }) => label === 'tool-card');
    expect(item).toMatchObject({ insertTextFormat: 1, textEdit: { newText: 'tool-card' } });
    expect(await plain.hover(newsletter, '${tool.na')).toBe('tool.name: Cordless drill\n\nfrom data/tools.yaml');
    await expect(plain.rename(newsletter, '<tool-ca', 'shelf-card')).rejects.toThrow('This editor renames no files');
    expect(await plain.stop()).toBe(0);
  });

  test('values come with an example, filters with what they do', async () => {
    await editor.replace(newsletter, '${tool.name}', '${tool.');
    const items = await editor.completions(newsletter, '${tool.');
    expect(items[0]).toMatchObject({ label: 'name', detail: 'Cordless drill' });
    await editor.replace(newsletter, '${tool.', '${tool.name | ');
    const filters = await editor.completions(newsletter, '${tool.name | ');
    expect(filters.map(({ label }) => label).slice(0, 4)).toEqual(['upper', 'lower', 'capital', 'date']);
    expect(filters[0]?.detail).toBe('in capitals');
  });
});

describe('hover', () => {
  test.each<[what: string, name: string, within: string, text: string | null]>([
    ['a build value', newsletter, '${tool.na', '**tool.name**: Cordless drill\n\nfrom data/tools.yaml'],
    ['a value in Markdown', notice, '**${stre', '**street**: 14 Alder Lane\n\nfrom data/branches.csv'],
    ['what a part accepts', card, '${not', '**note**: "" where it is not given\n\nfrom parts/tool-card.html'],
    [
      'a merge tag, as each destination writes it',
      newsletter,
      '<title>@{first',
      '**first_name**: Ines\n\nfrom inscriba.yaml\n\n- members (Bellmoor (simulated)): `~~FIRST_NAME?Neighbour~~`\n- archive (Neutral notation): `@{first_name ?? "Neighbour"}`',
    ],
    [
      'a use of a part',
      newsletter,
      '<house-foo',
      '**\\<house-footer>**: The footer of every message: why it comes, how to leave, and who sends.\n\n- `reason`: "You read this because you are a member of the Alder Lane Tool Library." where it is not given',
    ],
    [
      'a declaration of a style sheet',
      styles,
      'display: fl',
      '**display: flex**\n\nIn tables it is carried or refused, as its value asks for.\n\nSent as it is written, `display: flex` does not work in word (partly in strict-webmail, webmail, app). What should stand beside each other stands below there. What is built does not need it.',
    ],
    ['plain text', newsletter, 'Bring what is', null],
  ])('%s', async (_, name, within, text) => {
    expect(await editor.hover(name, within)).toBe(text);
  });

  test('what a destination cannot say', async () => {
    await editor.replace(config, 'dialect: bellmoor', 'dialect: tansy');
    await editor.replace(newsletter, '<p>No need', '<p>@{if branch == "Mill Yard"}x@{end} No need');
    const text = await editor.hover(newsletter, '@{if bra');
    expect(text).toContain('- members (Tansy (simulated)): cannot be said: ');
    expect(text).toContain('- archive (Neutral notation): `@{if branch == "Mill Yard"}`');
  });

  test('a declaration that tables cannot have, and a finding with why it matters', async () => {
    await editor.replace(newsletter, 'style="padding-top: 24px"', 'style="position: absolute"');
    expect(await editor.hover(newsletter, 'position: abs')).toContain('It has no equal in tables, and is refused.');
    await editor.replace(newsletter, '<p>No need', '<p><img src="../images/sign.png" width="20">No need');
    await editor.settled(newsletter);
    expect(await editor.hover(newsletter, '<p><img')).toBe(
      '**alt-missing**: This picture has no alt\n\nSay in alt what it shows; alt="" for one that only decorates.\n\nMany programs show no pictures until they are asked to, and who hears a mail hears the name of the file (WCAG 2.2, 1.1.1; HTML standard, 4.8.4.4).',
    );
  });
});

describe('where a name is declared, and where it is used', () => {
  test.each<[what: string, name: string, within: string, definitions: string[], references: string[]]>([
    ['a part', newsletter, '<tool-ca', [`${card}:2:1`], [`${newsletter}:46:14`, `${newsletter}:46:140`]],
    [
      'a value of a part',
      newsletter,
      '<tool-card na',
      [`${card}:2:20`],
      [`${newsletter}:46:24`, `${card}:4:36`, `${card}:4:96`, `${card}:5:31`],
    ],
    [
      'what a part accepts, in its text',
      card,
      '<br>${not',
      [`${card}:2:36`],
      [`${newsletter}:46:118`, `${card}:4:43`, `${card}:4:62`, `${card}:5:59`, `${card}:5:71`],
    ],
    [
      'the name of a loop',
      newsletter,
      '${to',
      [`${newsletter}:45:27`],
      [46, 46, 46, 46].map((line, index) => `${newsletter}:${line}:${[32, 53, 106, 126][index]}`),
    ],
    ['a list of the data', newsletter, 'of too', ['data/tools.yaml:2:1'], [`${newsletter}:45:35`]],
    [
      'a value of the items of a list',
      newsletter,
      '${tool.pho',
      ['data/tools.yaml:3:29', 'data/tools.yaml:4:26', 'data/tools.yaml:5:30'],
      [`${newsletter}:46:58`],
    ],
    ['a column of a table', notice, '**${stre', ['data/branches.csv:1:8'], [`${notice}:15:35`]],
    ['a key of the front matter', notice, 'edition-na', [`${notice}:8:1`], []],
    [
      'a merge field',
      loans,
      '@{first_na',
      ['inscriba.yaml:14:3'],
      [
        'inscriba.yaml:23:13',
        `${notice}:13:8`,
        `${loans}:6:14`,
        `${loans}:18:20`,
        `${newsletter}:6:14`,
        `${newsletter}:25:16`,
        'messages/membership-receipt.html:20:20',
        'messages/repair-day.html:17:19',
      ],
    ],
    ['a field of the items of a list', loans, '@{loan.du', ['inscriba.yaml:18:25'], []],
    [
      'a class',
      newsletter,
      'class="tri',
      [`${styles}:41:2`, `${styles}:46:2`, `${styles}:53:2`],
      [`${newsletter}:44:21`],
    ],
    ['a picture', newsletter, 'photo="../images/la', ['images/lathe.jpg:1:1'], []],
    ['a frame', notice, 'frame: lett', [`${frame}:1:1`], []],
    ['a file of samples', config, 'sample: data/sam', ['data/sample-loans.yaml:1:1'], []],
  ])('%s', async (_, name, within, definitions, references) => {
    expect(await editor.definitions(name, within)).toEqual(definitions);
    const found = await editor.references(name, within);
    if (references.length > 0) expect([...found].sort()).toEqual([...references].sort());
    expect(await editor.references(name, within, true)).toEqual(expect.arrayContaining([...found]));
  });

  test('a dialect that ships leads to its file', async () => {
    const [place = ''] = await editor.definitions(config, 'dialect: bell');
    expect(place).toMatch(/^file:.*\/dialects\/bellmoor\.yaml:1:1$/);
  });

  test('slots, regions and editions', async () => {
    await editor.replace(card, '<div>', '<div><slot name="aside"></slot>');
    await editor.replace(newsletter, 'note="${tool.note}"></tool-card>', 'note=""><b slot="aside">new</b></tool-card>');
    expect(await editor.definitions(newsletter, 'slot="asi')).toEqual([`${card}:3:20`]);
    expect(await editor.references(card, '<slot name="asi')).toEqual([`${newsletter}:46:135`]);
    await editor.replace(newsletter, '<h2>Repair', '<h2 region="repair">Repair');
    expect(await editor.definitions(newsletter, 'region="rep')).toEqual([`${newsletter}:30:21`]);
    await editor.replace(notice, '# ${branch}', '# ${edition.name}');
    expect(await editor.definitions(notice, '${edition.na')).toEqual([`${notice}:8:15`]);
  });
});

describe('rename', () => {
  const changed = async (name: string, within: string, newName: string): Promise<Record<string, string[]>> => {
    const result = await editor.rename(name, within, newName);
    const lines = (file: string, text: string): string[] => {
      const before = (editor.text(file) === '' ? folder.read(file) : editor.text(file)).split('\n');
      return text
        .split('\n')
        .flatMap((line, index) => (line === before[index] ? [] : [`${index + 1}: ${line.trim()}`]));
    };
    return Object.fromEntries(
      Object.entries(result).map(([file, text]) => [file, text.startsWith('renamed') ? [text] : lines(file, text)]),
    );
  };

  test('a part, its file and its uses', async () => {
    expect(await changed(newsletter, '<house-si', 'shed-sign')).toEqual({
      [frame]: ['13: <shed-sign></shed-sign>'],
      [loans]: ['15: <shed-sign></shed-sign>'],
      [newsletter]: ['17: <shed-sign></shed-sign>'],
      'messages/membership-receipt.html': ['16: <shed-sign></shed-sign>'],
      'parts/house-sign.html': ['renamed to parts/shed-sign.html'],
    });
  });

  test('a value of a part', async () => {
    expect(await changed(newsletter, '<lead-story\n        head', 'title')).toEqual({
      [newsletter]: ['20: title="The lathe is back"'],
      [story]: [`2: <template accepts="title photo alt link action='Read on'">`, '6: <h1>${title}</h1>'],
    });
  });

  test('a value of the data, a merge field, a class, a loop', async () => {
    expect(Object.keys(await changed(newsletter, '${tool.pa', 'slug'))).toEqual(['data/tools.yaml', newsletter]);
    expect(await changed(notice, '**${stre', 'road')).toEqual({
      'data/branches.csv': [expect.stringMatching(/^1: branch,road,/)],
      [notice]: ['15: from Monday on, our branch at **${road}** is open from **${weekdays}**.'],
    });
    const field = await changed(config, '  member_num', 'card');
    expect(field[config]).toEqual(['16: card: { sample: A-2207 }']);
    expect(Object.keys(await changed(styles, '.trio > d', 'x').catch(() => ({})))).toEqual([]);
    expect(await changed(newsletter, 'class="tri', 'three')).toEqual({
      [newsletter]: ['44: <div class="three">'],
      [styles]: ['41: .three {', '46: .three > div {', expect.stringMatching(/^53: \.three p/)],
    });
    expect(await changed(newsletter, 'each="to', 'thing')).toEqual({
      [newsletter]: [
        '45: <template each="thing of tools">',
        '46: <tool-card name="${thing.name}" photo="${thing.photo}" link="https://alderlane.example/tools/${thing.page}" note="${thing.note}"></tool-card>',
      ],
    });
  });

  test('a field of the items of a list, in the samples as well', async () => {
    expect(await changed(loans, '@{loan.to', 'thing')).toEqual({
      'data/sample-loans.yaml': [
        "2: - { thing: Step ladder, due: 14 May, late: false, fee: '' }",
        '3: - { thing: Cordless drill, due: 9 May, late: true, fee: £1.50 }',
      ],
      [config]: ['18: list: { thing: text, due: text, late: flag, fee: text }'],
      [loans]: [expect.stringContaining('@{loan.thing}')],
    });
  });

  test('a merge field, in a written text and in the names of a dialect', async () => {
    folder.write({ 'messages/may-newsletter.txt': 'Hello @{branch}, ${tools | size} tools are new.\n' });
    await editor.set(ours, 'dialect: ours\nfields:\n  branch: SHOP\n');
    await new Promise((resolve) => setTimeout(resolve, 500));
    const result = await changed(config, '  bran', 'shop');
    expect(result).toMatchObject({
      [config]: ['15: shop: { sample: Mill Yard }', expect.stringContaining('nobody: { first_name: null, shop: null')],
      [ours]: ['3: shop: SHOP'],
      'messages/may-newsletter.txt': ['1: Hello @{shop}, ${tools | size} tools are new.'],
    });
    expect(await editor.references(newsletter, 'of too')).toContain('messages/may-newsletter.txt:1:20');
    folder.delete('messages/may-newsletter.txt');
  });

  test.each<[within: string, newName: string, sentence: string]>([
    ['<tool-ca', 'card', 'A part is named in small letters, with a hyphen in between.'],
    ['<tool-ca', 'house-sign', 'There is a part house-sign already.'],
    ['<tool-card na', 'photo', '"photo" is there already.'],
    ['<tool-card na', 'region', '"region" means something else on a part.'],
    ['class="tri', 'sheet', '"sheet" is there already.'],
    ['class="tri', '3 cards', 'A class is made of letters, digits, "-" and "_", and begins with no digit.'],
    ['${to', 'to-ol', 'A name is made of letters, digits and "_", and begins with a letter.'],
    ['Bring what', 'x', 'What stands here has no name of its own.'],
  ])('%s is not %s', async (within, newName, sentence) => {
    await expect(editor.rename(newsletter, within, newName)).rejects.toThrow(sentence);
  });

  test('what can be renamed says so', async () => {
    expect(await editor.renameable(newsletter, '<tool-ca')).toBe('tool-card');
    expect(await editor.renameable(newsletter, '${tool.na')).toBe('name');
    expect(await editor.renameable(newsletter, 'Bring what')).toBeNull();
    await editor.replace(newsletter, '${tool.name}', '${sender.name}');
    expect(await editor.renameable(newsletter, '${sender.na')).toBeNull();
  });
});

describe('remedies', () => {
  const last = '<p>No need to book: just come, and wait your turn with a biscuit.</p>';

  test.each<[what: string, name: string, written: string, by: string, title: string, line: string]>([
    [
      'the nearest part',
      newsletter,
      last,
      '<tool-crad name="x">y</tool-crad>',
      'Write tool-card',
      '<tool-card name="x">y</tool-card>',
    ],
    [
      'the nearest value',
      newsletter,
      '${tool.name}',
      '${tool.nmae}',
      'Write name',
      '<tool-card name="${tool.name}" photo="${tool.photo}" link="https://alderlane.example/tools/${tool.page}" note="${tool.note}"></tool-card>',
    ],
    ['the nearest field', newsletter, last, '<p>@{frist_name}</p>', 'Write first_name', '<p>@{first_name}</p>'],
    [
      'the nearest link',
      newsletter,
      last,
      '<p>@{link.unsubscrbe}</p>',
      'Write link.unsubscribe',
      '<p>@{link.unsubscribe}</p>',
    ],
    [
      'the nearest filter',
      newsletter,
      last,
      '<p>${sender.name | uper}</p>',
      'Write upper',
      '<p>${sender.name | upper}</p>',
    ],
    ['the nearest element', newsletter, last, '<strnog>x</strnog>', 'Write strong', '<strong>x</strong>'],
    [
      'the nearest property',
      newsletter,
      last,
      '<p style="colr: red">x</p>',
      'Write color',
      '<p style="color: red">x</p>',
    ],
    [
      'the nearest word',
      newsletter,
      last,
      '<p style="display: bolck">x</p>',
      'Write block',
      '<p style="display: block">x</p>',
    ],
    [
      'the nearest attribute',
      newsletter,
      last,
      '<template eahc="tool of tools">x</template>',
      'Write each',
      '<template each="tool of tools">x</template>',
    ],
    [
      'the parentheses of a media query',
      newsletter,
      last,
      '<style>@media max-width: 600px { p { color: red } }</style>',
      'Write @media (max-width: 600px)',
      '<style>@media (max-width: 600px) { p { color: red } }</style>',
    ],
    [
      'alt',
      newsletter,
      last,
      '<p><img src="../images/sign.png" width="20"></p>',
      'Add alt',
      '<p><img alt="" src="../images/sign.png" width="20"></p>',
    ],
    [
      'the end tag, in its line',
      newsletter,
      last,
      '<p>a <strong>b</p>',
      'Close <strong>',
      '<p>a <strong>b</strong></p>',
    ],
    ['an end tag too many', newsletter, last, '<p>a</p></em>', 'Remove </em>', '<p>a</p>'],
    [
      'the brace of a tag',
      newsletter,
      last,
      '<p>${sender.name and</p>',
      'Close it with }',
      '<p>${sender.name} and</p>',
    ],
    [
      'what a part must be given',
      newsletter,
      last,
      '<tool-card name="x"></tool-card>',
      'Add photo, link',
      '<tool-card photo="" link="" name="x"></tool-card>',
    ],
    [
      'a reason, before the element',
      newsletter,
      last,
      '<p><a href="https://a.example/">click</a></p>',
      'Accept link-words-vague here',
      '<p><!-- accept link-words-vague: say why --><a href="https://a.example/">click</a></p>',
    ],
    [
      'a reason, in a style sheet',
      styles,
      '.head {',
      '.head { text-shadow: 1px 1px red;',
      'Accept css-decoration-lost here',
      '.head { /* accept css-decoration-lost: say why */text-shadow: 1px 1px red;',
    ],
    ['the nearest frame', notice, 'frame: letterhead', 'frame: leterhead', 'Write letterhead', 'frame: letterhead'],
    ['the nearest key', config, 'width: 600', 'widht: 600', 'Write width', 'width: 600'],
    ['the nearest dialect', config, 'dialect: bellmoor', 'dialect: belmoor', 'Write bellmoor', '    dialect: bellmoor'],
  ])('%s', async (_, name, written, by, title, line) => {
    await editor.replace(name, written, by);
    expect((await editor.remedied(name, title)).split('\n').map((text) => text.trim())).toContain(line.trim());
  });

  test('an element over several lines is closed before that which ends around it', async () => {
    await editor.replace(newsletter, last, `<div>\n          ${last}`);
    const lines = (await editor.remedied(newsletter, 'Close <div>')).split('\n');
    expect(lines.slice(36, 40)).toEqual(['        <div>', `          ${last}`, '        </div>', '      </section>']);
  });

  test('an error that keeps a message from being made cannot be accepted', async () => {
    await editor.replace(newsletter, last, '<p>@{frist_name}</p>');
    expect((await editor.actions(newsletter)).map(({ title }) => title)).toEqual(['Write first_name']);
  });
});

describe('overview', () => {
  const names = (symbols: readonly DocumentSymbol[]): unknown[] =>
    symbols.map(({ name, children = [] }) => (children.length === 0 ? name : [name, names(children)]));

  test.each<[name: string, outline: unknown[]]>([
    [
      newsletter,
      [
        'house-sign',
        'lead-story',
        'Repair Day, Saturday the 14th',
        'New on the shelf',
        ['each tool of tools', ['tool-card']],
        'house-footer',
      ],
    ],
    [notice, ['subject', 'preheader', 'topic', 'keywords', 'frame', 'editions', 'edition-name', 'if saturday', 'else']],
    [story, [["accepts heading photo alt link action='Read on'", ['…', 'slot']]]],
  ])('of %s', async (name, outline) => {
    expect(names(await editor.outline(name))).toEqual(outline);
  });

  test('of a style sheet and a configuration', async () => {
    expect(names(await editor.outline(styles)).slice(0, 3)).toEqual(['.head', '.pair', '.pair > div']);
    expect(names(await editor.outline(config)).slice(2, 4)).toEqual([
      'width',
      [
        'fields',
        [
          ['first_name', ['sample', 'fallback']],
          ['branch', ['sample']],
          ['member_number', ['sample']],
          ['loans', [['list', ['tool', 'due', 'late', 'fee']], 'sample']],
        ],
      ],
    ]);
  });

  test('what can be folded, and what leads elsewhere', async () => {
    expect(await editor.folds(story)).toEqual(['2-10', '3-9', '5-8']);
    expect(await editor.folds(notice)).toEqual(['1-9', '17-20', '22-25']);
    expect(await editor.links(newsletter)).toEqual([
      '11:32-11:50 data/tools.yaml',
      '12:34-12:53 styles/house.css',
      '13:34-13:58 styles/newsletter.css',
      '21:16-21:35 images/lathe.jpg',
      '23:15-23:46 https://alderlane.example/lathe',
      '31:167-31:203 https://alderlane.example/repair-day',
    ]);
  });
});
