import { basename, dirname, extname, relative } from 'node:path';
import { simulate } from '../../core/engines/simulate.js';
import type { Finding, Place } from '../../core/findings/finding.js';
import { parseHtml } from '../../core/html/parse.js';
import { elementsOf, firstElement, textContent, type Doc } from '../../core/html/tree.js';
import { printedMarks } from '../../core/html/place-marks.js';
import { plainText } from '../../core/library/plain-text.js';
import { applyEdits, type Edit } from '../../core/text/apply-edits.js';
import type { BenchMessage, ChangedMessage, PreviewPicture, Wall, WallMessage } from '../../core/views/model.js';
import type { View } from '../../core/views/view.js';
import { checkFile } from '../check/check-file.js';
import type { CheckBench } from '../check/check-bench.js';
import { withoutAccepted } from '../check/settle.js';
import { allDialects } from '../config/dialects.js';
import { digestOf } from '../files/digest.js';
import { readTextFile } from '../files/text-file.js';
import { boundsOf, readFinishedPictures } from '../load/finished-pictures.js';
import { mediaTypeOf } from '../load/message-pictures.js';
import { countsOf, describeFindings, stateOf } from './describe-findings.js';
import { linksOf, placeNames } from './describe-page.js';
import { Listeners, PICTURE_PATH, type Looked, type PreviewSource, type ServedPicture } from './preview-source.js';

/** A file of finished HTML, read. */
interface ReadFile {
  readonly page: Page | null;
  readonly findings: readonly Finding[];
  readonly digest: string;
}

interface Page {
  readonly html: string;
  /** With its elements marked, and its pictures where the preview serves them. */
  readonly shown: string;
  readonly doc: Doc;
  readonly places: readonly (Place | null)[];
  readonly pictures: readonly PreviewPicture[];
  /** The full paths of its pictures. */
  readonly files: readonly string[];
  readonly text: string;
}

/** A preview of finished HTML, without a project. */
class FilePreview implements PreviewSource {
  readonly #paths: ReadonlyMap<string, string>;
  readonly #files = new Map<string, Promise<ReadFile>>();
  readonly #last = new Map<string, Page>();
  readonly #pictures = new Map<string, ServedPicture>();
  readonly #listeners = new Listeners();

  /** @param paths the full paths of the files */
  constructor(
    paths: readonly string[],
    private readonly folder: string,
    private readonly checks: CheckBench,
  ) {
    const names = new Map<string, string>();
    for (const path of paths) {
      const name = basename(path).replace(/\.html?$/i, '');
      const twins = [...names.keys()].filter((known) => known === name || known.startsWith(`${name}-`)).length;
      names.set(twins === 0 ? name : `${name}-${twins + 1}`, path);
    }
    this.#paths = names;
  }

