import type { Report } from '../../findings/finding.js';
import { patternOf, type Dialect } from '../dialect.js';
import type { MergeFields, MergeTag } from '../model.js';
import { BlockWriter } from './block-writer.js';
import { quotes, withinQuotes, type LossAnswers, type TagTexts } from './tag-texts.js';
import type { Piece } from './writing.js';

/**
 * Writes neutral tags in a dialect. What the dialect cannot say is reported, once for each tag, and is written as
 * nothing: never as a tag that a reader would see. Where losses are allowed, the sample recipient decides what stands instead.
 * @param fields what the project declares of its fields
 */
export function tagsInDialect(
  tags: readonly MergeTag[],
  dialect: Dialect,
  fields: MergeFields,
  report: Report,
  answers: LossAnswers | null = null,
): TagTexts {
  const { pieces: first, removed } = new BlockWriter({ tags, dialect, fields, answers, quote: '', report }).whole();
  const versions = new Map<string, readonly Piece[]>([['', first]]);
  const version = (quote: '' | '"' | "'"): readonly Piece[] => {
    const known = versions.get(quote);
    if (known !== undefined) return known;
    // What is lost has been reported.
    const { pieces } = new BlockWriter({ tags, dialect, fields, answers, quote, report: () => undefined }).whole();
    versions.set(quote, pieces);
    return pieces;
  };
  const printing = [patternOf(dialect, 'field'), patternOf(dialect, 'if'), patternOf(dialect, 'each')];
  const hasQuotes = printing.some((pattern) => pattern !== undefined && /["']/.test(pattern));
  const written = new Map<number, Piece>();
  return {
    write: (index, context) => {
      const quote = quotes[context];
      const isAtOdds = (first[index]?.text ?? '').includes(quote);
      const piece = (isAtOdds ? version(quote) : first)[index];
      if (piece !== undefined) written.set(index, piece);
      const text = piece?.text ?? '';
      return hasQuotes ? withinQuotes(text, quote) : text;
    },
    verdict: (index) => (written.get(index) ?? first[index])?.verdict ?? 'exact',
    note: (index) => first[index]?.note ?? '',
    removed,
  };
}
