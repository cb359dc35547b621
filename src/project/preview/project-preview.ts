import { relative } from 'node:path';
import type { Finding, Place } from '../../core/findings/finding.js';
import { simulate } from '../../core/engines/simulate.js';
import { importCard } from '../../core/packages/import-card.js';
import { previewPage } from '../../core/message/preview-page.js';
import { placesOfMarks, sourcePage } from '../../core/message/proof-pages.js';
import type { BenchMessage, ChangedMessage, Wall, WallMessage } from '../../core/views/model.js';
import type { View } from '../../core/views/view.js';
import { settingsFor, type CheckBench } from '../check/check-bench.js';
import { checkEdition, type CheckedEdition } from '../check/check-edition.js';
import { asSet, settledMessage } from '../check/settle.js';
import { packFiles } from '../build/build-edition.js';
import { loadConfig, type Config } from '../config/config.js';
import { digestOf } from '../files/digest.js';
import { mediaTypeOf, type CarriedPicture } from '../load/message-pictures.js';
import { builtPictures, renderEdition, renderInput, type RenderedEdition } from '../visit/render-edition.js';
import { planVisit, type ChosenMessage, type VisitPlan, type VisitRequest } from '../visit/choose-messages.js';
import { PicturePlacer } from '../visit/place-pictures.js';
import { withPicturesHere } from '../visit/pictures-here.js';
import type { PreparedEdition } from '../visit/prepare-message.js';
import { shapeFor, type Target } from '../visit/target.js';
import { visitMessage, type EditionTask, type MessageInputs, type MessageOverview } from '../visit/visit-messages.js';
import { concernsAll } from '../watch/watch-project.js';
import { countsOf, describeFindings, stateOf } from './describe-findings.js';
import { linksOf, placeNames } from './describe-page.js';
import { Listeners, PICTURE_PATH, type Looked, type PreviewSource, type ServedPicture } from './preview-source.js';

/** An edition, ready to be shown for any destination. */
interface ShownEdition {
  readonly task: EditionTask;
  readonly ready: PreparedEdition;
  readonly rendered: ReadonlyMap<string, { readonly target: Target; readonly done: RenderedEdition }>;
  readonly places: readonly (Place | null)[];
}

/** What a look at an edition came to. */
interface Look {
  readonly findings: readonly Finding[];
  /** Null where it does not build. */
  readonly shown: ShownEdition | null;
  readonly inputs: MessageInputs;
  readonly overview: MessageOverview | null;
  readonly digest: string;
}

/** So many editions stay at hand; what was looked at longest ago is built again when it is asked for. */
const MOST_EDITIONS = 200;

/** A preview of a project: what its messages look like, by the very steps of a build, without writing anything. */
export class ProjectPreview implements PreviewSource {
  #plan: VisitPlan;
  #config: Config;
  #request: VisitRequest;
  /** What is wrong with the configuration since it was last right. */
  #problems: readonly Finding[] = [];
  readonly #looks = new Map<string, Promise<Look>>();
  /** Those of them that have come to their end. */
  readonly #known = new Map<string, Look>();
  /** What showed last, for editions that do not build any more. */
  readonly #last = new Map<string, ShownEdition>();
  readonly #pictures = new Map<string, CarriedPicture>();
  readonly #listeners = new Listeners();
  readonly #digests = new Map<string, string>();
  #queue: Promise<unknown> = Promise.resolve();

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
      void this.look(looked).then(({ digest }) => this.#listeners.tell({ name: message.name, digest }));
      return { ...unseen, name: message.name, destinations };
    }
    const shown = look.shown ?? this.#last.get(keyOf(looked)) ?? null;
    const first = shown === null ? null : (firstOf(shown.rendered) ?? null);
    const findings = describeFindings(this.withProblems(look.findings), [], this.#config.folder);
    return {
      name: message.name,
      state: stateOf(findings, look.shown !== null),
      subject: first?.done.rendered.subjectSample ?? look.overview?.subject ?? '',
      topic: look.overview?.topic ?? null,
      keywords: look.overview?.keywords ?? [],
      editions: look.overview?.editions ?? [],
      destinations,
      weight: first === null ? 0 : Buffer.byteLength(first.done.rendered.html),
      counts: countsOf(findings),
      digest: look.digest,
    };
  }

