import { completeMarkup, dataEndings } from '../../core/editor/complete/complete-markup.js';
import { completeYaml, type KnownNames, type YamlSchema } from '../../core/editor/complete/complete-yaml.js';
import { nothingOffered, type Completion, type Offer } from '../../core/editor/complete/completion.js';
import { namedIn } from '../../core/editor/message-names.js';
import type { MarkupFile } from '../../core/editor/markup-file.js';
import type { ProjectFacts } from '../../core/editor/project-facts.js';
import { openExpression } from '../../core/editor/complete/complete-expression.js';
import type { YamlPlace } from '../../core/yaml/yaml-place.js';
import { metadataKeys } from '../../core/template/message-template.js';
import { completeFileNames } from './complete-file-names.js';
import type { ProjectIndex } from './project-index.js';

/** What may be written at an offset of a file of a project. */
export async function completeAt(index: ProjectIndex, path: string, offset: number): Promise<Completion[]> {
  const { items, files } = await offerAt(index, path, offset);
  return files === null ? [...items] : [...items, ...(await completeFileNames(files, path, index.folder))];
}

async function offerAt(index: ProjectIndex, path: string, offset: number): Promise<Offer> {
  switch (index.kindOf(path)) {
    case 'message':
    case 'part':
    case 'frame': {
      const file = await index.markup(path);
      if (file === null) return nothingOffered;
      const facts = await index.facts();
      if (file.front !== null && offset <= file.front.span.end && !isInExpression(file, offset))
        return completeYaml(file.source.text, offset, frontSchema, frontNames(facts, file));
      return completeMarkup({ file, scope: await index.scope(path), facts }, offset);
    }
    case 'config':
      return inYaml(index, path, offset, await configSchema(), configNames(await index.facts()));
    case 'dialect':
      return inYaml(index, path, offset, await dialectFileSchema(), () => null);
    default:
      return nothingOffered;
  }
}

function isInExpression({ source }: MarkupFile, offset: number): boolean {
  return openExpression(source.text.slice(0, offset)) !== null;
}

async function inYaml(
  index: ProjectIndex,
  path: string,
  offset: number,
  schema: YamlSchema,
  known: KnownNames,
): Promise<Offer> {
  const source = await index.source(path);
  return source === null ? nothingOffered : completeYaml(source.text, offset, schema, known);
}

async function configSchema(): Promise<YamlSchema> {
  const [{ configSchema: schema }, { jsonSchema }] = await Promise.all([
    import('../config/config-schema.js'),
    import('../../core/yaml/json-schema.js'),
  ]);
  return jsonSchema(schema, '');
}

async function dialectFileSchema(): Promise<YamlSchema> {
  const [{ dialectSchema }, { jsonSchema }] = await Promise.all([
    import('../../core/dialects/file/dialect-schema.js'),
    import('../../core/yaml/json-schema.js'),
  ]);
  return jsonSchema(dialectSchema, '');
}

/** The names that a configuration takes from elsewhere: dialects, fields, files. */
function configNames(facts: ProjectFacts): KnownNames {
  return (place) => {
    const { path, kind } = place;
    const [first = '', , third = ''] = path;
    if (kind === 'value' && first === 'destinations' && third === 'dialect') return named(facts.dialects, 'a dialect');
    if (kind === 'key' && first === 'samples' && path.length === 2) return named(facts.fields.keys(), 'a field');
    const isFile = path.join('.') === 'footer' || path.join('.') === 'defaults.data' || third === 'sample';
    return isFile && kind === 'value'
      ? files(place, third === '' && first === 'footer' ? /\.html$/ : dataEndings)
      : null;
  };
}

const frontKeys: readonly (readonly [string, string])[] = [
  ['subject', 'the subject'],
  ['frame', 'the page around the text: a file of frames/'],
  ['data', 'data files whose values the text sees'],
  ['editions', 'a data file: one edition for each of its rows'],
  ['edition-name', 'the name of each edition'],
  ['lang', 'the language of the text'],
  ...[...metadataKeys].map((name): [string, string] => [name, 'what the message says of itself']),
];

const frontSchema: YamlSchema = {
  type: 'object',
  properties: Object.fromEntries(frontKeys.map(([name, description]) => [name, { type: 'string', description }])),
};

function frontNames(facts: ProjectFacts, file: MarkupFile): KnownNames {
  return (place) => {
    const [key = ''] = place.path;
    if (place.kind === 'key' && place.path.length === 0) return null;
    if (key === 'frame') return named(facts.frames, 'a frame');
    if (key === 'data' || key === 'editions') return files(place, dataEndings);
    if (key === 'attachment') return files(place, /./);
    const own = new Set(namedIn(file).said.get(key) ?? []);
    return named(
      (facts.said.get(key) ?? []).filter((word) => !own.has(word) || word !== place.written),
      'said by other messages',
    );
  };
}

function named(names: Iterable<string>, says: string): { name: string; says: string }[] {
  return [...names].map((name) => ({ name, says }));
}

function files({ written, span }: YamlPlace, endings: RegExp): Offer {
  return { items: [], files: { written, span, endings } };
}
