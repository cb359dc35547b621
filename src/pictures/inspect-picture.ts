import type { Refuse } from '../core/findings/finding.js';
import type { Metadata } from 'sharp';
import { contentsOfDrawing, isDrawing, type DrawingContents } from '../core/pictures/svg.js';

/** More pixels than this in one frame are refused: a small file can unfold to more than a machine holds. */
const MOST_PIXELS = 50_000_000;

/** As many pixels all frames of an animation may have together. */
export const MOST_PIXELS_OF_ALL_FRAMES = 5 * MOST_PIXELS;

/** A file with more bytes than this is no picture for a mail. */
const LARGEST_FILE = 100_000_000;

/** Kinds of pictures, by what their bytes say. */
export type PictureFormat = 'png' | 'jpeg' | 'gif' | 'webp' | 'avif' | 'svg' | 'tiff';

/** What a picture is, whatever its file is called. */
export interface PictureFacts {
  readonly format: PictureFormat;
  /** As it is shown: turned as the camera held it. */
  readonly width: number;
  readonly height: number;
  readonly frames: number;
  /** True where its pixels have to be turned or their colours converted to show right everywhere. */
  readonly needsConversion: boolean;
  /** What an SVG drawing holds beside shapes; null for all other kinds. */
  readonly drawing: DrawingContents | null;
}

const formats: Readonly<Record<string, PictureFormat>> = {
  png: 'png',
  jpeg: 'jpeg',
  gif: 'gif',
  webp: 'webp',
  heif: 'avif',
  svg: 'svg',
  tiff: 'tiff',
};

/** Reads what a picture is, without unfolding its pixels; null where it cannot be used. */
export async function inspectPicture(bytes: Uint8Array, refuse: Refuse): Promise<PictureFacts | null> {
  if (bytes.length === 0) return refuse('it is empty');
  if (bytes.length > LARGEST_FILE) return refuse(`it has more than ${LARGEST_FILE / 1e6} MB`);
  const text = looksLikeText(bytes) ? new TextDecoder().decode(bytes) : '';
  const drawing = isDrawing(text) ? contentsOfDrawing(text) : null;
  if (drawing?.hasEntities === true)
    return refuse('it is a drawing that declares entities, which may unfold without end');
  const { default: sharp } = await import('sharp');
  let metadata: Metadata;
  try {
    // The bounds are checked below, with a sentence that says them.
    metadata = await sharp(bytes, { limitInputPixels: false, animated: drawing === null }).metadata();
  } catch {
    return refuse(text === '' ? 'it is no picture, or it is damaged' : 'it is text, not a picture');
  }
  const format = formats[metadata.format];
  if (format === undefined || (format === 'svg') !== (drawing !== null))
    return refuse(`its kind (${metadata.format}) is none that mail clients show`);
  const frames = metadata.pages ?? (format === 'png' ? framesOfPng(bytes) : 1);
  const { width } = metadata;
  const height = metadata.pageHeight ?? metadata.height;
  if (width * height > MOST_PIXELS) return refuse(`it has more than ${MOST_PIXELS / 1e6} million pixels`);
  if (width * height * frames > MOST_PIXELS_OF_ALL_FRAMES)
    return refuse(`its frames have more than ${MOST_PIXELS_OF_ALL_FRAMES / 1e6} million pixels`);
  const isTurned = (metadata.orientation ?? 1) >= 5;
  return {
    format,
    width: isTurned ? height : width,
    height: isTurned ? width : height,
    frames,
    needsConversion: (metadata.orientation ?? 1) > 1 || !hasScreenColours(metadata),
    drawing,
  };
}

/** Whether colours are sRGB (or greys) of eight bits already. A profile that says so by name is as good as none. */
function hasScreenColours({ space, depth, icc }: Metadata): boolean {
  const isPlain = (space === 'srgb' || space === 'b-w') && depth === 'uchar';
  return isPlain && (icc === undefined || /sRGB/.test(Buffer.from(icc).toString('latin1')));
}

/** How many frames a PNG has: an animated one says so before its first pixels (PNG Third Edition, 11.3.5.1). */
function framesOfPng(bytes: Uint8Array): number {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let at = 8; at + 16 <= bytes.length;) {
    const type = String.fromCharCode(...bytes.subarray(at + 4, at + 8));
    if (type === 'acTL') return Math.max(1, view.getUint32(at + 8));
    if (type === 'IDAT' || type === 'IEND') return 1;
    at += 12 + view.getUint32(at);
  }
  return 1;
}

function looksLikeText(bytes: Uint8Array): boolean {
  const start = bytes.subarray(0, 512);
  return start.length > 0 && !start.includes(0);
}
