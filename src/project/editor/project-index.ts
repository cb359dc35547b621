import { readdir, readFile } from 'node:fs/promises';
import { basename, dirname, extname, join, relative, resolve } from 'node:path';
import type { CodeSymbol } from '../../core/editor/code-symbol.js';
import {
  configSymbols,
  declarationsOf,
  declaredFields,
  editionValues,
  mappedFields,
  messageValues,
  sampleFilesIn,
  sampleSymbols,
  sharedValues,
  type WrittenConfig,
} from '../../core/editor/config-facts.js';
import {
  fieldsOfNodes,
  noShapes,
  plainShape,
  shapeOfNodes,
  withOuter,
  type DataShape,
  type Shapes,
} from '../../core/editor/data-shape.js';
import { readMarkupFile, type MarkupFile } from '../../core/editor/markup-file.js';
import { namedIn, type MessageNames } from '../../core/editor/message-names.js';
import { markupSymbols, styleElementSymbols } from '../../core/editor/markup-symbols.js';
import {
  acceptedBy,
  partFacts,
  placesOfAccepted,
  type FileScope,
  type PartFacts,
  type ProjectFacts,
} from '../../core/editor/project-facts.js';
import { styleSymbols } from '../../core/editor/style-symbols.js';
import type { Place } from '../../core/findings/finding.js';
import { SourceText } from '../../core/text/source-text.js';
import { entryAt, textsOf, yamlTree, type YamlNode } from '../../core/yaml/yaml-tree.js';
import { dialectNames } from '../config/dialects.js';
import { CONFIG_FILE, OUT_FOLDER } from '../files/project-folder.js';
import { exists } from '../files/exists.js';
import { decodeText } from '../files/text-file.js';
import { tableShape } from './table-shape.js';
import { fileKind, type FileKind } from './file-kind.js';
import { spanAt } from '../../core/text/span.js';

/** So many files are looked at for names; what lies behind them is no project of messages. */
const MOST_FILES = 5000;

/** What the files of a project say, as an editor has them: read when it is asked for, and again when it has changed. */
export class ProjectIndex {
  readonly #sources = new Map<string, SourceText | null>();
  #paths: readonly string[] | null = null;
  #facts: ProjectFacts | null = null;
  /** What is made of a file, as long as its text stays. */
  readonly #markup = new WeakMap<SourceText, MarkupFile>();
  readonly #trees = new WeakMap<SourceText, { readonly tree: YamlNode | null }>();
  readonly #data = new WeakMap<SourceText, Shapes>();
  readonly #styles = new WeakMap<SourceText, readonly CodeSymbol[]>();
  #scopes = new Map<string, FileScope>();
  #symbols = new Map<string, readonly CodeSymbol[]>();

  /** @param texts what is typed and perhaps not saved, by full paths */
  constructor(
    readonly folder: string,
    private readonly texts: ReadonlyMap<string, string>,
  ) {}

  /** Learns that files have changed, in the editor or on the disk. */
  change(paths: readonly string[]): void {
    for (const path of paths) this.#sources.delete(path);
    this.#paths = null;
    this.#facts = null;
    this.#scopes = new Map();
    this.#symbols = new Map();
  }

  /** A path as findings and people call it: from the folder of the project. */
  nameOf(path: string): string {
    return relative(this.folder, path);
  }

  kindOf(path: string): FileKind | null {
    return fileKind(path, this.folder);
  }

  /** The files that messages are made of. */
  async paths(): Promise<readonly string[]> {
    this.#paths ??= [...new Set([...(await this.walk()), ...this.texts.keys()])]
      .filter((path) => this.kindOf(path) !== null)
      .sort();
    return this.#paths;
  }

  private async walk(): Promise<string[]> {
    const found: string[] = [];
    const folders = [this.folder];
    for (let folder = folders.shift(); folder !== undefined && found.length < MOST_FILES; folder = folders.shift()) {
      const entries = await readdir(folder, { withFileTypes: true }).catch(() => []);
      // What is a project of its own has names of its own.
      if (folder !== this.folder && entries.some(({ name }) => name === CONFIG_FILE)) continue;
      for (const entry of entries) {
        const path = join(folder, entry.name);
        const isHidden =
          entry.name.startsWith('.') || entry.name === 'node_modules' || path === join(this.folder, OUT_FOLDER);
        if (entry.isDirectory() && !isHidden) folders.push(path);
        else if (entry.isFile()) found.push(path);
      }
    }
    return found;
  }

