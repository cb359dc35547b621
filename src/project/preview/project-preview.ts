import { existsSync } from 'node:fs';
import type { MessageAt } from '../../core/compare/compare-states.js';
import type { Finding } from '../../core/findings/finding.js';
import { placesOfMarks } from '../../core/message/proof-pages.js';
import type { BenchMessage, ChangedMessage, Wall, WallMessage } from '../../core/views/model.js';
import type { View } from '../../core/views/view.js';
import { settingsFor, type CheckBench } from '../check/check-bench.js';
import { checkEdition, type CheckedEdition } from '../check/check-edition.js';
import { asSet, settledMessage } from '../check/settle.js';
import { loadConfig, type Config } from '../config/config.js';
import { digestOf } from '../files/digest.js';
import { mediaTypeOf, type CarriedPicture } from '../load/message-pictures.js';
import { builtPictures, renderEdition } from '../visit/render-edition.js';
import { planVisit, type ChosenMessage, type VisitPlan, type VisitRequest } from '../visit/choose-messages.js';
import { defectIn } from '../visit/defect.js';
import { PicturePlacer } from '../visit/place-pictures.js';
import { withPicturesHere } from '../visit/pictures-here.js';
import type { Target } from '../visit/target.js';
import { visitMessage } from '../visit/visit-messages.js';
import { concernsAll } from '../watch/watch-project.js';
import { keyOf, nameOfKey, noLook, type LastShown, type Looking } from './looks.js';
import { WorkQueue } from './work-queue.js';
import { Listeners, type Looked, type PreviewSource, type ServedPicture } from './preview-source.js';
import {
  benchMessageOf,
  pageOfView,
  stateOfMessage,
  unseen,
  wallMessageOf,
  type DescribedProject,
  type Look,
  type Made,
  type RenderedFor,
  type ShownPage,
} from './shown-message.js';

/**
 * While somebody looks at a message, its page goes out before it is checked: so long is waited for them to ask, and from each
 * page that they got to the next, in ms; and so long at most.
 */
const HEAD_START = 40;
const LONGEST_START = 200;

/** So many editions stay at hand; what was looked at longest ago is built again when it is asked for. */
const MOST_EDITIONS = 200;

/** A preview of a project: what its messages look like, by the very steps of a build, without writing anything. */
export class ProjectPreview implements PreviewSource {
  #plan: VisitPlan;
  #config: Config;
  #request: VisitRequest;
  /** What is wrong with the configuration since it was last right. */
  #problems: readonly Finding[] = [];
  readonly #looks = new Map<string, Looking>();
  /** Those of them that have come to their end. */
  readonly #known = new Map<string, Look>();
  /** What showed last, for editions that do not build any more. */
  readonly #last = new Map<string, LastShown>();
  readonly #pictures = new Map<string, CarriedPicture>();
  readonly #listeners = new Listeners();
  readonly #digests = new Map<string, string>();
  /** How many pages of views were asked for. */
  #served = 0;
  readonly #queue = new WorkQueue();

  private constructor(
    plan: VisitPlan,
    request: VisitRequest,
    private readonly checks: CheckBench,
  ) {
    this.#plan = plan;
    this.#config = plan.config;
    this.#request = request;
  }

  /** Begins a preview. Null, with findings, where there is nothing to show. */
  static async open(
    request: VisitRequest,
    bench: CheckBench,
    report: (item: Finding) => void,
  ): Promise<ProjectPreview | null> {
    const plan = await planFor(request, report);
    return plan === null ? null : new ProjectPreview(plan, request, bench);
  }

  names(): readonly string[] {
    return this.#plan.messages.map(({ name }) => name);
  }