  async bench(looked: Looked): Promise<BenchMessage | null> {
    if (!this.#plan.messages.some(({ name }) => name === looked.name)) return null;
    const look = await this.look(looked);
    const shown = look.shown ?? this.#last.get(keyOf(looked)) ?? null;
    const nameOf = (name: string): string => relative(this.#config.folder, name) || name;
    const findings = describeFindings(this.withProblems(look.findings), shown?.places ?? [], this.#config.folder);
    const base = {
      name: looked.name,
      edition: looked.edition ?? look.overview?.editions[0] ?? null,
      editions: look.overview?.editions ?? [],
      destinations: this.#plan.targets.map(({ destination }) => destination.name),
      state: stateOf(findings, look.shown !== null),
      hasPage: shown !== null,
      sender: this.#config.sender?.name ?? '',
      findings,
      samples: this.samples(),
      digest: look.digest,
    };
    const made = shown === null ? null : this.renderedFor(shown, looked);
    if (shown === null || made === null) return { ...base, ...nothingShown(looked) };
    const { done, target } = made;
    const { html } = shown.ready.versions;
    return {
      ...base,
      destination: target.destination.name,
      sender: done.facts.sender?.name ?? base.sender,
      subject: done.rendered.subjectSample,
      preheader: done.rendered.preheader,
      text: done.rendered.text,
      links: linksOf(html.source.doc),
      pictures: [...shown.ready.pictures].map(([path, picture]) => ({
        name: picture.name,
        address: addressOf(picture.name),
        width: picture.from.facts.width,
        height: picture.from.facts.height,
        shown: html.pictureWidths.get(path) ?? null,
        bytes: picture.bytes.length,
        bytesBefore: picture.from.bytes.length,
      })),
      weight: Buffer.byteLength(done.rendered.html),
      card: cardOf(done, shown.ready, target),
      places: placeNames(shown.places, nameOf),
      slices: [...shown.ready.pictures.values()]
        .filter(({ from }) => from.isFinished === true)
        .map(({ name }) => addressOf(name)),
    };
  }

  async frame(looked: Looked, view: View): Promise<string | null> {
    const { shown: current } = await this.look(looked);
    const shown = current ?? this.#last.get(keyOf(looked)) ?? null;
    const made = shown === null ? null : this.renderedFor(shown, looked);
    if (shown === null || made === null) return null;
    const { task, ready } = shown;
    const picturePath = (path: string): string => {
      const picture = ready.pictures.get(path);
      return picture === undefined ? path : addressOf(picture.name);
    };
    const recipient = task.preparer.recipient(new Date().getFullYear(), view.sample);
    const { html } = ready.versions;
    const { scheme, pictures } = view;
    if (view.engine === 'source') {
      const page = sourcePage(html, { recipient, picturePath, styleSheets: ready.styleSheets });
      return simulate(page, { engine: 'webkit', scheme, pictures }, []);
    }
    const input = renderInput(task, ready, made.target, made.done.placed, () => undefined);
    const page = previewPage(html, { ...input, recipient, picturePath }, view.tags);
    return simulate(page, { engine: view.engine, scheme, pictures }, this.checks.features);
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
    else await this.plan();
    const touched: string[] = [];
    for (const [key, known] of [...this.#looks]) {
      const { inputs } = await known;
      if (!all && !paths.some((path) => inputs.has(path))) continue;
      this.#looks.delete(key);
      this.#known.delete(key);
      touched.push(key);
    }
    const names = new Set([...touched.map(nameOfKey), ...this.unknownNames()]);
    // Who looks at a message waits for it; the others come behind.
    const ordered = [...names].sort((a, b) => Number(open.has(b)) - Number(open.has(a)));
    for (const name of ordered) {
      const { digest } = await this.look({ name, edition: null });
      if (all || this.#digests.get(name) !== digest || touched.some((key) => nameOfKey(key) === name)) {
        this.#digests.set(name, digest);
        this.#listeners.tell({ name, digest });
      }
    }
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

  private renderedFor(
    { rendered }: ShownEdition,
    { destination }: Looked,
  ): { target: Target; done: RenderedEdition } | null {
    return (destination === null ? undefined : rendered.get(destination)) ?? firstOf(rendered) ?? null;
  }

  /** Looks at an edition; one after the other, and each once until something changes. */
  private look(looked: Pick<Looked, 'name' | 'edition'>): Promise<Look> {
    const key = keyOf(looked);
    const known = this.#looks.get(key);
    if (known !== undefined) {
      // What was asked for last goes last.
      this.#looks.delete(key);
      this.#looks.set(key, known);
      return known;
    }
    const look = this.#queue
      .then(() => this.lookAt(looked))
      .then((done) => {
        if (this.#looks.get(key) === look) this.#known.set(key, done);
        return done;
      });
    this.#queue = look.catch(() => undefined);
    this.#looks.set(key, look);
    for (const old of this.#looks.keys()) {
      if (this.#looks.size <= MOST_EDITIONS) break;
      this.#looks.delete(old);
      this.#known.delete(old);
      this.#last.delete(old);
    }
    return look;
  }

  private async lookAt({ name, edition }: Pick<Looked, 'name' | 'edition'>): Promise<Look> {
    const message = this.#plan.messages.find((candidate) => candidate.name === name);
    if (message === undefined) return noLook;
    const rendered = new Map<string, { target: Target; done: RenderedEdition }>();
    const found: { task: EditionTask; ready: PreparedEdition; checked: CheckedEdition | null }[] = [];
    const visited = await visitMessage<{ readonly findings: readonly Finding[] }>(
      this.#plan,
      edition === null ? message : { ...message, editions: [edition] },
      {
        placer: new PicturePlacer(this.#config, process.env),
        block: { from: 0, to: 1 },
        progress: () => undefined,
        marksPlaces: true,
      },
      {
        visit: async (task, ready, target) => {
          const own: Finding[] = [];
          const folder = builtPictures(task, ready, target);
          const done = await renderEdition(task, ready, target, folder, (item) => own.push(item));
          const [last] = found;
          const checked = last?.checked ?? (done === null ? null : await checkEdition(task, ready, done, this.checks));
          if (last === undefined || last.checked === null) found[0] = { task, ready, checked };
          if (done !== null) rendered.set(target.destination.name, { target, done });
          return {
            findings: asSet([...own, ...(checked?.findings ?? [])], settingsFor(this.#config, target.destination)),
          };
        },
        failed: () => ({ findings: [] }),
      },
    );
    const { findings } = settledMessage(visited, this.#config.checks, false);
    const [first] = found;
    const shown =
      first === undefined || rendered.size === 0
        ? null
        : {
            task: first.task,
            ready: first.ready,
            rendered,
            places: placesOfMarks(first.ready.versions.html.source.doc),
          };
    if (shown !== null) {
      this.#last.set(keyOf({ name, edition }), shown);
      for (const picture of shown.ready.pictures.values()) this.#pictures.set(picture.name, picture);
    }
    const texts = [...rendered.values()].map(
      ({ done }) => `${done.rendered.html}\n${done.rendered.text}\n${done.rendered.subject}`,
    );
    const digest = digestOf(Buffer.from([...texts, ...findings.map(({ code }) => code)].join('\n'))).slice(0, 16);
    return { findings, shown, inputs: visited.inputs, overview: visited.overview, digest };
  }
}

const unseen: Omit<WallMessage, 'name' | 'destinations'> = {
  state: null,
  subject: '',
  topic: null,
  keywords: [],
  editions: [],
  weight: 0,
  counts: { error: 0, warning: 0, note: 0 },
  digest: '',
};

const noLook: Look = { findings: [], shown: null, inputs: new Map(), overview: null, digest: '' };

function planFor(request: VisitRequest, report: (item: Finding) => void): Promise<VisitPlan | null> {
  const choice = { takesEditions: true, targets: (targets: readonly Target[]) => targets };
  return planVisit({ ...request, config: withPicturesHere(request.config) }, choice, report);
}

function keyOf({ name, edition }: Pick<Looked, 'name' | 'edition'>): string {
  return `${name}\n${edition ?? ''}`;
}

function nameOfKey(key: string): string {
  return key.slice(0, key.indexOf('\n'));
}

function firstOf<T>(map: ReadonlyMap<string, T>): T | undefined {
  return map.values().next().value;
}

function addressOf(picture: string): string {
  return PICTURE_PATH + encodeURIComponent(picture);
}

/** What there is to say of a message that never built. */
function nothingShown({
  destination,
}: Looked): Omit<
  BenchMessage,
  'name' | 'edition' | 'editions' | 'destinations' | 'state' | 'hasPage' | 'sender' | 'findings' | 'samples' | 'digest'
> {
  return {
    destination,
    subject: '',
    preheader: null,
    text: '',
    links: [],
    pictures: [],
    weight: 0,
    card: null,
    places: [],
    slices: [],
  };
}

/** The card of the package that the dialect asks for. */
function cardOf(done: RenderedEdition, ready: PreparedEdition, target: Target): string | null {
  const shape = shapeFor(target, null);
  if (shape === null || shape.shape === 'eml') return null;
  return importCard(done.facts, target.dialect.title, shape.shape, packFiles(shape, done, ready, target));
}