  /** The text of a file; null where it cannot be read. */
  async source(path: string): Promise<SourceText | null> {
    const known = this.#sources.get(path);
    if (known !== undefined) return known;
    const typed = this.texts.get(path);
    const bytes = typed === undefined ? await readFile(path).catch(() => null) : null;
    const source =
      typed !== undefined
        ? new SourceText(path, typed)
        : bytes === null
          ? null
          : (decodeText(bytes, path, () => undefined)?.source ?? null);
    this.#sources.set(path, source);
    return source;
  }

  /** A message, a part or a frame, read; null for anything else. */
  async markup(path: string): Promise<MarkupFile | null> {
    if (!/^(?:message|part|frame)$/.test(this.kindOf(path) ?? '')) return null;
    const source = await this.source(path);
    if (source === null) return null;
    const file = this.#markup.get(source) ?? readMarkupFile(source);
    this.#markup.set(source, file);
    return file;
  }

  /** A YAML file as a tree; null where there is no such file, or nothing in it. */
  async tree(path: string): Promise<YamlNode | null> {
    const source = await this.source(path);
    if (source === null) return null;
    const known = this.#trees.get(source) ?? { tree: yamlTree(source.text) };
    this.#trees.set(source, known);
    return known.tree;
  }

  async facts(): Promise<ProjectFacts> {
    this.#facts ??= await this.readFacts();
    return this.#facts;
  }

  private async readFacts(): Promise<ProjectFacts> {
    const paths = await this.paths();
    const config = await this.config();
    const trees = new Map<string, YamlNode | null>();
    for (const path of sampleFilesIn(config)) trees.set(path, await this.tree(resolve(this.folder, path)));
    const parts = new Map<string, PartFacts>();
    const said = new Map<string, Set<string>>();
    for (const path of paths) {
      const file = await this.markup(path);
      if (file === null) continue;
      if (this.kindOf(path) === 'part') {
        const tag = basename(path, '.html');
        parts.set(tag, partFacts(tag, file));
      }
      for (const [name, values] of namedIn(file).said) said.set(name, new Set([...(said.get(name) ?? []), ...values]));
    }
    return {
      parts,
      frames: paths.filter((path) => this.kindOf(path) === 'frame').map((path) => basename(path, '.html')),
      fields: declaredFields(config, (path) => trees.get(path) ?? null),
      dialects: (await dialectNames(this.folder)).sort(),
      classes: await this.classes(paths),
      said: new Map([...said].map(([name, values]) => [name, [...values].sort()])),
      shared: sharedValues(config),
    };
  }

  private async config(): Promise<WrittenConfig> {
    const path = join(this.folder, CONFIG_FILE);
    return { source: (await this.source(path)) ?? new SourceText(path, ''), tree: await this.tree(path) };
  }

  private async classes(paths: readonly string[]): Promise<Map<string, Place[]>> {
    const classes = new Map<string, Place[]>();
    for (const path of paths) {
      const source = await this.source(path);
      if (source === null) continue;
      for (const { id, name, span, isDefinition } of await this.styleNames(path, source))
        if (id.startsWith('class:') && isDefinition)
          classes.set(name, [...(classes.get(name) ?? []), { source, span }]);
    }
    return classes;
  }

  private async styleNames(path: string, source: SourceText): Promise<readonly CodeSymbol[]> {
    const known = this.#styles.get(source);
    if (known !== undefined) return known;
    const names =
      this.kindOf(path) === 'style sheet'
        ? styleSymbols(source, source.text, source.whole)
        : styleElementSymbols(await this.markup(path));
    this.#styles.set(source, names);
    return names;
  }

  /** What a file of markup sees. */
  async scope(path: string): Promise<FileScope> {
    const known = this.#scopes.get(path);
    if (known !== undefined) return known;
    const scope = await this.readScope(path);
    this.#scopes.set(path, scope);
    return scope;
  }

