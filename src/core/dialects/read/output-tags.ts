import type { Expression } from '../../expressions/expression.js';
import type { Spelling } from '../dialect.js';
import { valueIn, type PlaceOf, type TagReading } from './tag-reading.js';

/** What a tag prints, and whether it prints it as it is. */
interface Output {
  readonly value: Expression;
  readonly raw: boolean;
}

/** Reads a tag that prints something: through a filter, with a fallback, or as it is; null for any other. */
export function readOutput(text: string, at: PlaceOf, reading: TagReading): Output | null {
  const filtered = throughFilter(text, at, reading);
  if (filtered !== null) return { value: filtered, raw: false };
  const spellings = (['raw', 'field'] as const).flatMap((construct) =>
    [...reading.spellings.fits(construct, text)].map((fit) => ({ ...fit, raw: construct === 'raw' })),
  );
  const fallback = withFallback(text, at, reading);
  if (fallback !== null && !spellings.some(({ raw }) => raw)) return { value: fallback, raw: false };
  const patternLength = ({ spelling }: { spelling: Spelling }): number => spelling.pattern.length;
  for (const { fillings, spelling, raw } of spellings.sort((a, b) => patternLength(b) - patternLength(a))) {
    const value = valueIn(fillings, at, reading);
    if (value === null) continue;
    reading.note(spelling.verdict, '');
    return { value, raw };
  }
  return fallback === null ? null : { value: fallback, raw: false };
}

function throughFilter(text: string, at: PlaceOf, reading: TagReading): Expression | null {
  for (const [name, filter] of Object.entries(reading.dialect.filters))
    for (const { pattern } of filter) {
      const fillings = reading.spellings.read(pattern, text);
      const field = fillings?.get('field');
      const value = field === undefined ? null : reading.path(field.text, at(field));
      if (value === null) continue;
      const format = fillings?.get('format');
      const parameter: Expression | null =
        format === undefined ? null : { kind: 'text', value: format.text, span: at(format) };
      return { kind: 'filter', value, name, parameter, span: value.span };
    }
  return null;
}

function withFallback(text: string, at: PlaceOf, reading: TagReading): Expression | null {
  for (const { fillings } of reading.spellings.fits('fallback', text)) {
    const field = fillings.get('field');
    const written = fillings.get('text');
    const value = field === undefined ? null : reading.path(field.text, at(field));
    if (value === null || written === undefined) continue;
    const otherwise: Expression = { kind: 'text', value: written.text, span: at(written) };
    return { kind: 'fallback', value, otherwise, span: value.span };
  }
  return null;
}
