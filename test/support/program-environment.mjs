// The environment of a test file: that of Node, and the commands of the program at hand without starting it. They run in a
// thread of their own, outside the contexts of test files, where they are loaded once for all files of a process.
import { MessageChannel, receiveMessageOnPort, Worker } from 'node:worker_threads';
import { TestEnvironment } from 'jest-environment-node';

let runner = null;

/** The thread that runs commands: a signal that wakes whoever waits, and a port for each question. */
function startRunner() {
  const signal = new Int32Array(new SharedArrayBuffer(4));
  const worker = new Worker(new URL('./program-runner.mjs', import.meta.url), { workerData: { signal } });
  worker.unref();
  return { signal, worker };
}

function ask(told) {
  runner ??= startRunner();
  const { port1, port2 } = new MessageChannel();
  runner.worker.postMessage({ told, port: port2 }, [port2]);
  return port1;
}

/** Runs a command while the test waits. */
function runWaiting(told) {
  const port = ask(told);
  for (;;) {
    const seen = Atomics.load(runner.signal, 0);
    const answer = receiveMessageOnPort(port);
    if (answer !== undefined) {
      port.close();
      return answer.message;
    }
    Atomics.wait(runner.signal, 0, seen, 1000);
  }
}

/** Runs a command while the test goes on. */
function runBeside(told) {
  const port = ask(told);
  return new Promise((resolve) => {
    port.once('message', (answer) => {
      port.close();
      resolve(answer);
    });
  });
}

/** The folder of the library that speaks with browsers. */
const browserLibrary = '/node_modules/playwright-core/';

/**
 * Leaves the stacks as they are that the browser's library reads at each of its calls: to look up each frame of each in the
 * sources took a tenth of the time of the tests that use a browser.
 */
function leaveStacksOfLibrary({ Error }) {
  const inSources = Error.prepareStackTrace;
  Error.prepareStackTrace = (error, frames) =>
    frames[0]?.getFileName()?.includes(browserLibrary)
      ? [String(error), ...frames.map((frame) => `    at ${frame}`)].join('\n')
      : inSources(error, frames);
}

export default class ProgramEnvironment extends TestEnvironment {
  async setup() {
    await super.setup();
    this.global.program = { runWaiting, runBeside };
    leaveStacksOfLibrary(this.global);
  }
}
