import type { ShapeName } from './package-shapes.js';
import type { PushApi, RecordedExchange } from './push-api.js';
import { neutralDelimiters, type TagDelimiters } from '../html/tags.js';

/** A pattern: literal text with `{holes}`. */
export type Pattern = string;

/** One way to write a construct. Of several the first is written; all are read. */
export interface Spelling {
  readonly pattern: Pattern;
  /** Whether what it says is exactly the construct, or only nearly. */
  readonly verdict: 'exact' | 'rewritten';
}

/** How one sending platform or template language writes what it fills in. Read from a YAML file; see docs/dialects.md. */
export interface Dialect {
  readonly name: string;
  readonly title: string;
  /** True where tags are written as they stand in the source: the dialect is the neutral notation itself. */
  readonly verbatim: boolean;
  /** Delimiters by which its tags are recognised in finished HTML. */
  readonly delimiters: readonly TagDelimiters[];
  readonly tags: Readonly<Partial<Record<TagConstruct, readonly Spelling[]>>>;
  /** Filters that are tags of their own, by their neutral names. */
  readonly filters: Readonly<Record<string, readonly Spelling[]>>;
  /** What is written within tags: conditions, values and filters, by their names. */
  readonly expressions: Readonly<Record<string, readonly Spelling[]>>;
  /** Which expressions bind loosest; one list for each level. */
  readonly binding: readonly BindingLevel[];
  /** Whether filters and fallbacks may stand in conditions. */
  readonly filtersInConditions: boolean;
  /** The character that takes the meaning from the next one within quotes. */
  readonly stringEscape: string | null;
  /** By the names of filters how their formats are written. */
  readonly formats: Readonly<Record<string, DateFormat>>;
  /** The character before a delimiter that makes it text. */
  readonly escape: string | null;
  /** Texts besides the delimiters that must be marked as text (the end of a comment that never began). */
  readonly alsoLiteral: readonly string[];
  /** The platform's name of a field by its neutral name, and the rule for all others. */
  readonly fieldNames: Readonly<Record<string, string>>;
  readonly fieldCase: FieldCase;
  readonly names: NameRules;
  /** How the path of a field is written, of an item of a loop, and of a field of one. */
  readonly paths: PathPatterns;
  /** How a system value (`link.unsubscribe`) is written, by its neutral name. */
  readonly system: Readonly<Record<string, Pattern>>;
  /** True where system values are fields like others. */
  readonly systemFields: boolean;
  /** Neutral names of system values without which the platform refuses a message. */
  readonly required: readonly string[];
  /** The platform's footer, in the neutral notation: HTML, and what stands in plain text; null for the usual one. */
  readonly footer: FooterTexts | null;
  /** By what the platform's own badge is known in files that it exported. */
  readonly ownMarks: readonly OwnMark[];
  /** How a piece that users may edit is marked, by its kind; `repeat` and `choice` for what it may besides. */
  readonly regions: Readonly<Record<string, RegionPattern>>;
  /** False where the platform refuses fonts from the web. */
  readonly webFonts: boolean;
  /** True where a language escapes values wherever a tag stands, so that text versions must print them raw. */
  readonly rawInText: boolean;
  /** Null where the dialect describes no package. */
  readonly package: PackageShape | null;
  /** How its programming interface takes templates; null where the dialect describes none. */
  readonly push: PushApi | null;
  /** Requests and answers of it, by which that is proved. */
  readonly exchanges: readonly RecordedExchange[];
  /** Pairs of texts that mean the same, by which the file is proved. */
  readonly samples: readonly DialectSample[];
}

/** A footer, as HTML and as plain text. */
export interface FooterTexts {
  readonly html: string;
  readonly text: string;
}

/** A sign by which something that a platform put into a file is known. */
export type OwnMark = { readonly class: string } | { readonly link_host: string };

/** A pair of texts around the content of a region, or an attribute on its element. */
export type RegionPattern = { readonly open: Pattern; readonly close: Pattern } | { readonly attribute: Pattern };

/** The patterns of format texts: those of Unicode's locale data, or those of C's `strftime`. */
export type DateFormat = 'ldml' | 'strftime';

