import { finding, refusing, type Report } from '../../core/findings/finding.js';
import type { CompiledMessage } from '../../core/message/compile-message.js';
import { drawPicture } from '../../pictures/draw-picture.js';
import type { NamedPicture } from './message-pictures.js';

/**
 * Draws the pictures that a layout asks for, and puts them to those that the message names. A picture that is named
 * once goes: its drawing stands in.
 */
export async function addDrawnPictures(
  { drawings, pictureWidths, source }: CompiledMessage,
  pictures: Map<string, NamedPicture>,
  report: Report,
): Promise<void> {
  for (const [path, drawing] of drawings) {
    const from = pictures.get(drawing.path.trim()) ?? pictures.get(drawing.path);
    if (from === undefined || pictures.has(path)) continue;
    const refuse = refusing(report, (detail) =>
      finding('picture-unreadable', from.place, { path: drawing.path, detail }),
    );
    const picture = await drawPicture(from, drawing, refuse);
    if (picture !== null)
      pictures.set(path, {
        ...picture,
        file: `${from.file}${path.slice(drawing.path.length).replaceAll('.', '_')}`,
        place: from.place,
      });
  }
  for (const { path } of drawings.values()) {
    const named = source.pictures.filter((reference) => reference.path === path);
    if (!pictureWidths.has(path) && named.length === 1 && named[0]?.use === 'content') pictures.delete(path.trim());
  }
}