  names(): readonly string[] {
    return [...this.#paths.keys()];
  }

  looked(): readonly Looked[] {
    return this.names().map((name) => ({ name, edition: null, destination: null }));
  }

  async findings({ name }: Looked): Promise<readonly Finding[]> {
    return (await this.read(name)).findings;
  }

  /** The folders in which the files and their pictures lie. */
  async folders(): Promise<readonly string[]> {
    const read = await Promise.all(this.names().map((name) => this.read(name)));
    const pictures = read.flatMap(({ page }) => page?.files ?? []);
    return [...new Set([...this.#paths.values(), ...pictures].map((path) => dirname(path)))];
  }

  samples(): readonly string[] {
    return [];
  }

  async wall(): Promise<Wall> {
    const messages = await Promise.all([...this.#paths.keys()].map((name) => this.wallMessage(name)));
    return { project: relative(dirname(this.folder), this.folder), messages };
  }

  private async wallMessage(name: string): Promise<WallMessage> {
    const { page, findings, digest } = await this.read(name);
    const described = describeFindings(findings, [], this.folder);
    return {
      name,
      state: stateOf(described, page !== null),
      subject: page === null ? '' : subjectOf(page.doc),
      topic: null,
      keywords: [],
      editions: [],
      destinations: [],
      weight: page === null ? 0 : Buffer.byteLength(page.html),
      counts: countsOf(described),
      digest,
    };
  }

  async bench({ name }: Looked): Promise<BenchMessage | null> {
    if (!this.#paths.has(name)) return null;
    const { page: current, findings, digest } = await this.read(name);
    const page = current ?? this.#last.get(name) ?? null;
    const described = describeFindings(findings, page?.places ?? [], this.folder);
    return {
      name,
      edition: null,
      editions: [],
      destination: null,
      destinations: [],
      state: stateOf(described, current !== null),
      hasPage: page !== null,
      sender: '',
      subject: page === null ? '' : subjectOf(page.doc),
      preheader: null,
      findings: described,
      text: page?.text ?? '',
      links: page === null ? [] : linksOf(page.doc),
      pictures: page?.pictures ?? [],
      weight: page === null ? 0 : Buffer.byteLength(page.html),
      card: null,
      places: page === null ? [] : placeNames(page.places, (path) => relative(this.folder, path) || path),
      samples: [],
      slices: [],
      digest,
    };
  }

  async frame({ name }: Looked, { engine, scheme, pictures }: View): Promise<string | null> {
    if (!this.#paths.has(name)) return null;
    const { page: current } = await this.read(name);
    const page = current ?? this.#last.get(name) ?? null;
    if (page === null) return null;
    return engine === 'source'
      ? simulate(page.shown, { engine: 'webkit', scheme, pictures }, [])
      : simulate(page.shown, { engine, scheme, pictures }, this.checks.features);
  }

  picture(name: string): ServedPicture | null {
    return this.#pictures.get(name) ?? null;
  }

  listen(listener: (changed: ChangedMessage) => void): () => void {
    return this.#listeners.listen(listener);
  }

  /** What lies beside a file may be a picture or a text of it: all are read again. */
  async change(): Promise<void> {
    for (const name of this.#paths.keys()) {
      const before = await this.read(name);
      this.#files.delete(name);
      const { digest } = await this.read(name);
      if (digest !== before.digest) this.#listeners.tell({ name, digest });
    }
  }

  private read(name: string): Promise<ReadFile> {
    const known = this.#files.get(name);
    if (known !== undefined) return known;
    const read = this.readNow(name);
    this.#files.set(name, read);
    return read;
  }

  private async readNow(name: string): Promise<ReadFile> {
    const path = this.#paths.get(name) ?? '';
    const problems: Finding[] = [];
    const file = await readTextFile(path, path, (item) => problems.push(item));
    if (file === null) return { page: null, findings: problems, digest: String(problems.length) };
    const { source } = file;
    const [bounds, dialects] = await Promise.all([
      boundsOf(path, this.folder),
      allDialects(this.folder, () => undefined),
    ]);
    const setting = { bench: this.checks, dialect: null, dialects, fields: new Map(), bounds, path };
    const { findings } = await checkFile(source, setting);
    const { standing } = withoutAccepted(findings, [source]);
    const { doc } = parseHtml(source, []);
    const { references, local } = await readFinishedPictures(doc, bounds, () => undefined);
    const served = new Map<string, string>();
    const pictures: PreviewPicture[] = [];
    for (const [address, { bytes, facts }] of local) {
      const picture = `${digestOf(bytes).slice(0, 12)}${extname(address.replace(/[?#].*$/, ''))}`;
      this.#pictures.set(picture, { bytes, type: mediaTypeOf(facts.format) });
      served.set(address, PICTURE_PATH + picture);
      const { width, height } = facts;
      const sizes = { width, height, shown: null, bytes: bytes.length, bytesBefore: bytes.length };
      pictures.push({ name: address, address: PICTURE_PATH + picture, ...sizes });
    }
    const moved = references.flatMap(({ path: address, span }): Edit[] => {
      const to = served.get(address);
      return to === undefined ? [] : [{ span, text: to }];
    });
    const elements = [...elementsOf(doc.root)];
    const page: Page = {
      html: source.text,
      shown: applyEdits(source.text, [...moved, ...printedMarks(doc)]).text,
      doc,
      places: elements.map(({ startTag }) => (startTag === null ? null : { source, span: startTag })),
      pictures,
      files: [...local.values()].map(({ file: path }) => path),
      text: plainText(source, { dialects }).value,
    };
    this.#last.set(name, page);
    const names = [...served.values()].join('\n');
    return { page, findings: standing, digest: digestOf(Buffer.from(`${source.text}\n${names}`)).slice(0, 16) };
  }
}

function subjectOf({ root }: Doc): string {
  const title = firstElement(root, 'title');
  return title === null ? '' : textContent(title).replace(/\s+/g, ' ').trim();
}

/** A preview of files of finished HTML. Null, and reported, where one of them cannot be read. */
export async function filePreview(
  paths: readonly string[],
  folder: string,
  checks: CheckBench,
  report: (item: Finding) => void,
): Promise<FilePreview | null> {
  const read = await Promise.all(paths.map((path) => readTextFile(path, relative(folder, path), report)));
  return read.includes(null) ? null : new FilePreview(paths, folder, checks);
}