  private async readScope(path: string): Promise<FileScope> {
    const file = await this.markup(path);
    const kind = this.kindOf(path);
    if (file === null) return { values: noShapes, part: null };
    if (kind === 'part') {
      const tag = basename(path, '.html');
      const accepts = (await this.facts()).parts.get(tag)?.accepts ?? [];
      const values = accepts.map(({ name, fallback }): [string, DataShape] => [
        name,
        acceptedShape(file, `accepted:${tag}/${name.toLowerCase()}`, { name, fallback }),
      ]);
      return { values: new Map(values), part: tag };
    }
    if (kind === 'frame') return { values: await this.frameValues(path, file), part: null };
    return { values: await this.messageScope(path, file), part: null };
  }

  /** What the messages in a frame bring along, and what it accepts itself. */
  private async frameValues(path: string, file: MarkupFile): Promise<Shapes> {
    const values = new Map<string, DataShape>();
    for (const message of await this.paths()) {
      const inside = this.kindOf(message) === 'message' ? await this.markup(message) : null;
      if (inside === null || (await this.frameOf(inside)) !== path) continue;
      for (const [name, shape] of await this.messageScope(message, inside))
        if (!values.has(name)) values.set(name, shape);
    }
    const frame = basename(path, '.html');
    const own = acceptedBy(file).map((accepted): [string, DataShape] => [
      accepted.name,
      acceptedShape(file, `frame:${frame}#${accepted.name}`, accepted),
    ]);
    return new Map([...values, ...own]);
  }

  /** The frame of a Markdown message: the one that it names, or the only one. */
  private async frameOf(file: MarkupFile): Promise<string | null> {
    if (file.front === null) return null;
    const frames = (await this.paths()).filter((path) => this.kindOf(path) === 'frame');
    const named = namedIn(file).frame;
    if (named !== null) return frames.find((path) => basename(path, '.html') === named) ?? null;
    return frames.length === 1 ? (frames[0] ?? null) : null;
  }

  /** The rows of its editions hide what it says itself, and that its data. */
  private async messageScope(path: string, file: MarkupFile): Promise<Shapes> {
    const names = namedIn(file);
    const defaults = textsOf(entryAt((await this.config()).tree, ['defaults', 'data'])?.value).map(({ text }) => text);
    const data = new Map<string, DataShape>();
    for (const text of defaults) add(data, await this.dataShapes(resolve(this.folder, text)));
    for (const { text } of names.data) add(data, await this.dataShapes(await this.resolved(path, text)));
    const own = withOuter(await this.frontValues(path, file), data);
    const known = new Map([messageValues(basename(path, extname(path)), this.nameOf(path))]);
    return withOuter(names.editions === null ? noShapes : await this.editionRow(path, names), withOuter(own, known));
  }

  /** A path counts from the file that names it, or else from the folder of the project. */
  async resolved(from: string, path: string): Promise<string> {
    const beside = resolve(dirname(from), path);
    if (this.texts.has(beside)) return beside;
    return (await exists(beside)) ? beside : resolve(this.folder, path);
  }

  private async editionRow(path: string, names: MessageNames): Promise<Shapes> {
    if (names.editions === null) return noShapes;
    const shapes = await this.dataShapes(await this.resolved(path, names.editions.text));
    const [only] = shapes.values();
    const rows = shapes.size === 1 && only?.item?.fields.size !== 0 ? [only] : [...shapes.values()];
    const row = new Map<string, DataShape>();
    for (const shape of rows) add(row, shape?.item?.fields ?? shape?.fields ?? noShapes);
    const source = await this.source(path);
    const { span } = names.editionName ?? names.editions;
    const [name, edition] = editionValues(this.nameOf(path), source === null ? null : { source, span });
    return row.set(name, edition);
  }

