import { afterAll, expect, test } from '@jest/globals';
import { spawn } from 'node:child_process';
import { rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Random } from '../support/random.js';
import { programFile } from '../support/project.js';
import { changedProject, filesIn, isRecord, removeProjects, triedCommands } from './changed-project.js';
import { count, keepCounts, ROUNDS, SEED } from './law.js';

afterAll(() => {
  removeProjects();
  keepCounts('kills');
});

/** Runs the program that ships; killed after so many milliseconds where they are given. Gives how long it took. */
async function run(folder: string, words: readonly string[], killAfter: number | null): Promise<number> {
  const start = performance.now();
  const child = spawn(process.execPath, [programFile, ...words], { cwd: folder, stdio: 'ignore' });
  const timer = killAfter === null ? undefined : setTimeout(() => child.kill('SIGKILL'), killAfter);
  await new Promise((resolve) => child.once('exit', resolve));
  clearTimeout(timer);
  return performance.now() - start;
}

/** Commands that write. */
const commands = triedCommands(`
  * build
  build --fresh --to members
  * pack --to members
  inline page.html --out made.html
  text page.html other.html --out texts
  * convert page.html other.html --from bellmoor --to ferrywire --out converted --report tags.html
  convert page.html --from bellmoor --to ferrywire --out converted.html --fields names.yaml
  images shrink page.html --out light/page.html
  images embed page.html --out whole.html
  * images host page.html --base-url https://img.alderlane.example/ --upload hosted --out hosted.html
  slice images/poster.png --plan images/poster.slices.yaml --out sliced
  slice images/drill.png
  * adopt foreign/ferrywire-export.zip --as adopted --force
  new project another
  new message closing --starter notice --force
  new part tool-tag --force
  draft repair-day --to archive --with ines --out repair-day.eml
  dialect learn page.html --out learned.yaml
  preview loans-due --shots shots --view 375
  prove loans-due --shots shots
  demo --out demo-out --quiet`);

/** How two sets of files differ, by paths alone. */
function differing(files: ReadonlyMap<string, string>, others: ReadonlyMap<string, string>): string[] {
  return [...new Set([...files.keys(), ...others.keys()])].filter(
    (path) => !isRecord(path) && files.get(path) !== others.get(path),
  );
}

test.each(commands)(
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
    for (const words of ROUNDS > 1 ? commands.map(([, command]) => command) : [['pack', '--to', 'members']]) {
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
