import { shownWidths } from '../pictures/shown-widths.js';
import type { CompiledMessage } from './compile-message.js';

/**
 * How wide a message shows its pictures at most, in CSS px, by the paths that it gives; null for pictures that need all
 * their pixels: those behind content, and those whose width nothing says.
 */
export function pictureWidths({
  source,
  declared: { rules },
  pictureWidths: laidOut,
}: CompiledMessage): ReadonlyMap<string, number | null> {
  const { pictures, doc } = source;
  const widths = new Map(laidOut);
  const unknown = pictures.filter(({ path, use }) => use === 'content' && !widths.has(path));
  if (unknown.length > 0) {
    // Pieces whose layout is the author's own, and those for one engine, are measured where they stand.
    const measured = shownWidths(doc, rules);
    for (const { path } of unknown) widths.set(path, measured.get(path) ?? null);
  }
  for (const { path, use } of pictures) if (use === 'background') widths.set(path, null);
  return widths;
}
