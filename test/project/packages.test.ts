import { afterEach, describe, expect, test } from '@jest/globals';
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { unzipSync } from 'fflate';
import { repository, TestFolder } from '../support/project.js';

const schema = JSON.parse(readFileSync(join(repository, 'schemas/manifest.schema.json'), 'utf8')) as object;
const validate = new Ajv2020({ allErrors: true }).compile(schema);

let folder: TestFolder;

afterEach(() => folder.remove());

interface Manifest {
  readonly shape?: string;
  readonly files: readonly { readonly path: string; readonly bytes: number; readonly sha256: string }[];
}

/** The files below a folder, by their paths. */
function filesIn(path: string): Map<string, Buffer> {
  const entries = readdirSync(path, { recursive: true, withFileTypes: true }).filter((entry) => entry.isFile());
  return new Map(
    entries
      .map((entry): [string, Buffer] => {
        const full = join(entry.parentPath, entry.name);
        return [full.slice(path.length + 1), readFileSync(full)];
      })
      .sort(([a], [b]) => (a < b ? -1 : 1)),
  );
}

/** Holds a manifest against the published schema, and against the files that it lists. */
function checkManifest(files: ReadonlyMap<string, Uint8Array>): Manifest {
  const manifest = JSON.parse(Buffer.from(files.get('manifest.json') ?? []).toString()) as Manifest;
  validate(manifest);
  expect(validate.errors ?? []).toEqual([]);
  for (const { path, bytes, sha256 } of manifest.files) {
    const content = files.get(path) ?? new Uint8Array();
    expect([path, content.length]).toEqual([path, bytes]);
    expect([path, createHash('sha256').update(content).digest('hex')]).toEqual([path, sha256]);
  }
  return manifest;
}

const out = 'out/members/may-newsletter';