/** Expressions that bind alike. */
export interface BindingLevel {
  readonly expressions: readonly string[];
  readonly associates: 'left' | 'right';
}

/** What names a language takes for fields. */
export interface NameRules {
  readonly hyphens: boolean;
  /** Words that cannot be names of fields, since the language means something else by them. */
  readonly reserved: readonly string[];
  /** How a field with such a name is written nevertheless. */
  readonly quoted: Pattern | null;
  /** What follows a name after a dot and is no field (the length of a list). */
  readonly properties: readonly string[];
}

/**
 * How names are looked up in a loop: by the name of the item (`named`), in the item alone (`item`), or in the item and then
 * in what is around it (`outward`); there a block on a text makes the text the item.
 */
export type NameLookup = 'named' | 'item' | 'outward';

export interface PathPatterns {
  readonly lookup: NameLookup;
  readonly field: readonly Pattern[];
  /** A field of the recipient within a loop. */
  readonly field_in_loop: readonly Pattern[];
  readonly item: readonly Pattern[];
  readonly plain_item: readonly Pattern[];
  /** A field of what is around the loop. */
  readonly outer: readonly Pattern[];
  /** What a loop knows of its item, by the name that the neutral notation has for it (`index`). */
  readonly counters: Readonly<Partial<Record<Counter, readonly Pattern[]>>>;
}

/** The number of an item from one or from nothing, whether it is the first or the last, and how many there are. */
export const counters = ['index', 'index0', 'first', 'last', 'length'] as const;

export type Counter = (typeof counters)[number];

/** The same text in the neutral notation and in the dialect. */
export interface DialectSample {
  readonly neutral: string;
  readonly written: string;
}

export const tagConstructs = [
  'field',
  'fallback',
  'raw',
  'if',
  'else_if',
  'else',
  'end_if',
  'unless',
  'else_unless',
  'otherwise_unless',
  'end_unless',
  'case',
  'when',
  'end_case',
  'each',
  'else_each',
  'end_each',
  'comment',
  'literal',
  'verbatim',
  'delimiters',
] as const;

export type TagConstruct = (typeof tagConstructs)[number];

export type FieldCase = 'as-is' | 'upper-snake' | 'snake' | 'kebab' | 'camel' | 'pascal';

/** The files that a platform imports. */
export interface PackageShape {
  /** A zip, files in a folder, the style sheet and the body apart, one file of HTML, or a mail. */
  readonly shape: ShapeName;
  /** What the files are called, where the platform wants other names than usual; `{message}` is the name of the message. */
  readonly html?: string | undefined;
  readonly text?: string | undefined;
  readonly css?: string | undefined;
}

/** The neutral notation itself. */
export const neutralDialect: Dialect = {
  name: 'neutral',
  title: 'Neutral notation',
  verbatim: true,
  delimiters: [neutralDelimiters],
  tags: {},
  filters: {},
  expressions: {},
  binding: [],
  filtersInConditions: true,
  stringEscape: '\\',
  formats: {},
  escape: null,
  alsoLiteral: [],
  fieldNames: {},
  fieldCase: 'as-is',
  names: { hyphens: true, reserved: [], quoted: null, properties: [] },
  paths: { lookup: 'named', field: ['{name}'], field_in_loop: [], item: [], plain_item: [], outer: [], counters: {} },
  system: {},
  systemFields: true,
  required: [],
  footer: null,
  ownMarks: [],
  regions: {},
  webFonts: true,
  rawInText: false,
  package: null,
  push: null,
  exchanges: [],
  samples: [],
};

/** The pattern that a construct is written by; undefined where the dialect has none. */
export function patternOf(dialect: Dialect, construct: TagConstruct): Pattern | undefined {
  return dialect.tags[construct]?.[0]?.pattern;
}

/** All ways to write a construct. */
export function spellingsOf(dialect: Dialect, construct: TagConstruct): readonly Spelling[] {
  return dialect.tags[construct] ?? [];
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

/** By what the tags of dialects are found in a text: their delimiters, each pair once. */
export function delimitersOf(dialects: readonly Dialect[]): TagDelimiters[] {
  const all = dialects.flatMap(({ delimiters }) => delimiters);
  return all.filter((pair, index) => all.findIndex((other) => other.open === pair.open) === index);
}
