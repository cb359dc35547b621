import type { Finding } from '../../findings/finding.js';
import { SourceText } from '../../text/source-text.js';
import { convertTags } from '../convert/convert-tags.js';
import type { MergeFields } from '../model.js';
import { neutralDialect, type Dialect, type DialectSample } from '../dialect.js';

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

/** The neutral names that a dialect maps to names which it does not read back, and what they are read as. */
export function failedMappings(dialect: Dialect): { readonly name: string; readonly found: string }[] {
  return Object.keys(dialect.fieldNames).flatMap((name) => {
    const neutral = `@{${name}}`;
    const written = fromNeutral(neutral, dialect);
    const found = toNeutral(written, dialect);
    return found === neutral || found === `@{+${name}}` ? [] : [{ name, found: `${written} → ${found}` }];
  });
}

/** A neutral text in a dialect; what cannot be said is marked. */
export function fromNeutral(text: string, dialect: Dialect, fields: MergeFields = new Map()): string {
  return converted(text, neutralDialect, dialect, fields);
}

/** A dialect's text in the neutral notation; what cannot be read is marked. */
export function toNeutral(text: string, dialect: Dialect, fields: MergeFields = new Map()): string {
  return converted(text, dialect, neutralDialect, fields);
}

function converted(text: string, from: Dialect, to: Dialect, fields: MergeFields): string {
  const problems: Finding[] = [];
  const setting = { from, to, others: [], fields, answers: null };
  const result = convertTags(new SourceText('sample', text), setting, (item) => problems.push(item));
  const [first] = problems;
  return first === undefined ? (result.text ?? '') : `${first.code}: ${Object.values(first.data).join(', ')}`;
}
