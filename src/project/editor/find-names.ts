import { basename, join } from 'node:path';
import { symbolAt, type CodeSymbol } from '../../core/editor/code-symbol.js';
import { markupLinks, type FileLink } from '../../core/editor/file-links.js';
import { frontEntries } from '../../core/editor/message-names.js';
import { regionAttributes } from '../../core/html/regions.js';
import { plainPath } from '../../core/pictures/local-path.js';
import { entriesOf, entryAt, textsOf } from '../../core/yaml/yaml-tree.js';
import { builtInDialects } from '../config/shipped-dialects.js';
import { isPartName } from '../load/message-names.js';
import type { ProjectIndex } from './project-index.js';
import { type Span, spanAt } from '../../core/text/span.js';
import { exists } from '../files/exists.js';

/** A place in a file of the project. */
export interface FileSpan {
  readonly path: string;
  readonly span: Span;
}

/** A use or a declaration of a name. */
export interface FoundName extends FileSpan {
  readonly isDefinition: boolean;
}

/** A link with the file, or the web address, that it leads to. */
export interface ResolvedLink extends FileLink {
  readonly path: string | null;
}

/** Where what stands at an offset is declared. */
export async function definitionsAt(index: ProjectIndex, path: string, offset: number): Promise<FileSpan[]> {
  const link = (await linksIn(index, path)).find(({ span }) => span.start <= offset && offset <= span.end);
  if (link?.path !== undefined && link.path !== null) return [{ path: link.path, span: spanAt(0, 0) }];
  const symbol = symbolAt(await index.symbols(path), offset);
  if (symbol === null) return [];
  const file = await fileOfSymbol(index, symbol);
  if (file !== null) return [{ path: file, span: await startOfFile(index, file) }];
  return (await namesLike(index, symbol)).filter(({ isDefinition }) => isDefinition);
}

/** A part, and a dialect, is a file. */
async function fileOfSymbol({ folder }: ProjectIndex, { id, name }: CodeSymbol): Promise<string | null> {
  const candidates = id.startsWith('part:')
    ? [join(folder, 'parts', `${name}.html`)]
    : id.startsWith('dialect:')
      ? [join(folder, 'dialects', `${name}.yaml`), join(builtInDialects, `${name}.yaml`)]
      : [];
  for (const path of candidates) if (await exists(path)) return path;
  return null;
}

/** Behind the comment that a file begins with. */
async function startOfFile(index: ProjectIndex, path: string): Promise<Span> {
  const text = (await index.source(path))?.text ?? '';
  const start = /^(?:\s|<!--[\s\S]*?-->)*/.exec(text)?.[0].length ?? 0;
  return { start, end: start };
}

/** All places of the project where something is named that a symbol means; where a part's file begins among them. */
export async function namesLike(index: ProjectIndex, symbol: CodeSymbol): Promise<FoundName[]> {
  const found: FoundName[] = [];
  for (const path of await index.paths())
    for (const { id, span, isDefinition } of await index.symbols(path))
      if (id === symbol.id) found.push({ path, span, isDefinition });
  const file = await fileOfSymbol(index, symbol);
  return file === null ? found : [...found, { path: file, span: await startOfFile(index, file), isDefinition: true }];
}

/** What a rename changes: texts, and for a part the name of its file. */
export interface Renaming {
  readonly edits: readonly FileSpan[];
  readonly file: { readonly from: string; readonly to: string } | null;
}

/** Why a name cannot be another one. */
export interface RefusedName {
  readonly refused: string;
}

/** The name at an offset that can be another one; null where there is none. */
export async function renameableAt(index: ProjectIndex, path: string, offset: number): Promise<CodeSymbol | null> {
  const symbol = symbolAt(await index.symbols(path), offset);
  if (symbol === null || /^(?:system|shared|edition|dialect):/.test(symbol.id)) return null;
  const isOfLoop = /^loop:.*#\d+\./.test(symbol.id);
  return isOfLoop ? null : symbol;
}

const nameRules: readonly (readonly [kinds: RegExp, rule: RegExp, says: string])[] = [
  [/^class:/, /^-?[A-Za-z_][\w-]*$/, 'A class is made of letters, digits, "-" and "_", and begins with no digit.'],
  [/^region(?:-choice)?:/, /^[\p{L}\d][\p{L}\d_-]*$/u, 'A region is named by letters, digits, "-" and "_".'],
  [/^slot:/, /^[\w-]+$/, 'A slot is named by letters, digits, "-" and "_".'],
  [
    /^(?:accepted|frame):/,
    /^[a-z_][\w-]*$/i,
    'A value is named by letters, digits, "-" and "_", and begins with a letter.',
  ],
  [/^/, /^[A-Za-z_]\w*$/, 'A name is made of letters, digits and "_", and begins with a letter.'],
];

