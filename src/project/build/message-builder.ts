import { availableParallelism } from 'node:os';
import { identityOf, withoutRepeats, type Finding } from '../../core/findings/finding.js';
import type { ChosenMessage, VisitPlan } from '../visit/choose-messages.js';
import { defectIn } from '../visit/defect.js';
import type { BuildOutcome, BuildRequest } from './outcome.js';
import { PicturePlacer } from '../visit/place-pictures.js';
import type { Target } from '../visit/target.js';
import { CHECKED_EDITIONS } from '../check/edition-checker.js';
import type { EditionBlock, VisitedMessage } from '../visit/visit-messages.js';
import { buildBlock, failedOutcome, type BlockTask } from './build-block.js';
import { fromAnswer } from './worker-messages.js';
import { WorkerPool } from './worker-pool.js';

/** With so many messages to build they are shared among the cores: to start a worker takes as long as to build some. */
const WORTH_SHARING = 8;

/** So many editions are one task at most, and at least, where all cores can take a part. */
const LARGEST_BLOCK = 2500;
const SMALLEST_BLOCK = 100;

type Visited = VisitedMessage<BuildOutcome>;
type ShowDone = (done: number, of: number) => void;

/** Builds messages, here or on all cores: by message, and by blocks of editions where a message has many. */
export class MessageBuilder {
  readonly #placer: PicturePlacer;
  #pool: WorkerPool | null;
  readonly #begun = new Map<ChosenMessage, { task: BlockTask; first: Promise<Visited> | null }>();

  /** @param messages how many messages are going to be built */
  constructor(
    private readonly plan: VisitPlan,
    private readonly request: BuildRequest,
    messages: number,
  ) {
    this.#placer = new PicturePlacer(plan.config, process.env);
    this.#pool = messages >= WORTH_SHARING ? this.startPool(messages) : null;
  }

  /** Puts a message into the row of those that are built. */
  begin(message: ChosenMessage, targets: readonly Target[]): void {
    // How many editions there are is known once the message is read: the first task is those that each take long.
    const task = { message, targets, block: { from: 0, to: CHECKED_EDITIONS } };
    this.#begun.set(message, { task, first: this.#pool === null ? null : this.run(task, () => undefined) });
  }

  /** What came of a message; messages are asked for in the order in which they began. */
  async result(message: ChosenMessage, progress: ShowDone): Promise<Visited> {
    const begun = this.#begun.get(message);
    if (begun === undefined) throw new Error(`${message.name} has not begun`);
    this.#begun.delete(message);
    const { task } = begun;
    const first = await (begun.first ?? this.run(task, progress));
    const rest = blocksOf(first.editions);
    if (rest.length > 1) this.#pool ??= this.startPool(rest.length);
    const blocks: Promise<Visited>[] = [];
    let done = CHECKED_EDITIONS;
    for (const block of rest) {
      const next = this.run({ ...task, block }, progress).then((visited) => {
        done += block.to - block.from;
        progress(done, first.editions);
        return visited;
      });
      blocks.push(next);
      // Without workers, one after the other: what is at hand is small.
      if (this.#pool === null) await next;
    }
    return blocks.length === 0 ? first : combined([first, ...(await Promise.all(blocks))]);
  }

  close(): Promise<void> {
    return this.#pool?.close() ?? Promise.resolve();
  }

  private async run(task: BlockTask, progress: ShowDone): Promise<Visited> {
    const { plan, request } = this;
    if (this.#pool === null) return buildBlock(task, plan, { request, placer: this.#placer }, progress);
    const { message, targets, block } = task;
    try {
      return fromAnswer(
        await this.#pool.run({ message, targets: targets.map(({ destination }) => destination.name), block }),
      );
    } catch (error) {
      // A worker that ends in the middle is the defect of the message that it had.
      const outcomes = targets.map((target) => failedOutcome(message.name, null, target));
      return {
        outcomes,
        own: [defectIn(message.path, error)],
        inputs: new Map(),
        overview: null,
        editions: 0,
        sources: [],
      };
    }
  }

  /** Null where there is one core, and where pictures go to a server: they go there one after the other. */
  private startPool(tasks: number): WorkerPool | null {
    const uploads = this.plan.targets.some(({ destination }) => destination.images.upload !== null);
    const size = Math.min(availableParallelism(), tasks);
    if (uploads || size < 2) return null;
    const { config, outFolder, pack } = this.request;
    return new WorkerPool(size, { folder: config.folder, outFolder, pack });
  }
}

/** The blocks behind the first: as many for each core, and each as large. */
function blocksOf(editions: number): EditionBlock[] {
  const left = Math.max(0, editions - CHECKED_EDITIONS);
  const cores = availableParallelism();
  const count = cores * Math.max(1, Math.ceil(left / (cores * LARGEST_BLOCK)));
  const size = Math.max(SMALLEST_BLOCK, Math.ceil(left / count));
  return Array.from({ length: Math.ceil(left / size) }, (_, index) => {
    const from = CHECKED_EDITIONS + index * size;
    return { from, to: Math.min(editions, from + size) };
  });
}

/** What an author accepts in some editions is not accepted in vain in the others. */
function isInAll(item: Finding, blocks: readonly Visited[]): boolean {
  const key = identityOf(item);
  return item.code !== 'accept-unused' || blocks.every(({ own }) => own.some((other) => identityOf(other) === key));
}

function combined(blocks: readonly Visited[]): Visited {
  const overviews = blocks.flatMap(({ overview }) => (overview === null ? [] : [overview]));
  return {
    outcomes: blocks.flatMap(({ outcomes }) => outcomes),
    own: withoutRepeats(blocks.flatMap(({ own }) => own)).filter((item) => isInAll(item, blocks)),
    inputs: new Map(blocks.flatMap(({ inputs }) => [...inputs])),
    overview: overviews[0] ?? null,
    editions: Math.max(...blocks.map(({ editions }) => editions)),
    sources: [],
  };
}
