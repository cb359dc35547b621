import { yamlPlace, type YamlPlace } from '../../yaml/yaml-place.js';
import { entriesOf, entryAt, yamlTree } from '../../yaml/yaml-tree.js';
import { asSnippet } from './complete-expression.js';
import { nothingOffered, offered, type Completion, type Offer } from './completion.js';

/** What a YAML file may hold, as a JSON Schema says it. */
export interface YamlSchema {
  readonly description?: string;
  readonly type?: string;
  readonly properties?: Readonly<Record<string, YamlSchema>>;
  readonly patternProperties?: Readonly<Record<string, YamlSchema>>;
  readonly anyOf?: readonly YamlSchema[];
  readonly items?: YamlSchema;
  readonly enum?: readonly unknown[];
}

/** Names that a schema does not know: what may stand at a path of keys, as keys or as a value; null where it says nothing. */
export type KnownNames = (
  place: YamlPlace,
) => Offer | readonly { readonly name: string; readonly says: string }[] | null;

/** What may be written at an offset of a YAML file. */
export function completeYaml(text: string, offset: number, schema: YamlSchema, known: KnownNames): Offer {
  const place = yamlPlace(text, offset);
  const own = known(place);
  if (own !== null && 'items' in own) return own;
  const at = place.path.reduce<YamlSchema | undefined>((found, key) => below(found, key), schema);
  if (at === undefined && own === null) return nothingOffered;
  const named = own ?? (place.kind === 'key' ? keysOf(at) : valuesOf(at));
  const there = place.kind === 'key' ? keysThere(text, place, offset) : new Set<string>();
  const isKey = place.kind === 'key' && (own === null || objectOf(at) !== null);
  return offered(
    named
      .filter(({ name }) => !there.has(name))
      .map(({ name, says }) => item(place, name, says, isKey ? below(at, name) : null)),
  );
}

/** The keys that the group has already, but for the one that is being written. */
function keysThere(text: string, { path, inBraces }: YamlPlace, offset: number): ReadonlySet<string> {
  // The line that is being written need be no YAML yet.
  const start = text.lastIndexOf('\n', offset - 1) + 1;
  const line = /^[^\n]*/.exec(text.slice(start))?.[0] ?? '';
  const others = inBraces ? text : text.slice(0, start) + ' '.repeat(line.length) + text.slice(start + line.length);
  const tree = yamlTree(others);
  const entries = entriesOf(path.length === 0 ? tree : entryAt(tree, path)?.value);
  const found = entries.filter(({ keySpan }) => offset < keySpan.start || offset > keySpan.end);
  return new Set(found.map(({ key }) => key));
}

function item(
  { span, inBraces }: YamlPlace,
  name: string,
  says: string,
  holds: YamlSchema | null | undefined,
): Completion {
  const behind = holds === null ? '' : objectOf(holds) === null || inBraces ? ': ' : ':\n  ';
  return { label: name, kind: behind === '' ? 'word' : 'key', detail: says, insert: asSnippet(name) + behind, span };
}

/** What stands under a key: of a list, what its items hold. */
function below(schema: YamlSchema | undefined, key: string): YamlSchema | undefined {
  const group = objectOf(schema);
  if (group === null) return undefined;
  return group.properties?.[key] ?? Object.values(group.patternProperties ?? {})[0];
}

/** The group of keys that a schema allows, itself, among others, or as items of a list. */
function objectOf(schema: YamlSchema | null | undefined): YamlSchema | null {
  if (schema === undefined || schema === null) return null;
  if (schema.type === 'object') return schema;
  if (schema.items !== undefined) return objectOf(schema.items);
  for (const other of schema.anyOf ?? []) {
    const found = objectOf(other);
    if (found !== null) return found;
  }
  return null;
}

function keysOf(schema: YamlSchema | undefined): { name: string; says: string }[] {
  const group = objectOf(schema);
  // What begins an item of a list may be one of its words as well.
  if (group === null) return valuesOf(schema);
  return Object.entries(group.properties ?? {}).map(([name, { description = '' }]) => ({ name, says: description }));
}

function valuesOf(schema: YamlSchema | undefined): { name: string; says: string }[] {
  if (schema === undefined) return [];
  if (schema.type === 'boolean') return ['true', 'false'].map((name) => ({ name, says: '' }));
  const inner = schema.items ?? schema.anyOf?.find((other) => other.enum !== undefined || other.items !== undefined);
  if (schema.enum === undefined) return inner === undefined ? [] : valuesOf(inner);
  return schema.enum.map((value) => ({ name: String(value), says: '' }));
}
