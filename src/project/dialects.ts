import { readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import Joi from 'joi';
import type { Finding, Place } from '../core/finding.js';
import type {
  Dialect,
  DialectSample,
  FieldCase,
  PackageShape,
  PathPatterns,
  TagConstruct,
} from '../core/merge/dialect.js';
import { readTextFile } from './text-file.js';
import { readYaml } from './yaml-file.js';

/** The folder of the dialects that ship. */
export const builtInDialects = fileURLToPath(new URL('../../dialects', import.meta.url));

interface RawDialect {
  readonly dialect: string;
  readonly title: string;
  readonly verbatim: boolean;
  readonly delimiters: readonly { open: string; close: string; quotes: boolean; content: 'any' | 'name' | 'none' }[];
  readonly tags: Readonly<Partial<Record<TagConstruct, string>>>;
  readonly filters: Readonly<Record<string, string>>;
  readonly conditions: Readonly<Record<string, string>>;
  readonly fields: Readonly<Record<string, string | { case: FieldCase }>>;
  readonly links: Readonly<Record<string, string>>;
  readonly sender: Readonly<Record<string, string>>;
  readonly date: Readonly<Record<string, string>>;
  readonly footer: { readonly required: readonly string[] };
  readonly limits: { readonly web_fonts: boolean };
  readonly package?: PackageShape;
  readonly paths: PathPatterns;
  readonly samples: readonly DialectSample[];
}

const pattern = Joi.string();
const patterns = (...names: string[]): Joi.ObjectSchema =>
  Joi.object(Object.fromEntries(names.map((key) => [key, pattern]))).default({});

/** A list of delimiters of template tags. */
export const delimiterList = Joi.array().items(
  Joi.object({
    open: Joi.string().required(),
    close: Joi.string().required(),
    quotes: Joi.boolean().default(false),
    content: Joi.string().valid('any', 'name', 'none').default('any'),
  }),
);

const schema: Joi.ObjectSchema<RawDialect> = Joi.object<RawDialect>({
  dialect: Joi.string().required(),
  title: Joi.string().required(),
  verbatim: Joi.boolean().default(false),
  delimiters: delimiterList.required(),
  tags: patterns('field', 'fallback', 'raw', 'if', 'else_if', 'else', 'end_if', 'each', 'end_each', 'comment'),
  filters: patterns('upper', 'lower', 'capital', 'date', 'number'),
  conditions: patterns(
    'present',
    'equal',
    'unequal',
    'less',
    'at_most',
    'more',
    'at_least',
    'not',
    'and',
    'or',
    'text',
    'path',
  ),
  fields: Joi.object({
    '*': Joi.object({
      case: Joi.string().valid('as-is', 'upper-snake', 'snake', 'kebab', 'camel', 'pascal').required(),
    }),
  })
    .pattern(Joi.string(), pattern)
    .default({}),
  links: patterns('unsubscribe', 'preferences', 'browser', 'forward'),
  sender: patterns('company', 'postal_address'),
  date: patterns('year'),
  footer: Joi.object({
    required: Joi.array().items(
      Joi.string().valid('unsubscribe', 'preferences', 'browser', 'postal_address', 'company'),
    ),
  }).default({ required: [] }),
  limits: Joi.object({ web_fonts: Joi.boolean().default(true) }).default({ web_fonts: true }),
  package: Joi.object({ shape: Joi.string().valid('zip', 'folder').required() }),
  paths: Joi.object({
    field: pattern.default('{name}'),
    item: pattern.default('{item}.{name}'),
    plain_item: pattern.default('{item}'),
  }).default({ field: '{name}', item: '{item}.{name}', plain_item: '{item}' }),
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
  const isOwn = await stat(own).then(
    () => true,
    () => false,
  );
  return isOwn
    ? loadDialectFile(own, `dialects/${name}.yaml`, true)
    : loadDialectFile(join(builtInDialects, `${name}.yaml`), `${name}.yaml`, false);
}

/** Loads a dialect from its file. */
export async function loadDialectFile(path: string, shown: string, isOwn: boolean): Promise<DialectResult> {
  const { file, finding } = await readTextFile(path, shown);
  if (file === null) return { dialect: null, findings: [finding], isOwn };
  const { value, findings, placeOf } = readYaml(file.source, schema);
  return value === null
    ? { dialect: null, findings, isOwn }
    : { dialect: toDialect(value), findings: [], placeOf, isOwn };
}

function toDialect(raw: RawDialect): Dialect {
  const rule = raw.fields['*'];
  const names = Object.entries(raw.fields).filter((entry): entry is [string, string] => typeof entry[1] === 'string');
  return {
    name: raw.dialect,
    title: raw.title,
    verbatim: raw.verbatim,
    delimiters: raw.delimiters,
    tags: raw.tags,
    filters: raw.filters,
    conditions: raw.conditions,
    fieldNames: Object.fromEntries(names),
    fieldCase: typeof rule === 'object' ? rule.case : 'as-is',
    system: { ...prefixed('link', raw.links), ...prefixed('sender', raw.sender), ...prefixed('date', raw.date) },
    required: raw.footer.required.map((key) =>
      /^(?:company|postal_address)$/.test(key) ? `sender.${key}` : `link.${key}`,
    ),
    webFonts: raw.limits.web_fonts,
    package: raw.package ?? null,
    paths: raw.paths,
    samples: raw.samples,
  };
}

function prefixed(group: string, values: Readonly<Record<string, string>>): Record<string, string> {
  return Object.fromEntries(Object.entries(values).map(([key, value]) => [`${group}.${key}`, value]));
}
