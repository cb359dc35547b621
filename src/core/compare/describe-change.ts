import { changedParts, type ListChange, type MessageChange } from './compare-states.js';

/** How one view of a message looks, before and after. */
export interface LookChange {
  /** The view, in words. */
  readonly view: string;
  /** The share of its pixels that differ, from 0 to 1. */
  readonly share: number;
}

/** A message, compared; looks are null where nobody looked. */
export interface DescribedMessage {
  readonly name: string;
  readonly edition: string | null;
  readonly destination: string | null;
  readonly fate: 'both' | 'new' | 'gone' | 'broken-before' | 'broken-now' | 'broken';
  readonly change: MessageChange | null;
  readonly looks: readonly LookChange[] | null;
}

const fates: Readonly<Record<DescribedMessage['fate'], string>> = {
  both: '',
  new: 'is new',
  gone: 'is gone',
  'broken-before': 'builds now, and did not before',
  'broken-now': 'does not build any more',
  broken: 'does not build, and did not before',
};

/** What became of a message, in one line: `other look in 2 of 3 views; words; weight +12 B`. */
export function describeMessage({ fate, change, looks }: DescribedMessage): string {
  if (change === null) return fates[fate];
  if (change.isSameBytes && change.findings === null) return 'same bytes';
  const differing = (looks ?? []).filter(({ share }) => share > 0);
  const said = [
    ...(looks === null ? [] : [differing.length === 0 ? 'same look' : lookText(differing, looks.length)]),
    ...changedParts(change).map((part) => partText(part, change)),
  ];
  return said.length === 0 ? 'other bytes' : said.join('; ');
}

function lookText(differing: readonly LookChange[], count: number): string {
  const shares = differing.map(({ view, share }) => `${view} ${percent(share)}`).join(', ');
  return `other look in ${differing.length} of ${count} views (${shares})`;
}

/** `1.2 %`, and never 0 where anything differs. */
export function percent(share: number): string {
  const value = share * 100;
  return `${value < 0.01 ? 'under 0.01' : value.toFixed(value < 1 ? 2 : 1)} %`;
}

function partText(part: string, { weight, words, links, tags, pictures, findings }: MessageChange): string {
  if (part === 'weight' && weight !== null) {
    const by = weight.after - weight.before;
    return `weight ${by > 0 ? '+' : '−'}${Math.abs(by)} B`;
  }
  const list = { words, links, tags, pictures, findings }[part] ?? null;
  return list === null ? part : `${part} ${counts(list)}`;
}

/** `+2 −1`: what came and what went. */
function counts({ added, removed }: ListChange): string {
  return [
    ...(added.length === 0 ? [] : [`+${added.length}`]),
    ...(removed.length === 0 ? [] : [`−${removed.length}`]),
  ].join(' ');
}

/** Whether anything of a message differs. */
export function isOther({ fate, change, looks }: DescribedMessage): boolean {
  if (change === null) return fate !== 'broken';
  return !change.isSameBytes || change.findings !== null || (looks ?? []).some(({ share }) => share > 0);
}

/** Whether a message looks otherwise: what is new, gone or broken does. */
export function looksOther({ fate, looks }: DescribedMessage): boolean {
  return (fate !== 'both' && fate !== 'broken') || (looks ?? []).some(({ share }) => share > 0);
}

/** Whether the words of a message are others. */
export function readsOther({ fate, change }: DescribedMessage): boolean {
  return (fate !== 'both' && fate !== 'broken') || (change !== null && change.words !== null);
}
