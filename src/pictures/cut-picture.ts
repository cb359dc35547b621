import type { Refuse } from '../core/findings/finding.js';
import { shownRegion, type ShownGrid, type Slice, type SlicePlan } from '../core/slices/plan.js';
import type { Pixels, Region } from '../core/slices/pixels.js';
import { exactPng } from './exact-png.js';
import { inspectPicture, type PictureFacts } from './inspect-picture.js';
import { damageOf, reading, type MailPicture } from './lighter-picture.js';

/** A slice, cut out. */
export interface CutSlice {
  readonly slice: Slice;
  readonly picture: MailPicture;
  /** The mean colour of its lowest row, as CSS writes it. */
  readonly edgeColor: string;
}

/** A picture that can be cut: what it is, and its pixels. */
export interface StillPicture {
  readonly facts: PictureFacts;
  readonly pixels: Pixels;
}

/** Reads a picture that is to be cut, with its pixels as they show, in sRGB; null where it cannot be. */
export async function readStillPicture(bytes: Uint8Array, refuse: Refuse): Promise<StillPicture | null> {
  const facts = await inspectPicture(bytes, refuse);
  if (facts === null) return null;
  if (facts.format === 'svg' || facts.frames > 1) return refuse('only still pictures of pixels can be cut');
  try {
    return { facts, pixels: await readPixels(bytes) };
  } catch (error) {
    return refuse(damageOf(error));
  }
}

/** The pixels of a picture as it shows, in sRGB. Fails where they are damaged. */
export async function readPixels(bytes: Uint8Array): Promise<Pixels> {
  const { default: sharp } = await import('sharp');
  const image = sharp(bytes, reading).autoOrient().toColourspace('srgb').ensureAlpha();
  const { data, info } = await image.raw().toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, data };
}

/** The pixels of a picture on the grid that it is cut on: scaled where it is not one or two times as wide as it is shown. */
async function pixelsOnGrid(pixels: Pixels, grid: ShownGrid): Promise<Pixels> {
  const { default: sharp } = await import('sharp');
  const [width, height] = [grid.width * grid.scale, grid.height * grid.scale];
  if (pixels.width === width && pixels.height === height) return pixels;
  const image = sharp(pixels.data, { raw: { width: pixels.width, height: pixels.height, channels: 4 } });
  const isWide = pixels.width === width;
  // An odd last row is repeated, which nobody sees; scaling would touch every row.
  const fitted = isWide
    ? image.extend({ bottom: height - pixels.height, extendWith: 'copy' })
    : image.resize({ width, height, fit: 'fill', kernel: 'lanczos3' });
  return { width, height, data: await fitted.raw().toBuffer() };
}

/** Cuts a picture as a plan says. Every pixel stays as it is, but in slices that are to be JPEG. */
export async function cutPicture(pixels: Pixels, plan: SlicePlan, grid: ShownGrid): Promise<CutSlice[]> {
  const { default: sharp } = await import('sharp');
  const whole = await pixelsOnGrid(pixels, grid);
  const isOpaque = opaque(whole);
  const pictures = plan.bands.flat().filter(({ live }) => live === null);
  return Promise.all(
    pictures.map(async (slice): Promise<CutSlice> => {
      const region = scaled(shownRegion(slice, plan, grid), grid.scale);
      const edgeColor = meanColor(whole, { ...region, top: region.bottom - 1 });
      const size = { width: region.right - region.left, height: region.bottom - region.top };
      if (slice.jpeg !== null) {
        const options = { quality: slice.jpeg, chromaSubsampling: '4:4:4', mozjpeg: true };
        const image = sharp(part(whole, region), { raw: { ...size, channels: 4 } });
        const bytes = await image.flatten({ background: '#ffffff' }).jpeg(options).toBuffer();
        return { slice, edgeColor, picture: { bytes, format: 'jpeg', ...size } };
      }
      const bytes = await exactPng({ ...size, data: part(whole, region) }, isOpaque);
      return { slice, edgeColor, picture: { bytes, format: 'png', ...size } };
    }),
  );
}

function scaled({ left, top, right, bottom }: Region, scale: number): Region {
  return { left: left * scale, top: top * scale, right: right * scale, bottom: bottom * scale };
}

/** The pixels of a region. */
function part({ width, data }: Pixels, { left, top, right, bottom }: Region): Uint8Array {
  const row = (right - left) * 4;
  const cut = new Uint8Array(row * (bottom - top));
  for (let y = top; y < bottom; y += 1)
    cut.set(data.subarray((y * width + left) * 4, (y * width + right) * 4), (y - top) * row);
  return cut;
}

function opaque({ data }: Pixels): boolean {
  for (let at = 3; at < data.length; at += 4) if (data[at] !== 255) return false;
  return true;
}

function meanColor({ width, data }: Pixels, { left, top, right, bottom }: Region): string {
  const sums = [0, 0, 0];
  for (let y = top; y < bottom; y += 1)
    for (let x = left; x < right; x += 1)
      for (let channel = 0; channel < 3; channel += 1)
        sums[channel] = (sums[channel] ?? 0) + (data[(y * width + x) * 4 + channel] ?? 0);
  const count = (right - left) * (bottom - top);
  return `#${sums
    .map((sum) =>
      Math.round(sum / count)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;
}
