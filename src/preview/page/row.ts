/// <reference lib="dom" />
import type { BenchMessage } from '../../core/views/model.js';
import { readView, usualViews, writeView, type View } from '../../core/views/view.js';

/** The views of a row, as the address of the page says them; else as they were when the message was looked at last. */
export function rowOf({ name, samples, views: first = [] }: BenchMessage, search: string): View[] {
  const said = new URLSearchParams(search).getAll('view');
  const kept = said.length > 0 ? said : remembered(name);
  const texts = kept.length > 0 ? kept : first;
  const views = texts.flatMap((text) => readView(text, samples).view ?? []);
  return views.length > 0 ? views : [...usualViews];
}

function remembered(name: string): string[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(keyOf(name)) ?? '[]');
    return Array.isArray(kept) ? kept.filter((text) => typeof text === 'string') : [];
  } catch {
    // A browser may keep nothing.
    return [];
  }
}

/** Keeps a row: in the address, and in the browser for the next time. */
export function keepRow(
  name: string,
  row: readonly View[],
  chosen: { edition: string | null; destination: string | null },
): void {
  const query = new URLSearchParams();
  if (chosen.edition !== null) query.set('edition', chosen.edition);
  if (chosen.destination !== null) query.set('to', chosen.destination);
  for (const view of row) query.append('view', writeView(view));
  // A browser may keep nothing, and refuses so many changes of the address as an edge that is dragged makes.
  quietly(() => localStorage.setItem(keyOf(name), JSON.stringify(row.map(writeView))));
  quietly(() => history.replaceState(null, '', `${location.pathname}?${query}`));
}

function quietly(keep: () => void): void {
  try {
    keep();
  } catch {
    // The views are shown all the same.
  }
}

function keyOf(name: string): string {
  return `views of ${name}`;
}
