import type Joi from 'joi';
import type { Held, Key } from './keys.js';
import { LineCounter, parseDocument, type Document } from 'yaml';
import { adviceForName, finding, type Finding } from '../findings/finding.js';
import { nearestName } from '../text/nearest.js';
import type { SourceText } from '../text/source-text.js';
import { type Span, spanAt } from '../text/span.js';
import { placesIn, spanAtPath, type PlaceOf, type YamlPath } from './yaml-places.js';
import { treeOf, type YamlNode } from './yaml-tree.js';

/** A YAML file, read and validated. */
export interface YamlResult<T> {
  /** Null where there are findings. */
  readonly value: T | null;
  readonly findings: readonly Finding[];
  /** The text as it is written; null for one that cannot be read. */
  readonly tree: YamlNode | null;
  /** Where the value at a path of keys stands. */
  readonly placeOf: PlaceOf;
}

/** What is wrong with YAML, and where. */
export interface YamlProblem {
  readonly detail: string;
  readonly span: Span;
}

/** A YAML text, parsed; where there are problems the data are of no use. */
export interface ParsedYaml {
  /** Null for a text that is nested deeper than can be read. */
  readonly document: Document.Parsed | null;
  /** With maps as maps, as keys come from users. */
  readonly data: unknown;
  readonly problems: readonly YamlProblem[];
}

/** Parses YAML (and JSON, which is YAML: YAML 1.2, 1.3). Aliases that ask for too much, and endless nesting, are problems. */
export function parseYaml(text: string): ParsedYaml {
  const nothing = { data: null, problems: [] };
  try {
    const document = parseDocument(text, { lineCounter: new LineCounter(), prettyErrors: false });
    const problems = document.errors.map(({ message, pos: [start, end] }) => ({
      detail: message,
      span: { start, end },
    }));
    if (problems.length > 0) return { ...nothing, document, problems };
    return { document, data: document.toJS({ mapAsMap: true }) as unknown, problems };
  } catch (error) {
    const detail =
      error instanceof RangeError ? 'it is nested too deep' : error instanceof Error ? error.message : String(error);
    return { ...nothing, document: null, problems: [{ detail, span: spanAt(0, 0) }] };
  }
}

/** Reads YAML and validates it; every finding points to its place in the file. */
export function readYaml<K extends Key<unknown>>(source: SourceText, schema: K): YamlResult<Held<K>> {
  const { document, problems } = parseYaml(source.text);
  const tree = document === null ? null : treeOf(document.contents);
  const placeOf = placesIn(source, tree);
  if (document === null || problems.length > 0) {
    // One mistake of syntax makes much of what follows look wrong, too.
    const findings = problems
      .slice(0, 1)
      .map(({ detail, span }) => finding('config-syntax', { source, span }, { detail }));
    return { value: null, findings, tree, placeOf };
  }
  const result: Joi.ValidationResult<Held<K>> = schema.validate(document.toJS() ?? {}, {
    abortEarly: false,
    convert: false,
  });
  const findings = (result.error?.details ?? []).map((detail) => describeProblem(detail, source, tree, schema));
  return { value: result.error === undefined ? result.value : null, findings, tree, placeOf };
}

function describeProblem(
  detail: Joi.ValidationErrorItem,
  source: SourceText,
  tree: YamlNode | null,
  schema: Joi.Schema,
): Finding {
  const path = detail.path;
  const key = keyAt(path);
  if (detail.type === 'object.unknown') {
    const known = knownKeys(schema.describe() as Description, path.slice(0, -1));
    const place = { source, span: spanAtPath(tree, path, 'key') };
    return finding('config-unknown-key', place, {
      key,
      advice: adviceForName(
        nearestName(key, known),
        known,
        isNameGroup(schema.describe() as Description, path.slice(0, -1))
          ? 'Names here are made of letters, digits, "_" and, but for fields, "-"; they begin with a letter.'
          : 'Remove it.',
      ),
    });
  }
  if (detail.type === 'any.required') {
    const place = { source, span: spanAtPath(tree, path.slice(0, -1), 'key') };
    return finding('config-missing-key', place, { key, expected: expectation(detail) });
  }
  const place = { source, span: spanAtPath(tree, path, 'value') };
  return finding('config-wrong-type', place, {
    key,
    expected: expectation(detail),
    found: describeValue(detail.context?.value),
  });
}

/** What an entry is called: its key, or that of its list. */
function keyAt(path: YamlPath): string {
  const last = path[path.length - 1];
  if (typeof last !== 'number') return last ?? 'the file';
  return `${path[path.length - 2] ?? ''}[${last}]`;
}

const typeWords: Readonly<Record<string, string>> = {
  string: 'a text',
  number: 'a number',
  object: 'a group of keys',
  array: 'a list',
  boolean: 'true or false',
};

/** What a value should be, in words, by the rule that it breaks. */
function expectation(detail: Joi.ValidationErrorItem): string {
  const valids = (detail.context?.['valids'] as unknown[] | undefined)?.map((value) =>
    typeof value === 'string' ? `"${value}"` : String(value),
  );
  if (valids !== undefined) return valids.length === 1 ? (valids[0] ?? '') : `one of ${valids.join(', ')}`;
  const types = detail.context?.['types'] as string[] | undefined;
  if (types !== undefined) return types.map((type) => typeWords[type] ?? type).join(' or ');
  const words: Readonly<Record<string, string>> = {
    'string.base': 'a text',
    'string.empty': 'a text that is not empty',
    'string.email': 'a mail address',
    'string.pattern.name': `${String(detail.context?.['name'])}`,
    'string.pattern.base': 'a name of letters, digits, "-" and "_"',
    'number.base': 'a number',
    'number.integer': 'a whole number',
    'number.min': `a number of at least ${String(detail.context?.['limit'])}`,
    'number.max': `a number of at most ${String(detail.context?.['limit'])}`,
    'boolean.base': 'true or false',
    'array.base': 'a list',
    'object.base': 'a group of keys',
    'object.min': 'at least one entry',
    'any.required': 'a value',
  };
  return words[detail.type] ?? detail.message;
}

function describeValue(value: unknown): string {
  if (value === null || value === undefined) return 'empty';
  if (Array.isArray(value)) return 'a list';
  if (typeof value === 'object') return 'a group of keys';
  if (typeof value === 'string')
    return value === '' ? 'an empty text' : `the text "${value.length > 40 ? `${value.slice(0, 40)}…` : value}"`;
  return typeof value === 'number' ? `the number ${value}` : JSON.stringify(value);
}

interface Description {
  readonly keys?: Readonly<Record<string, Description>>;
  readonly patterns?: readonly { readonly rule: Description }[];
  readonly matches?: readonly { readonly schema?: Description }[];
}

/** Whether a group takes names that the author chooses. */
function isNameGroup(description: Description, path: YamlPath): boolean {
  return (descriptionAt(description, path)?.patterns ?? []).length > 0;
}

function knownKeys(description: Description, path: YamlPath): string[] {
  return Object.keys(descriptionAt(description, path)?.keys ?? {});
}

function descriptionAt(description: Description, path: YamlPath): Description | undefined {
  let at: Description | undefined = description;
  for (const step of path)
    at =
      at?.keys?.[String(step)] ??
      at?.patterns?.[0]?.rule ??
      at?.matches?.find(({ schema }) => schema?.keys !== undefined)?.schema;
  return at;
}
