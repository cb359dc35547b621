import { Worker } from 'node:worker_threads';
import { findingsFrom } from '../../core/findings/plain-findings.js';
import type { Finding } from '../../core/findings/finding.js';
import { workerFile } from '../files/own-files.js';
import { defectIn } from '../visit/defect.js';
import type { EditorAnswer, EditorTask } from './editor-tasks.js';

/** What a look came to. */
export interface Looked {
  readonly findings: readonly Finding[];
  readonly inputs: ReadonlySet<string>;
}

/** What a look needs on its way is thrown away soon: with little room for it, that takes much of the time. */
const resourceLimits = { maxYoungGenerationSizeMb: 64 };

/** So long a look may take, in ms: whoever types cannot wait for one that never ends. */
const LONGEST = 20_000;

/** Looks at files in a thread of its own, one after the other, so that whoever types is answered meanwhile. */
export class WorkerDesk {
  #worker: Worker | null = null;
  #count = 0;
  /** What is typed and not saved, as the worker knows it. */
  #told = new Map<string, string>();
  readonly #changed: string[] = [];

  /** Files that have changed on the disk are read again. */
  changeOnDisk(paths: readonly string[]): void {
    this.#changed.push(...paths);
  }

  /** Starts the worker, which takes a while to load what it looks with. */
  prepare(): void {
    if (this.#worker === null) this.hire();
  }

  /** A look that ends in a defect, or never ends, is told as one: the worker that had it is gone. */
  look(
    task: Pick<EditorTask, 'kind' | 'path' | 'folder' | 'state'>,
    texts: ReadonlyMap<string, string>,
  ): Promise<Looked> {
    const worker = this.#worker ?? this.hire();
    this.#count += 1;
    const number = this.#count;
    const changed: [string, string | null][] = [
      ...[...texts].filter(([path, text]) => this.#told.get(path) !== text),
      ...[...this.#told.keys()].filter((path) => !texts.has(path)).map((path): [string, null] => [path, null]),
    ];
    this.#told = new Map(texts);
    const onDisk = this.#changed.splice(0);
    return new Promise<Looked>((resolve) => {
      const end = (answer: EditorAnswer | Error): void => {
        clearTimeout(timer);
        worker.off('message', told).off('exit', ended);
        if (answer instanceof Error) void this.dismiss(worker);
        resolve(lookedOf(task.path, answer));
      };
      const told = (answer: EditorAnswer): void => {
        if (answer.number === number) end(answer);
      };
      const ended = (): void => end(new Error('the worker that looked at it has ended'));
      const late = (): void => end(new Error(`looking at it took more than ${LONGEST / 1000} s`));
      const timer = setTimeout(late, LONGEST);
      worker.on('message', told).on('exit', ended);
      worker.postMessage({ ...task, number, texts: changed, changed: onDisk } satisfies EditorTask);
    });
  }

  async close(): Promise<void> {
    if (this.#worker !== null) await this.dismiss(this.#worker);
  }

  private hire(): Worker {
    const worker = new Worker(workerFile('editor-worker', import.meta.url), { resourceLimits });
    // Its end says all that there is to say.
    worker.on('error', () => undefined);
    this.#worker = worker;
    this.#told = new Map();
    return worker;
  }

  private async dismiss(worker: Worker): Promise<void> {
    if (this.#worker === worker) this.#worker = null;
    await worker.terminate();
  }
}

function lookedOf(path: string, answer: EditorAnswer | Error): Looked {
  if (answer instanceof Error) return { findings: [defectIn(path, answer)], inputs: new Set([path]) };
  return { findings: findingsFrom(answer.findings), inputs: new Set(answer.inputs) };
}
