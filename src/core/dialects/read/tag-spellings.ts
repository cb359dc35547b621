import { findTags } from '../../html/tags.js';
import { spellingsOf, type Dialect, type Spelling, type TagConstruct } from '../dialect.js';
import { pathSource } from '../grammar.js';
import { patternReader, piecesOf, type Filling, type PatternReader } from '../pattern.js';

/** What stands in the places of a pattern, by their names. */
export type Fillings = ReadonlyMap<string, Filling>;

/** The patterns of a dialect, each of which is made ready once. */
export class TagSpellings {
  readonly #readers = new Map<string, PatternReader>();

  constructor(private readonly dialect: Dialect) {}

  /** The fillings of every spelling of a construct that a text fits. */
  *fits(construct: TagConstruct, text: string): Generator<{ fillings: Fillings; spelling: Spelling }> {
    for (const spelling of spellingsOf(this.dialect, construct)) {
      const fillings = this.read(spelling.pattern, text);
      if (fillings !== null) yield { fillings, spelling };
    }
  }

  /** What a text puts into the places of a pattern; null where it does not fit it. */
  read(pattern: string, text: string): Fillings | null {
    return this.#readerOf(pattern).read(text);
  }

  /** How many tags a pattern is made of. */
  countTags(pattern: string): number {
    const filled = piecesOf(pattern).map((piece) => ('hole' in piece ? 'x' : piece.literal));
    return findTags(filled.join(''), this.dialect.delimiters).length;
  }

  #readerOf(pattern: string): PatternReader {
    const known = this.#readers.get(pattern);
    if (known !== undefined) return known;
    const path = pathSource(this.dialect);
    const reader = patternReader(
      pattern,
      { field: path, list: path, item: '[\\p{L}_][\\p{L}\\d_-]*', text: '[\\s\\S]*?', format: '[\\s\\S]*?' },
      this.dialect.delimiters,
    );
    this.#readers.set(pattern, reader);
    return reader;
  }
}

const known = new WeakMap<Dialect, TagSpellings>();

/** The patterns of a dialect. */
export function tagSpellings(dialect: Dialect): TagSpellings {
  const spellings = known.get(dialect) ?? new TagSpellings(dialect);
  known.set(dialect, spellings);
  return spellings;
}
