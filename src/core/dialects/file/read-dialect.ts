import { isError, type Finding } from '../../findings/finding.js';
import type { SourceText } from '../../text/source-text.js';
import { readYaml } from '../../yaml/read-yaml.js';
import type { PlaceOf } from '../../yaml/yaml-places.js';
import type { BindingLevel, DateFormat, Dialect, RegionPattern, Spelling } from '../dialect.js';
import { usualBinding } from '../grammar.js';
import { dialectSchema, type RawDialect, type RawFilter, type RawSpellings } from './dialect-schema.js';
import { checkPush, toExchanges, toPushApi } from './read-push.js';

/** A dialect, and where in its file things stand. */
export interface ReadDialect {
  readonly dialect: Dialect;
  readonly findings: readonly [];
  readonly placeOf: PlaceOf;
}

/** What reading a dialect file came to. */
export type DialectResult = ReadDialect | { readonly dialect: null; readonly findings: readonly Finding[] };

/** Reads the text of a dialect file. */
export function readDialect(source: SourceText): DialectResult {
  const { value, findings, placeOf } = readYaml(source, dialectSchema);
  if (value === null) return { dialect: null, findings };
  const problems: Finding[] = [];
  if (value.push !== undefined) checkPush(value.push, placeOf, (item) => problems.push(item));
  return problems.some(isError)
    ? { dialect: null, findings: problems }
    : { dialect: toDialect(value), findings: [], placeOf };
}

function toDialect(raw: RawDialect): Dialect {
  const rule = raw.fields['*'];
  const names = Object.entries(raw.fields).filter((entry): entry is [string, string] => typeof entry[1] === 'string');
  const filters = Object.entries(raw.filters).map(([name, written]): [string, readonly Spelling[]] => [
    name,
    spellingsIn(isFilter(written) ? written.pattern : written),
  ]);
  const isWithinTags = ([, [first]]: [string, readonly Spelling[]]): boolean =>
    first?.pattern.includes('{value}') ?? false;
  return {
    name: raw.dialect,
    title: raw.title,
    verbatim: raw.verbatim,
    delimiters: raw.delimiters,
    tags: spelledOut(raw.tags),
    filters: Object.fromEntries(filters.filter((entry) => !isWithinTags(entry))),
    expressions: {
      ...spelledOut(raw.conditions),
      ...spelledOut(raw.values),
      ...Object.fromEntries(filters.filter(isWithinTags)),
    },
    binding:
      raw.binding?.map((level): BindingLevel =>
        'right' in level
          ? { expressions: level.right, associates: 'right' }
          : { expressions: level, associates: 'left' },
      ) ?? usualBinding,
    filtersInConditions: raw.filters_in_conditions,
    stringEscape: raw.strings.escape,
    formats: Object.fromEntries(
      Object.entries(raw.filters).map(([name, written]) => [name, isFilter(written) ? written.formats : 'ldml']),
    ),
    escape: raw.escape,
    alsoLiteral: raw.also_literal,
    fieldNames: Object.fromEntries(names),
    fieldCase: typeof rule === 'object' ? rule.case : 'as-is',
    names: raw.names,
    system: { ...prefixed('link', raw.links), ...prefixed('sender', raw.sender), ...prefixed('date', raw.date) },
    systemFields: raw.system_fields,
    required: raw.footer.required.map((key) =>
      /^(?:company|postal_address)$/.test(key) ? `sender.${key}` : `link.${key}`,
    ),
    footer: raw.footer.html === undefined ? null : { html: raw.footer.html, text: raw.footer.text ?? '' },
    ownMarks: raw.footer.own_marks,
    regions: Object.fromEntries(
      Object.entries(raw.regions).filter((entry): entry is [string, RegionPattern] => entry[1] !== null),
    ),
    webFonts: raw.limits.web_fonts,
    rawInText: raw.plain_text === 'raw',
    package: raw.package ?? null,
    paths: {
      lookup: raw.paths.lookup,
      field: [raw.paths.field].flat(),
      field_in_loop: [raw.paths.field_in_loop].flat(),
      item: [raw.paths.item].flat(),
      plain_item: [raw.paths.plain_item].flat(),
      outer: [raw.paths.outer].flat(),
      counters: Object.fromEntries(
        Object.entries(raw.paths.counters).map(([name, written]) => [name, [written].flat()]),
      ),
    },
    push: raw.push === undefined ? null : toPushApi(raw.push),
    exchanges: toExchanges(raw.exchanges),
    samples: raw.samples,
  };
}

function isFilter(written: RawFilter): written is Extract<RawFilter, { readonly formats: DateFormat }> {
  return typeof written === 'object' && 'formats' in written;
}

function spellingsIn(written: RawSpellings): readonly Spelling[] {
  return [written].flat().map((one): Spelling => (typeof one === 'string' ? { pattern: one, verdict: 'exact' } : one));
}

function spelledOut(written: Readonly<Record<string, RawSpellings>>): Readonly<Record<string, readonly Spelling[]>> {
  return Object.fromEntries(Object.entries(written).map(([name, own]) => [name, spellingsIn(own)]));
}

function prefixed(group: string, values: Readonly<Record<string, string>>): Record<string, string> {
  return Object.fromEntries(Object.entries(values).map(([key, value]) => [`${group}.${key}`, value]));
}
