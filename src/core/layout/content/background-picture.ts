import { addressesIn } from '../../css/values/addresses.js';
import { readGradient } from '../../css/values/gradient.js';
import { splitValue } from '../../css/values/value.js';
import { drawnPath } from '../../pictures/drawing.js';
import type { Box } from '../boxes/boxes.js';
import type { Room } from './room.js';

/** The picture behind content, under the gradients over it: engines that know one background get both in one. */
export function backgroundPath(box: Box, room: Room): { readonly path: string; readonly isDrawn: boolean } | null {
  const image = box.styles[0]?.get('background-image') ?? 'none';
  const [path] = addressesIn(image);
  if (path === undefined) return null;
  const veils = splitValue(image, ',').slice(0, -1).map(readGradient);
  const known = veils.filter((veil) => veil !== null);
  if (known.length === 0 || known.length < veils.length || room.drawPicture === null) return { path, isDrawn: false };
  const drawing = { path, veils: known };
  room.drawPicture(drawing);
  return { path: drawnPath(drawing), isDrawn: true };
}
