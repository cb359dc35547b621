// The short loop of a change, as CONTRIBUTING.md has it: translates what is there, without checking types, and runs the test files whose paths hold a word.
//   npm run one -- inline            every test file with "inline" in its path
//   npm run one -- inline -t layers  of these the tests with "layers" in their names
import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { join, relative } from 'node:path';
import { build } from 'esbuild';
import { bundle, readDialects, readEngineTable } from './bundle.mjs';

const common = { format: 'esm', platform: 'node', target: 'node20', sourcemap: 'inline', logLevel: 'warning' };
const files = (...folders) => folders.flatMap((folder) => filesIn(folder)).filter((path) => !path.endsWith('.d.ts'));

const words = process.argv.slice(2);
const wanted = files('test').filter((path) => path.endsWith('.test.ts') && words.some((word) => path.includes(word)));
// Most tests of the core call its functions and nothing else: those need no program.
const callsProgram = (path) =>
  !path.startsWith(join('test', 'core')) || supportOf(path, new Set()).has(join('test', 'support', 'project.ts'));
const needsProgram = wanted.length === 0 || wanted.some(callsProgram);

await Promise.all([
  needsProgram ? bundle() : null,
  needsProgram ? translate(files('src'), 'src', 'dist') : null,
  translate(files('src', 'test'), '.', 'build'),
]);
if (needsProgram) {
  await readDialects();
  await readEngineTable();
}
const jest = ['--experimental-vm-modules', '--no-warnings', 'node_modules/jest/bin/jest.js', ...words];
process.exitCode = spawnSync(process.execPath, jest, { stdio: 'inherit' }).status ?? 1;

function filesIn(folder) {
  return readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((path) => path.endsWith('.ts'))
    .map((path) => join(folder, path));
}

/** Each file is translated by itself, so what has not changed since stays. */
function translate(paths, outbase, outdir) {
  const output = (path) => join(outdir, relative(outbase, path)).replace(/ts$/, 'js');
  const time = (path) => statSync(path, { throwIfNoEntry: false })?.mtimeMs ?? 0;
  const entryPoints = paths.filter((path) => time(output(path)) <= time(path));
  return build({ ...common, entryPoints, outbase, outdir });
}

/** The modules of test/support that a test imports, by others too. */
function supportOf(path, known) {
  for (const [, name] of readFileSync(path, 'utf8').matchAll(/from '(?:[./]+\/support|\.)\/([\w-]+)\.js'/g)) {
    const module = join('test', 'support', `${name}.ts`);
    if (known.has(module) || !existsSync(module)) continue;
    known.add(module);
    supportOf(module, known);
  }
  return known;
}
