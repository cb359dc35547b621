/**
 * The known name that a person most likely meant, or null where none is close.
 * Distance is that of Damerau and Levenshtein (insertions, deletions, substitutions, neighbours swapped);
 * a name counts as close when at most a third of its characters differ, and at least one edit is always allowed.
 */
export function nearestName(given: string, known: Iterable<string>): string | null {
  let best: string | null = null;
  let bestDistance = Infinity;
  for (const name of known) {
    const distance = editDistance(given.toLowerCase(), name.toLowerCase());
    const allowed = Math.max(1, Math.floor(Math.max(given.length, name.length) / 3));
    if (distance <= allowed && distance < bestDistance) {
      best = name;
      bestDistance = distance;
    }
  }
  return best;
}

function editDistance(a: string, b: string): number {
  let beforeLast: number[] = [];
  let last = Array.from({ length: b.length + 1 }, (_, index) => index);
  for (let i = 1; i <= a.length; i += 1) {
    const row = [i];
    for (let j = 1; j <= b.length; j += 1) {
      const substitution = at(last, j - 1) + (a[i - 1] === b[j - 1] ? 0 : 1);
      let cost = Math.min(at(last, j) + 1, at(row, j - 1) + 1, substitution);
      const swapped = i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1];
      if (swapped) cost = Math.min(cost, at(beforeLast, j - 2) + 1);
      row.push(cost);
    }
    beforeLast = last;
    last = row;
  }
  return at(last, b.length);
}

function at(row: readonly number[], index: number): number {
  return row[index] ?? Infinity;
}
