import type { Refuse } from '../core/findings/finding.js';
import type { Sharp, SharpOptions, default as SharpModule } from 'sharp';
import { fitsPalette, rawPixels } from './exact-png.js';
import { MOST_PIXELS_OF_ALL_FRAMES, type PictureFacts, type PictureFormat } from './inspect-picture.js';
import { withoutMetadata } from './strip-metadata.js';

/** Kinds of pictures that all engines show. */
export type MailFormat = 'png' | 'jpeg' | 'gif';

/** What a picture is to become. */
export interface PictureWish {
  /** How wide it is shown at most, in CSS px; null keeps its pixels. */
  readonly shownWidth: number | null;
  /** How many bytes it may have; null sets no bound. */
  readonly mostBytes: number | null;
  /** True where a picture of a kind that all engines show is to stay byte for byte. */
  readonly keepsBytes?: boolean;
}

/** A picture as a message carries it. */
export interface MailPicture {
  readonly bytes: Uint8Array;
  readonly format: MailFormat;
  readonly width: number;
  readonly height: number;
}

/** What all readings of pixels ask for: damage is an error, and no more pixels than were looked at. */
export const reading: SharpOptions = { failOn: 'error', limitInputPixels: MOST_PIXELS_OF_ALL_FRAMES };

/** A lossy picture is coded anew only where that saves a tenth: each coding loses something. */
const WORTH_RECODING = 0.9;

/** A picture that may be either is made JPEG where that takes off a third. */
const WORTH_LOSING = 0.67;

const photoQualities = [82, 74, 66, 58, 50, 40, 30];
const paletteSizes = [256, 128, 64, 32];

/**
 * Makes a picture ready for mail: turned and coloured as it is to show, at most twice as wide as it is shown, without
 * metadata, of a kind that all engines show, and no heavier than it was where its kind stays. Null where it is damaged.
 */
export async function lighterPicture(
  bytes: Uint8Array,
  facts: PictureFacts,
  wish: PictureWish,
  refuse: Refuse,
): Promise<MailPicture | null> {
  try {
    return await new PictureWork(bytes, facts, wish).done();
  } catch (error) {
    return refuse(damageOf(error));
  }
}

/** Why pixels could not be read, in words. */
export function damageOf(error: unknown): string {
  const detail = error instanceof Error ? (error.message.split('\n')[0] ?? '') : String(error);
  return `its content is damaged or cut short (${detail})`;
}

class PictureWork {
  readonly #width: number | null;
  #raw: Promise<Buffer> | null = null;

  constructor(
    private readonly bytes: Uint8Array,
    private readonly facts: PictureFacts,
    private readonly wish: PictureWish,
  ) {
    const { shownWidth } = wish;
    const most = shownWidth === null ? Infinity : Math.max(1, Math.floor(shownWidth * 2));
    this.#width = facts.format !== 'svg' && facts.width > most ? most : null;
  }

  async done(): Promise<MailPicture> {
    const { format, frames } = this.facts;
    if (format === 'png' || format === 'jpeg' || format === 'gif') return this.ofKind(format);
    const bound = this.wish.mostBytes ?? Infinity;
    if (frames > 1) return this.coded('gif', bound);
    const drawn = await this.coded('png', bound);
    const sharp = await load();
    if (format === 'svg' || !(await sharp(this.bytes, reading).stats()).isOpaque) return drawn;
    // Flat drawings stay sharp as PNG; photographs would be several times as heavy.
    const photo = await this.coded('jpeg', bound);
    return photo.bytes.length < drawn.bytes.length * WORTH_LOSING ? photo : drawn;
  }

  /** The picture in its own kind, which all engines show. */
  private async ofKind(format: MailFormat): Promise<MailPicture> {
    if (this.wish.keepsBytes === true) return this.sized(this.bytes, format);
    // Of an animated PNG nothing here can write more than one frame.
    if (format === 'png' && this.facts.frames > 1) return this.sized(withoutMetadata(this.bytes, format), format);
    const staysAsItIs = this.#width === null && !this.facts.needsConversion;
    const stripped = staysAsItIs ? await this.sized(withoutMetadata(this.bytes, format), format) : null;
    if (stripped !== null && format === 'gif') return stripped;
    const { mostBytes } = this.wish;
    const isLightEnough = stripped !== null && stripped.bytes.length <= (mostBytes ?? Infinity);
    // What is light enough as it is loses nothing to be lighter still.
    const bound = isLightEnough ? Infinity : Math.min(mostBytes ?? Infinity, this.bytes.length);
    const coded = await this.coded(format, bound);
    if (stripped === null) return coded;
    const worth = stripped.bytes.length * (format === 'jpeg' && isLightEnough ? WORTH_RECODING : 1);
    return coded.bytes.length < worth ? coded : stripped;
  }

