import {
  ErrorCodes,
  ResponseError,
  type DocumentLink,
  type Location,
  type Range,
  type WorkspaceEdit,
} from 'vscode-languageserver/node';
import { symbolAt } from '../core/editor/code-symbol.js';
import {
  definitionsAt,
  linksIn,
  namesLike,
  renameableAt,
  renamed,
  type FileSpan,
} from '../project/editor/find-names.js';
import type { ProjectIndex } from '../project/editor/project-index.js';
import type { ClientAbilities } from './client-abilities.js';
import { rangeOf, topRange, uriOf } from './places.js';
import type { Spot } from './workspace.js';

/** Where what stands at a place is declared. */
export async function definitionLocations({ project: { index }, path, offset }: Spot): Promise<Location[]> {
  return locationsOf(index, await definitionsAt(index, path, offset));
}

/** Where else of what stands at a place is spoken. */
export async function referenceLocations(
  { project: { index }, path, offset }: Spot,
  withDeclaration: boolean,
): Promise<Location[]> {
  const symbol = symbolAt(await index.symbols(path), offset);
  if (symbol === null) return [];
  const found = await namesLike(index, symbol);
  return locationsOf(
    index,
    found.filter(({ isDefinition }) => withDeclaration || !isDefinition),
  );
}

async function locationsOf(index: ProjectIndex, found: readonly FileSpan[]): Promise<Location[]> {
  return Promise.all(
    found.map(async ({ path, span }) => {
      const source = await index.source(path);
      return { uri: uriOf(path), range: source === null ? topRange : rangeOf(source, span) };
    }),
  );
}

/** The name at a place that can be another one. */
export async function renameRange({
  project: { index },
  path,
  offset,
}: Spot): Promise<{ range: Range; placeholder: string } | null> {
  const symbol = await renameableAt(index, path, offset);
  const source = await index.source(path);
  return symbol === null || source === null ? null : { range: rangeOf(source, symbol.span), placeholder: symbol.name };
}

/** The changes by which a name becomes another; what cannot be is refused with a sentence. */
export async function renameEdit(
  { project: { index }, path, offset }: Spot,
  name: string,
  { renamesFiles }: ClientAbilities,
): Promise<WorkspaceEdit> {
  const symbol = await renameableAt(index, path, offset);
  if (symbol === null) throw refusal('What stands here has no name of its own.');
  const renaming = await renamed(index, symbol, name);
  if ('refused' in renaming) throw refusal(renaming.refused);
  const { edits, file } = renaming;
  if (file !== null && !renamesFiles)
    throw refusal('This editor renames no files: rename the file of the part, and then its uses.');
  const changes: Record<string, { range: Range; newText: string }[]> = {};
  for (const { uri, range } of await locationsOf(index, edits)) (changes[uri] ??= []).push({ range, newText: name });
  if (file === null) return { changes };
  return {
    documentChanges: [
      ...Object.entries(changes).map(([uri, own]) => ({ textDocument: { uri, version: null }, edits: own })),
      { kind: 'rename' as const, oldUri: uriOf(file.from), newUri: uriOf(file.to) },
    ],
  };
}

function refusal(sentence: string): ResponseError<undefined> {
  return new ResponseError(ErrorCodes.InvalidRequest, sentence);
}

/** The files and web addresses that a document names. */
export async function documentLinks({ index }: Spot['project'], path: string): Promise<DocumentLink[]> {
  const source = await index.source(path);
  if (source === null) return [];
  return (await linksIn(index, path)).map((link) => ({
    range: rangeOf(source, link.span),
    target: link.path === null ? link.target : uriOf(link.path),
  }));
}
