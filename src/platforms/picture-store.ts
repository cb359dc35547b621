import { base64 } from '../core/delivery/fill-request.js';
import { takenOf, type Taken } from '../core/delivery/read-answer.js';
import { filledText, type RequestValues, type SentFile } from '../core/delivery/values.js';
import type { Finding } from '../core/findings/finding.js';
import type { DeliveryMemory } from './delivery-memory.js';
import type { PlatformClient } from './platform-client.js';
import { searchFor } from './search.js';

/** A picture that a platform is to keep. Its name holds a piece of its digest: one name is one picture. */
export interface StorablePicture extends SentFile {
  /** The SHA-256 of its bytes. */
  readonly digest: string;
  readonly width: number;
  readonly height: number;
}

/** Where pictures show, by their digests; what could not be stored is told. */
export interface StoreResult {
  readonly addresses: ReadonlyMap<string, string>;
  readonly findings: readonly Finding[];
  readonly uploaded: number;
}

/** So often a picture is looked for, and sent again, where it is not known whether it arrived. */
const ROUNDS = 3;

/** The picture store of a platform: each picture is sent once, and found again by its name where it may have arrived. */
export class PictureStore {
  /** Pictures that were seen there in this run. */
  readonly #seen = new Map<string, string>();

  constructor(
    private readonly client: PlatformClient,
    private readonly memory: DeliveryMemory,
  ) {}

  /** Sees to it that pictures are there: what is not is sent. */
  async store(pictures: readonly StorablePicture[]): Promise<StoreResult> {
    const findings: Finding[] = [];
    let uploaded = 0;
    const waiting = [...new Map(pictures.map((picture) => [picture.digest, picture])).values()];
    const work = async (): Promise<void> => {
      for (let next = waiting.shift(); next !== undefined && findings.length === 0; next = waiting.shift()) {
        const problem = await this.storeOne(next, () => (uploaded += 1));
        if (problem !== null) findings.push(problem);
      }
    };
    await Promise.all(Array.from({ length: this.client.access.api.atOnce }, work));
    return { addresses: this.#seen, findings, uploaded };
  }

  private recorded(digest: string): string | null {
    return this.memory.picture(this.client.access.destination, digest)?.address ?? null;
  }

  private async storeOne(picture: StorablePicture, sent: () => void): Promise<Finding | null> {
    const { digest } = picture;
    if (this.#seen.has(digest)) return null;
    const { api, destination } = this.client.access;
    if (api.picture === null) return null;
    const recorded = this.recorded(digest);
    if (recorded !== null && api.picture.find === null) {
      this.#seen.set(digest, recorded);
      return null;
    }
    for (let round = 1; ; round += 1) {
      const looked = await this.look(picture);
      if (looked.problem !== null) return looked.problem;
      if (looked.address !== null) return this.keep(picture, looked.address);
      const unsure = await this.memory.keepPicture({ destination, picture: digest, address: null });
      if (unsure !== null) return unsure;
      const what = `the picture ${picture.name}`;
      const isRepeatable = api.picture.find === null;
      const result = await this.client.call({
        exchange: api.picture,
        what,
        values: pictureValues(picture),
        files: { file: picture, pictures: [] },
        isRepeatable,
      });
      if (result.kind === 'answer') {
        sent();
        const { taken, problem } = takenOf(result.content, api.picture, Object.keys(api.picture.take));
        if (taken === null) return this.client.oddAnswer(what, problem);
        return this.keep(picture, addressIn(api.picture.address, picture, taken, this.client));
      }
      if (!result.mayHaveHappened || isRepeatable || round >= ROUNDS) return result.finding;
    }
  }

  private async look(
    picture: StorablePicture,
  ): Promise<{ readonly address: string | null; readonly problem: Finding | null }> {
    const exchange = this.client.access.api.picture;
    if (exchange === null || exchange.find === null) return { address: null, problem: null };
    const { name } = picture;
    const values = pictureValues(picture);
    const { found, failed } = await searchFor(this.client, {
      exchange: exchange.find,
      what: 'the search for a picture',
      values,
      name,
    });
    if (failed !== null) return { address: null, problem: failed.finding };
    const [first] = found;
    return {
      address: first === undefined ? null : addressIn(exchange.address, picture, first, this.client),
      problem: null,
    };
  }

  private async keep({ digest }: StorablePicture, address: string): Promise<Finding | null> {
    this.#seen.set(digest, address);
    const { destination } = this.client.access;
    return this.memory.keepPicture({ destination, picture: digest, address });
  }
}

/** What requests may say of a picture. */
export function pictureValues({ name, type, bytes, width, height }: StorablePicture): RequestValues {
  return new Map<string, string | number>([
    ['picture.name', name],
    ['picture.type', type],
    ['picture.base64', base64(bytes)],
    ['picture.bytes', bytes.length],
    ['picture.width', width],
    ['picture.height', height],
  ]);
}

function addressIn(pattern: string, picture: StorablePicture, taken: Taken, client: PlatformClient): string {
  const own = [...taken].map(([name, value]) => [`picture.${name}`, value] as const);
  return filledText(
    pattern,
    new Map([
      ...pictureValues(picture),
      ...client.access.settings,
      ['destination.url', client.access.url.replace(/\/$/, '')],
      ...own,
    ]),
  );
}
