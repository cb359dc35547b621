import { finding, isError, type Finding, type Report } from '../../core/findings/finding.js';
import type { PictureFacts } from '../../core/packages/manifest.js';
import type { PackageFile } from '../../core/packages/package-file.js';
import { countPictures } from '../../pictures/count-pictures.js';
import { hostPictures, type Hosting, type UploadMemory } from '../../pictures/host-pictures.js';
import { resolveHosting } from '../config/config-images.js';
import type { Config } from '../config/config.js';
import { digestOf } from '../files/digest.js';
import { mediaTypeOf, type CarriedPicture } from '../load/message-pictures.js';
import type { Environment } from '../config/settings.js';
import { uploadMemory } from './upload-record.js';
import type { Target } from './target.js';
import { writeWhole } from '../files/write-file.js';

/** What the pictures of an output came to, for the line that tells of it. */
export interface PictureSummary {
  readonly count: number;
  readonly bytes: number;
  readonly bytesBefore: number;
  /** How many were sent to a server for it. */
  readonly uploaded: number;
}

/** Pictures of an output, in their places. */
export interface PlacedPictures {
  /** The address of a picture in the finished HTML, by the path that the source gives. */
  readonly address: (path: string) => string;
  /** The files that travel with the HTML. */
  readonly files: readonly PackageFile[];
  readonly listed: readonly PictureFacts[];
  readonly summary: PictureSummary;
}

/** Where one picture shows. */
interface Place {
  readonly address: string;
  readonly contentId?: string;
}

/** How pictures get there, where it is not the usual way. */
export interface PictureWays {
  /** The addresses that pictures have in the store of a platform, by the digests of their bytes. */
  readonly store?: (destination: string, digest: string) => string | null;
  /** Whether the addresses on servers are foreseen, and nothing goes there yet. */
  readonly foresees?: boolean;
  /** The folder of the record of uploads, where it is not that of the project. */
  readonly recordFolder?: string;
}

/** Puts pictures where the modes of destinations want them. What is on a server already is asked for once a build. */
export class PicturePlacer {
  readonly #hostings = new Map<string, { hosting: Hosting | null; findings: Finding[] }>();
  readonly #hosted = new Map<string, string>();
  #memory: Promise<UploadMemory> | null = null;

  constructor(
    private readonly config: Config,
    private readonly environment: Environment,
    private readonly ways: PictureWays = {},
  ) {}

  /**
   * Places the pictures of an output. Null where one cannot be placed: no HTML may point to it then.
   * @param folder where files that travel with the HTML come to lie
   */
  async place(
    pictures: ReadonlyMap<string, CarriedPicture>,
    message: string,
    target: Target,
    folder: string,
    report: Report,
  ): Promise<PlacedPictures | null> {
    const { mode, baseUrl } = target.destination.images;
    const { hosting, findings } = this.hostingOf(target.destination);
    findings.forEach(report);
    if (baseUrl !== null && hosting === null) return null;
    const own = new Map([...pictures.values()].map((picture) => [picture.name, picture]));
    let uploaded = 0;
    const places = new Map<string, Place>();
    if (mode === 'host' && hosting !== null) {
      const hosted = await this.host([...own.values()], message, hosting, folder, report);
      if (hosted === null) return null;
      uploaded = hosted.uploaded;
      for (const [name, address] of hosted.urls) places.set(name, { address });
    } else for (const picture of own.values()) places.set(picture.name, this.placeOf(picture, target));
    this.tell([...own.values()], target, folder, report);
    const travels = mode !== 'embed' && (mode !== 'host' || target.destination.images.upload === null);
    return {
      address: (path) => places.get(pictures.get(path)?.name ?? '')?.address ?? path,
      files: travels ? [...own.values()].map(({ name, bytes }) => ({ path: `images/${name}`, bytes })) : [],
      listed: [...own.values()].map((picture): PictureFacts => ({
        address:
          mode === 'embed'
            ? null
            : mode === 'attach'
              ? `images/${picture.name}`
              : (places.get(picture.name)?.address ?? null),
        contentId: places.get(picture.name)?.contentId ?? null,
        width: picture.width,
        height: picture.height,
        bytes: picture.bytes.length,
        bytesBefore: picture.from.bytes.length,
      })),
      summary: {
        count: own.size,
        bytes: sum([...own.values()].map(({ bytes }) => bytes.length)),
        bytesBefore: sum([...own.values()].map(({ from }) => from.bytes.length)),
        uploaded,
      },
    };
  }

