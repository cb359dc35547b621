import type { RequestValues } from '../../core/delivery/values.js';
import { finding, isError, type Finding, type Report } from '../../core/findings/finding.js';
import { folderValues, pushTemplate, type PushedTemplate } from '../../platforms/push-template.js';
import { PictureStore, type StorablePicture } from '../../platforms/picture-store.js';
import { PlatformClient } from '../../platforms/platform-client.js';
import { settingsFor } from '../check/check-bench.js';
import { EditionChecker } from '../check/edition-checker.js';
import { withoutAccepted } from '../check/settle.js';
import type { Environment } from '../config/settings.js';
import { readDeliveryFile } from '../files/delivery-file.js';
import { digestOf } from '../files/digest.js';
import { mediaTypeOf, type CarriedPicture } from '../load/message-pictures.js';
import { messageFiles } from '../load/message-names.js';
import type { VisitRequest } from '../visit/choose-messages.js';
import { PicturePlacer } from '../visit/place-pictures.js';
import type { PreparedEdition } from '../visit/prepare-message.js';
import { builtPictures, renderEdition, type RenderedEdition } from '../visit/render-edition.js';
import { visitMessages, type EditionTask, type VisitProgress } from '../visit/visit-messages.js';
import { DeliveryFile } from './delivery-memory.js';
import { plannedRequests } from './planned-requests.js';
import { asPushTarget, platformAccess, type PushTarget } from './platform-access.js';
import { lockDeliveries } from './push-lock.js';
import { templateContent } from './template-content.js';

/** What to push, and how. */
export interface PushRequest extends VisitRequest {
  readonly environment: Environment;
  /** The folder of the record of deliveries. */
  readonly recordFolder: string;
  /** Whether requests are only told, and nothing is sent. */
  readonly isDry: boolean;
  readonly isForced: boolean;
}

/** Who is told on the way, and asked. */
export interface PushListener {
  readonly done: (outcome: PushOutcome) => void;
  readonly progress: (progress: VisitProgress) => void;
  /** Whether a template that is gone there is made anew. */
  readonly makesAnew: (what: string, destination: string) => Promise<boolean>;
}

/** What came of an edition at a destination. */
export interface PushOutcome {
  readonly message: string;
  readonly edition: string | null;
  readonly destination: string;
  readonly how: PushedTemplate['how'] | 'planned';
  readonly link: string | null;
  /** How many pictures were sent for it, beside those that travel in what is sent. */
  readonly pictures: number;
  /** The bytes of its HTML. */
  readonly weight: number;
  /** The requests that a push would make, as people read them; for a push that only tells them. */
  readonly requests: readonly string[];
  readonly findings: readonly Finding[];
}

/** Everything that a push needs of one destination. */
interface OpenPlatform {
  readonly target: PushTarget;
  readonly client: PlatformClient;
  readonly store: PictureStore;
  /** Puts pictures on the server of the destination, where it has one. */
  readonly placer: PicturePlacer;
  folder: RequestValues | null;
  /** Why nothing more is tried there: it is not there, or lets nobody in. */
  closed: Finding | null;
}