  /** The lightest coding of those that lose least and keep to a bound; where none does, the lightest of all. */
  private async coded(target: MailFormat, bound: number): Promise<MailPicture> {
    const pixels = await this.pixels();
    let best: MailPicture | null = null;
    for (const step of codings(target)) {
      for (const coding of step) {
        const written = await this.attempt(pixels, coding);
        if (written !== null && (best === null || written.bytes.length < best.bytes.length)) best = written;
      }
      if (best !== null && best.bytes.length <= bound) return best;
    }
    if (best === null) throw new Error('no coding was possible');
    return best;
  }

  private async attempt(pixels: Pixels, { write, isExact, kernel }: Coding): Promise<MailPicture | null> {
    if (isExact && !fitsPalette(await this.raw(pixels))) return null;
    const { data, info } = await write(pixels.open(kernel ?? 'lanczos3')).toBuffer({ resolveWithObject: true });
    if (isExact && !(await this.isSame(pixels, data))) return null;
    const { width } = info;
    return { bytes: data, format: info.format as MailFormat, width, height: info.pageHeight ?? info.height };
  }

  /** Whether coded pixels are those that were to be coded. */
  private async isSame(pixels: Pixels, coded: Uint8Array): Promise<boolean> {
    return (await this.raw(pixels)).equals(await rawPixels(coded));
  }

  private raw(pixels: Pixels): Promise<Buffer> {
    this.#raw ??= pixels.open('lanczos3').ensureAlpha().toColourspace('srgb').raw().toBuffer();
    return this.#raw;
  }

  /** The pixels as they are to show. */
  private async pixels(): Promise<Pixels> {
    const sharp = await load();
    const { format, frames, width } = this.facts;
    const isDrawing = format === 'svg';
    const drawnWidth = this.wish.shownWidth === null ? width : Math.floor(this.wish.shownWidth * 2);
    const density = Math.min(2400, Math.max(1, (72 * drawnWidth) / width));
    const open = (kernel: Kernel): Sharp => {
      const image = sharp(this.bytes, { ...reading, animated: frames > 1, ...(isDrawing ? { density } : {}) });
      const turned = frames > 1 ? image : image.autoOrient();
      const sized =
        isDrawing || this.#width !== null
          ? turned.resize({ width: isDrawing ? drawnWidth : (this.#width ?? width), kernel })
          : turned;
      return sized.toColourspace('srgb');
    };
    return { open };
  }

  private async sized(bytes: Uint8Array, format: MailFormat): Promise<MailPicture> {
    const sharp = await load();
    // Reads all pixels: what is cut short shows itself only there.
    await sharp(bytes, { ...reading, animated: format === 'gif' && this.facts.frames > 1 }).stats();
    return { bytes, format, width: this.facts.width, height: this.facts.height };
  }
}

interface Pixels {
  readonly open: (kernel: Kernel) => Sharp;
}

/** How pixels are made of more pixels: smoothly, or by taking one of them, which adds no colours. */
type Kernel = 'lanczos3' | 'nearest';

/** One way to write pixels. */
interface Coding {
  readonly write: (image: Sharp) => Sharp;
  /** True where it counts only if every pixel stays. */
  readonly isExact: boolean;
  readonly kernel?: Kernel;
}

/** Ways to write pixels, in steps: those that lose least come first. */
function codings(format: MailFormat): Coding[][] {
  const gif = (kernel: Kernel, dither: number): Coding => ({
    write: (image) => image.gif({ effort: 7, dither }),
    isExact: false,
    kernel,
  });
  if (format === 'gif') return [[gif('lanczos3', 1)], [gif('lanczos3', 0)], [gif('nearest', 0)]];
  if (format === 'jpeg')
    return photoQualities.map((quality) => [
      {
        write: (image) => image.flatten({ background: '#ffffff' }).jpeg({ quality, mozjpeg: true }),
        isExact: false,
      },
    ]);
  const palette = (colours: number, dither: number): Coding => ({
    write: (image) => image.png({ palette: true, colours, dither, quality: 100, effort: 7, compressionLevel: 9 }),
    isExact: false,
  });
  const whole = (options: { readonly adaptiveFiltering: boolean }): Coding => ({
    write: (image) => image.png({ compressionLevel: 9, ...options }),
    isExact: false,
  });
  return [
    [whole({ adaptiveFiltering: true }), whole({ adaptiveFiltering: false }), { ...palette(256, 0), isExact: true }],
    ...paletteSizes.map((colours) => [palette(colours, 0.8), palette(colours, 0)]),
    // A flat drawing has few colours; smoothing its edges can cost more than the pixels it saves.
    [{ ...palette(256, 0), kernel: 'nearest' }],
  ];
}

async function load(): Promise<typeof SharpModule> {
  const { default: sharp } = await import('sharp');
  return sharp;
}

/** The ending of files of a kind. */
export function extensionOf(format: PictureFormat): string {
  return format === 'jpeg' ? '.jpg' : `.${format}`;
}
