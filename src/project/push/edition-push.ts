import type { RequestValues } from '../../core/delivery/values.js';
import { finding, isError, type Finding } from '../../core/findings/finding.js';
import { folderValues, pushTemplate } from '../../platforms/push-template.js';
import type { PictureStore } from '../../platforms/picture-store.js';
import { type StorablePicture } from '../../platforms/picture-store.js';
import type { PlatformClient } from '../../platforms/platform-client.js';
import { settingsFor } from '../check/check-bench.js';
import type { EditionChecker } from '../check/edition-checker.js';
import { withoutAccepted } from '../check/settle.js';
import { resolveHosting } from '../config/config-images.js';
import { digestOf } from '../files/digest.js';
import { mediaTypeOf, type CarriedPicture } from '../load/message-pictures.js';
import { PicturePlacer } from '../visit/place-pictures.js';
import type { PreparedEdition } from '../visit/prepared-edition.js';
import { builtPictures, renderEdition, type RenderedEdition } from '../visit/render-edition.js';
import { uploadMemory } from '../visit/upload-record.js';
import type { EditionTask } from '../visit/visit-messages.js';
import type { DeliveryFile } from './delivery-memory.js';
import { plannedRequests, plannedUploads } from './planned-requests.js';
import type { PushTarget } from './platform-access.js';
import { takesZip, templateContent } from './template-content.js';
import { blankOutcome, type PushListener, type PushOutcome, type PushRequest } from './push-request.js';

/** Everything that a push needs of one destination. */
export interface OpenPlatform {
  readonly target: PushTarget;
  readonly client: PlatformClient;
  readonly store: PictureStore;
  /** Puts pictures on the server of the destination, where it has one. */
  readonly placer: PicturePlacer;
  folder: RequestValues | null;
  /** Why nothing more is tried there: it is not there, or lets nobody in. */
  closed: Finding | null;
}

/** What the editions of a push have in common. */
export interface PushWork {
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
export class EditionPush {
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
    if (request.isDry) return { ...this.outcome('planned'), requests: await this.planned(foreseen) };
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
      ...blankOutcome,
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
    if (ready.attachments.length > 0 && !takesZip(target.api)) {
      const names = ready.attachments.map(({ name }) => name).join(', ');
      this.#findings.push(
        finding('push-attachments', null, { what: task.message, names, name: target.destination.name }),
      );
    }
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
      attachments: this.edition.ready.attachments.map(({ name, bytes }) => ({ path: `attachments/${name}`, bytes })),
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
    const problem = await memory.rename(before, task.message);
    if (problem !== null) this.note(problem);
    return problem;
  }

  /** The requests by which pictures get onto the server of the destination. */
  private async plannedUploads(): Promise<readonly string[]> {
    const { images } = this.platform.target.destination;
    const { config, environment, recordFolder } = this.work.request;
    if (images.mode !== 'host') return [];
    const { hosting } = resolveHosting(images, environment, config.folder);
    return hosting === null
      ? []
      : plannedUploads(this.storablePictures(), this.edition.task.message, hosting, await uploadMemory(recordFolder));
  }

  private async planned(foreseen: RenderedEdition): Promise<readonly string[]> {
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
    const requests = plannedRequests(client.access, content, { known, pictures });
    return [...(await this.plannedUploads()), ...requests];
  }
}