/** Brings messages to the platforms of their destinations. What fails keeps nothing else from being pushed. */
export async function pushMessages(
  request: PushRequest,
  listener: PushListener,
): Promise<{ readonly outcomes: readonly PushOutcome[]; readonly findings: readonly Finding[] }> {
  const { config, recordFolder, isDry } = request;
  const findings: Finding[] = [];
  const lock = isDry ? { release: () => Promise.resolve(), problem: null } : await lockDeliveries(recordFolder);
  if (lock.release === null) return { outcomes: [], findings: [lock.problem] };
  try {
    const record = await readDeliveryFile(recordFolder, (item) => findings.push(item));
    if (record === null) return { outcomes: [], findings };
    const memory = new DeliveryFile(recordFolder, record);
    const platforms = await openPlatforms(request, memory, (item) => findings.push(item));
    if (platforms === null) return { outcomes: [], findings };
    const checker = new EditionChecker();
    const messages = new Set((await messageFiles(config.folder)).map(({ name }) => name));
    const visited = await visitMessages<PushOutcome>(
      { ...request, destinations: platforms.map(({ target }) => target.destination.name) },
      {
        takesEditions: true,
        targets: (targets) => targets,
        failed: (message, edition, { destination }) => {
          const outcome = { ...nothing, message, edition, destination: destination.name };
          listener.done(outcome);
          return outcome;
        },
        visit: async (task, ready, target) => {
          const platform = platforms.find((open) => open.target.destination.name === target.destination.name);
          if (platform === undefined) throw new Error(`${target.destination.name} is not open`);
          const push = new EditionPush({ request, listener, memory, checker, messages }, platform, { task, ready });
          const outcome = await push.run();
          listener.done(outcome);
          return outcome;
        },
      },
      listener.progress,
    );
    if (request.messages.length === 0) findings.push(...leftOver(memory, visited.outcomes, platforms, messages));
    return { outcomes: visited.outcomes, findings: [...visited.findings, ...findings] };
  } finally {
    await lock.release();
  }
}

const nothing: PushOutcome = {
  message: '',
  edition: null,
  destination: '',
  how: 'failed',
  link: null,
  pictures: 0,
  weight: 0,
  requests: [],
  findings: [],
};

/** The destinations that are pushed to. Null, and reported, where one of them cannot be. */
async function openPlatforms(
  { config, destinations, environment, recordFolder, isDry }: PushRequest,
  memory: DeliveryFile,
  report: Report,
): Promise<OpenPlatform[] | null> {
  const { chooseTargets } = await import('../visit/choose-messages.js');
  const found: Finding[] = [];
  const collect = (item: Finding): unknown => found.push(item);
  const wanted =
    destinations.length > 0
      ? destinations
      : config.destinations.filter(({ push }) => push !== null).map(({ name }) => name);
  if (wanted.length === 0) collect(finding('push-nowhere', null));
  const targets =
    wanted.length === 0 ? [] : await chooseTargets({ config, messages: [], destinations: wanted }, collect);
  const platforms: OpenPlatform[] = [];
  for (const each of targets) {
    const target = asPushTarget(each, collect);
    const sources = { environment, projectFolder: config.folder, needsSecrets: !isDry };
    const access = target === null ? null : await platformAccess(target, sources, collect);
    if (target === null || access === null) continue;
    const client = new PlatformClient(access);
    const store = new PictureStore(client, memory);
    const placer = new PicturePlacer(config, environment, { recordFolder });
    platforms.push({ target, client, store, placer, folder: null, closed: null });
  }
  found.forEach(report);
  return found.some(isError) ? null : platforms;
}

/** What the editions of a push have in common. */
interface PushWork {
  readonly request: PushRequest;
  readonly listener: PushListener;
  readonly memory: DeliveryFile;
  readonly checker: EditionChecker;
  /** The names of the project's messages. */
  readonly messages: ReadonlySet<string>;
}

/** Findings after which a platform is not tried again. */
const closing = ['push-unreachable', 'push-login'];

/** One edition on its way to one destination. */
class EditionPush {
  readonly #findings: Finding[] = [];
  #weight = 0;
  #uploaded = 0;

  constructor(
    private readonly work: PushWork,
    private readonly platform: OpenPlatform,
    private readonly edition: { readonly task: EditionTask; readonly ready: PreparedEdition },
  ) {}

  async run(): Promise<PushOutcome> {
    const { request } = this.work;
    const foreseen = await this.render(this.foreseeing((digest) => this.storedAddress(digest)));
    if (foreseen === null || !(await this.mayGo(foreseen))) return this.outcome('failed');
    if (request.isDry) return { ...this.outcome('planned'), requests: this.planned(foreseen) };
    if (this.platform.closed !== null) {
      this.#findings.push(this.platform.closed);
      return this.outcome('failed');
    }
    const folder = await this.folder();
    const rendered = folder === null ? null : await this.withPictures(foreseen);
    if (folder === null || rendered === null) return this.outcome('failed');
    const content = this.contentOf(rendered, folder);
    const renamed = await this.takeOverRenamed();
    if (renamed !== null) return this.outcome('failed');
    const { client, target } = this.platform;
    const pushed = await pushTemplate(content, {
      client,
      memory: this.work.memory,
      digestOf,
      isForced: request.isForced,
      makesAnew: (what) => this.work.listener.makesAnew(what, target.destination.name),
    });
    pushed.findings.forEach((item) => this.note(item));
    return { ...this.outcome(pushed.how), link: pushed.link };
  }

