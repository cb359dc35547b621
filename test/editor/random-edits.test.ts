import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { EditorClient } from '../support/editor-client.js';
import { TestFolder } from '../support/project.js';
import { Random } from '../support/random.js';

/** How many edits are made; more by hand: `EDITOR_EDITS=100000 EDITOR_SEED=7`. */
const EDITS = Number(process.env['EDITOR_EDITS'] ?? 10_000);
const SEED = Number(process.env['EDITOR_SEED'] ?? 22);

/** What is typed: pieces of everything, whole and half, and what no text should hold. */
const pieces = [
  ...[
    '<',
    '>',
    '</',
    '/>',
    '"',
    "'",
    '=',
    '<div>',
    '</div>',
    '<p',
    '<p>',
    '</p>',
    '<!--',
    '-->',
    '<style>',
    '</style>',
    '</title>',
  ],
  ...[
    '<tool-card',
    '<tool-card name="x">',
    '<lead-story heading="',
    '<template each="a of b">',
    '<template if="',
    '</template>',
  ],
  ...[
    '<slot name="x">',
    '<template accepts="a b=\'c\'">',
    '<img src="../images/lathe.jpg">',
    '<a href="#">',
    'class="trio ',
    'style="color: ',
  ],
  ...[
    '${',
    '${tool.',
    '${tool.name}',
    '${a | ',
    '${"',
    '@{',
    '@{if branch}',
    '@{each loans as loan}',
    '@{end}',
    '@{first_name ?? "',
    '}',
    '@@{',
    '$${',
  ],
  ...[
    '{',
    '}',
    ': ',
    ':\n  ',
    '- ',
    '\n',
    '\r\n',
    '\r',
    '\t',
    ' ',
    '---\n',
    '#',
    '&',
    '&amp;',
    '[',
    ']',
    '|',
    '%',
    ',',
    ';',
    '@media ',
    '!important',
  ],
  ...[
    '\u0000',
    '\ud83d',
    '\udd28',
    '🔨',
    'é',
    '\u202e',
    '\ufeff',
    '\ufdd0',
    '\ue000',
    'x'.repeat(200),
    '9',
    'word',
    'name',
    'first_name',
  ],
];

const documents = [
  'messages/may-newsletter.html',
  'messages/branch-notice.md',
  'parts/tool-card.html',
  'styles/newsletter.css',
  'inscriba.yaml',
];

const messages = documents.filter((name) => name !== 'inscriba.yaml');

let folder: TestFolder;
let editor: EditorClient;

beforeAll(async () => {
  folder = TestFolder.demoProject();
  editor = await EditorClient.start(folder.path);
  for (const name of documents) await editor.open(name);
});

afterAll(async () => {
  expect(await editor.stop()).toBe(0);
  expect(editor.errors).toBe('');
  folder.remove();
});

/** One edit: something is typed, taken away or replaced, or the document is as it was. */
async function edit(random: Random): Promise<void> {
  // With a broken configuration messages are looked at less closely: it is broken now and then, and mended soon.
  const config = 'inscriba.yaml';
  if (editor.text(config) !== folder.read(config) && random.chance(0.2)) return editor.set(config, folder.read(config));
  const name = random.chance(0.01) ? config : random.pick(messages);
  const text = editor.text(name);
  const chance = random.next();
  if (chance < 0.02 || text.length > 20_000) return editor.set(name, folder.read(name));
  const start = random.below(text.length + 1);
  const length = chance < 0.4 ? 0 : random.chance(0.05) ? random.below(600) : random.below(6);
  const typed = chance < 0.8 ? random.pick(pieces) : '';
  return editor.edit(name, { start, end: Math.min(text.length, start + length) }, typed);
}

/** What a server finds that has never seen anything else than the documents as they are. */
async function fresh(): Promise<Record<string, string[]>> {
  const other = await EditorClient.start(folder.path);
  for (const name of documents) await other.open(name, editor.text(name));
  for (const name of documents) await other.settled(name);
  const found = other.all();
  expect(await other.stop()).toBe(0);
  return found;
}

test(`${EDITS} random edits leave the server alive, with what a fresh one finds`, async () => {
  const random = new Random(SEED);
  const compared = new Set([1, 2, 3, 4, 5].map((part) => Math.floor((EDITS * part) / 5 / 100) * 100));
  for (let made = 1; made <= EDITS; made += 1) {
    await edit(random);
    if (made % 50 === 0) {
      const name = random.pick(documents);
      const offset = random.below(editor.text(name).length + 1);
      await editor.completionsFrom(name, offset);
      await editor.hoverFrom(name, offset);
    }
    if (made % 1000 === 0) {
      const name = random.pick(documents);
      await editor.actions(name);
      await Promise.all([editor.outline(name), editor.folds(name), editor.links(name)]);
    }
    if (!compared.has(made)) continue;
    for (const name of documents) await editor.settled(name);
    const found = editor.all();
    if (process.env['EDITOR_SAYS'] !== undefined) process.stderr.write(`${made}: ${JSON.stringify(found)}\n`);
    expect([made, found]).toEqual([made, await fresh()]);
  }
}, 600_000);
