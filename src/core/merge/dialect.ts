import type { TagDelimiters } from '../html/tags.js';

/** A pattern: literal text with `{holes}`. */
export type Pattern = string;

/** How one sending platform writes what it fills in, and what it accepts. Read from a YAML file; see docs/dialects.md. */
export interface Dialect {
  readonly name: string;
  readonly title: string;
  /** True where tags are written as they stand in the source: the dialect is the neutral notation itself. */
  readonly verbatim: boolean;
  /** Delimiters by which its tags are recognised in finished HTML. */
  readonly delimiters: readonly TagDelimiters[];
  readonly tags: Readonly<Partial<Record<TagConstruct, Pattern>>>;
  readonly filters: Readonly<Record<string, Pattern>>;
  readonly conditions: Readonly<Record<string, Pattern>>;
  /** The platform's name of a field by its neutral name, and the rule for all others. */
  readonly fieldNames: Readonly<Record<string, string>>;
  readonly fieldCase: FieldCase;
  /** How the path of a field is written, of an item of a loop, and of a field of one. */
  readonly paths: PathPatterns;
  /** How a system value (`link.unsubscribe`) is written, by its neutral name. */
  readonly system: Readonly<Record<string, Pattern>>;
  /** Neutral names of system values without which the platform refuses a message. */
  readonly required: readonly string[];
  /** False where the platform refuses fonts from the web. */
  readonly webFonts: boolean;
  /** Null where the dialect describes no package. */
  readonly package: PackageShape | null;
  /** Pairs of texts that mean the same, by which the file is proved. */
  readonly samples: readonly DialectSample[];
}

export interface PathPatterns {
  readonly field: Pattern;
  readonly item: Pattern;
  readonly plain_item: Pattern;
}

/** The same text in the neutral notation and in the dialect. */
export interface DialectSample {
  readonly neutral: string;
  readonly written: string;
}

export type TagConstruct =
  'field' | 'fallback' | 'raw' | 'if' | 'else_if' | 'else' | 'end_if' | 'each' | 'end_each' | 'comment';

export type FieldCase = 'as-is' | 'upper-snake' | 'snake' | 'kebab' | 'camel' | 'pascal';

/** The files that a platform imports. */
export interface PackageShape {
  readonly shape: 'zip' | 'folder';
}

/** A neutral name (`first_name`) in the platform's way of writing names. */
export function platformFieldName(dialect: Dialect, neutral: string): string {
  const mapped = Object.hasOwn(dialect.fieldNames, neutral) ? dialect.fieldNames[neutral] : undefined;
  return mapped ?? recased(neutral, dialect.fieldCase);
}

function recased(name: string, fieldCase: FieldCase): string {
  const words = name.split(/[_-]+/).filter((word) => word !== '');
  const capital = (word: string): string => word.charAt(0).toUpperCase() + word.slice(1);
  switch (fieldCase) {
    case 'as-is':
      return name;
    case 'upper-snake':
      return words.join('_').toUpperCase();
    case 'snake':
      return words.join('_').toLowerCase();
    case 'kebab':
      return words.join('-').toLowerCase();
    case 'camel':
      return words.map((word, index) => (index === 0 ? word : capital(word))).join('');
    case 'pascal':
      return words.map(capital).join('');
  }
}

/** The neutral name (`first_name`) of a platform's name. */
export function neutralFieldName(dialect: Dialect, written: string): string {
  const mapped = Object.entries(dialect.fieldNames).find(([, name]) => name === written);
  if (mapped !== undefined) return mapped[0];
  if (dialect.fieldCase === 'as-is') return written;
  return written
    .replace(/([\p{Ll}\d])(\p{Lu})/gu, '$1_$2')
    .replace(/-/g, '_')
    .toLowerCase();
}