  private outcome(how: PushOutcome['how']): PushOutcome {
    const { task, ready } = this.edition;
    return {
      ...nothing,
      message: task.message,
      edition: ready.edition.name,
      destination: this.platform.target.destination.name,
      how,
      pictures: this.#uploaded,
      weight: this.#weight,
      findings: this.#findings,
    };
  }

  private note(item: Finding): void {
    this.#findings.push(item);
    if (closing.includes(item.code)) this.platform.closed = item;
  }

  /** Says where pictures are going to be, and puts none there. */
  private foreseeing(stored: (digest: string) => string | null): PicturePlacer {
    const { config, environment, recordFolder } = this.work.request;
    return new PicturePlacer(config, environment, {
      foresees: true,
      store: (_destination, digest) => stored(digest),
      recordFolder,
    });
  }

  private async render(placer: PicturePlacer): Promise<RenderedEdition | null> {
    const { task, ready } = this.edition;
    const { target } = this.platform;
    const found: Finding[] = [];
    const folder = builtPictures(task, ready, target);
    const done = await renderEdition({ ...task, placer }, ready, target, folder, (item) => found.push(item));
    this.#findings.push(...found.filter((item) => !this.#findings.some(({ code }) => code === item.code)));
    return found.some(isError) ? null : done;
  }

  /** Whether nothing is found that keeps it from being sent. */
  private async mayGo(done: RenderedEdition): Promise<boolean> {
    const { task, ready } = this.edition;
    const { target } = this.platform;
    this.#weight = Buffer.byteLength(done.rendered.html);
    const settings = settingsFor(task.config, target.destination);
    const checked = await this.work.checker.findingsOf(task, ready, { done, settings });
    const { standing } = withoutAccepted(checked, await task.sources());
    // What is wrong with the comments that accept is told by a check: an edition alone does not know.
    const told = standing.filter(({ code }) => !code.startsWith('accept-'));
    this.#findings.push(...told);
    const wrongWay = this.wrongPictureWay();
    if (wrongWay !== null) this.#findings.push(wrongWay);
    return wrongWay === null && !told.some(isError);
  }

  /** That pictures travel in a way that the platform does not take. */
  private wrongPictureWay(): Finding | null {
    const { destination, dialect, api } = this.platform.target;
    const { mode } = destination.images;
    if (this.edition.ready.pictures.size === 0 || mode === 'host' || mode === 'embed') return null;
    if (mode === 'library' && (api.pictureWay === 'store' || destination.images.baseUrl !== null)) return null;
    if (mode === 'package' && api.pictureWay === 'beside') return null;
    const ways = {
      beside: 'beside the HTML',
      store: 'into its own store',
      elsewhere: 'only from elsewhere on the web',
    };
    const wanted = { beside: 'package', store: 'library', elsewhere: 'host' };
    return finding('push-pictures', null, {
      title: dialect.title,
      way: ways[api.pictureWay],
      name: destination.name,
      mode,
      wanted: wanted[api.pictureWay],
    });
  }

  private get isStored(): boolean {
    const { destination, api } = this.platform.target;
    const { mode, baseUrl } = destination.images;
    return mode === 'library' && baseUrl === null && api.pictureWay === 'store';
  }

  private storablePictures(): StorablePicture[] {
    const pictures = [...this.edition.ready.pictures.values()].map((picture: CarriedPicture): StorablePicture => {
      const { name, bytes, format, width, height } = picture;
      return { name, bytes, type: mediaTypeOf(format), width, height, digest: digestOf(bytes) };
    });
    return [...new Map(pictures.map((picture) => [picture.digest, picture])).values()];
  }

