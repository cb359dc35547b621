import { parentPort, workerData } from 'node:worker_threads';
import { loadConfig } from '../config/config.js';
import { PendingSlot } from '../files/pending-slot.js';
import { tellPending } from '../files/write-file.js';
import { planVisit, type VisitPlan } from '../visit/choose-messages.js';
import type { BuildRequest } from './outcome.js';
import { PicturePlacer } from '../visit/place-pictures.js';
import { buildBlock } from './build-block.js';
import {
  asAnswer,
  type NumberedAnswer,
  type NumberedTask,
  type WorkerStart,
  type WorkerTask,
} from './worker-messages.js';

/** What a worker works with. */
interface Bench {
  readonly plan: VisitPlan;
  readonly request: BuildRequest;
  readonly placer: PicturePlacer;
}

const port = parentPort;
if (port !== null) {
  const start = workerData as WorkerStart;
  tellPending(new PendingSlot(start.pending));
  const bench = benchFor(start);
  port.on('message', (told: NumberedTask | null) => {
    if (told === null) return process.exit();
    const { number, task } = told;
    // What fails here ends the worker, and whoever gave the task hears of it.
    void bench
      .then((ready) => work(task, ready))
      .then((answer) => port.postMessage({ number, answer } satisfies NumberedAnswer));
  });
}

async function benchFor({ folder, outFolder, pack }: WorkerStart): Promise<Bench> {
  const { config } = await loadConfig(folder);
  if (config === null) throw new Error('The configuration can no longer be read.');
  const request = { config, messages: [], destinations: [], outFolder, pack, isFresh: true };
  const all = { takesEditions: false, targets: (targets: VisitPlan['targets']) => targets };
  const plan = await planVisit(request, all, () => undefined);
  if (plan === null) throw new Error('The project can no longer be read.');
  return { plan, request, placer: new PicturePlacer(config, process.env) };
}

async function work({ message, targets, block }: WorkerTask, { plan, request, placer }: Bench) {
  const chosen = plan.targets.filter(({ destination }) => targets.includes(destination.name));
  return asAnswer(await buildBlock({ message, targets: chosen, block }, plan, { request, placer }, () => undefined));
}
