// The short loop of a change: translates what is there, without checking types, and runs the test files whose paths hold a word.
//   npm run one -- inline            every test file with "inline" in its path
//   npm run one -- inline -t layers  of these the tests with "layers" in their names
import { spawnSync } from 'node:child_process';
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { build } from 'esbuild';
import { bundle, readDialects, readEngineTable } from './bundle.mjs';

const common = { format: 'esm', platform: 'node', target: 'node20', sourcemap: 'inline', logLevel: 'warning' };
const files = (...folders) => folders.flatMap((folder) => filesIn(folder)).filter((path) => !path.endsWith('.d.ts'));

await Promise.all([
  bundle(),
  build({ ...common, entryPoints: files('src'), outbase: 'src', outdir: 'dist' }),
  build({ ...common, entryPoints: files('src', 'test'), outbase: '.', outdir: 'build' }),
]);
await readDialects();
await readEngineTable();
const jest = ['--experimental-vm-modules', '--no-warnings', 'node_modules/jest/bin/jest.js', ...process.argv.slice(2)];
process.exitCode = spawnSync(process.execPath, jest, { stdio: 'inherit' }).status ?? 1;

function filesIn(folder) {
  return readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((path) => path.endsWith('.ts'))
    .map((path) => join(folder, path));
}