/** What has to be changed for a symbol to have another name, or why it cannot have that. */
export async function renamed(index: ProjectIndex, symbol: CodeSymbol, name: string): Promise<Renaming | RefusedName> {
  if (symbol.id.startsWith('part:')) return renamedPart(index, symbol, name);
  const [, rule = /^/, says = ''] = nameRules.find(([kinds]) => kinds.test(symbol.id)) ?? [];
  if (!rule.test(name)) return { refused: says };
  if (symbol.id.startsWith('accepted:') && (regionAttributes.has(name) || name === 'slot'))
    return { refused: `"${name}" means something else on a part.` };
  const other = symbol.id.slice(0, symbol.id.length - symbol.name.length) + name;
  const found = await namesLike(index, symbol);
  if (name !== symbol.name && symbol.id.endsWith(symbol.name) && (await isTaken(index, other)))
    return { refused: `"${name}" is there already.` };
  return { edits: found, file: null };
}

async function isTaken(index: ProjectIndex, id: string): Promise<boolean> {
  for (const path of await index.paths())
    if ((await index.symbols(path)).some((symbol) => symbol.id === id && symbol.isDefinition)) return true;
  return false;
}

async function renamedPart(index: ProjectIndex, symbol: CodeSymbol, name: string): Promise<Renaming | RefusedName> {
  if (!isPartName(name)) return { refused: 'A part is named in small letters, with a hyphen in between.' };
  const from = join(index.folder, 'parts', `${symbol.name}.html`);
  const to = join(index.folder, 'parts', `${name}.html`);
  if (name !== symbol.name && (await exists(to))) return { refused: `There is a part ${name} already.` };
  const found = (await namesLike(index, symbol)).filter(({ isDefinition }) => !isDefinition);
  return { edits: found, file: (await exists(from)) ? { from, to } : null };
}

/** The files and addresses that a file names. */
export async function linksIn(index: ProjectIndex, path: string): Promise<ResolvedLink[]> {
  const file = await index.markup(path);
  const written = file === null ? await yamlLinks(index, path) : markupLinks(file);
  const frame = file === null ? [] : await frameLinks(index, frontEntries(file));
  const resolved = await Promise.all(
    written.map(async (link): Promise<ResolvedLink | null> => {
      if (link.isElsewhere) return { ...link, path: null };
      const target = await existing(index, path, plainPath(link.target));
      return target === null ? null : { ...link, path: target };
    }),
  );
  return [...resolved.flatMap((link) => link ?? []), ...frame];
}

/** The file that a path names, counted from the file that does or else from the folder of the project. */
async function existing(index: ProjectIndex, from: string, path: string): Promise<string | null> {
  const full = await index.resolved(from, path);
  return (await exists(full)) ? full : null;
}

async function frameLinks(index: ProjectIndex, entries: ReturnType<typeof frontEntries>): Promise<ResolvedLink[]> {
  const named = entries.filter(({ key }) => key === 'frame').flatMap(({ value }) => textsOf(value));
  const frames = (await index.paths()).filter((path) => index.kindOf(path) === 'frame');
  return named.flatMap(({ text, span }) => {
    const path = frames.find((frame) => basename(frame, '.html') === text);
    return path === undefined ? [] : [{ target: text, span, isElsewhere: false, path }];
  });
}

/** The files that a configuration names. */
async function yamlLinks(index: ProjectIndex, path: string): Promise<FileLink[]> {
  if (index.kindOf(path) !== 'config') return [];
  const tree = await index.tree(path);
  const samples = entriesOf(entryAt(tree, ['fields'])?.value).flatMap(({ value }) =>
    entryAt(value, ['list']) === null ? [] : textsOf(entryAt(value, ['sample'])?.value),
  );
  const named = [
    ...samples,
    ...textsOf(entryAt(tree, ['footer'])?.value),
    ...textsOf(entryAt(tree, ['defaults', 'data'])?.value),
    ...textsOf(entryAt(tree, ['samples'])?.value),
    ...textsOf(entryAt(tree, ['sender', 'website'])?.value),
  ];
  return named.map(({ text, span }) => ({ target: text, span, isElsewhere: /^https?:/.test(text) }));
}
