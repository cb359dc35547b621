import { afterAll, expect, test } from '@jest/globals';
import { spawn } from 'node:child_process';
import { cpSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Random } from '../support/random.js';
import { programFile, TestFolder } from '../support/project.js';
import { count, keepCounts, ROUNDS, SEED } from './law.js';

afterAll(() => {
  model?.remove();
  keepCounts('kills');
});

/** Every file below a folder, by its path. */
function filesIn(folder: string): Map<string, string> {
  const paths = readdirSync(folder, { recursive: true, encoding: 'utf8' }).filter((path) =>
    statSync(join(folder, path)).isFile(),
  );
  // A mail says when it was written.
  const bytes = (path: string): string =>
    readFileSync(join(folder, path))
      .toString('latin1')
      .replace(/^(?:Date|Message-ID): .*$/gm, '');
  return new Map(paths.sort().map((path) => [path, bytes(path)]));
}

/** Runs the program that ships; killed after so many milliseconds where they are given. Gives how long it took. */
async function run(folder: string, words: readonly string[], killAfter: number | null): Promise<number> {
  const start = performance.now();
  const child = spawn(process.execPath, [programFile, ...words], { cwd: folder, stdio: 'ignore' });
  const timer = killAfter === null ? undefined : setTimeout(() => child.kill('SIGKILL'), killAfter);
  await new Promise((resolve) => child.once('exit', resolve));
  clearTimeout(timer);
  return performance.now() - start;
}

/** What is kept beside outputs so that nothing is done twice; what it says is looked at by doing it again. */
const isRecord = (path: string): boolean => path.startsWith('out/.record/');

/** Commands that write; a change is made before each, so that there is something old and something new. */
const commands: readonly (readonly string[])[] = [
  ['build'],
  ['build', '--fresh', '--to', 'members'],
  ['pack', '--to', 'members'],
  ['inline', 'page.html', '--out', 'made.html'],
  ['text', 'page.html', 'other.html', '--out', 'texts'],
  [
    'convert',
    'page.html',
    'other.html',
    '--from',
    'bellmoor',
    '--to',
    'ferrywire',
    '--out',
    'converted',
    '--report',
    'tags.html',
    '--fields',
    'names.yaml',
  ],
  ['images', 'shrink', 'page.html', '--out', 'light/page.html'],
  ['images', 'embed', 'page.html', '--out', 'whole.html'],
  [
    'images',
    'host',
    'page.html',
    '--base-url',
    'https://img.alderlane.example/',
    '--upload',
    'hosted',
    '--out',
    'hosted.html',
  ],
  ['slice', 'images/poster.png', '--plan', 'images/poster.slices.yaml', '--out', 'sliced'],
  ['adopt', 'foreign/ferrywire-export.zip', '--as', 'adopted', '--force'],
  ['new', 'message', 'closing', '--starter', 'notice', '--force'],
  ['draft', 'repair-day', '--to', 'archive', '--with', 'ines', '--out', 'repair-day.eml'],
  ['dialect', 'learn', 'page.html', '--out', 'learned.yaml'],
];

let model: TestFolder | null = null;

/** A built project of three messages. */
function builtProject(): TestFolder {
  if (model !== null) return model;
  model = TestFolder.demoProject();
  for (const message of ['parts-specimen.html', 'membership-receipt.html', 'branch-notice.md'])
    model.delete(`messages/${message}`);
  rmSync(join(model.path, 'out'), { recursive: true, force: true });
  expect(model.run(['build']).code).toBe(0);
  return model;
}

/** That project with something new to build. */
function changedProject(): TestFolder {
  const folder = new TestFolder();
  cpSync(builtProject().path, folder.path, { recursive: true });
  const page = folder.read('foreign/bellmoor-export.html').replaceAll('bellmoor-files/', 'foreign/bellmoor-files/');
  folder.write({
    'page.html': page,
    'other.html': page.replace('blunt edges', 'sharp edges'),
    'made.html': 'old',
    'whole.html': 'old',
  });
  for (const message of ['loans-due', 'may-newsletter', 'repair-day'])
    folder.change(`messages/${message}.html`, '</main>', '<p class="text">One line more</p></main>');
  return folder;
}

