import type { CheckSettings } from '../../core/check/settings.js';
import { severityOf, type Finding } from '../../core/findings/finding.js';
import type { PreparedEdition } from '../visit/prepared-edition.js';
import type { RenderedEdition } from '../visit/render-edition.js';
import type { EditionTask } from '../visit/visit-messages.js';
import { checkBench, type CheckBench } from './check-bench.js';
import { checkEdition } from './check-edition.js';
import { asSet } from './settle.js';

/** So many editions of a message are checked while they are built; they are much alike, and `check` looks at all of them. */
export const CHECKED_EDITIONS = 50;

/** Checks the editions of a message on their way: each once, whatever number of destinations it has. */
export class EditionChecker {
  #bench: Promise<CheckBench | null> | null = null;
  #count = 0;
  #last: { readonly ready: PreparedEdition; readonly found: Promise<readonly Finding[]> } | null = null;

  /** @param most how many editions are looked at */
  constructor(private readonly most = CHECKED_EDITIONS) {}

  /** The errors and warnings that the rules find, as a destination wants them; notes are for who asks for a check. */
  async findingsOf(
    task: EditionTask,
    ready: PreparedEdition,
    { done, settings }: { readonly done: RenderedEdition; readonly settings: CheckSettings },
  ): Promise<Finding[]> {
    if (this.#last?.ready !== ready) this.#last = { ready, found: this.check(task, ready, done) };
    const found = await this.#last.found;
    return asSet(found, settings).filter((item) => severityOf(item) !== 'note');
  }

  private async check(task: EditionTask, ready: PreparedEdition, done: RenderedEdition): Promise<readonly Finding[]> {
    this.#count += 1;
    if (this.#count > this.most) return [];
    this.#bench ??= checkBench(null, () => undefined);
    const bench = await this.#bench;
    // What other messages say is not known to whoever builds one of them.
    if (bench === null) return [];
    const { findings } = await checkEdition(task, ready, done, { ...bench, subjects: new Map() });
    return findings;
  }
}
