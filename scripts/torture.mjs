// Tries what nobody should do to the program: mistakes in every file and every talk that it reads, kills at any moment, full and
// closed disks, odd names, two at once. `npm run torture -- --rounds 20 --seed 7`; verify does one round of it.
import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { parseArgs } from 'node:util';

const { values, positionals } = parseArgs({
  options: { rounds: { type: 'string', default: '10' }, seed: { type: 'string', default: '23' } },
  allowPositionals: true,
});

const counts = 'build/torture';
rmSync(counts, { recursive: true, force: true });
const parts = positionals.length === 0 ? [''] : positionals;
const { status } = spawnSync(
  process.execPath,
  [
    ...[
      '--experimental-vm-modules',
      '--no-warnings',
      'node_modules/jest/bin/jest.js',
      '--maxWorkers=2',
      '--colors=false',
    ],
    ...parts.map((part) => `build/test/torture/${part}`),
  ],
  { stdio: 'inherit', env: { ...process.env, TORTURE_ROUNDS: values.rounds, TORTURE_SEED: values.seed } },
);

console.log(`\nWhat was tried, with seed ${values.seed}:`);
for (const file of existsSync(counts) ? readdirSync(counts).filter((name) => name.endsWith('.json')) : [])
  for (const [what, times] of Object.entries(JSON.parse(readFileSync(`${counts}/${file}`, 'utf8'))))
    console.log(`${String(times).padStart(7)}  ${what}`);
if (existsSync(`${counts}/cases`)) console.log(`Files that broke a rule are in ${counts}/cases.`);
process.exitCode = status ?? 1;
