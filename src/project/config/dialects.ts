import { projectFolderOf } from '../files/project-folder.js';
import { readdir } from 'node:fs/promises';
import { join } from 'node:path';
import Joi from 'joi';
import type { Finding, Place, Report } from '../../core/findings/finding.js';
import type { TagDelimiters } from '../../core/html/tags.js';
import {
  counters,
  tagConstructs,
  type BindingLevel,
  type Counter,
  type DateFormat,
  type Dialect,
  type DialectSample,
  type FieldCase,
  type NameLookup,
  type NameRules,
  type OwnMark,
  type PackageShape,
  type RegionPattern,
  type Spelling,
  type TagConstruct,
} from '../../core/dialects/dialect.js';
import { usualBinding } from '../../core/dialects/grammar.js';
import { packageShapes } from '../../core/packages/shape-names.js';
import type { SourceText } from '../../core/text/source-text.js';
import { regionKinds } from '../../core/html/regions.js';
import { exists } from '../files/exists.js';
import { readTextFile } from '../files/text-file.js';
import { ownFile } from '../files/own-files.js';
import { readYaml } from '../files/yaml-file.js';

/** The folder of the dialects that ship. */
export const builtInDialects = ownFile('dialects');

type RawSpelling = string | { readonly pattern: string; readonly verdict: 'exact' | 'rewritten' };
type RawSpellings = RawSpelling | readonly RawSpelling[];
type RawFilter = RawSpellings | { readonly pattern: RawSpellings; readonly formats: DateFormat };

interface RawDialect {
  readonly dialect: string;
  readonly title: string;
  readonly verbatim: boolean;
  readonly delimiters: readonly TagDelimiters[];
  readonly tags: Readonly<Partial<Record<TagConstruct, RawSpellings>>>;
  readonly filters: Readonly<Record<string, RawFilter>>;
  readonly conditions: Readonly<Record<string, RawSpellings>>;
  readonly values: Readonly<Record<string, RawSpellings>>;
  readonly binding?: readonly (readonly string[] | { readonly right: readonly string[] })[];
  readonly filters_in_conditions: boolean;
  readonly strings: { readonly escape: string | null };
  readonly escape: string | null;
  readonly also_literal: readonly string[];
  readonly fields: Readonly<Record<string, string | { case: FieldCase }>>;
  readonly names: NameRules;
  readonly links: Readonly<Record<string, string>>;
  readonly sender: Readonly<Record<string, string>>;
  readonly date: Readonly<Record<string, string>>;
  readonly system_fields: boolean;
  readonly footer: {
    readonly required: readonly string[];
    readonly html?: string;
    readonly text?: string;
    readonly own_marks: readonly OwnMark[];
  };
  readonly regions: Readonly<Record<string, RegionPattern | null>>;
  readonly limits: { readonly web_fonts: boolean };
  readonly plain_text: 'same' | 'raw';
  readonly package?: PackageShape;
  readonly paths: {
    readonly lookup: NameLookup;
    readonly field: string | readonly string[];
    readonly field_in_loop: string | readonly string[];
    readonly item: string | readonly string[];
    readonly plain_item: string | readonly string[];
    readonly outer: string | readonly string[];
    readonly counters: Readonly<Partial<Record<Counter, string | readonly string[]>>>;
  };
  readonly samples: readonly DialectSample[];
}

const pattern = Joi.string();
const patterns = (...names: string[]): Joi.ObjectSchema =>
  Joi.object(Object.fromEntries(names.map((key) => [key, pattern]))).default({});

const spelling = Joi.alternatives(
  pattern,
  Joi.object({ pattern: pattern.required(), verdict: Joi.string().valid('exact', 'rewritten').default('exact') }),
);
const spellings = Joi.alternatives(spelling, Joi.array().items(spelling).min(1));
const spelled = (names: readonly string[]): Joi.ObjectSchema =>
  Joi.object(Object.fromEntries(names.map((key) => [key, spellings]))).default({});

const filter = Joi.alternatives(
  spellings,
  Joi.object({ pattern: spellings.required(), formats: Joi.string().valid('ldml', 'strftime').default('ldml') }),
);

