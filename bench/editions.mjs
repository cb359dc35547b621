// What editions cost: the time of a build with many rows beside that of one with few, so that growth shows. Each is the
// whole program in a process of its own, in turn; the ratios are of medians. `node bench/editions.mjs`
import { spawnSync } from 'node:child_process';
import { cpSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { performance } from 'node:perf_hooks';
import { fileURLToPath } from 'node:url';

const ROUNDS = 3;

/** The time of a build of the branch notice with so many rows, in milliseconds. */
function build(folder, rows) {
  const lines = Array.from(
    { length: rows },
    (_, n) => `Branch ${n + 1},${n + 1} Mill Yard,9 to 18,${n % 2 ? '9 to 13' : ''},Ines`,
  );
  writeFileSync(join(folder, 'data/branches.csv'), `branch,street,weekdays,saturday,keeper\n${lines.join('\n')}\n`);
  rmSync(join(folder, 'out'), { recursive: true, force: true });
  const start = performance.now();
  const words = [resolve('dist/program/inscriba.js'), 'build', 'branch-notice', '--to', 'members', '--quiet'];
  const { status, stderr } = spawnSync(process.execPath, words, { cwd: folder, encoding: 'utf8' });
  if (status !== 0) throw new Error(stderr);
  return performance.now() - start;
}

function inFolder(work) {
  const folder = mkdtempSync(join(tmpdir(), 'inscriba-bench-'));
  cpSync('demo', folder, { recursive: true, filter: (path) => !/demo\/out(?:\/|$)/.test(path) });
  const result = work(folder);
  rmSync(folder, { recursive: true, force: true });
  return result;
}

/** What an edition takes where there are so many, in milliseconds; the time of a start is taken off. */
export function editionTime(rows) {
  return inFolder((folder) => {
    const start = build(folder, 1);
    return (build(folder, rows) - start) / (rows - 1);
  });
}

function table(folder) {
  const counts = [1, 250, 500, 1000];
  const times = new Map(counts.map((count) => [count, []]));
  for (let round = 0; round < ROUNDS; round += 1)
    for (const count of counts) times.get(count).push(build(folder, count));
  const median = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];
  const start = median(times.get(1));
  const base = median(times.get(250)) - start;
  console.log('editions       time   ÷ that of 250, start-up taken off');
  for (const count of counts) {
    const own = median(times.get(count));
    const ratio = count === 1 ? '' : ((own - start) / base).toFixed(2);
    console.log(`${String(count).padStart(8)} ${(own / 1000).toFixed(2).padStart(8)} s ${ratio.padStart(8)}`);
  }
}

if (process.argv[1] === fileURLToPath(import.meta.url)) inFolder(table);
