import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { repository } from '../support/project.js';

/** An empty folder into which the package is installed as its users install it. */
let folder: string;

function run(command: string, words: readonly string[], cwd: string): string {
  const { status, stdout, stderr } = spawnSync(command, words, { cwd, encoding: 'utf8' });
  if (status !== 0) throw new Error(`${command} ${words.join(' ')} ended with ${status}:\n${stdout}${stderr}`);
  return stdout;
}

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'inscriba-package-'));
  run('npm', ['pack', '--silent', '--pack-destination', folder], repository);
  const [file] = readdirSync(folder);
  writeFileSync(join(folder, 'package.json'), '{ "name": "empty", "private": true, "type": "module" }');
  run('npm', ['install', '--silent', '--prefer-offline', '--no-audit', '--no-fund', `./${file}`], folder);
}, 300_000);

afterAll(() => rmSync(folder, { recursive: true, force: true }));

test('the command runs from where it is installed', () => {
  expect(run(join(folder, 'node_modules/.bin/inscriba'), ['--version'], folder)).toMatch(/^\d+\.\d+\.\d+\n$/);
  run(join(folder, 'node_modules/.bin/inscriba'), ['new', 'project', 'tools'], folder);
  run(join(folder, 'node_modules/.bin/inscriba'), ['build'], join(folder, 'tools'));
  expect(readdirSync(join(folder, 'tools/out')).length).toBeGreaterThan(0);
});

test('the lines of README.md install it for all folders, with completion and its manual page', () => {
  const [, lines = ''] = /```\n(npm ci [^`]*)```/.exec(readFileSync(join(repository, 'README.md'), 'utf8')) ?? [];
  const [made, ...installed] = lines.trimEnd().split('\n');
  expect(made).toBe('npm ci && npm run build && npm pack');
  const prefix = join(folder, 'everywhere');
  const settings = [
    `export npm_config_prefix='${prefix}' npm_config_prefer_offline=true PATH='${prefix}/bin':"$PATH"`,
    // Not every machine has a pager of manuals.
    'man() { groff -man -Tutf8 "$1"; }',
  ];
  const said = run('bash', ['-e', '-c', [...settings, ...installed, 'complete -p inscriba'].join('\n')], folder);
  expect(said).toContain('complete -F _inscriba inscriba\n');
  expect(said).toMatch(/^\S*INSCRIBA\(1\)/m);
});

test('the example of docs/library.md runs, and prints what stands there', () => {
  const page = readFileSync(join(repository, 'docs/library.md'), 'utf8');
  const [, program = ''] = /```js\n([\s\S]*?)```/.exec(page) ?? [];
  const [, printed = ''] = /```text\n([\s\S]*?)```/.exec(page) ?? [];
  writeFileSync(join(folder, 'example.mjs'), program);
  expect(run(process.execPath, ['example.mjs'], folder)).toBe(printed);
});

test('its types can be imported', () => {
  writeFileSync(
    join(folder, 'typed.ts'),
    `import { compile, inline, type CompileOptions, type Dialect, type Finding, type RenderedMessage, type Result } from 'inscriba';
const options: CompileOptions = { width: 640 };
const compiled: Result<RenderedMessage | null> = compile('<p>x</p>', {}, options);
const codes: string[] = compiled.findings.map((item: Finding) => item.code);
const dialect: Dialect | undefined = options.to;
// @ts-expect-error a text is no number
inline(1);
export { codes, dialect };
`,
  );
  const compilerOptions = { noEmit: true, strict: true, module: 'NodeNext', target: 'ES2023', types: [] };
  writeFileSync(join(folder, 'tsconfig.json'), JSON.stringify({ compilerOptions, files: ['typed.ts'] }));
  run(process.execPath, [join(repository, 'node_modules/typescript/bin/tsc'), '-p', folder], folder);
});

test('source maps lead to sources that are there', () => {
  const maps = readdirSync(join(folder, 'node_modules/inscriba/dist/core'), {
    recursive: true,
    encoding: 'utf8',
  }).filter((path) => path.endsWith('.js.map'));
  expect(maps.length).toBeGreaterThan(100);
  for (const path of maps) {
    const map = JSON.parse(readFileSync(join(folder, 'node_modules/inscriba/dist/core', path), 'utf8')) as {
      sourcesContent?: string[];
    };
    expect(map.sourcesContent?.[0]?.length ?? 0).toBeGreaterThan(0);
  }
});
