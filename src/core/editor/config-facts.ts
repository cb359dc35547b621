import type { Place } from '../findings/finding.js';
import type { SourceText } from '../text/source-text.js';
import { entriesOf, entryAt, textsOf, type YamlEntry, type YamlNode } from '../yaml/yaml-tree.js';
import type { CodeSymbol } from './code-symbol.js';
import { plainShape, shapeOfNodes, type DataShape, type Shapes } from './data-shape.js';

/** A configuration as far as it can be read, mistakes and all. */
export interface WrittenConfig {
  readonly source: SourceText;
  readonly tree: YamlNode | null;
}

/**
 * The merge fields that a configuration declares.
 * @param sampleFile the content of a file with sample items, by the path that the configuration gives
 */
export function declaredFields(config: WrittenConfig, sampleFile: (path: string) => YamlNode | null): Shapes {
  const entries = entriesOf(entryAt(config.tree, ['fields'])?.value);
  return new Map(entries.map((entry) => [entry.key, fieldShape(config.source, entry, sampleFile)]));
}

function fieldShape(
  source: SourceText,
  { key, keySpan, value }: YamlEntry,
  sampleFile: (path: string) => YamlNode | null,
): DataShape {
  const id = `field:${key}`;
  const sample = entryAt(value, ['sample'])?.value ?? null;
  const list = entryAt(value, ['list'])?.value ?? null;
  const [named] = textsOf(sample);
  const read = list !== null && named !== undefined ? sampleFile(named.text) : sample;
  const sampled = shapeOfNodes({ source, id, name: key, keys: [keySpan], nodes: read === null ? [] : [read] });
  if (list === null) return { ...sampled, fields: new Map(), item: sampled.item };
  return { ...sampled, item: itemShape(source, `${id}[]`, list, sampled.item) };
}

/** What the items of a list are declared to have, with the examples of the samples. */
function itemShape(source: SourceText, id: string, declared: YamlNode, sampled: DataShape | null): DataShape {
  const fields = entriesOf(declared).map(({ key, keySpan, value }): [string, DataShape] => {
    const known = sampled?.fields.get(key) ?? null;
    const shape = plainShape(`${id}.${key}`, key, known?.sample ?? null, [{ source, span: keySpan }]);
    const inner = entryAt(value, ['list'])?.value ?? null;
    return [
      key,
      inner === null ? shape : { ...shape, item: itemShape(source, `${shape.id}[]`, inner, known?.item ?? null) },
    ];
  });
  return { ...plainShape(id, '', sampled?.sample ?? null), fields: new Map(fields) };
}

/** What every file sees of the project and its sender. */
export function sharedValues({ source, tree }: WrittenConfig): Map<string, DataShape> {
  const sender = entriesOf(entryAt(tree, ['sender'])?.value);
  const shaped = (entry: YamlEntry): [string, DataShape] => [
    entry.key,
    plainShape(`shared:sender.${entry.key}`, entry.key, textsOf(entry.value)[0]?.text ?? null, [
      { source, span: entry.keySpan },
    ]),
  ];
  const name = entryAt(tree, ['name']);
  const places = name === null ? [] : [{ source, span: name.keySpan }];
  const website = sender.find(({ key }) => key === 'website');
  return new Map([
    group('sender', sender.filter(({ key }) => key !== 'unsubscribe').map(shaped)),
    group('project', [
      ['name', plainShape('shared:project.name', 'name', textsOf(name?.value)[0]?.text ?? null, places)],
      ...(website === undefined ? [] : [['website', shaped(website)[1]] as [string, DataShape]]),
    ]),
  ]);
}

/** What is known of a message by its file alone. */
export function messageValues(name: string, file: string): [string, DataShape] {
  return group('message', [
    ['name', plainShape('shared:message.name', 'name', name)],
    ['file', plainShape('shared:message.file', 'file', file)],
  ]);
}