  private storedAddress(digest: string): string | null {
    return this.work.memory.picture(this.platform.target.destination.name, digest)?.address ?? null;
  }

  /** The edition with the addresses that its pictures have: what the platform or a server lacks is sent there. */
  private async withPictures(foreseen: RenderedEdition): Promise<RenderedEdition | null> {
    if (this.isOnRecord(foreseen)) return foreseen;
    const { images } = this.platform.target.destination;
    if (!this.isStored) return images.mode === 'host' ? this.render(this.platform.placer) : foreseen;
    const pictures = this.storablePictures();
    const stored = await this.platform.store.store(pictures);
    this.#uploaded = stored.uploaded;
    stored.findings.forEach((item) => this.note(item));
    if (stored.findings.length > 0) return null;
    return this.render(this.foreseeing((digest) => stored.addresses.get(digest) ?? null));
  }

  /** Whether exactly this was sent before: then its pictures are not looked at once more. */
  private isOnRecord(rendered: RenderedEdition): boolean {
    const { digest, message, edition } = this.contentOf(rendered, this.platform.folder ?? new Map());
    const { destination } = this.platform.target;
    const known = this.work.memory.find({ destination: destination.name, message, edition });
    return known !== null && known.sent === digest && known.pending === null;
  }

  private async folder(): Promise<RequestValues | null> {
    if (this.platform.folder === null) {
      const { values, finding: problem } = await folderValues(this.platform.client, new Map());
      if (problem !== null) {
        this.note(problem);
        return null;
      }
      this.platform.folder = values;
    }
    return this.platform.folder;
  }

  private contentOf(rendered: RenderedEdition, folder: RequestValues): ReturnType<typeof templateContent> {
    const { target, client } = this.platform;
    return templateContent(rendered, {
      target,
      settings: client.access.settings,
      folder,
      source: this.edition.task.source,
    });
  }

  /** A message that was renamed keeps its template: its file is, to the byte, that of one which is no more. */
  private async takeOverRenamed(): Promise<Finding | null> {
    const { memory, messages } = this.work;
    const { task, ready } = this.edition;
    const destination = this.platform.target.destination.name;
    const edition = ready.edition.name;
    if (memory.find({ destination, message: task.message, edition }) !== null) return null;
    const before = memory.deliveries.find(
      (known) =>
        known.destination === destination &&
        known.source === task.source &&
        known.edition === edition &&
        !messages.has(known.message),
    );
    if (before === undefined) return null;
    const problem = (await memory.keep({ ...before, message: task.message })) ?? (await memory.drop(before));
    if (problem !== null) this.note(problem);
    return problem;
  }

  private planned(foreseen: RenderedEdition): readonly string[] {
    const { target, client } = this.platform;
    const content = this.contentOf(foreseen, new Map());
    const known = this.work.memory.find({
      destination: target.destination.name,
      message: content.message,
      edition: content.edition,
    });
    const pictures = this.isStored
      ? this.storablePictures().filter(({ digest }) => this.storedAddress(digest) === null)
      : [];
    return plannedRequests(client.access, content, { known, pictures });
  }
}

/** Templates of messages and editions that are no more. */
function leftOver(
  memory: DeliveryFile,
  outcomes: readonly PushOutcome[],
  platforms: readonly OpenPlatform[],
  messages: ReadonlySet<string>,
): Finding[] {
  const names = platforms.map(({ target }) => target.destination.name);
  return memory.deliveries.flatMap(({ destination, message, edition, id }) => {
    if (!names.includes(destination) || id === null) return [];
    const own = outcomes.filter((outcome) => outcome.message === message && outcome.destination === destination);
    const isThere =
      own.length === 0
        ? messages.has(message)
        : own.some((outcome) => outcome.edition === edition || outcome.how === 'failed');
    const what = edition === null ? message : `${message}/${edition}`;
    return isThere ? [] : [finding('push-left-over', null, { name: destination, what, id })];
  });
}
