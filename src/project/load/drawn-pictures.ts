import { finding, type Report } from '../../core/findings/finding.js';
import type { CompiledMessage } from '../../core/message/compile-message.js';
import { drawPicture } from '../../pictures/draw-picture.js';
import type { NamedPicture } from './message-pictures.js';

/**
 * Draws the pictures that a layout asks for, and puts them to those that the message names. A picture that is shown nowhere
 * as it is goes: its drawings stand in.
 */
export async function addDrawnPictures(
  { drawings, pictureWidths, source }: CompiledMessage,
  pictures: Map<string, NamedPicture>,
  report: Report,
): Promise<void> {
  for (const [path, drawing] of drawings) {
    const from = pictures.get(drawing.path.trim()) ?? pictures.get(drawing.path);
    if (from === undefined || pictures.has(path)) continue;
    const { picture, detail } = await drawPicture(from, drawing);
    if (picture === null) report(finding('picture-unreadable', from.place, { path: drawing.path, detail }));
    else
      pictures.set(path, {
        ...picture,
        file: `${from.file}${path.slice(drawing.path.length).replaceAll('.', '_')}`,
        place: from.place,
      });
  }
  const behind = new Set(source.pictures.filter(({ use }) => use === 'background').map(({ path }) => path));
  for (const { path } of drawings.values())
    if (!pictureWidths.has(path) && !behind.has(path)) pictures.delete(path.trim());
}