/** How two sets of files differ, by paths alone. */
function differing(files: ReadonlyMap<string, string>, others: ReadonlyMap<string, string>): string[] {
  return [...new Set([...files.keys(), ...others.keys()])].filter(
    (path) => !isRecord(path) && files.get(path) !== others.get(path),
  );
}

/** In verify those that stand for the others; by hand all. */
const tried =
  ROUNDS > 1
    ? commands
    : commands.filter(
        (words) =>
          /^(?:build|pack|convert|images host|slice|adopt)/.test(words.join(' ')) && !words.includes('--fresh'),
      );

test.each(tried.map((words) => [words.join(' '), words] as const))(
  'inscriba %s, killed at any moment, leaves whole files, and goes on where it ended',
  async (_, words) => {
    const random = new Random(SEED + words.join().length);
    const untouched = changedProject();
    const before = filesIn(untouched.path);
    const whole = changedProject();
    const duration = await run(whole.path, words, null);
    const after = filesIn(whole.path);
    expect(differing(before, after)).not.toEqual([]);
    for (let kill = 0; kill < ROUNDS; kill += 1) {
      const folder = changedProject();
      // The first half of a run is mostly start: most moments are of the second.
      await run(folder.path, words, duration * (0.25 + 0.75 * random.next()));
      count(words.slice(0, words[0] === 'images' || words[0] === 'new' ? 2 : 1).join(' '));
      const left = filesIn(folder.path);
      const broken = [...left].filter(
        ([path, bytes]) => !isRecord(path) && bytes !== before.get(path) && bytes !== after.get(path) && !isOwn(path),
      );
      const lost = [...before.keys()].filter((path) => !left.has(path) && after.has(path));
      expect([words, broken.map(([path]) => path), lost]).toEqual([words, [], []]);
      await run(folder.path, words, null);
      expect([words, differing(filesIn(folder.path), after)]).toEqual([words, []]);
      folder.remove();
    }
    untouched.remove();
    whole.remove();
  },
  3_600_000,
);

/** A file under way, which takes the place of another when it is whole. */
const isOwn = (path: string): boolean => /(?:^|\/)\.[^/]*\.part$/.test(path);

test('two at once leave what one leaves', async () => {
  const random = new Random(SEED);
  for (let round = 0; round < ROUNDS; round += 1)
    for (const words of [
      ['pack', '--to', 'members'],
      ['convert', 'page.html', '--to', 'ferrywire', '--from', 'bellmoor', '--out', 'converted.html'],
    ]) {
      const [one, two] = [changedProject(), changedProject()];
      await run(one.path, words, null);
      const beside = run(two.path, words, null);
      await new Promise((resolve) => setTimeout(resolve, random.below(200)));
      await Promise.all([beside, run(two.path, words, null)]);
      count('two at once');
      expect([words, differing(filesIn(two.path), filesIn(one.path))]).toEqual([words, []]);
      one.remove();
      two.remove();
    }
}, 3_600_000);

test('a clock that goes back, and files of the future, change no byte', async () => {
  const [usual, odd] = [changedProject(), changedProject()];
  await run(usual.path, ['pack', '--to', 'members'], null);
  const clock = join(odd.path, '../clock-that-goes-back.mjs');
  writeFileSync(clock, 'const now = Date.now; let asked = 0; Date.now = () => now() - 4e11 - 86_400_000 * asked++;');
  const node = process.env['NODE_OPTIONS'] ?? '';
  process.env['NODE_OPTIONS'] = `--import=${clock}`;
  await run(odd.path, ['pack', '--to', 'members'], null);
  process.env['NODE_OPTIONS'] = node;
  count('clock set back');
  expect(differing(filesIn(odd.path), filesIn(usual.path))).toEqual([]);
  rmSync(clock);
  usual.remove();
  odd.remove();
}, 60_000);