  private placeOf({ name, bytes, format }: CarriedPicture, { destination }: Target): Place {
    switch (destination.images.mode) {
      case 'attach': {
        const contentId = `${name}@${this.config.sender?.address.split('@')[1] ?? 'pictures.invalid'}`;
        return { address: `cid:${contentId}`, contentId };
      }
      case 'embed':
        return { address: `data:${mediaTypeOf(format)};base64,${Buffer.from(bytes).toString('base64')}` };
      case 'library':
        return { address: this.storedAddress(destination, name, bytes) };
      default:
        return { address: `images/${name}` };
    }
  }

  private storedAddress(destination: Target['destination'], name: string, bytes: Uint8Array): string {
    const { hosting } = this.hostingOf(destination);
    if (hosting !== null) return `${hosting.baseUrl}${name}`;
    return this.ways.store?.(destination.name, digestOf(bytes)) ?? `images/${name}`;
  }

  /** What a person has to know of the way that pictures take. */
  private tell(
    pictures: readonly CarriedPicture[],
    { destination, dialect }: Target,
    folder: string,
    report: Report,
  ): void {
    if (pictures.length === 0) return;
    const count = countPictures(pictures.length);
    const { mode, baseUrl } = destination.images;
    if (mode === 'embed') {
      const size = sum(pictures.map(({ bytes }) => bytes.length)) / 1024;
      report(finding('pictures-embedded', null, { count, size: size.toFixed(1) }));
    }
    if (mode === 'library' && baseUrl === null && this.ways.store === undefined)
      report(finding('pictures-library', null, { count, folder, dialect: dialect.title }));
  }

  private hostingOf(destination: Target['destination']): { hosting: Hosting | null; findings: Finding[] } {
    const known = this.#hostings.get(destination.name);
    if (known !== undefined) return known;
    const { images } = destination;
    const resolved =
      images.baseUrl === null
        ? { hosting: null, findings: [] }
        : resolveHosting(images, this.environment, this.config.folder);
    this.#hostings.set(destination.name, resolved);
    return resolved;
  }

  private async host(
    pictures: readonly CarriedPicture[],
    message: string,
    hosting: Hosting,
    folder: string,
    report: Report,
  ): Promise<{ urls: ReadonlyMap<string, string>; uploaded: number } | null> {
    // What a server has is shared between messages; what people bring there lies by message.
    const isShared = hosting.upload !== null && hosting.upload.kind !== 'folder';
    const owner = isShared ? '' : message;
    const keyOf = ({ bytes }: CarriedPicture): string => `${hosting.baseUrl} ${owner} ${digestOf(bytes)}`;
    const wanted = pictures.filter((picture) => !this.#hosted.has(keyOf(picture)));
    const paths = new Map(wanted.map((picture) => [`${message}/${picture.name}`, picture]));
    this.#memory ??= uploadMemory(this.ways.recordFolder ?? this.config.folder);
    if (this.ways.foresees === true) return this.foreseen(pictures, message, hosting);
    const result = await hostPictures(
      [...paths].map(([path, { bytes, format }]) => ({ path, bytes, type: mediaTypeOf(format) })),
      hosting,
      {
        memory: await this.#memory,
        digest: digestOf,
        write: writeWhole,
        done: () => undefined,
      },
    );
    for (const [path, url] of result.urls) {
      const picture = paths.get(path);
      if (picture !== undefined) this.#hosted.set(keyOf(picture), url);
    }
    result.findings.forEach(report);
    if (result.findings.some(isError)) return null;
    if (hosting.upload === null && pictures.length > 0) {
      const count = countPictures(pictures.length);
      report(finding('host-by-hand', null, { count, folder, url: `${hosting.baseUrl}${message}/` }));
    }
    const urls = new Map(pictures.map((picture) => [picture.name, this.#hosted.get(keyOf(picture)) ?? '']));
    return { urls, uploaded: result.uploaded };
  }

  /** The addresses that pictures are going to have. */
  private async foreseen(
    pictures: readonly CarriedPicture[],
    message: string,
    { baseUrl }: Hosting,
  ): Promise<{ urls: ReadonlyMap<string, string>; uploaded: number }> {
    const memory = await this.#memory;
    const addressOf = ({ name, bytes }: CarriedPicture): string =>
      memory?.find(baseUrl, digestOf(bytes)) ?? `${baseUrl}${[message, name].map(encodeURIComponent).join('/')}`;
    return { urls: new Map(pictures.map((picture) => [picture.name, addressOf(picture)])), uploaded: 0 };
  }
}

function sum(numbers: readonly number[]): number {
  return numbers.reduce((total, number) => total + number, 0);
}
