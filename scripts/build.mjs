// Compiles src/ to dist/ from scratch: the library with its types, and the program in as few files as a command needs.
import { spawnSync } from 'node:child_process';
import { rmSync } from 'node:fs';
import { bundle, bundlePage, readDialects, readEngineTable, writeManual } from './bundle.mjs';

rmSync('dist', { recursive: true, force: true });
spawnSync(process.execPath, ['scripts/checks.mjs', '--lists'], { stdio: 'inherit' });
const { status } = spawnSync(process.execPath, ['node_modules/typescript/bin/tsc', '-p', 'tsconfig.json'], {
  stdio: 'inherit',
});
if (status === 0) {
  await bundle();
  await bundlePage();
  await readDialects();
  await readEngineTable();
  await writeManual();
}
process.exitCode = status ?? 1;
