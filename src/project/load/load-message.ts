import { dirname, join } from 'node:path';
import { adviceForName, finding, isError, type Finding, type Report } from '../../core/findings/finding.js';
import { nearestName } from '../../core/text/nearest.js';
import type { PageContent } from '../../core/template/expansion.js';
import {
  readHtmlMessage,
  readMarkdownBody,
  readMarkdownHead,
  reportCycles,
  type FrontMatterText,
  type NamedFile,
} from '../../core/template/message-template.js';
import type { Part, Template } from '../../core/template/nodes.js';
import type { Unsound } from '../../core/template/parse-template.js';
import { readFrame, readPart } from '../../core/template/read-part.js';
import { readLine } from '../../core/template/read-values.js';
import type { BuildRecord, BuildValue } from '../../core/expressions/values.js';
import { SourceText } from '../../core/text/source-text.js';
import { spanAt } from '../../core/text/span.js';
import type { Config } from '../config/config.js';
import { loadDataFile, namedData, type DataFile } from './data-files.js';
import type { FileLog } from '../files/file-log.js';
import { isInside } from '../files/inside.js';
import type { TextFile } from '../files/text-file.js';
import { htmlNames, type MessageFile } from './message-names.js';
import type { NamedPicture } from './message-pictures.js';
import { withSlicedPictures } from './sliced-pictures.js';
import { readFrontMatter, type FrontMatter } from './front-matter.js';

/** A message as a template, with all that it is expanded with. */
export interface LoadedMessage {
  readonly name: string;
  /** The full path of its file. */
  readonly path: string;
  readonly source: SourceText;
  readonly page: Template;
  /** For a Markdown message what goes into its frame. */
  readonly content: PageContent | null;
  readonly language: string;
  /** The data that it sees. */
  readonly values: BuildRecord;
  readonly parts: ReadonlyMap<string, Part>;
  readonly editions: { readonly file: DataFile; readonly named: NamedFile; readonly pattern: Template | null } | null;
  /** The text version that its author wrote in a file of its own; null where there is none. */
  readonly writtenText: Template | null;
  /** The slices of its sliced pictures, by the paths that their tables give. */
  readonly slices: ReadonlyMap<string, NamedPicture>;
}

/** How a message is read. */
export interface MessageReading {
  readonly files: FileLog;
  /** Whether it is read on behind an error, as well as it can be. */
  readonly goesOn?: boolean;
}

/** Loads a message with its data, its frame and its parts. Null where what is wrong leaves nothing to expand. */
export async function loadMessage(
  file: MessageFile,
  config: Config,
  reading: MessageReading,
  report: Report,
): Promise<LoadedMessage | null> {
  return new Loader(file, config, reading, report).load();
}

type Read = Omit<
  LoadedMessage,
  'name' | 'path' | 'source' | 'parts' | 'editions' | 'values' | 'slices' | 'writtenText'
> & {
  readonly data: readonly NamedFile[];
  readonly own: BuildRecord;
  readonly editions: NamedFile | null;
  readonly editionName: Template | null;
};

class Loader {
  #failed = false;
  readonly #slices = new Map<string, NamedPicture>();
  private readonly files: FileLog;
  private readonly goesOn: boolean;
  private readonly unsound: Unsound;

  constructor(
    private readonly file: MessageFile,
    private readonly config: Config,
    { files, goesOn = false }: MessageReading,
    private readonly given: Report,
  ) {
    this.files = files;
    this.goesOn = goesOn;
    this.unsound = goesOn ? 'mended' : 'refused';
  }

