import { rmSync } from 'node:fs';
import { setTimeout } from 'node:timers/promises';
import { Worker } from 'node:worker_threads';
import { workerFile } from '../files/own-files.js';
import { PendingSlot } from '../files/pending-slot.js';
import { pendingSlots } from '../files/write-file.js';
import type { NumberedAnswer, NumberedTask, WorkerAnswer, WorkerStart, WorkerTask } from './worker-messages.js';

interface Waiting {
  readonly task: WorkerTask;
  /** Whether a worker has it by itself: one that had it with another has ended, and which was at fault is not known. */
  readonly isAlone: boolean;
  readonly resolve: (answer: WorkerAnswer) => void;
  readonly reject: (error: Error) => void;
}

/** So many tasks a worker has at a time: while one waits for the disk it goes on with the other. */
const TASKS_EACH = 2;

/** How long a worker may take to end, in ms. */
const ENDS_WITHIN = 1000;

/** What a message needs on its way is thrown away soon: with little room for it, that takes much of the time. */
const resourceLimits = { maxYoungGenerationSizeMb: 64 };

/** Some workers, which take tasks from one row. One that ends in the middle is replaced. */
export class WorkerPool {
  readonly #row: Waiting[] = [];
  readonly #workers = new Set<BusyWorker>();
  #count = 0;

  constructor(
    private readonly size: number,
    private readonly start: Omit<WorkerStart, 'pending'>,
  ) {}

  /** Fails where the worker that has the task ends before it is done. */
  run(task: WorkerTask): Promise<WorkerAnswer> {
    return new Promise((resolve, reject) => {
      this.#row.push({ task, isAlone: false, resolve, reject });
      this.assign();
    });
  }

  async close(): Promise<void> {
    await Promise.all([...this.#workers].map((worker) => worker.stop()));
  }

  private assign(): void {
    while (this.#row.length > 0) {
      if (this.#workers.size < this.size) this.hire();
      const worker = [...this.#workers].reduce((least, other) => (other.load < least.load ? other : least));
      if (worker.load === TASKS_EACH || (this.#row[0]?.isAlone === true && worker.load > 0)) return;
      const next = this.#row.shift();
      this.#count += 1;
      if (next !== undefined) worker.give(this.#count, next);
    }
  }

  private hire(): void {
    const worker = new BusyWorker(this.start, {
      free: () => this.assign(),
      ended: (again) => {
        this.#workers.delete(worker);
        this.#row.unshift(...again);
        this.assign();
      },
    });
    this.#workers.add(worker);
  }
}

/** A worker with what it has to do. */
class BusyWorker {
  readonly #worker: Worker;
  readonly #tasks = new Map<number, Waiting>();
  /** Where it says what it is writing. */
  readonly #pending = new PendingSlot();

  constructor(
    start: Omit<WorkerStart, 'pending'>,
    { free, ended }: { readonly free: () => void; readonly ended: (again: readonly Waiting[]) => void },
  ) {
    const workerData: WorkerStart = { ...start, pending: this.#pending.memory };
    pendingSlots.add(this.#pending);
    this.#worker = new Worker(workerFile('build-worker', import.meta.url), { workerData, resourceLimits });
    this.#worker.on('message', ({ number, answer }: NumberedAnswer) => {
      this.#tasks.get(number)?.resolve(answer);
      this.#tasks.delete(number);
      free();
    });
    let reason: unknown = null;
    this.#worker.on('error', (error) => (reason = error));
    this.#worker.on('exit', (code) => {
      this.clean();
      const error = reason instanceof Error ? reason : new Error(`A worker ended with code ${code}.`);
      const tasks = [...this.#tasks.values()];
      this.#tasks.clear();
      const [only] = tasks;
      if (tasks.length === 1) only?.reject(error);
      ended(tasks.length === 1 ? [] : tasks.map((waiting) => ({ ...waiting, isAlone: true })));
    });
  }

  get load(): number {
    return [...this.#tasks.values()].some(({ isAlone }) => isAlone) ? TASKS_EACH : this.#tasks.size;
  }

  give(number: number, waiting: Waiting): void {
    this.#tasks.set(number, waiting);
    this.#worker.postMessage({ number, task: waiting.task } satisfies NumberedTask);
  }

  /** Lets it end by itself, so that it can keep what was compiled for it, or ends it. */
  async stop(): Promise<void> {
    const ended = new Promise((resolve) => this.#worker.once('exit', resolve));
    this.#worker.postMessage(null);
    await Promise.race([ended, setTimeout(ENDS_WITHIN, null, { ref: false })]);
    await this.#worker.terminate();
  }

  /** What it left half written goes with it. */
  private clean(): void {
    const left = this.#pending.read();
    if (left !== null) rmSync(left, { force: true });
    pendingSlots.delete(this.#pending);
  }
}