  private async frontValues(path: string, file: MarkupFile): Promise<Shapes> {
    if (file.front?.tree?.kind !== 'map') return noShapes;
    const frame = await this.frameOf(file);
    const framed = frame === null ? null : await this.markup(frame);
    const accepted = framed === null ? [] : acceptedBy(framed).map(({ name }) => name);
    const own = fieldsOfNodes(file.source, `front:${this.nameOf(path)}#`, [file.front.tree]);
    return new Map(
      [...own].map(([name, shape]) => {
        if (framed === null || frame === null || !accepted.includes(name)) return [name, shape];
        const id = `frame:${basename(frame, '.html')}#${name}`;
        return [name, { ...shape, id, places: placesOfAccepted(framed, name) }];
      }),
    );
  }

  /** The values of a data file, by the names that messages see them by. */
  async dataShapes(path: string): Promise<Shapes> {
    const source = await this.source(path);
    if (source === null) return noShapes;
    const known = this.#data.get(source);
    if (known !== undefined) return known;
    const shapes = await this.readData(path, source);
    this.#data.set(source, shapes);
    return shapes;
  }

  private async readData(path: string, source: SourceText): Promise<Shapes> {
    const stem = basename(path, extname(path)).replace(/\W+/g, '_');
    const id = `data:${this.nameOf(path)}#`;
    if (extname(path) === '.csv') return new Map([[stem, tableShape(source, `${id}${stem}`, stem)]]);
    const tree = await this.tree(path);
    if (tree === null || tree.kind === 'scalar') return noShapes;
    if (tree.kind === 'map') return fieldsOfNodes(source, id, [tree]);
    return new Map([[stem, shapeOfNodes({ source, id: id + stem, name: stem, keys: [spanAt(0, 0)], nodes: [tree] })]]);
  }

  /** The names in a file that mean something elsewhere. */
  async symbols(path: string): Promise<readonly CodeSymbol[]> {
    const known = this.#symbols.get(path);
    if (known !== undefined) return known;
    const source = await this.source(path);
    const symbols =
      source === null ? [] : (await this.readSymbols(path, source)).flatMap((item) => asWritten(item, source));
    this.#symbols.set(path, symbols);
    return symbols;
  }

  private async readSymbols(path: string, source: SourceText): Promise<readonly CodeSymbol[]> {
    switch (this.kindOf(path)) {
      case 'message':
      case 'part':
      case 'frame': {
        const file = await this.markup(path);
        return file === null ? [] : markupSymbols(file, await this.scope(path), await this.facts());
      }
      case 'style sheet':
        return this.styleNames(path, source);
      case 'config':
        return configSymbols(await this.config(), (await this.facts()).fields);
      case 'data':
        return [
          ...sampleSymbols(await this.config(), this.nameOf(path), { source, tree: await this.tree(path) }),
          ...[...(await this.dataShapes(path)).values()].flatMap(declarationsOf),
        ];
      case 'dialect':
        return mappedFields(await this.tree(path), (await this.facts()).fields);
      case 'text':
        return this.textSymbols(path, source);
      case null:
        return [];
    }
  }

  /** The text version that an author wrote sees what its message sees. */
  private async textSymbols(path: string, source: SourceText): Promise<readonly CodeSymbol[]> {
    const stem = path.slice(0, -extname(path).length);
    const message = (await this.paths()).find((other) => other === `${stem}.html` || other === `${stem}.md`);
    if (message === undefined) return [];
    return markupSymbols(readMarkupFile(source), await this.scope(message), await this.facts());
  }
}

/** A value that a part or a frame accepts. */
function acceptedShape(
  file: MarkupFile,
  id: string,
  { name, fallback }: { readonly name: string; readonly fallback: string | null },
): DataShape {
  const says = fallback === null ? 'given by each use' : `"${fallback}" where it is not given`;
  return plainShape(id, name, says, placesOfAccepted(file, name));
}

function add(values: Map<string, DataShape>, more: Shapes): void {
  for (const [name, shape] of more) values.set(name, shape);
}

/** A symbol whose span is its very name: where that stands in quotes, what is between them. */
function asWritten(symbol: CodeSymbol, source: SourceText): CodeSymbol[] {
  const { start, end } = symbol.span;
  if (source.text.slice(start, end) === symbol.name || end === start) return [symbol];
  const inner = { start: start + 1, end: end - 1 };
  return source.slice(inner) === symbol.name ? [{ ...symbol, span: inner }] : [symbol];
}