/** What is known of an edition: where its name comes from. */
export function editionValues(message: string, named: Place | null): [string, DataShape] {
  const places = named === null ? [] : [named];
  return group('edition', [
    ['name', plainShape(`edition:${message}`, 'name', 'the name of the edition', places)],
    ['index', plainShape('shared:edition.index', 'index', 'the number of the edition, from 1')],
  ]);
}

function group(name: string, fields: readonly (readonly [string, DataShape])[]): [string, DataShape] {
  return [name, { ...plainShape(`shared:${name}`, name, null), fields: new Map(fields) }];
}

/** The names in a configuration that mean something elsewhere. */
export function configSymbols({ source, tree }: WrittenConfig, fields: Shapes): CodeSymbol[] {
  const destinations = entriesOf(entryAt(tree, ['destinations'])?.value);
  const inline = entriesOf(entryAt(tree, ['fields'])?.value).flatMap(({ key, value }) => {
    const sample = entryAt(value, ['list']) === null ? null : entryAt(value, ['sample'])?.value;
    return sample === null || sample === undefined ? [] : itemSymbols(source, key, sample);
  });
  return [
    ...[...fields.values()].flatMap(declarationsOf),
    ...inline,
    ...recipientSymbols(source, entryAt(tree, ['samples'])?.value ?? null),
    ...destinations.flatMap(({ value }) =>
      textsOf(entryAt(value, ['dialect'])?.value).map(({ text, span }) => use(`dialect:${text}`, text, span)),
    ),
  ];
}

/** The names of fields in a file that a configuration names for its samples; none in any other. */
export function sampleSymbols({ tree }: WrittenConfig, path: string, sample: WrittenConfig): CodeSymbol[] {
  if (sample.tree === null) return [];
  const { source, tree: content } = sample;
  const isNamed = (node: YamlNode | null | undefined): boolean => textsOf(node).some(({ text }) => text === path);
  if (isNamed(entryAt(tree, ['samples'])?.value)) return recipientSymbols(source, content);
  return entriesOf(entryAt(tree, ['fields'])?.value).flatMap(({ key, value }) =>
    isNamed(entryAt(value, ['sample'])?.value) ? itemSymbols(source, key, content) : [],
  );
}

/** The fields of a dialect that maps them to names of its platform. */
export function mappedFields(tree: YamlNode | null, fields: Shapes): CodeSymbol[] {
  return entriesOf(entryAt(tree, ['fields'])?.value).flatMap(({ key, keySpan }) =>
    fields.has(key) ? [use(`field:${key}`, key, keySpan)] : [],
  );
}

/** What sample recipients have, by the names of the recipients. */
function recipientSymbols(source: SourceText, recipients: YamlNode | null): CodeSymbol[] {
  return entriesOf(recipients)
    .flatMap(({ value }) => entriesOf(value))
    .flatMap(({ key, keySpan, value }) => [
      use(`field:${key}`, key, keySpan),
      ...(value === null ? [] : itemSymbols(source, key, value)),
    ]);
}

/** What the items of a sample list have. */
function itemSymbols(source: SourceText, field: string, sample: YamlNode): CodeSymbol[] {
  const shape = shapeOfNodes({ source, id: `field:${field}`, name: field, keys: [], nodes: [sample] });
  return declarationsOf(shape).map((symbol) => ({ ...symbol, isDefinition: false }));
}

function use(id: string, name: string, span: CodeSymbol['span']): CodeSymbol {
  return { id, name, span, isDefinition: false };
}

/** The files with samples that the fields of a configuration name. */
export function sampleFilesIn({ tree }: WrittenConfig): string[] {
  return entriesOf(entryAt(tree, ['fields'])?.value)
    .filter(({ value }) => entryAt(value, ['list']) !== null)
    .flatMap(({ value }) => textsOf(entryAt(value, ['sample'])?.value).map(({ text }) => text));
}

/** The places at which a value and what it holds are named. */
export function declarationsOf({ id, name, places, fields, item }: DataShape): CodeSymbol[] {
  const own = places.map(({ span }) => ({ id, name, span, isDefinition: true }));
  return [...own, ...[...fields.values()].flatMap(declarationsOf), ...(item === null ? [] : declarationsOf(item))];
}
