import type { TagDelimiters } from '../core/html/tags.js';
import { dialectNames, loadDialect } from './dialects.js';

/** The delimiters of template tags: those of one dialect, or of all that are at hand. */
export async function knownDelimiters(folder: string, dialect: string | null): Promise<TagDelimiters[]> {
  const names = dialect === null ? await dialectNames(folder) : [dialect];
  const loaded = await Promise.all(names.map((name) => loadDialect(name, folder)));
  const all = loaded.flatMap((result) => result.dialect?.delimiters ?? []);
  return all.filter((pair, index) => all.findIndex((other) => other.open === pair.open) === index);
}