/** A list of delimiters of template tags. */
const delimiterList = Joi.array().items(
  Joi.object({
    open: Joi.string().required(),
    close: Joi.string().required(),
    quotes: Joi.boolean().default(false),
    content: Joi.string().valid('any', 'name', 'none').default('any'),
    trim_open: Joi.string(),
    trim_close: Joi.string(),
  }).and('trim_open', 'trim_close'),
);

/** A name of a file in a package, which may hold `{message}`. */
const fileName = Joi.string().pattern(/^[\p{L}\d{}][\p{L}\d{}. _-]*$/u, 'the name of a file');

const conditionNames = [
  'present',
  'present_number',
  'present_list',
  'absent',
  'absent_number',
  'absent_list',
  'given',
  'not_given',
  'equal',
  'unequal',
  'less',
  'at_most',
  'more',
  'at_least',
  'not',
  'and',
  'or',
  'group',
  'text',
  'yes',
  'no',
  'path',
];

const regionPattern = Joi.alternatives(
  Joi.object({ open: pattern.required(), close: pattern.required() }),
  Joi.object({ attribute: pattern.required() }),
).allow(null);

const constructNames = Joi.array().items(Joi.string());
const paths = Joi.alternatives(pattern, Joi.array().items(pattern));

/** The filters that a dialect may have, by their neutral names. */
const filterNames = [
  'upper',
  'lower',
  'capital',
  'date',
  'number',
  'size',
  'join',
  'truncate',
  'shorten',
  'replace',
  'plus',
  'minus',
  'times',
  'round',
];

const schema: Joi.ObjectSchema<RawDialect> = Joi.object<RawDialect>({
  dialect: Joi.string().required(),
  title: Joi.string().required(),
  verbatim: Joi.boolean().default(false),
  delimiters: delimiterList.required(),
  tags: spelled(tagConstructs),
  filters: Joi.object(Object.fromEntries(filterNames.map((name) => [name, filter]))).default({}),
  conditions: spelled(conditionNames),
  values: spelled(['fallback', 'choice']),
  binding: Joi.array().items(Joi.alternatives(constructNames, Joi.object({ right: constructNames.required() }))),
  filters_in_conditions: Joi.boolean().default(false),
  strings: Joi.object({ escape: Joi.string().length(1).allow(null).default(null) }).default({ escape: null }),
  escape: Joi.string().length(1).default(null),
  also_literal: Joi.array().items(Joi.string()).default([]),
  fields: Joi.object({
    '*': Joi.object({
      case: Joi.string().valid('as-is', 'upper-snake', 'snake', 'kebab', 'camel', 'pascal').required(),
    }),
  })
    .pattern(Joi.string(), pattern)
    .default({}),
  names: Joi.object({
    hyphens: Joi.boolean().default(true),
    reserved: Joi.array().items(Joi.string()).default([]),
    quoted: pattern.default(null),
    properties: Joi.array().items(Joi.string()).default([]),
  }).default({ hyphens: true, reserved: [], quoted: null, properties: [] }),
  links: patterns('unsubscribe', 'preferences', 'browser', 'forward'),
  sender: patterns('company', 'postal_address'),
  date: patterns('year'),
  system_fields: Joi.boolean().default(false),
  footer: Joi.object({
    required: Joi.array()
      .items(Joi.string().valid('unsubscribe', 'preferences', 'browser', 'postal_address', 'company'))
      .default([]),
    html: Joi.string(),
    text: Joi.string(),
    own_marks: Joi.array()
      .items(Joi.object({ class: Joi.string(), link_host: Joi.string() }).xor('class', 'link_host'))
      .default([]),
  })
    .and('html', 'text')
    .default({ required: [], own_marks: [] }),
  regions: Joi.object(
    Object.fromEntries([...regionKinds, 'repeat', 'choice'].map((kind) => [kind, regionPattern])),
  ).default({}),
  plain_text: Joi.string().valid('same', 'raw').default('same'),
  limits: Joi.object({ web_fonts: Joi.boolean().default(true) }).default({ web_fonts: true }),
  package: Joi.object({
    shape: Joi.string()
      .valid(...packageShapes)
      .required(),
    html: fileName,
    text: fileName,
    css: Joi.when('shape', { is: 'split', then: fileName, otherwise: Joi.forbidden() }),
  }),
  paths: Joi.object({
    lookup: Joi.string().valid('named', 'item', 'outward').default('named'),
    field: paths.default('{name}'),
    field_in_loop: paths.default([]),
    item: paths.default('{item}.{name}'),
    plain_item: paths.default('{item}'),
    outer: paths.default([]),
    counters: Joi.object(Object.fromEntries(counters.map((name) => [name, paths]))).default({}),
  }).default({
    lookup: 'named',
    field: '{name}',
    field_in_loop: [],
    item: '{item}.{name}',
    plain_item: '{item}',
    outer: [],
    counters: {},
  }),
  samples: Joi.array()
    .items(Joi.object({ neutral: Joi.string().required(), written: Joi.string().required() }))
    .default([]),
});

