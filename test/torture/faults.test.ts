import { afterAll, describe, expect, test } from '@jest/globals';
import { spawnSync } from 'node:child_process';
import { chmodSync, existsSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { programFile, TestFolder, type Run } from '../support/project.js';
import { isRoot, mayMount, quotedCommand, unshared } from '../support/unshared.js';
import { builtProject, changedProject, filesIn, isRecord, removeProjects, triedCommands } from './changed-project.js';
import { brokenLaw, count, keepCounts, ROUNDS } from './law.js';

afterAll(() => {
  removeProjects();
  keepCounts('faults');
});

/** Commands that write into `out/`. */
const commands = triedCommands(`
  * build
  pack --to members
  inline page.html --out out/inlined.html
  text page.html --out out/page.txt
  convert page.html --from bellmoor --to ferrywire --out out/converted.html --report out/tags.html
  * images shrink page.html --out out/light/page.html
  images embed page.html --out out/whole.html
  slice images/poster.png --plan images/poster.slices.yaml --out out/sliced
  * draft repair-day --to archive --with ines --out out/repair-day.eml
  dialect learn page.html --out out/learned.yaml
  preview loans-due --shots out/shots --view 375`);

/** What is in the outputs, without the record. */
const outputs = (folder: string): Map<string, string> =>
  new Map([...filesIn(folder)].filter(([path]) => !isRecord(path)));

// Some containers let nobody mount anything: there these are told as skipped.
const describeMounts = mayMount() ? describe : describe.skip;

describeMounts('a full disk', () => {
  test.each(commands)(
    'inscriba %s says so, and leaves whole files',
    (_, words) => {
      const whole = changedProject();
      const before = outputs(join(whole.path, 'out'));
      expect(whole.runProgram(words).code).toBe(0);
      const after = outputs(join(whole.path, 'out'));
      whole.remove();
      // Room for what is there, and for so many bytes more.
      for (const room of ROUNDS > 1 ? [0, 4096, 8192, 20_480] : [words.includes('build') ? 8192 : 0]) {
        const folder = changedProject();
        const script = `cp -a out old && used=$(du -sk --apparent-size old | cut -f1) && files=$(find old | wc -l) &&
      mount -t tmpfs -o size=$((used + files * 4))k none out && cp -a old/. out/ && head -c 1G /dev/zero > out/.filler 2>/dev/null; truncate -s -${room} out/.filler;
      ${quotedCommand(words)}; code=$?; rm -f out/.filler; cp -a out left; exit $code`;
        const run = unshared(folder.path, script);
        count('disk full');
        expect(brokenLaw(run)).toBe(null);
        const left = outputs(join(folder.path, 'left'));
        expect(
          [...left]
            .filter(([path, bytes]) => bytes !== before.get(path) && bytes !== after.get(path))
            .map(([path]) => path),
        ).toEqual([]);
        expect([...before.keys()].filter((path) => !left.has(path) && after.has(path))).toEqual([]);
        if (room === 0) expect(run.code).not.toBe(0);
        if (run.code === 0) expect([...after.keys()].filter((path) => !left.has(path))).toEqual([]);
        else expect(run.err).toContain('disk is full');
        folder.remove();
      }
    },
    60_000,
  );
});

describeMounts('a disk that is read only', () => {
  test.each(commands)(
    'inscriba %s says so',
    (_, words) => {
      const folder = changedProject();
      const run = unshared(
        folder.path,
        `mount --bind . . && mount -o remount,ro,bind . && cd "$PWD" && ${quotedCommand(words)}`,
      );
      count('read-only');
      expect([run.code === 0, brokenLaw(run)]).toEqual([false, null]);
      expect(outputs(join(folder.path, 'out'))).toEqual(outputs(join(builtProject().path, 'out')));
      folder.remove();
    },
    60_000,
  );
});

describe('without the permission', () => {
  const asNobody = (folder: TestFolder, words: readonly string[]): Run => {
    const { status, stdout, stderr } = spawnSync(process.execPath, [programFile, ...words], {
      cwd: folder.path,
      encoding: 'utf8',
      env: { ...process.env, NO_COLOR: '1' },
      ...(isRoot ? { uid: 65534, gid: 65534 } : {}),
    });
    return { code: status, out: stdout, err: stderr };
  };

  test.each(commands)(
    'to write, inscriba %s says so',
    (_, words) => {
      const folder = changedProject();
      chmodSync(folder.path, 0o755);
      for (const path of readdirSync(folder.path, { recursive: true, encoding: 'utf8' }))
        chmodSync(join(folder.path, path), statSync(join(folder.path, path)).isDirectory() ? 0o555 : 0o444);
      chmodSync(folder.path, 0o555);
      const run = asNobody(folder, words);
      count('no permission to write');
      expect([run.code === 0, brokenLaw(run)]).toEqual([false, null]);
      for (const path of ['.', ...readdirSync(folder.path, { recursive: true, encoding: 'utf8' })])
        chmodSync(join(folder.path, path), 0o755);
      expect(outputs(join(folder.path, 'out'))).toEqual(outputs(join(builtProject().path, 'out')));
      folder.remove();
    },
    60_000,
  );

  test.each([
    'inscriba.yaml',
    'messages/repair-day.html',
    'parts/house-footer.html',
    'styles/house.css',
    'data/tools.yaml',
    'images/lathe.jpg',
    'messages',
    'images',
  ])(
    'to read %s, the build says which file, and builds what does not need it',
    (path) => {
      const folder = changedProject();
      for (const other of ['.', ...readdirSync(folder.path, { recursive: true, encoding: 'utf8' })])
        chmodSync(join(folder.path, other), 0o777);
      chmodSync(join(folder.path, path), 0);
      const run = asNobody(folder, ['build']);
      count('no permission to read');
      chmodSync(join(folder.path, path), 0o777);
      expect([run.code === 0, brokenLaw(run)]).toEqual([false, null]);
      folder.remove();
    },
    60_000,
  );
});

describe('names of files', () => {
  const names = [
    ' ',
    'a b',
    ' lead',
    'trail ',
    "it's",
    'say "so"',
    '#1',
    'a?b',
    '50%',
    '%20',
    'a&b',
    '<p>',
    'a\\b',
    'a*b',
    '[x]',
    '{y}',
    '$z',
    '`w`',
    '~',
    '-',
    '--out',
    '!',
    '@{x}',
    '${x}',
    'a:b',
    'ä',
    'a\u0308',
    '日本',
    '😀',
    '\u202Eabc',
    'a\tb',
    'a\nb',
    '.hidden',
    'con',
    'x'.repeat(200),
    '..a',
    'a|b',
    'a;b',
    '\u0001',
    '&amp;',
    'a=b',
    'a,b',
    '(c)',
  ];

  test.each(names)('%j: finished HTML is read and written', (name) => {
    const folder = new TestFolder().write({
      [`${name}.html`]: '<!doctype html><title>x</title><style>p{color:red}</style><p>Hello ~~FIRST_NAME~~',
    });
    const file = `./${name}.html`;
    for (const [words, made] of [
      [['inline', file, '--out', `./${name}.out.html`], `${name}.out.html`],
      [['text', file, '--out', `./${name}.txt`], `${name}.txt`],
      [['convert', file, '--from', 'bellmoor', '--to', 'ferrywire', '--out', `in/${name}.html`], `in/${name}.html`],
      [['check', file], null],
    ] as const) {
      const run = folder.run(words);
      count('odd names');
      expect([words, brokenLaw(run)]).toEqual([words, null]);
      if (made !== null)
        expect([words, run.err, existsSync(join(folder.path, made))]).toEqual([words, expect.any(String), true]);
    }
    folder.remove();
  });

  test.each(names)('%j: messages, pictures and data of a project', (name) => {
    const address = encodeURIComponent(name);
    const folder = new TestFolder().write({
      'inscriba.yaml': 'name: x\ndestinations: { a: { dialect: neutral, images: { mode: package } } }',
      [`messages/${name}.html`]: `<title>x</title><p><img src="../images/${address}.png" alt="a saw" width="10"> Saws</p>`,
      [`images/${name}.png`]: builtProject().bytes('images/sign.png'),
    });
    for (const words of [['build'], ['list'], ['pack'], ['check']]) {
      const run = folder.run(words);
      count('odd names');
      expect([words, brokenLaw(run), run.out + run.err]).toEqual([words, null, expect.any(String)]);
    }
    folder.remove();
  });
});
