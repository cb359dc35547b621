import { adviceForName, finding, type Finding } from '../core/finding.js';
import type { TagDelimiters } from '../core/html/tags.js';
import { nearestName } from '../core/nearest.js';
import { dialectNames, loadDialect } from './dialects.js';

/** The delimiters of template tags: those of one dialect, or of all that are at hand. */
export async function knownDelimiters(
  folder: string,
  dialect: string | null,
): Promise<{ delimiters: TagDelimiters[]; findings: Finding[] }> {
  const known = await dialectNames(folder);
  if (dialect !== null && !known.includes(dialect)) {
    const advice = adviceForName(nearestName(dialect, known), known, '');
    return { delimiters: [], findings: [finding('unknown-dialect', null, { name: dialect, advice })] };
  }
  const loaded = await Promise.all((dialect === null ? known : [dialect]).map((name) => loadDialect(name, folder)));
  const all = loaded.flatMap((result) => result.dialect?.delimiters ?? []);
  const delimiters = all.filter((pair, index) => all.findIndex((other) => other.open === pair.open) === index);
  return { delimiters, findings: dialect === null ? [] : loaded.flatMap((result) => [...result.findings]) };
}