describe('pack', () => {
  test.each<[string, string[]]>([
    ['folder', ['index.html', 'index.txt']],
    ['split', ['body.html', 'index.txt', 'styles.css']],
    ['eml', ['may-newsletter.eml']],
  ])('--shape %s: what its manifest lists is there, with a card; the same each time', (shape, names) => {
    folder = TestFolder.demoProject();
    const run = (): Map<string, Buffer> => {
      const { code, err } = folder.run(['pack', 'may-newsletter', '--to', 'members', '--shape', shape], {
        env: { TZ: 'Asia/Tokyo' },
      });
      expect([code, err.split('\n').length]).toEqual([0, 2]);
      return filesIn(join(folder.path, out));
    };
    const files = run();
    const manifest = checkManifest(files);
    expect(manifest.shape).toBe(shape);
    expect(
      manifest.files
        .map(({ path }) => path)
        .filter((path) => !path.startsWith('images/'))
        .sort(),
    ).toEqual(names);
    expect(files.get('import-card.txt')?.toString()).toContain(
      'How to import "may-newsletter" into Bellmoor (simulated)',
    );
    const other = TestFolder.demoProject();
    other.run(['pack', 'may-newsletter', '--to', 'members', '--shape', shape]);
    expect(filesIn(join(other.path, out))).toEqual(files);
    other.remove();
  });

  test('the zip holds page, text, pictures, manifest and card; another program finds it whole', () => {
    folder = TestFolder.demoProject();
    expect(folder.run(['pack', '--to', 'members', '--quiet'])).toEqual({ code: 0, out: '', err: '' });
    const files = new Map(Object.entries(unzipSync(folder.bytes(`${out}.zip`))));
    checkManifest(files);
    expect([...files.keys()].filter((path) => !path.startsWith('images/')).sort()).toEqual([
      'import-card.txt',
      'index.html',
      'index.txt',
      'manifest.json',
    ]);
    expect(spawnSync('unzip', ['-t', join(folder.path, `${out}.zip`)]).status).toBe(0);
    for (const edition of ['mill-yard', 'station-arches'])
      checkManifest(new Map(Object.entries(unzipSync(folder.bytes(`out/members/branch-notice/${edition}.zip`)))));
  });

  test('a single file takes no pictures along: they have to be hosted', () => {
    folder = TestFolder.demoProject();
    const refused = folder.run(['pack', 'repair-day', '--to', 'members', '--shape', 'single']);
    expect([refused.code, refused.err]).toEqual([1, expect.stringContaining('package-pictures')]);
    folder.change(
      'inscriba.yaml',
      'images: { mode: package }',
      'images: { mode: host, base_url: https://img.alderlane.example/, upload: { kind: folder, folder: synced } }',
    );
    const run = folder.run(['pack', 'repair-day', '--to', 'members', '--shape', 'single']);
    expect(run.code).toBe(0);
    const files = filesIn(join(folder.path, 'out/members/repair-day'));
    expect(checkManifest(files).files.map(({ path }) => path)).toEqual(['repair-day.txt', 'repair-day.html']);
    expect(files.get('repair-day.html')?.toString()).toContain('src="https://img.alderlane.example/repair-day/');
  });

  test('the shape and the names are those of the dialect, where nothing else is asked for', () => {
    folder = TestFolder.demoProject();
    folder.write({
      'dialects/ours.yaml':
        "dialect: ours\ntitle: Ours\ndelimiters: [{ open: '%%', close: '%%' }]\ntags: { field: '%%{field}%%', fallback: '%%{field}|{text}%%' }\nlinks: { unsubscribe: '%%leave%%', browser: '%%web%%' }\nsender: { company: '%%firm%%', postal_address: '%%post%%' }\npackage: { shape: split, html: '{message}-body.html', css: '{message}.css', text: plain.txt }\n",
    });
    folder.change('inscriba.yaml', 'dialect: neutral', 'dialect: ours');
    const run = folder.run(['pack', 'may-newsletter', '--to', 'archive']);
    expect([run.code, run.err]).toEqual([0, expect.stringContaining('out/archive/may-newsletter\n')]);
    const files = filesIn(join(folder.path, 'out/archive/may-newsletter'));
    expect([...files.keys()]).toEqual(
      expect.arrayContaining(['may-newsletter-body.html', 'may-newsletter.css', 'plain.txt', 'index.html']),
    );
    checkManifest(files);
    folder.change('dialects/ours.yaml', 'plain.txt', '../plain.txt');
    expect(folder.run(['pack', '--to', 'archive']).code).toBe(2);
  });

  test('what an earlier package had and a later build has not is removed; what others put there stays', () => {
    folder = TestFolder.demoProject();
    folder.run(['pack', 'may-newsletter', '--to', 'members', '--shape', 'split']);
    folder.write({ [`${out}/notes.md`]: 'mine' });
    folder.run(['build', 'may-newsletter', '--to', 'members', '--fresh']);
    const names = [...filesIn(join(folder.path, out)).keys()].filter((name) => !name.startsWith('images/'));
    expect(names).toEqual(['index.html', 'index.txt', 'manifest.json', 'notes.md']);
    expect(checkManifest(filesIn(join(folder.path, out))).shape).toBeUndefined();
  });

  test('a manifest that somebody has changed leads to no file elsewhere', () => {
    folder = TestFolder.demoProject().write({
      'precious.txt': 'mine',
      [`${out}/manifest.json`]: '{"files":[{"path":"../../../precious.txt"},{"path":"/etc/x"},{"path":7},null]}',
    });
    expect(folder.run(['build', 'may-newsletter', '--to', 'members']).code).toBe(0);
    expect(folder.read('precious.txt')).toBe('mine');
  });

  test('the card names the values in the order in which a form asks for them', () => {
    folder = TestFolder.demoProject().write({ 'messages/hours.pdf': 'x' });
    folder.change(
      'messages/may-newsletter.html',
      '<meta name="keywords"',
      '<meta name="attachment" content="hours.pdf"><meta name="dialect-category" content="News"><meta name="keywords"',
    );
    folder.run(['pack', 'may-newsletter', '--to', 'members']);
    const card = Buffer.from(unzipSync(folder.bytes(`${out}.zip`))['import-card.txt'] ?? []).toString();
    expect(card.split('\n').flatMap((line) => /^([A-Z][A-Za-z ]*?(?: \(\d+\))?) {2,}/.exec(line)?.[1] ?? [])).toEqual([
      'Name',
      'Description',
      'Subject',
      'Preheader',
      'Sender',
      'Reply to',
      'Topic',
      'Tracked links (6)',
      'Attachments',
      'Category',
      'Keywords',
      'Import',
      'HTML',
      'Plain text',
      'Pictures',
    ]);
    expect(card).toContain('  [ ] the attachments open\n');
    expect(card).toContain('  [ ] all 5 pictures show\n');
    // What the platform fills in is no address to track.
    expect(card).not.toContain('LINK_LEAVE');
  });

  test('a dialect without a package is packed in the shape that is asked for', () => {
    folder = TestFolder.demoProject().write({
      'dialects/bare.yaml':
        "dialect: bare\ntitle: Bare\nverbatim: true\ndelimiters: [{ open: '@{', close: '}', quotes: true }]\n",
    });
    folder.change('inscriba.yaml', 'dialect: neutral', 'dialect: bare');
    const refused = folder.run(['pack', 'repair-day', '--to', 'archive']);
    expect([refused.code, refused.err]).toEqual([2, expect.stringContaining('not-packable')]);
    expect(folder.run(['pack', 'repair-day', '--to', 'archive', '--shape', 'zip']).code).toBe(0);
    expect(folder.run(['pack', 'repair-day', '--shape', 'tar']).code).toBe(2);
  });
});
