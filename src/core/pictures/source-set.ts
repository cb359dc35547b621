import type { Span } from '../text/span.js';

/**
 * The addresses of a `srcset` and where they stand in it, as the HTML standard reads it (4.8.4.3.10): an address runs to the
 * next white space, and the commas at its end separate it from the next candidate.
 */
export function sourceCandidates(value: string): { path: string; span: Span }[] {
  const found: { path: string; span: Span }[] = [];
  let position = 0;
  for (;;) {
    position += /^[\s,]*/.exec(value.slice(position))?.[0].length ?? 0;
    if (position >= value.length) return found;
    const run = /^\S+/.exec(value.slice(position))?.[0] ?? '';
    const path = run.replace(/,+$/, '');
    if (path !== '') found.push({ path, span: { start: position, end: position + path.length } });
    position += run.length;
    if (path.length === run.length) position = afterDescriptors(value, position);
  }
}

/** Where the descriptors end that follow an address: at a comma outside of parentheses. */
function afterDescriptors(value: string, from: number): number {
  let depth = 0;
  for (let index = from; index < value.length; index += 1) {
    const character = value[index];
    if (character === '(') depth += 1;
    else if (character === ')') depth = Math.max(0, depth - 1);
    else if (character === ',' && depth === 0) return index + 1;
  }
  return value.length;
}
