import type Joi from 'joi';

/** What Joi says of a schema. */
interface Description {
  readonly type?: string;
  readonly flags?: {
    readonly presence?: string;
    readonly description?: string;
    readonly default?: unknown;
    readonly only?: boolean;
  };
  readonly keys?: Readonly<Record<string, Description>>;
  readonly patterns?: readonly { readonly regex?: string; readonly rule: Description }[];
  readonly items?: readonly Description[];
  readonly matches?: readonly { readonly schema: Description }[];
  readonly allow?: readonly unknown[];
  readonly rules?: readonly { readonly name: string; readonly args?: Readonly<Record<string, unknown>> }[];
  readonly metas?: readonly { readonly format?: string }[];
}

type JsonSchema = Record<string, unknown>;

/** A JSON Schema (draft 2020-12) of what a Joi schema accepts, for editors. */
export function jsonSchema(schema: Joi.Schema, title: string): JsonSchema {
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    title,
    ...convert(schema.describe()),
  };
}

function convert(description: Description): JsonSchema {
  const { flags } = description;
  return {
    ...typed(description),
    ...(flags?.description === undefined ? {} : { description: flags.description }),
    ...(flags?.default === undefined ? {} : { default: flags.default }),
  };
}

function typed(description: Description): JsonSchema {
  switch (description.type) {
    case 'object':
      return objectSchema(description);
    case 'array':
      return { type: 'array', ...itemsOf(description), ...limits(description, { min: 'minItems', max: 'maxItems' }) };
    case 'alternatives':
      return { anyOf: (description.matches ?? []).map(({ schema }) => convert(schema)) };
    case 'string':
      return description.flags?.only === true
        ? { enum: description.allow }
        : { type: 'string', ...formatOf(description) };
    case 'number':
      return {
        type: description.rules?.some(({ name }) => name === 'integer') === true ? 'integer' : 'number',
        ...limits(description, { min: 'minimum', max: 'maximum' }),
      };
    case 'boolean':
      return { type: 'boolean' };
    default:
      return {};
  }
}

function objectSchema({ keys = {}, patterns = [], rules }: Description): JsonSchema {
  const required = Object.entries(keys).flatMap(([key, value]) => (value.flags?.presence === 'required' ? [key] : []));
  const byPattern = patterns.map(({ regex, rule }): [string, JsonSchema] => [plainPattern(regex), convert(rule)]);
  return {
    type: 'object',
    ...(Object.keys(keys).length === 0
      ? {}
      : { properties: Object.fromEntries(Object.entries(keys).map(([key, value]) => [key, convert(value)])) }),
    ...(byPattern.length === 0 ? {} : { patternProperties: Object.fromEntries(byPattern) }),
    ...(required.length === 0 ? {} : { required }),
    ...limits({ rules: rules ?? [] }, { min: 'minProperties' }),
    additionalProperties: false,
  };
}

/** JSON Schema has patterns without slashes and flags. */
function plainPattern(regex: string | undefined): string {
  return regex === undefined ? '' : regex.replace(/^\//, '').replace(/\/[a-z]*$/, '');
}

function itemsOf({ items = [] }: Description): JsonSchema {
  const [only] = items;
  return only === undefined ? {} : { items: items.length === 1 ? convert(only) : { anyOf: items.map(convert) } };
}

function formatOf({ rules = [], metas = [] }: Description): JsonSchema {
  if (rules.some(({ name }) => name === 'email')) return { format: 'email' };
  if (metas.some(({ format }) => format === 'uri')) return { format: 'uri' };
  const pattern = rules.find(({ name }) => name === 'pattern')?.args?.['regex'];
  return typeof pattern === 'string' ? { pattern: plainPattern(pattern) } : {};
}

function limits({ rules = [] }: Pick<Description, 'rules'>, names: Readonly<Record<string, string>>): JsonSchema {
  return Object.fromEntries(
    rules.flatMap(({ name, args }) => {
      const limit = args?.['limit'];
      const written = Object.hasOwn(names, name) ? names[name] : undefined;
      return written === undefined || typeof limit !== 'number' ? [] : [[written, limit]];
    }),
  );
}
