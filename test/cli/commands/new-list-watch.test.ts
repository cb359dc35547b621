import { afterEach, describe, expect, test } from '@jest/globals';
import { existsSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { builtText, findingsOf, page, projectOf } from '../../support/parts-project.js';
import { TestFolder } from '../../support/project.js';

let folder: TestFolder;

afterEach(() => folder.remove());

interface ElementData {
  readonly tags: readonly { readonly name: string; readonly attributes: readonly { readonly name: string }[] }[];
}

/** What is found beside that which the user of a starter is asked to fill in. */
const foundBeside = (err: string): string[] =>
  findingsOf(err).filter((item) => !/ ?(?:sender-unfilled|starter-address)$/.test(item));

const elements = (at: string): ElementData =>
  JSON.parse(folder.read(join(at, '.inscriba/elements.html-data.json'))) as ElementData;

describe('new', () => {
  test.each(['newsletter', 'notice', 'receipt', 'blank'])(
    'a project from the starter %s builds without a change, and asks for what is to be filled in',
    (starter) => {
      folder = new TestFolder();
      const made = folder.run(['new', 'project', 'tool-shed', '--starter', starter]);
      expect([made.code, made.out]).toEqual([0, '']);
      expect(made.err).toContain('wrote tool-shed/inscriba.yaml\n');
      expect(folder.read('tool-shed/inscriba.yaml')).toContain('\nname: Tool shed\n');
      const built = folder.run(['build'], { folder: 'tool-shed' });
      expect(built.code).toBe(0);
      expect(built.err).toMatch(/^members: \S+ {2}[^\n]+\n\n/);
      expect(built.err).toContain('Under sender.postal_address, inscriba.yaml still says "(your postal address)"');
      expect(foundBeside(built.err)).toEqual([]);
    },
  );

  test('a project is not made over another', () => {
    folder = projectOf({});
    const before = folder.read('inscriba.yaml');
    const run = folder.run(['new', 'project', '.']);
    expect([run.code, run.err]).toEqual([
      2,
      'error  new-exists  inscriba.yaml is there already\n  fix: Choose another name, or write over it with --force.\n\n',
    ]);
    expect(folder.read('inscriba.yaml')).toBe(before);
    expect(existsSync(join(folder.path, 'styles'))).toBe(false);
  });

  test('a message begins from a starter, which brings what it needs, or like another message', () => {
    folder = projectOf({ 'styles/house.css': 'p { color: #111111 }' });
    expect(folder.run(['new', 'message', 'closing', '--starter', 'notice']).code).toBe(0);
    expect(folder.read('styles/house.css')).toBe('p { color: #111111 }');
    expect(folder.run(['new', 'message', 'opening', '--like', 'closing']).code).toBe(0);
    expect(folder.read('messages/opening.md')).toBe(folder.read('messages/closing.md'));
    expect(foundBeside(folder.run(['build', '--quiet']).err)).toEqual([]);
    const again = folder.run(['new', 'message', 'closing']);
    expect([again.code, again.err.split('\n')[0]]).toEqual([
      2,
      'error  new-exists  messages/closing.md is there already',
    ]);
    expect(folder.run(['new', 'message', 'x', '--like', 'openin']).err).toContain('Did you mean "opening"?');
    expect(folder.run(['new', 'message', '../x']).err).toContain('cannot be the name of a message');
  });

  test('a part is made, used, and known to editors; build brings what they know up to date', () => {
    folder = new TestFolder();
    folder.run(['new', 'project', 'shed', '--starter', 'blank']);
    expect(folder.run(['new', 'part', 'tool-card'], { folder: 'shed' }).code).toBe(0);
    expect(elements('shed').tags.map(({ name }) => name)).toEqual(['house-footer', 'tool-card', 'template']);
    folder.change('shed/parts/tool-card.html', 'accepts="heading"', 'accepts="heading photo=\'\'"');
    folder.change(
      'shed/messages/message.html',
      '<house-footer>',
      '<tool-card heading="New">words</tool-card><house-footer>',
    );
    expect(foundBeside(folder.run(['build', '--quiet'], { folder: 'shed' }).err)).toEqual([]);
    const card = elements('shed').tags.find(({ name }) => name === 'tool-card');
    expect(card?.attributes.map(({ name }) => name)).toEqual(['heading', 'photo']);
    const schema = JSON.parse(folder.read('shed/.inscriba/config.schema.json')) as { properties: object };
    expect(Object.keys(schema.properties)).toEqual([
      'name',
      'sender',
      'width',
      'fields',
      'fonts',
      'destinations',
      'footer',
      'mail',
      'samples',
      'checks',
      'defaults',
    ]);
    const bad = folder.run(['new', 'part', 'Footer'], { folder: 'shed' });
    expect([bad.code, bad.err]).toEqual([
      2,
      'error  new-name  "Footer" cannot be the name of a part\n  fix: Names of parts are small letters with a hyphen, such as "house-footer".\n\n',
    ]);
  });
});

describe('list', () => {
  const files = {
    'data/rows.csv': 'a\nx\ny\n',
    'messages/first.html': page(
      '<p>a</p>',
      '<meta name="topic" content="news"><meta name="keywords" content="may, Tools">',
    ),
    'messages/second.html': page('<p>${a}</p>', '<meta name="editions" content="../data/rows.csv">'),
  };

  test('shows messages, and for each destination whether they are built', () => {
    folder = projectOf(files);
    folder.run(['build', 'first']);
    expect(folder.run(['list'])).toEqual({
      code: 0,
      out: 'first   Subject\n        news · may, Tools\n        plain: built\nsecond  Subject\n        2 editions: x, y\n        plain: not built\n',
      err: '',
    });
    folder.run(['build']);
    folder.write({ 'data/rows.csv': 'a\nz\n', 'messages/first.html': page('<p>${</p>') });
    const { out } = folder.run(['list']);
    expect(out).toContain('first   1 error; inscriba build first shows where\n        plain: changed since\n');
    expect(out).toContain('        1 edition: z\n        plain: changed since\n');
    rmSync(join(folder.path, 'out/plain/first'), { recursive: true });
    expect(folder.run(['list']).out).toContain('shows where\n        plain: not built\n');
  });

  test('by topic and keyword, as JSON', () => {
    folder = projectOf(files);
    const run = folder.run(['list', '--topic', 'News', '--keyword', 'tools', '--json']);
    expect(JSON.parse(run.out)).toEqual({
      messages: [
        {
          name: 'first',
          file: 'messages/first.html',
          subject: 'Subject',
          topic: 'news',
          keywords: ['may', 'Tools'],
          editions: [],
          destinations: [{ name: 'plain', state: 'not built', push: null }],
          errors: 0,
        },
      ],
    });
    expect(folder.run(['list', '--keyword', 'x']).err).toBe('2 of 2 messages are not shown.\n');
  });
});

describe('build --watch', () => {
  test('rebuilds what a change touches, survives what is broken, and stops cleanly', async () => {
    folder = projectOf({
      'styles/a.css': 'p { color: #111111 }',
      'parts/tool-card.html': '<template><p>card</p></template>',
      'messages/a.html': page('<p>a</p><tool-card></tool-card>', '<link rel="stylesheet" href="../styles/a.css">'),
      'messages/b.html': page('<p>b</p>'),
    });
    const watching = folder.start(['build', '--watch']);
    // docs/writing.md shows what it says.
    await watching.says(/Watching \.; Ctrl-C stops\.\n/);
    folder.write({ 'styles/a.css': 'p { color: #222222 }' });
    await watching.says(/\nrebuilt a, as styles\/a\.css changed, in \d+ ms\n/);
    expect(folder.read('out/plain/a/index.html')).toContain('#222222');
    folder.write({ 'parts/tool-card.html': '<template><p>card</template>' });
    folder.write({ 'messages/b.html': page('<p>b') + '<b>' });
    await watching.says(/b\.html:5:1 {2}error {2}unclosed-tag[^]*not rebuilt: b for plain/);
    expect(builtText(folder, 'b')).toBe('b');
    folder.write({ 'messages/b.html': page('<p>bb</p>') });
    await watching.says(/\nrebuilt b, as messages\/b\.html changed/);
    expect(builtText(folder, 'b')).toBe('bb');
    folder.write({ 'inscriba.yaml': 'name: [' });
    await watching.says(/config-syntax[^]*Not rebuilt: inscriba\.yaml has errors/);
    folder.write({ 'inscriba.yaml': 'name: X\ndestinations: { plain: { dialect: neutral } }\n' });
    await watching.says(/\nrebuilt a, b, as inscriba\.yaml changed/);
    folder.write({ 'messages/c.html': page('<new-part></new-part>') });
    await watching.says(/unknown-part[^]*not rebuilt: c for plain/);
    folder.write({ 'parts/new-part.html': '<template><p>new</p></template>' });
    await watching.says(/\nrebuilt c, as parts\/new-part\.html changed/);
    expect(await watching.stop()).toBe(130);
    expect(watching.err).toMatch(/\nStopped\.\n$/);
  });

  test('a preview stops though its folder goes away meanwhile', async () => {
    folder = TestFolder.demoProject();
    const watching = folder.start(['preview', '--port', '0']);
    await watching.says(/; Ctrl-C stops\.\n/);
    folder.change('parts/house-footer.html', '</p>', ' More.</p>');
    // What it makes of the change is under way.
    await new Promise((resolve) => setTimeout(resolve, 1500));
    const stopped = watching.stop();
    folder.remove();
    expect(await stopped).toBe(130);
  });
});
