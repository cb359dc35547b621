import type { Finding } from '../finding.js';
import { findTags, neutralDelimiters } from '../html/tags.js';
import { SourceText } from '../text/source-text.js';
import type { Span } from '../text/span.js';
import type { Dialect, DialectSample } from './dialect.js';
import type { MergeTag } from './model.js';
import { printNeutralTag } from './print-neutral.js';
import { readDialectTags } from './read-dialect.js';
import { readNeutralTags } from './read-neutral.js';
import { tagsInDialect } from './write.js';

/** What a sample came to in one direction. */
export interface SampleProof {
  readonly sample: DialectSample;
  readonly direction: 'written' | 'read';
  readonly expected: string;
  readonly found: string;
}

/** The samples of a dialect that it does not write, or does not read, as they say. */
export function failedSamples(dialect: Dialect): SampleProof[] {
  return dialect.samples.flatMap((sample): SampleProof[] => {
    const { neutral, written } = sample;
    const proofs: readonly SampleProof[] = [
      { sample, direction: 'written', expected: written, found: fromNeutral(neutral, dialect) },
      { sample, direction: 'read', expected: neutral, found: toNeutral(written, dialect) },
    ];
    return proofs.filter(({ expected, found }) => expected !== found);
  });
}

/** A neutral text in a dialect; what cannot be said is marked. */
export function fromNeutral(text: string, dialect: Dialect): string {
  const source = new SourceText('sample', text);
  const spans = findTags(text, [neutralDelimiters]);
  const { report, problem } = firstProblem();
  const texts = tagsInDialect(readNeutralTags(source, spans, report), dialect, report);
  const result = withTags(text, spans, (index) => texts.write(index, 'text'));
  return problem() ?? result;
}

/** A dialect's text in the neutral notation; what cannot be read is marked. */
export function toNeutral(text: string, dialect: Dialect): string {
  const source = new SourceText('sample', text);
  const spans = findTags(text, dialect.delimiters);
  const { report, problem } = firstProblem();
  const tags: readonly MergeTag[] = readDialectTags(source, spans, dialect, report);
  const result = withTags(text, spans, (index) => {
    const tag = tags[index];
    return tag === undefined ? '' : printNeutralTag(tag);
  });
  return problem() ?? result;
}

function firstProblem(): { report: (item: Finding) => void; problem: () => string | null } {
  let first: string | null = null;
  return {
    report: ({ code, data }) => {
      first ??= `${code}: ${Object.values(data).join(', ')}`;
    },
    problem: () => first,
  };
}

function withTags(text: string, spans: readonly Span[], write: (index: number) => string): string {
  let position = 0;
  const pieces = spans.map((span, index) => {
    const before = text.slice(position, span.start);
    position = span.end;
    return before + write(index);
  });
  return pieces.join('') + text.slice(position);
}
