import { layoutAdvice } from '../../findings/wording/layout.js';
import { drawnPath, planDrawing, type FittedDrawing } from '../../pictures/drawing.js';
import { readQuantity, splitValue } from '../../css/values/value.js';
import type { PictureBox } from '../boxes/boxes.js';
import { inStates, type BoxInState } from '../boxes/box-in-state.js';
import { problemIn, reportProblems } from './problems.js';
import { narrowestWidth, type PictureSize, type Room } from './room.js';

/** A picture as it is put into the message: under which path, and with which size of its own. */
export interface FittedPicture {
  readonly path: string;
  readonly natural: PictureSize | null;
}

/**
 * What `object-fit`, `object-position` and `aspect-ratio` make of a picture: another picture, which is drawn once and has
 * the shape of its box at all widths. What would need several is refused.
 */
export function fittedPicture(box: PictureBox, path: string, room: Room): FittedPicture {
  const natural = room.pictureSize(path);
  const plain = { path, natural };
  const refuse = (own: BoxInState, property: string, advice: string): FittedPicture => {
    reportProblems([problemIn(own, property, advice)], room);
    return plain;
  };
  const wishes = inStates(box)
    .filter((own) => !own.isHidden)
    .map((own) => ({ own, wish: wishIn(own, natural, narrowestWidth(room, own.state)) }));
  for (const { own, wish } of wishes)
    if (typeof wish === 'string' && wish !== 'none') return refuse(own, wish, fitAdvice(wish));
  const first = wishes.find(({ wish }) => wish !== 'none');
  if (first === undefined || typeof first.wish === 'string') return plain;
  const property = first.own.style.isAuthored('object-fit') ? 'object-fit' : 'aspect-ratio';
  const keys = new Set(wishes.map(({ wish }) => keyOf(wish)));
  if (keys.size > 1) return refuse(first.own, property, layoutAdvice.oneShape);
  if (room.drawPicture === null || natural === null) return refuse(first.own, property, layoutAdvice.cropFirst);
  const drawing = { ...first.wish, path };
  room.drawPicture(drawing);
  return { path: drawnPath(drawing), natural: planDrawing(natural, drawing).canvas };
}

type Wish = Omit<FittedDrawing, 'path'>;

function keyOf(wish: Wish | string): string {
  return typeof wish === 'string' ? wish : `${wish.fit} ${wish.ratio.toFixed(3)} ${wish.position.join(' ')}`;
}

function fitAdvice(property: string): string {
  return property === 'height' ? layoutAdvice.shapeOfPicture : layoutAdvice.fitOfPicture;
}

/**
 * What a state asks for: nothing, a drawing, or the property that keeps it from being one.
 * @param least the least width that there is for it in the state, in px
 */
function wishIn(
  box: BoxInState<PictureBox>,
  natural: PictureSize | null,
  least: number,
): Wish | 'none' | 'height' | 'object-fit' | 'object-position' {
  const style = box.style;
  const fit = style.take('object-fit');
  const ratio = ratioIn(box, least);
  if (ratio === 'fluid') return fit === 'fill' ? 'none' : 'height';
  const isOwn = ratio !== null && natural !== null && Math.abs(ratio - natural.width / natural.height) < 0.002;
  if (ratio === null || isOwn) return 'none';
  // A box with a width and a height stretches its picture by itself.
  if (fit === 'fill' && style.pixels('height') !== null) return 'none';
  const position = positionOf(style.take('object-position'));
  if (position === null) return 'object-position';
  if (fit !== 'cover' && fit !== 'contain' && fit !== 'fill') return 'object-fit';
  return { fit, ratio, position: fit === 'fill' ? [0, 0] : position };
}

/** The shape of the box: its width over its height; null where it has that of its picture, `fluid` where it changes. */
function ratioIn(box: BoxInState<PictureBox>, least: number): number | 'fluid' | null {
  const style = box.style;
  const said = style.take('aspect-ratio');
  const stated = /^auto\b|\bauto$/.test(said) ? null : ratioOf(said);
  const edges = (from: string, to: string): number =>
    style.get('box-sizing') === 'border-box' ? box.edge(from) + box.edge(to) : 0;
  const height = style.pixels('height');
  if (height === null) return stated;
  if (style.get('width') === 'auto') return stated;
  const width = style.pixels('width');
  const isBound = style.get('max-width') === 'none' || (style.pixelsWithin('max-width', least) ?? 0) >= (width ?? 0);
  if (width === null || !isBound) return 'fluid';
  return (width - edges('left', 'right')) / (height - edges('top', 'bottom'));
}

function ratioOf(value: string): number | null {
  const [width, height = '1'] = splitValue(value, '/');
  const [across, down] = [readQuantity(width ?? ''), readQuantity(height)];
  return across === null || down === null || across.number <= 0 || down.number <= 0
    ? null
    : across.number / down.number;
}

const shares: ReadonlyMap<string, number> = new Map([
  ['left', 0],
  ['top', 0],
  ['center', 0.5],
  ['right', 1],
  ['bottom', 1],
]);

/** Keywords and percentages as shares; null for lengths, which no one picture has at all widths. */
function positionOf(value: string): readonly [number, number] | null {
  const parts = splitValue(value);
  const isTurned = /^(?:top|bottom)$/.test(parts[0] ?? '') || /^(?:left|right)$/.test(parts[1] ?? '');
  const [across = 'center', down = 'center'] = isTurned ? [parts[1], parts[0]] : parts;
  const read = [across, down].map((part) => {
    const quantity = readQuantity(part);
    return shares.get(part) ?? (quantity?.unit === '%' ? quantity.number / 100 : quantity?.number === 0 ? 0 : null);
  });
  const [x = null, y = null] = read;
  return x === null || y === null ? null : [x, y];
}
