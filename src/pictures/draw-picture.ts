import type { Sharp } from 'sharp';
import {
  planDrawing,
  veilDrawing,
  type FittedDrawing,
  type PictureDrawing,
  type VeiledDrawing,
} from '../core/pictures/drawing.js';
import type { Refuse } from '../core/findings/finding.js';
import { inspectPicture, type PictureFacts } from './inspect-picture.js';
import { damageOf, reading } from './lighter-picture.js';

/** A drawn picture. */
export interface DrawnPicture {
  readonly bytes: Uint8Array;
  readonly facts: PictureFacts;
}

/** Draws what a layout asks for: a part of a picture, or all of it on another canvas. Pictures that move go on moving. Null where it cannot be drawn. */
export async function drawPicture(
  { bytes, facts }: { readonly bytes: Uint8Array; readonly facts: PictureFacts },
  drawing: PictureDrawing,
  refuse: Refuse,
): Promise<DrawnPicture | null> {
  const { default: sharp } = await import('sharp');
  const scale = facts.format === 'svg' ? DRAWING_SCALE : 1;
  const size = { width: facts.width * scale, height: facts.height * scale };
  try {
    const options = { ...reading, animated: facts.frames > 1, density: 72 * scale };
    const whole = facts.frames > 1 ? sharp(bytes, options) : sharp(bytes, options).autoOrient();
    const made = 'veils' in drawing ? veiled(whole, size, drawing) : fitted(whole, size, drawing);
    const keepsAlpha = 'fit' in drawing && drawing.fit === 'contain';
    const drawn = await coded(made, facts, keepsAlpha).toBuffer();
    const own = await inspectPicture(drawn, refuse);
    return own === null ? null : { bytes: drawn, facts: own };
  } catch (error) {
    return refuse(damageOf(error));
  }
}

interface Size {
  readonly width: number;
  readonly height: number;
}

function fitted(whole: Sharp, size: Size, drawing: FittedDrawing): Sharp {
  const { cut, canvas, left, top, stretches } = planDrawing(size, drawing);
  const part = whole.extract(cut);
  if (stretches) return part.resize({ ...canvas, fit: 'fill' });
  return part.ensureAlpha().extend({
    ...{ left, top, right: canvas.width - cut.width - left, bottom: canvas.height - cut.height - top },
    background: { r: 0, g: 0, b: 0, alpha: 0 },
  });
}

/** Lays gradients over a picture as a drawing of its size. */
function veiled(whole: Sharp, { width, height }: Size, { veils }: VeiledDrawing): Sharp {
  const layers = [...veils]
    .reverse()
    .map((veil) => ({ input: Buffer.from(veilDrawing(veil, width, height)), tile: true }));
  return whole.composite(layers);
}

/** Vector drawings have no pixels of their own: they get two for each px that they show. */
const DRAWING_SCALE = 2;

/** Kept as exact as it can be: how light it becomes is decided once it is known how wide it shows. */
function coded(image: Sharp, { format, frames }: PictureFacts, keepsAlpha: boolean): Sharp {
  if (frames > 1) return image.gif();
  if (format === 'jpeg' && !keepsAlpha) return image.jpeg({ quality: 95, chromaSubsampling: '4:4:4' });
  return image.png();
}
