/** The names that holes have; other words in braces are literal text. */
const HOLE = '\\{(field|text|condition|list|item|name|left|right|format)\\}';

/** What fills the holes of a pattern. */
export type Holes = Readonly<Record<string, string>>;

/** Writes a pattern: its text, with its `{holes}` filled. */
export function writePattern(pattern: string, holes: Holes): string {
  return pattern.replace(new RegExp(HOLE, 'g'), (hole, name: string) =>
    Object.hasOwn(holes, name) ? (holes[name] ?? hole) : hole,
  );
}

/** A piece that a hole was filled with, and where it stands in the text. */
export interface Filling {
  readonly text: string;
  readonly start: number;
}

/** Reads texts that a pattern writes. */
export interface PatternReader {
  /** The fillings of the holes by their names; null where the text is none that the pattern writes. */
  readonly read: (text: string) => ReadonlyMap<string, Filling> | null;
}

/**
 * Makes the reader of a pattern. White space is flexible, and quotes may be either kind.
 * @param holes a regular expression for what a hole may hold, by its name; others hold anything
 */
export function patternReader(pattern: string, holes: Holes): PatternReader {
  const source = pattern
    .split(new RegExp(HOLE))
    .map((piece, index) => {
      if (index % 2 === 0) return literalSource(piece);
      const name = piece;
      return `(?<${name}>${Object.hasOwn(holes, name) ? holes[name] : '[\\s\\S]+?'})`;
    })
    .join('');
  const expression = new RegExp(`^\\s*${source}\\s*$`, 'du');
  return {
    read: (text) => {
      const match = expression.exec(text);
      if (match === null) return null;
      const indices = match.indices?.groups ?? {};
      return new Map(
        Object.entries(match.groups ?? {}).map(([name, filling]) => [
          name,
          { text: filling ?? '', start: indices[name]?.[0] ?? 0 },
        ]),
      );
    },
  };
}

/** Literal text: blanks between words are needed, all others are free; a quote may be of either kind. */
function literalSource(text: string): string {
  return text
    .split(/(\s+|["'])/)
    .map((piece) => {
      if (/^\s+$/.test(piece)) return '\\s+';
      return piece === '"' || piece === "'" ? '["\']' : piece.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
    })
    .join('')
    .replace(/(?<![\w\\])\\s\+|\\s\+(?!\w|$)/g, '\\s*');
}