  async load(): Promise<LoadedMessage | null> {
    const file = await this.read(this.file.path);
    if (file === null) return null;
    if (file.source.text.trim() === '')
      return this.report(finding('file-empty', { source: file.source, span: spanAt(0, 0) }));
    const source = await this.sliced(file.source);
    const read = this.file.path.endsWith('.md') ? await this.readMarkdown(source) : this.readHtml(source);
    if (read === null) return null;
    const parts = await this.loadParts(read);
    const data = await this.loadData(read.data);
    const editions = await this.loadEditions(read);
    const writtenText = await this.loadWrittenText();
    if (this.#failed && !this.goesOn) return null;
    const values = new Map<string, BuildValue>([...data, ...read.own]);
    const { page, content, language } = read;
    return {
      ...this.file,
      source,
      page,
      content,
      language,
      values,
      parts,
      editions,
      writtenText,
      slices: this.#slices,
    };
  }

  private readonly report = (item: Finding): null => {
    if (isError(item)) this.#failed = true;
    this.given(item);
    return null;
  };

  /** A file of the project's own; a symbolic link out of it is not followed. */
  private async read(path: string, report: Report = this.report): Promise<TextFile | null> {
    if (isInside(path, this.config.folder)) return this.files.text(path, report);
    report(finding('file-outside', null, { path }));
    return null;
  }

  /** The same; that there is no such file is not reported. */
  private async readIfThere(path: string): Promise<TextFile | null> {
    return this.read(path, (problem) => {
      if (problem.code !== 'file-missing') this.report(problem);
    });
  }

  /** A source with tables in the place of its sliced pictures. */
  private async sliced(source: SourceText): Promise<SourceText> {
    const folders = { message: dirname(this.file.path), project: this.config.folder };
    const result = await withSlicedPictures(source, folders, this.files, this.report);
    for (const [path, picture] of result.slices) this.#slices.set(path, picture);
    return result.source;
  }

  private readHtml(source: SourceText): Read | null {
    const message = readHtmlMessage(source, this.report, this.unsound);
    return message === null ? null : { ...message, content: null, own: new Map() };
  }

  private async readMarkdown(source: SourceText): Promise<Read | null> {
    const frames = await htmlNames(this.config.folder, 'frames');
    const front = readFrontMatter(source, frames, this.report);
    if (front === null) return null;
    const frame = await this.loadFrame(front, frames);
    const body = readMarkdownBody(source, front.body, this.report, this.unsound);
    if (frame === null || body === null) return null;
    const { subject, metas, editionName, values } = front;
    const head =
      subject === null && metas.length === 0 ? null : readMarkdownHead(source.name, subject, metas, this.report);
    return {
      page: frame.page,
      content: {
        head,
        replacesTitle: subject !== null,
        body,
        lines: new Map(front.lines.map(([key, value]) => [key, this.readPattern(value)])),
      },
      language: front.language ?? frame.language ?? 'en',
      own: new Map([...frame.defaults, ...values]),
      data: front.data,
      editions: front.editions,
      editionName: editionName === null ? null : this.readPattern(editionName),
    };
  }

  /** A pattern of the front matter, whose text may stand in quotes. */
  private readPattern({ text, place: { source, span } }: FrontMatterText): Template {
    const start = source.text.indexOf(text, span.start);
    return start >= 0 && start + text.length <= span.end
      ? readLine(source, spanAt(start, text.length), this.report)
      : readLine(new SourceText(source.name, text), spanAt(0, text.length), this.report);
  }

  private async loadFrame(
    { frame, values, place }: FrontMatter,
    known: readonly string[],
  ): Promise<{ page: Template; defaults: BuildRecord; language: string | null } | null> {
    const name = frame?.text ?? (known.length === 1 ? (known[0] ?? '') : '');
    if (name === '') {
      const advice = known.length === 0 ? 'Frames are HTML files in frames/.' : `Known are: ${known.join(', ')}.`;
      return this.report(finding('frame-unnamed', place, { example: known[0] ?? 'letterhead', advice }));
    }
    const path = join(this.config.folder, 'frames', `${name}.html`);
    const advice = adviceForName(nearestName(name, known), known, `Write it into frames/${name}.html.`);
    const unknown = finding('unknown-frame', frame?.place ?? place, { name, advice });
    const file = await this.read(path, (problem) => this.report(problem.code === 'file-missing' ? unknown : problem));
    if (file === null) return null;
    const read = readFrame(await this.sliced(file.source), this.report, this.unsound);
    if (read === null) return null;
    for (const accepted of read.accepts)
      if (accepted.fallback === null && !values.has(accepted.name))
        this.report(finding('frame-value-missing', place, { frame: name, name: accepted.name }));
    const defaults = new Map(read.accepts.map(({ name: key, fallback }) => [key, fallback]));
    return { page: read.template, defaults, language: read.language };
  }

  /** All parts that the message uses, and those that they use. */
  private async loadParts({ page, content }: Read): Promise<Map<string, Part>> {
    const parts = new Map<string, Part>();
    const queue = [page, content?.body, content?.head]
      .flatMap((template) => template?.uses ?? [])
      .map(({ tag }) => tag);
    const seen = new Set<string>();
    for (let tag = queue.shift(); tag !== undefined; tag = queue.shift()) {
      if (seen.has(tag)) continue;
      seen.add(tag);
      const path = join(this.config.folder, 'parts', `${tag}.html`);
      // That there is no such part is said where it is used.
      const file = await this.readIfThere(path);
      const part = file === null ? null : readPart(await this.sliced(file.source), tag, this.report, this.unsound);
      if (part === null) continue;
      parts.set(tag, part);
      queue.push(...part.template.uses.map((use) => use.tag));
    }
    reportCycles(parts, this.report);
    return parts;
  }

  /** `messages/<name>.txt`, beside the message. */
  private async loadWrittenText(): Promise<Template | null> {
    const path = join(dirname(this.file.path), `${this.file.name}.txt`);
    const file = await this.readIfThere(path);
    if (file === null) return null;
    if (file.source.text.trim() !== '') return readLine(file.source, spanAt(0, file.source.text.length), this.report);
    return this.report(finding('text-empty', { source: file.source, span: spanAt(0, 0) }));
  }

  private async loadData(named: readonly NamedFile[]): Promise<Map<string, BuildValue>> {
    const values = new Map<string, BuildValue>();
    const all = [
      ...this.config.defaults.data.map((file) => ({ file, folder: this.config.folder })),
      ...named.map((file) => ({ file, folder: dirname(this.file.path) })),
    ];
    for (const { file, folder } of all) {
      const data = await loadDataFile(file, folder, this.config.folder, this.files, this.report);
      if (data !== null) for (const [key, value] of namedData(data)) values.set(key, value);
    }
    return values;
  }

  private async loadEditions({ editions, editionName }: Read): Promise<LoadedMessage['editions']> {
    if (editions === null) return null;
    const { folder } = this.config;
    const file = await loadDataFile(editions, dirname(this.file.path), folder, this.files, this.report);
    return file === null ? null : { file, named: editions, pattern: editionName };
  }
}
