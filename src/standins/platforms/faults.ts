/** What can go wrong with an answer. */
export const faultKinds = ['slow', 'cut', 'garbage', 'fail', 'busy'] as const;

export type FaultKind = (typeof faultKinds)[number];

/** What goes wrong with one answer, and whether the platform does what is asked before. */
export interface Fault {
  readonly kind: FaultKind;
  readonly isDone: boolean;
}

/** Out of so many requests one goes wrong. */
const ONE_IN = 6;

/** Decides for one request after the other what goes wrong; the same seed gives the same. */
export function faultPlan(kinds: readonly FaultKind[], seed: number): () => Fault | null {
  const random = seededRandom(seed);
  return () => {
    const hits = random() < 1 / ONE_IN;
    const kind = kinds[Math.floor(random() * kinds.length)];
    const isDone = random() < 0.5;
    // Who is asked too often does nothing.
    return hits && kind !== undefined ? { kind, isDone: isDone && kind !== 'busy' } : null;
  };
}

/** Numbers from 0 to 1 that a seed decides (a mixing of 32 bits: one multiplication and shifts for each number). */
function seededRandom(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x9e3779b9) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 16), 0x21f0aaad);
    mixed = Math.imul(mixed ^ (mixed >>> 15), 0x735a2d97);
    return ((mixed ^ (mixed >>> 15)) >>> 0) / 2 ** 32;
  };
}
