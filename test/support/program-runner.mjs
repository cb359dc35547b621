// Runs commands of the program one after the other or beside each other, and says what each wrote and its exit code.
import { relative } from 'node:path';
import { parentPort, workerData } from 'node:worker_threads';
import { noProgress } from '../../dist/cli/io/progress.js';
import { run } from '../../dist/cli/run.js';

// What libraries tell the console about themselves is not for our users.
console.warn = () => undefined;
process.env.NO_COLOR = '1';

parentPort.on('message', ({ told, port }) => {
  void answer(told).then((result) => {
    port.postMessage(result);
    Atomics.add(workerData.signal, 0, 1);
    Atomics.notify(workerData.signal, 0);
  });
});

async function answer({ words, folder, input, env }) {
  const before = Object.keys(env).map((name) => [name, process.env[name]]);
  Object.assign(process.env, env);
  const out = [];
  let err = '';
  const code = await run(words, {
    out: (content) => out.push(Buffer.from(content)),
    err: (text) => (err += text),
    readInput: () => Promise.resolve(Buffer.from(input)),
    folder,
    outIsTerminal: false,
    toClipboard: () => Promise.reject(new Error('There is no terminal here.')),
    shown: (path) => relative(folder, path) || path,
    color: false,
    progress: () => Promise.resolve(noProgress),
    agreed: () => Promise.resolve(false),
    stopped: () => new Promise(() => undefined),
  });
  for (const [name, value] of before)
    if (value === undefined) delete process.env[name];
    else process.env[name] = value;
  return { code, out: Buffer.concat(out).toString('utf8'), err };
}