  looked(): readonly Looked[] {
    return this.#plan.messages.flatMap(({ name, editions }) =>
      (editions.length === 0 ? [null] : editions).map((edition) => ({ name, edition, destination: null })),
    );
  }

  /** The editions of a message, and where it goes; of one that there is not, none. */
  async overview(
    name: string,
  ): Promise<{ readonly editions: readonly string[]; readonly destinations: readonly string[] }> {
    if (!this.names().includes(name)) return { editions: [], destinations: [] };
    const { overview } = await this.look({ name, edition: null }, 'now').whole;
    const destinations = this.#plan.targets.map(({ destination }) => destination.name);
    return { editions: overview?.editions ?? [], destinations };
  }

  /** What a message comes to for a destination; null where it does not build. */
  async state(looked: Looked): Promise<MessageAt | null> {
    const look = await this.look(looked, 'now').whole;
    const made = looked.destination === null ? undefined : look.rendered.get(looked.destination);
    return look.page === null || made === undefined ? null : stateOfMessage(look, look.page, made.done);
  }

  async findings(looked: Looked): Promise<readonly Finding[]> {
    const { findings } = await this.look(looked, 'now').whole;
    return this.withProblems(findings);
  }

  samples(): readonly string[] {
    return [...this.#config.samples.keys()];
  }

  wall(): Promise<Wall> {
    const messages = this.#plan.messages.map((message) => this.wallMessage(message));
    return Promise.resolve({ project: this.#config.name, messages });
  }

  /** A message as far as it is known; what is not yet is looked at, and told then. */
  private wallMessage(message: ChosenMessage): WallMessage {
    const looked = { name: message.name, edition: null, destination: null };
    const look = this.#known.get(keyOf(looked));
    const destinations = this.#plan.targets.map(({ destination }) => destination.name);
    if (look === undefined) {
      void this.look(looked, 'when idle').whole.then(({ digest }) =>
        this.#listeners.tell({ name: message.name, digest }),
      );
      return { ...unseen, name: message.name, destinations };
    }
    return wallMessageOf(message.name, look, this.renderedFor(look, looked), this.project());
  }

  async bench(looked: Looked): Promise<BenchMessage | null> {
    if (!this.#plan.messages.some(({ name }) => name === looked.name)) return null;
    const look = await this.look(looked, 'now').whole;
    return benchMessageOf(looked, look, this.renderedFor(look, looked), this.project());
  }

  private project(): DescribedProject {
    return { config: this.#config, targets: this.#plan.targets, problems: this.#problems };
  }

  async frame(looked: Looked, view: View): Promise<string | null> {
    const page = (await this.look(looked, 'now').page) ?? this.#last.get(keyOf(looked))?.page ?? null;
    this.#served += 1;
    const target = this.targetFor(looked);
    if (page === null || target === null) return null;
    const { engine, scheme, pictures, tags, sample } = view;
    const key = JSON.stringify([target.destination.name, engine, scheme, pictures, tags, sample]);
    const known = page.pages.get(key);
    if (known !== undefined) return known;
    const made = pageOfView(page, target, view, this.checks.features);
    page.pages.set(key, made);
    return made;
  }

  private targetFor({ destination }: Looked): Target | null {
    const { targets } = this.#plan;
    return targets.find((target) => target.destination.name === destination) ?? targets[0] ?? null;
  }

  picture(name: string): ServedPicture | null {
    const picture = this.#pictures.get(name);
    return picture === undefined ? null : { bytes: picture.bytes, type: mediaTypeOf(picture.format) };
  }

  listen(listener: (changed: ChangedMessage) => void): () => void {
    return this.#listeners.listen(listener);
  }

  async change(paths: readonly string[], open: ReadonlySet<string>): Promise<void> {
    const all = paths.some((path) => concernsAll(path, this.#config.folder));
    if (all) await this.reload();
    else if (!(await this.areInputs(paths))) await this.plan();
    const gone = this.forgetGone();
    const touched: string[] = [];
    for (const [key, known] of [...this.#looks]) {
      const { inputs, findings } = await known.whole;
      const comparesSubjects = gone && findings.some(({ code }) => code === 'subject-same');
      if (!all && !comparesSubjects && !paths.some((path) => inputs.has(path))) continue;
      this.#looks.delete(key);
      this.#known.delete(key);
      touched.push(key);
    }
    const names = new Set([...touched.map(nameOfKey), ...this.unknownNames()]);
    // Who looks at a message waits for it; the others come behind.
    const ordered = [...names].sort((a, b) => Number(open.has(b)) - Number(open.has(a)));
    for (const name of ordered) {
      const { digest } = await this.look({ name, edition: null }, open.has(name) ? 'early' : 'now').whole;
      if (all || this.#digests.get(name) !== digest || touched.some((key) => nameOfKey(key) === name)) {
        this.#digests.set(name, digest);
        this.#listeners.tell({ name, digest });
      }
    }
  }

  /** Forgets the subjects of messages that are there no more. @returns whether there were any */
  private forgetGone(): boolean {
    const names = new Set(this.names());
    const gone = [...this.checks.subjects.keys()].filter((name) => !names.has(name));
    for (const name of gone) this.checks.subjects.delete(name);
    return gone.length > 0;
  }

  /** Whether all paths are files that messages have read: then no message or part came or went. */
  private async areInputs(paths: readonly string[]): Promise<boolean> {
    const looks = await Promise.all([...this.#looks.values()].map(({ whole }) => whole));
    return paths.every((path) => existsSync(path) && looks.some(({ inputs }) => (inputs.get(path) ?? null) !== null));
  }

  /** Messages that nobody has looked at: those that are new. */
  private unknownNames(): string[] {
    return this.#plan.messages
      .map(({ name }) => name)
      .filter((name) => !this.#looks.has(keyOf({ name, edition: null })));
  }

  private async reload(): Promise<void> {
    const { config, findings } = await loadConfig(this.#config.folder);
    this.#problems = findings;
    if (config === null) return;
    this.#request = { ...this.#request, config };
    await this.plan();
  }

  private async plan(): Promise<void> {
    const problems: Finding[] = [];
    const plan = await planFor(this.#request, (item) => problems.push(item));
    if (plan === null) {
      this.#problems = problems;
      return;
    }
    this.#plan = plan;
    this.#config = plan.config;
  }

  private withProblems(findings: readonly Finding[]): readonly Finding[] {
    return [...this.#problems, ...findings];
  }

  /** What an edition is for a destination: now, or when it was built last. */
  private renderedFor({ page, rendered }: Look, looked: Looked): Made | null {
    const shown = page === null ? this.#last.get(keyOf(looked)) : { page, rendered };
    const made =
      (looked.destination === null ? undefined : shown?.rendered.get(looked.destination)) ??
      shown?.rendered.values().next().value;
    return shown === undefined || made === undefined ? null : { ...made, page: shown.page };
  }

  /**
   * Looks at an edition; one after the other, and each once until something changes.
   * @param when whether somebody waits for it, and whether they are shown its page before all is known of it
   */
  private look(looked: Pick<Looked, 'name' | 'edition'>, when: 'early' | 'now' | 'when idle'): Looking {
    const key = keyOf(looked);
    const known = this.#looks.get(key);
    if (known !== undefined) {
      if (when !== 'when idle') this.#queue.hurry(key);
      // What was asked for last goes last.
      this.#looks.delete(key);
      this.#looks.set(key, known);
      return known;
    }
    let begin: (page: ShownPage | null) => void = () => undefined;
    const page = new Promise<ShownPage | null>((resolve) => {
      begin = resolve;
    });
    const begun = async (shown: ShownPage): Promise<void> => {
      begin(shown);
      if (when !== 'early') return;
      this.#listeners.tell({ name: looked.name, digest: null });
      await this.pagesServed();
    };
    const whole = this.#queue
      .add(key, () =>
        // A defect is the end of one message, and not of the preview.
        this.lookAt(looked, begun).catch((error: unknown) => ({ ...noLook, findings: [defectIn(looked.name, error)] })),
      )
      .then((done) => {
        begin(done.page);
        if (this.#looks.get(key) === looking) this.#known.set(key, done);
        return done;
      });
    const looking: Looking = { page, whole };
    if (when !== 'when idle') this.#queue.hurry(key);
    this.#looks.set(key, looking);
    this.forgetOldest();
    return looking;
  }

  /** Waits while pages of views are asked for: what nobody sees yet can come behind them. */
  private async pagesServed(): Promise<void> {
    const started = performance.now();
    let served = -1;
    while (served !== this.#served && performance.now() - started < LONGEST_START) {
      served = this.#served;
      await new Promise((resolve) => setTimeout(resolve, HEAD_START));
    }
  }

  private forgetOldest(): void {
    for (const old of this.#looks.keys()) {
      if (this.#looks.size <= MOST_EDITIONS) return;
      this.#looks.delete(old);
      this.#known.delete(old);
      this.#last.delete(old);
    }
  }

  /** @param begun is told of the page as soon as it can be shown */
  private async lookAt(
    { name, edition }: Pick<Looked, 'name' | 'edition'>,
    begun: (page: ShownPage) => Promise<void>,
  ): Promise<Look> {
    const message = this.#plan.messages.find((candidate) => candidate.name === name);
    if (message === undefined) return noLook;
    const rendered = new Map<string, RenderedFor>();
    let page: ShownPage | null = null;
    let checked: CheckedEdition | null = null;
    const visited = await visitMessage<{ readonly findings: readonly Finding[] }>(
      this.#plan,
      edition === null ? message : { ...message, editions: [edition] },
      {
        placer: new PicturePlacer(this.#config, process.env),
        block: { from: 0, to: 1 },
        progress: () => undefined,
        onlooker: async (task, ready) => {
          page = { task, ready, places: placesOfMarks(ready.versions.html.source.doc), pages: new Map() };
          for (const picture of ready.pictures.values()) this.#pictures.set(picture.name, picture);
          await begun(page);
        },
      },
      {
        visit: async (task, ready, target) => {
          const own: Finding[] = [];
          const folder = builtPictures(task, ready, target);
          const done = await renderEdition(task, ready, target, folder, (item) => own.push(item));
          if (done !== null) rendered.set(target.destination.name, { target, done });
          if (done !== null) checked ??= await checkEdition(task, ready, done, this.checks);
          const settings = settingsFor(this.#config, target.destination);
          return { findings: asSet([...own, ...(checked?.findings ?? [])], settings) };
        },
        failed: () => ({ findings: [] }),
      },
    );
    const { findings } = settledMessage(visited, this.#config.checks);
    const shown: ShownPage | null = rendered.size === 0 ? null : page;
    if (shown !== null) this.#last.set(keyOf({ name, edition }), { page: shown, rendered });
    const texts = [...rendered.values()].map(
      ({
        done: {
          rendered: { html, text, subject },
        },
      }) => `${html}\n${text}\n${subject}`,
    );
    const told = findings.map((item) => `${item.code} ${item.place?.span.start ?? 0}`);
    const digest = digestOf(Buffer.from([...texts, ...told].join('\n'))).slice(0, 16);
    return { findings, page: shown, rendered, inputs: visited.inputs, overview: visited.overview, digest };
  }
}

function planFor(request: VisitRequest, report: (item: Finding) => void): Promise<VisitPlan | null> {
  const choice = { takesEditions: true, targets: (targets: readonly Target[]) => targets };
  return planVisit({ ...request, config: withPicturesHere(request.config) }, choice, report);
}
