import { type Gradient } from '../css/values/gradient.js';
import { printColor } from '../css/values/mixed-color.js';
import { formatNumber } from '../css/values/value.js';

/** A picture that is made from another. */
export type PictureDrawing = FittedDrawing | VeiledDrawing;

/** A picture under gradients, for engines that lay nothing over a picture. */
export interface VeiledDrawing {
  readonly path: string;
  /** The uppermost first. */
  readonly veils: readonly Gradient[];
}

/** A picture in a box of another shape than its own (CSS Images 3, 4.5). */
export interface FittedDrawing {
  /** The path of the picture, as the source gives it. */
  readonly path: string;
  /** `cover` cuts off what runs over, `contain` leaves the rest transparent, `fill` stretches. */
  readonly fit: 'cover' | 'contain' | 'fill';
  /** The width of the box as a multiple of its height. */
  readonly ratio: number;
  /** The shares of what runs over, or is left, that lie at the left and at the top. */
  readonly position: readonly [across: number, down: number];
}

/** What is taken of a picture, and on what it is put, in its own pixels. */
export interface DrawingPlan {
  readonly cut: { readonly left: number; readonly top: number; readonly width: number; readonly height: number };
  /** The finished picture; where it is larger than what is cut, the rest stays transparent. */
  readonly canvas: { readonly width: number; readonly height: number };
  /** Where what was cut stands on it. */
  readonly left: number;
  readonly top: number;
  /** True where what was cut is stretched to all of it. */
  readonly stretches: boolean;
}

/** The path by which a message names a drawn picture: that of the picture, and what is made of it. */
export function drawnPath(drawing: PictureDrawing): string {
  if ('veils' in drawing) {
    const stops = drawing.veils.map(({ angle, stops: own }) =>
      [Math.round(angle), ...own.map(({ color, at }) => `${printColor(color)}@${at.toFixed(3)}`)].join('_'),
    );
    return `${drawing.path}#veil-${stops.join('-').replace(/[^\w.@-]+/g, '-')}`;
  }
  const { path, fit, ratio, position } = drawing;
  return `${path}#${fit}-${ratio.toFixed(4)}-${position.map((share) => Math.round(share * 100)).join('-')}`;
}

/** Plans a drawing for a picture of a size. */
export function planDrawing(
  size: { readonly width: number; readonly height: number },
  drawing: FittedDrawing,
): DrawingPlan {
  const { fit, ratio, position } = drawing;
  const isWide = size.width / size.height > ratio;
  const whole = (value: number): number => Math.max(1, Math.round(value));
  if (fit === 'cover') {
    const width = isWide ? whole(size.height * ratio) : size.width;
    const height = isWide ? size.height : whole(size.width / ratio);
    const left = Math.round((size.width - width) * position[0]);
    const top = Math.round((size.height - height) * position[1]);
    return { cut: { left, top, width, height }, canvas: { width, height }, left: 0, top: 0, stretches: false };
  }
  const cut = { left: 0, top: 0, width: size.width, height: size.height };
  const canvas = {
    width: isWide || fit === 'fill' ? size.width : whole(size.height * ratio),
    height: isWide || fit === 'fill' ? whole(size.width / ratio) : size.height,
  };
  if (fit === 'fill') return { cut, canvas, left: 0, top: 0, stretches: true };
  const left = Math.round((canvas.width - size.width) * position[0]);
  const top = Math.round((canvas.height - size.height) * position[1]);
  return { cut, canvas, left, top, stretches: false };
}

/** A gradient as a vector drawing: its line goes through the middle, as long as its corners ask for (CSS Images 3, 3.1.2). */
export function veilDrawing({ angle, stops }: Gradient, width: number, height: number): string {
  const turn = (angle * Math.PI) / 180;
  const length = Math.abs(width * Math.sin(turn)) + Math.abs(height * Math.cos(turn));
  const [x, y] = [(Math.sin(turn) * length) / 2, (-Math.cos(turn) * length) / 2];
  const [x1, y1, x2, y2] = [width / 2 - x, height / 2 - y, width / 2 + x, height / 2 + y].map((at) => formatNumber(at));
  const line = `x1="${x1}" y1="${y1}" x2="${x2}" y2="${y2}"`;
  const colors = stops.map(
    ({ color, at }) =>
      `<stop offset="${at}" stop-color="${printColor({ ...color, alpha: 1 })}" stop-opacity="${color.alpha}"/>`,
  );
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}"><linearGradient id="g" ` +
    `gradientUnits="userSpaceOnUse" ${line}>${colors.join('')}</linearGradient>` +
    `<rect width="${width}" height="${height}" fill="url(#g)"/></svg>`
  );
}
