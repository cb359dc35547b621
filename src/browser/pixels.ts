import sharp from 'sharp';

/** By how many of 256 levels a pixel must differ to count, where pictures are compared about. */
const PIXEL_LEVELS = 16;

/** Which pixels are alike: the same ones alone; or those that differ by little or lie a pixel beside, as rounding puts them. */
export type Likeness = 'exact' | 'about';

interface Pixels {
  readonly data: Buffer;
  readonly width: number;
  readonly height: number;
}

/** The share of the pixels that two pictures show otherwise, from 0 to 1; what one of them lacks differs. */
export async function differingShare(first: Buffer, second: Buffer, likeness: Likeness): Promise<number> {
  if (first.equals(second)) return 0;
  const [a, b] = await Promise.all([pixelsOf(first), pixelsOf(second)]);
  const [width, height] = [Math.max(a.width, b.width), Math.max(a.height, b.height)];
  const marked = differenceMap(a, b, likeness);
  let differing = width * height - marked.length;
  for (const value of marked) differing += value;
  return differing / (width * height);
}

/** For each pixel of what two pictures share, row by row, 1 where they differ. */
function differenceMap(a: Pixels, b: Pixels, likeness: Likeness): Uint8Array {
  const [width, height] = [Math.min(a.width, b.width), Math.min(a.height, b.height)];
  const marked = new Uint8Array(width * height);
  const levels = likeness === 'exact' ? 0 : PIXEL_LEVELS;
  // Two pictures of a page have millions of pixels, nearly all of them alike: nothing is made for one.
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) {
      const at = (y * a.width + x) * 3;
      if (isAlike(a.data, at, b.data, (y * b.width + x) * 3, levels)) continue;
      if (likeness === 'exact' || !standsBeside(a.data, at, b, x, y)) marked[y * width + x] = 1;
    }
  return marked;
}

/** Whether what a pixel shows lies a pixel beside in another picture, as rounding puts it. */
function standsBeside(data: Buffer, at: number, { data: other, width, height }: Pixels, x: number, y: number): boolean {
  for (let down = Math.max(0, y - 1); down <= Math.min(height - 1, y + 1); down += 1)
    for (let right = Math.max(0, x - 1); right <= Math.min(width - 1, x + 1); right += 1)
      if (isAlike(data, at, other, (down * width + right) * 3, PIXEL_LEVELS)) return true;
  return false;
}

/** Whether two pixels look alike: those that begin at some bytes of two pictures. */
function isAlike(data: Buffer, at: number, other: Buffer, otherAt: number, most: number): boolean {
  for (let channel = 0; channel < 3; channel += 1) {
    const levels = (data[at + channel] ?? 0) - (other[otherAt + channel] ?? 0);
    if (levels > most || levels < -most) return false;
  }
  return true;
}

async function pixelsOf(png: Buffer): Promise<Pixels> {
  const { data, info } = await sharp(png).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  return { data, width: info.width, height: info.height };
}

/** A pale copy of the first of two pictures, with what differs in the second one in red, as a PNG. */
export async function differencePicture(before: Buffer, after: Buffer, likeness: Likeness): Promise<Buffer> {
  const [a, b] = await Promise.all([pixelsOf(before), pixelsOf(after)]);
  const [width, height] = [Math.min(a.width, b.width), Math.min(a.height, b.height)];
  const marked = differenceMap(a, b, likeness);
  const shown = Buffer.alloc(width * height * 3);
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1)
      for (let channel = 0; channel < 3; channel += 1) {
        const pale = 200 + Math.round((a.data[(y * a.width + x) * 3 + channel] ?? 255) * 0.21);
        shown[(y * width + x) * 3 + channel] =
          marked[y * width + x] === 1 ? (channel === 0 ? 220 : 30) : Math.min(255, pale);
      }
  return sharp(shown, { raw: { width, height, channels: 3 } })
    .png()
    .toBuffer();
}

/** Two pictures and what differs, side by side as one PNG. */
export async function sideBySide(before: Buffer, after: Buffer): Promise<Buffer> {
  const difference = await differencePicture(before, after, 'about');
  const pictures = [before, after, difference];
  const sizes = await Promise.all(pictures.map((picture) => sharp(picture).metadata()));
  const space = 16;
  const left = (index: number): number => sizes.slice(0, index).reduce((sum, { width }) => sum + width + space, space);
  return sharp({
    create: {
      width: left(sizes.length),
      height: Math.max(...sizes.map(({ height }) => height)) + 2 * space,
      channels: 3,
      background: '#888888',
    },
  })
    .composite(pictures.map((input, index) => ({ input, top: space, left: left(index) })))
    .png()
    .toBuffer();
}
