import { engineNames, type EngineName } from '../engines/engine.js';
import { schemeNames, type SchemeName } from '../engines/scheme.js';

/** An engine, or the page as its author wrote it. */
export type Looker = EngineName | 'source';

export const lookers: readonly Looker[] = [...engineNames, 'source'];

/** How a message is looked at: what a frame of its own shows. */
export interface View {
  /** Of the window, in CSS px. */
  readonly width: number;
  readonly engine: Looker;
  readonly scheme: SchemeName;
  readonly pictures: 'shown' | 'off';
  /** Merge tags as the dialect writes them, as labels, or filled. */
  readonly tags: 'raw' | 'chips' | 'filled';
  /** The recipient that they are filled for; null for the one that the fields themselves describe. */
  readonly sample: string | null;
  readonly outlines: readonly Outline[];
  /** Whether the page is made smaller until all of it fits. */
  readonly fit: boolean;
}

/** What may be outlined. */
export type Outline = 'regions' | 'slices';

export const LEAST_WIDTH = 200;
export const MOST_WIDTH = 2000;

const usual: View = {
  width: 700,
  engine: 'webkit',
  scheme: 'light',
  pictures: 'shown',
  tags: 'filled',
  sample: null,
  outlines: [],
  fit: false,
};

/** What a row of views holds before anybody chooses: a desktop, a phone, and a phone without a head. */
export const usualViews: readonly View[] = [
  usual,
  { ...usual, width: 375 },
  { ...usual, width: 375, engine: 'strict-webmail' },
];

/** Words of a view that are neither widths nor samples, and what they say. */
const words: ReadonlyMap<string, Partial<View>> = new Map<string, Partial<View>>([
  ...lookers.map((engine) => [engine, { engine }] as const),
  ...schemeNames.map((scheme) => [scheme, { scheme }] as const),
  ['no-pictures', { pictures: 'off' }],
  ['raw', { tags: 'raw' }],
  ['chips', { tags: 'chips' }],
  ['filled', { tags: 'filled' }],
  ['fit', { fit: true }],
]);

/** The words that a view may be made of, but for widths and the names of samples. */
export const viewWords: readonly string[] = [...words.keys(), 'regions', 'slices'];

/** A view, or the first word of it that says nothing. */
export type ReadView =
  { readonly view: View; readonly unknown: null } | { readonly view: null; readonly unknown: string };

/**
 * Reads a view from words in any order: `375 strict-webmail dark`. What is not said is as usual.
 * @param samples the names of the sample recipients; one that is called like another word is written `sample:dark`
 */
export function readView(text: string, samples: readonly string[]): ReadView {
  let view = usual;
  for (const word of text.trim().split(/\s+/)) {
    const said = word === '' ? {} : sayingOf(word, view, samples);
    if (said === null) return { view: null, unknown: word };
    view = { ...view, ...said };
  }
  return { view, unknown: null };
}

function sayingOf(word: string, view: View, samples: readonly string[]): Partial<View> | null {
  const width = /^(\d{1,5})(?:px)?$/.exec(word)?.[1];
  if (width !== undefined) {
    const pixels = Number(width);
    return pixels >= LEAST_WIDTH && pixels <= MOST_WIDTH ? { width: pixels } : null;
  }
  const known = words.get(word);
  if (known !== undefined) return known;
  if (word === 'regions' || word === 'slices') return { outlines: [...new Set<Outline>([...view.outlines, word])] };
  const sample = word.replace(/^sample:/, '');
  return samples.includes(sample) ? { tags: 'filled', sample } : null;
}

/** A view in words, as `readView` reads it. What is as usual is left out, but for the width, the engine and the scheme. */
export function writeView({ width, engine, scheme, pictures, tags, sample, outlines, fit }: View): string {
  const isWord = sample !== null && (words.has(sample) || /^(?:\d+(?:px)?|regions|slices)$/.test(sample));
  return [
    String(width),
    engine,
    scheme,
    ...(pictures === 'off' ? ['no-pictures'] : []),
    ...(tags === 'filled' ? (sample === null ? [] : [isWord ? `sample:${sample}` : sample]) : [tags]),
    ...outlines,
    ...(fit ? ['fit'] : []),
  ].join(' ');
}

/** What a view is called above its frame: `700 px · webkit · light · ines`. */
export function labelOf({ width, engine, scheme, pictures, tags, sample }: View): string {
  const said = { filled: sample, raw: 'raw tags', chips: 'tag names' }[tags];
  return [
    `${width} px`,
    engine,
    scheme,
    ...(pictures === 'off' ? ['no pictures'] : []),
    ...(said === null ? [] : [said]),
  ].join(' · ');
}

/** A name for files: `700-webkit-light`. */
export function fileNameOf(view: View): string {
  return writeView(view).replace(/[^\p{L}\d.-]+/gu, '-');
}