/** The names of all dialects at hand, those of the project first. */
export async function dialectNames(projectFolder: string): Promise<string[]> {
  const lists = await Promise.all([join(projectFolder, 'dialects'), builtInDialects].map(yamlNames));
  return [...new Set(lists.flat())];
}

async function yamlNames(folder: string): Promise<string[]> {
  const entries = await readdir(folder).catch(() => []);
  return entries.filter((entry) => entry.endsWith('.yaml')).map((entry) => entry.slice(0, -'.yaml'.length));
}

/** A dialect, and where in its file things stand. */
export interface LoadedDialect {
  readonly dialect: Dialect;
  readonly findings: readonly [];
  readonly placeOf: (path: readonly (string | number)[]) => Place;
  /** Whether its file is the project's own. */
  readonly isOwn: boolean;
}

export type DialectResult =
  LoadedDialect | { readonly dialect: null; readonly findings: readonly Finding[]; readonly isOwn: boolean };

/** Loads a dialect by its name; a project's own file comes before one that ships. */
export async function loadDialect(name: string, projectFolder: string): Promise<DialectResult> {
  const own = join(projectFolder, 'dialects', `${name}.yaml`);
  const isOwn = await exists(own);
  return isOwn
    ? loadDialectFile(own, `dialects/${name}.yaml`, true)
    : loadDialectFile(join(builtInDialects, `${name}.yaml`), `${name}.yaml`, false);
}

/** Loads a dialect from its file. */
export async function loadDialectFile(path: string, shown: string, isOwn: boolean): Promise<DialectResult> {
  const { file, finding } = await readTextFile(path, shown);
  return file === null ? { dialect: null, findings: [finding], isOwn } : readDialect(file.source, isOwn);
}

/** Reads the text of a dialect file. */
export function readDialect(source: SourceText, isOwn: boolean): DialectResult {
  const { value, findings, placeOf } = readYaml(source, schema);
  return value === null
    ? { dialect: null, findings, isOwn }
    : { dialect: toDialect(value), findings: [], placeOf, isOwn };
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
    samples: raw.samples,
  };
}

function isFilter(written: RawFilter): written is Extract<RawFilter, { readonly formats: DateFormat }> {
  return typeof written === 'object' && 'formats' in written;
}

function spellingsIn(written: RawSpellings): readonly Spelling[] {
  return [written]
    .flat()
    .map((one: RawSpelling): Spelling => (typeof one === 'string' ? { pattern: one, verdict: 'exact' } : one));
}

function spelledOut<Key extends string>(
  written: Readonly<Partial<Record<Key, RawSpellings>>>,
): Record<Key, readonly Spelling[]> {
  const entries = Object.entries(written) as [Key, RawSpellings][];
  return Object.fromEntries(entries.map(([name, own]) => [name, spellingsIn(own)])) as Record<Key, readonly Spelling[]>;
}

function prefixed(group: string, values: Readonly<Record<string, string>>): Record<string, string> {
  return Object.fromEntries(Object.entries(values).map(([key, value]) => [`${group}.${key}`, value]));
}

/** All dialects at hand around a folder: those of its project, and those that ship. */
export async function allDialects(around: string, report: Report): Promise<Dialect[]> {
  const folder = (await projectFolderOf(around)) ?? around;
  const loaded = await Promise.all((await dialectNames(folder)).map((name) => loadDialect(name, folder)));
  loaded.flatMap(({ findings }) => [...findings]).forEach(report);
  return loaded.flatMap(({ dialect }) => (dialect === null ? [] : [dialect]));
}
