import { spellingsOf, type Dialect, type TagConstruct } from './dialect.js';
import { patternReader, type PatternReader } from './pattern.js';

/** What a template tag does to the text around it: it opens a block, goes on with its next arm, or closes it. */
export type TagRole = 'open' | 'middle' | 'close';

const constructs: readonly (readonly [TagRole, readonly TagConstruct[]])[] = [
  ['close', ['end_if', 'end_unless', 'end_each']],
  ['middle', ['else', 'else_if', 'else_unless', 'otherwise_unless', 'else_each']],
  ['open', ['if', 'unless', 'each']],
];

/** Tells what a template tag does to the text around it, by the patterns of dialects; null where it does nothing. */
export function tagRoles(dialects: readonly Dialect[]): (tag: string) => TagRole | null {
  const readers = dialects.flatMap((dialect) => readersOf(dialect));
  const told = new Map<string, TagRole | null>();
  return (tag) => {
    const role = told.get(tag);
    if (role !== undefined) return role;
    const found = readers.find(({ reader }) => reader.read(tag) !== null)?.role ?? null;
    told.set(tag, found);
    return found;
  };
}

interface RoleReader {
  readonly role: TagRole;
  readonly reader: PatternReader;
}

/** To read patterns takes longer than to read a text by them. */
const known = new WeakMap<Dialect, readonly RoleReader[]>();

function readersOf(dialect: Dialect): readonly RoleReader[] {
  if (dialect.verbatim) return neutralReaders;
  const readers =
    known.get(dialect) ??
    constructs.flatMap(([role, names]) =>
      names
        .flatMap((name) => spellingsOf(dialect, name))
        .map(({ pattern }) => ({ role, reader: patternReader(pattern, {}, dialect.delimiters) })),
    );
  known.set(dialect, readers);
  return readers;
}

/** The neutral notation has no patterns: it is what patterns are read into. */
const neutralReaders: RoleReader[] = [
  { role: 'close', reader: patternReader('@{end}', {}) },
  { role: 'middle', reader: patternReader('@{else}', {}) },
  { role: 'middle', reader: patternReader('@{else if {condition}}', {}) },
  { role: 'open', reader: patternReader('@{if {condition}}', {}) },
  { role: 'open', reader: patternReader('@{each {list} as {item}}', {}) },
];
