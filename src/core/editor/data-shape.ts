import type { Place } from '../findings/finding.js';
import type { SourceText } from '../text/source-text.js';
import { type Span, spanAt } from '../text/span.js';
import type { YamlNode } from '../yaml/yaml-tree.js';

/** What is known of a build value or a merge field: where its name is written, what it holds, and an example of it. */
export interface DataShape {
  /** What it is, across files: names may be the same where this is not. */
  readonly id: string;
  readonly name: string;
  /** Where it is named for the first time, or declared. */
  readonly places: readonly Place[];
  /** What a group of values holds, by name. */
  readonly fields: Shapes;
  /** What the items of a list are like; null for what is no list. */
  readonly item: DataShape | null;
  /** An example, as a person reads it; null where there is none. */
  readonly sample: string | null;
}

/** Values by their names. */
export type Shapes = ReadonlyMap<string, DataShape>;

export const noShapes: Shapes = new Map();

/** A single value, of which no more is known. */
export function plainShape(id: string, name: string, sample: string | null, places: readonly Place[] = []): DataShape {
  return { id, name, places, fields: noShapes, item: null, sample };
}

/** What is written in YAML under a key. */
export interface WrittenNodes {
  readonly source: SourceText;
  readonly id: string;
  readonly name: string;
  /** Where the key stands: in each item of a list once. */
  readonly keys: readonly Span[];
  /** What stands under it there. */
  readonly nodes: readonly YamlNode[];
}

/** What values in YAML are like; those of all items of a list are taken together. */
export function shapeOfNodes({ source, id, name, keys, nodes }: WrittenNodes): DataShape {
  const lists = nodes.flatMap((node) => (node.kind === 'list' ? [node] : []));
  const fields = fieldsOfNodes(source, `${id}.`, nodes);
  const ofItems = lists.length === 0 ? groupItems(nodes) : lists.flatMap((node) => [...node.items]);
  const [first] = nodes;
  return {
    id,
    name,
    places: keys.map((span) => ({ source, span })),
    fields,
    item: ofItems.length === 0 ? null : shapeOfNodes({ source, id: `${id}[]`, name, keys: [], nodes: ofItems }),
    sample: first === undefined ? null : sampleOf(first),
  };
}

/** A group of values can be looped over as well. */
function groupItems(nodes: readonly YamlNode[]): YamlNode[] {
  return nodes.flatMap((node) => (node.kind === 'map' ? node.entries.flatMap(({ value }) => value ?? []) : []));
}

/** The values of groups, by name. */
export function fieldsOfNodes(source: SourceText, prefix: string, nodes: readonly YamlNode[]): Shapes {
  const keys = new Map<string, { keys: Span[]; nodes: YamlNode[] }>();
  for (const node of nodes)
    for (const { key, keySpan, value } of node.kind === 'map' ? node.entries : []) {
      const known = keys.get(key) ?? { keys: [], nodes: [] };
      keys.set(key, known);
      known.keys.push(keySpan);
      if (value !== null) known.nodes.push(value);
    }
  return new Map(
    [...keys].map(([name, written]) => [name, shapeOfNodes({ source, id: prefix + name, name, ...written })]),
  );
}

const LONGEST_SAMPLE = 60;

function sampleOf(node: YamlNode): string {
  if (node.kind === 'list') return node.items.length === 1 ? 'a list of 1' : `a list of ${node.items.length}`;
  if (node.kind === 'map') return `a group: ${node.entries.map(({ key }) => key).join(', ')}`;
  const text = node.value === null ? 'empty' : String(node.value);
  return text.length > LONGEST_SAMPLE ? `${text.slice(0, LONGEST_SAMPLE)}…` : text;
}

/** The rows of a table, by its columns, whose names stand in its first line. */
export function shapeOfTable(
  source: SourceText,
  id: string,
  name: string,
  {
    columns,
    rows,
  }: { readonly columns: readonly { readonly name: string; readonly span: Span }[]; readonly rows: readonly Shapes[] },
): DataShape {
  const [first = noShapes] = rows;
  const fields = columns.map(({ name: column, span }): [string, DataShape] => [
    column,
    plainShape(`${id}[].${column}`, column, first.get(column)?.sample ?? null, [{ source, span }]),
  ]);
  const item: DataShape = { ...plainShape(`${id}[]`, name, null), fields: new Map(fields) };
  const start = { source, span: spanAt(0, 0) };
  return { ...plainShape(id, name, `a list of ${rows.length}`, [start]), item };
}

/** What a loop calls each item of a list: its own name, with what the list's items hold and what the loop knows. */
export function loopShape(name: string, place: Place, list: DataShape | null): DataShape {
  const id = `loop:${place.source.name}#${place.span.start}`;
  const item = list?.item ?? null;
  const known = loopNames.map(([field, says]): [string, DataShape] => [
    field,
    plainShape(`${id}.${field}`, field, says),
  ]);
  return {
    ...plainShape(id, name, item?.sample ?? null, [place]),
    fields: withOuter(item?.fields ?? noShapes, new Map(known)),
    item: item?.item ?? null,
  };
}

/** Names of which the first hide those behind, in the order in which somebody looks for them. */
export function withOuter(own: Shapes, outer: Shapes): Shapes {
  return new Map([...own, ...[...outer].filter(([name]) => !own.has(name))]);
}

/** What a loop over build values knows of itself. */
const loopNames: readonly (readonly [string, string])[] = [
  ['index', 'the number of the item, from 1'],
  ['first', 'whether it is the first'],
  ['last', 'whether it is the last'],
  ['count', 'how many there are'],
  ['key', 'its name in a group of values'],
];
