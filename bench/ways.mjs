// Counts how often the functions on the way of a message are called, for the sample newsletter and one destination, by the
// engine's own precise coverage. As many parses of HTML are wanted as there are source files (frame, parts, message), plus one.
// `npm run build && node bench/ways.mjs`
import { Session } from 'node:inspector/promises';
import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { run } from '../dist/cli/run.js';

const counted = [
  'parseHtml',
  'expandPage',
  'parseStyleSheet',
  'computeStyles',
  'expandShorthand',
  'judgeValue',
  'readQuantity',
  'formatPixels',
];

const folder = mkdtempSync(join(tmpdir(), 'inscriba-ways-'));
cpSync('demo', folder, { recursive: true });
const silent = { show: () => undefined, clear: () => undefined };
const io = {
  out: () => undefined,
  err: () => undefined,
  folder,
  color: false,
  outIsTerminal: false,
  shown: (path) => path,
  progress: async () => silent,
};

/** The calls of each counted function during some work. */
async function callsOf(work) {
  const session = new Session();
  session.connect();
  await session.post('Profiler.enable');
  await session.post('Profiler.startPreciseCoverage', { callCount: true, detailed: true });
  await work();
  const { result } = await session.post('Profiler.takePreciseCoverage');
  session.disconnect();
  const calls = new Map(counted.map((name) => [name, 0]));
  for (const script of result.filter(({ url }) => url.includes('/dist/')))
    for (const { functionName, ranges } of script.functions)
      if (calls.has(functionName)) calls.set(functionName, calls.get(functionName) + ranges[0].count);
  return calls;
}

const build = (message) => () => run(['build', message, '--to', 'archive', '--quiet'], io);
// What is read once in a process (the browser's own styles) is read before anything is counted.
await build('repair-day')();
const messages = ['may-newsletter', 'loans-due', 'membership-receipt', 'repair-day'];
const columns = [];
for (const message of messages) columns.push(await callsOf(build(message)));
console.log(`calls`.padEnd(18) + messages.map((name) => name.padStart(20)).join(''));
for (const name of counted)
  console.log(name.padEnd(18) + columns.map((calls) => String(calls.get(name)).padStart(20)).join(''));
rmSync(folder, { recursive: true, force: true });
