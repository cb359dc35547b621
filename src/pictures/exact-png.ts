import type { Pixels } from '../core/slices/pixels.js';

/** Pixels as the lightest PNG that keeps each of them: with a palette where they have few colours. */
export async function exactPng({ width, height, data }: Pixels, isOpaque: boolean): Promise<Uint8Array> {
  const { default: sharp } = await import('sharp');
  const open = (): ReturnType<typeof sharp> => {
    const image = sharp(data, { raw: { width, height, channels: 4 } });
    return isOpaque ? image.removeAlpha() : image;
  };
  const candidates = [
    open().png({ compressionLevel: 9, adaptiveFiltering: true }).toBuffer(),
    open().png({ compressionLevel: 9 }).toBuffer(),
  ];
  if (fitsPalette(data)) candidates.push(open().png({ palette: true, quality: 100, dither: 0, effort: 7 }).toBuffer());
  const coded = (await Promise.all(candidates)).sort((a, b) => a.length - b.length);
  for (const bytes of coded) if (Buffer.from(data).equals(await rawPixels(bytes))) return bytes;
  throw new Error('no coding keeps the pixels');
}

/** The pixels of a coded picture, four bytes each. */
export async function rawPixels(bytes: Uint8Array): Promise<Buffer> {
  const { default: sharp } = await import('sharp');
  return sharp(bytes).ensureAlpha().toColourspace('srgb').raw().toBuffer();
}

/** Whether pixels have no more colours than a palette holds. */
export function fitsPalette(data: Uint8Array): boolean {
  const view = new DataView(data.buffer, data.byteOffset, data.byteLength);
  const colours = new Set<number>();
  for (let at = 0; at + 4 <= data.length; at += 4) {
    colours.add(view.getUint32(at));
    if (colours.size > 256) return false;
  }
  return true;
}
