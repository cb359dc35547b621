import type { PictureSize } from '../core/layout/emit.js';

/** More pixels than this are refused: a small file can unfold to more than a machine holds. */
const MOST_PIXELS = 50_000_000;

export type PictureResult =
  { readonly size: PictureSize; readonly detail: null } | { readonly size: null; readonly detail: string };

/** Reads the natural size of a picture. `detail` says in words why that fails. */
export async function readPictureSize(bytes: Uint8Array): Promise<PictureResult> {
  const { default: sharp } = await import('sharp');
  try {
    const { width, height, pageHeight } = await sharp(bytes).metadata();
    if (width * height > MOST_PIXELS)
      return { size: null, detail: `it has more than ${MOST_PIXELS / 1e6} million pixels` };
    return { size: { width, height: pageHeight ?? height }, detail: null };
  } catch {
    return { size: null, detail: 'it is no picture, or it is damaged' };
  }
}
