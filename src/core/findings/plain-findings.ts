import { SourceText } from '../text/source-text.js';
import type { Finding, Place } from './finding.js';

/** A place, by the number of its source. */
interface PlainPlace {
  readonly source: number;
  readonly start: number;
  readonly end: number;
}

/** Findings as plain data, which can be stored and sent: sources stand apart, each once. */
export interface PlainFindings {
  readonly sources: readonly { readonly name: string; readonly text: string }[];
  readonly findings: readonly (Omit<Finding, 'place' | 'uses'> & {
    readonly place: PlainPlace | null;
    readonly uses: readonly PlainPlace[];
  })[];
}

/** Findings, at their authors' places, as plain data. */
export function plainFindings(findings: readonly Finding[]): PlainFindings {
  const sources = new Map<SourceText, number>();
  const plain = ({ source, span: { start, end } }: Place): PlainPlace => {
    const number = sources.get(source) ?? sources.size;
    sources.set(source, number);
    return { source: number, start, end };
  };
  const all = findings.map(({ code, place, data, entry, uses = [] }) => ({
    code,
    data,
    ...(entry === undefined ? {} : { entry }),
    place: place === null ? null : plain(place),
    uses: uses.map(plain),
  }));
  return { sources: [...sources.keys()].map(({ name, text }) => ({ name, text })), findings: all };
}

/** Findings again, of what `plainFindings` made of them. */
export function findingsFrom({ sources, findings }: PlainFindings): Finding[] {
  const texts = sources.map(({ name, text }) => new SourceText(name, text));
  const place = ({ source, start, end }: PlainPlace): Place => {
    const text = texts[source];
    if (text === undefined) throw new RangeError(`There is no source ${source}.`);
    return { source: text, span: { start, end } };
  };
  return findings.map(({ place: at, uses, ...item }) => ({
    ...item,
    place: at === null ? null : place(at),
    ...(uses.length === 0 ? {} : { uses: uses.map(place) }),
  }));
}
