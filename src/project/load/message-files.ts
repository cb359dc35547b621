import { basename, dirname, resolve } from 'node:path';
import { finding, type Report, type FindingCode } from '../../core/findings/finding.js';
import { isElsewhere, plainPath } from '../../core/pictures/local-path.js';
import { backgroundPictures } from '../../core/message/background-pictures.js';
import type { MessageSource, Reference } from '../../core/message/read-message.js';
import type { SourceText } from '../../core/text/source-text.js';
import { inspectPicture } from '../../pictures/inspect-picture.js';
import { readPictureFile, type PictureProblem } from './read-picture-file.js';
import { reportKind, type NamedPicture, type PictureFile } from './message-pictures.js';
import type { FileLog } from '../files/file-log.js';
import { isInside } from '../files/inside.js';

/** What a message's references came to, by the paths that the message gives. */
export interface LoadedFiles {
  readonly styleSheets: ReadonlyMap<string, SourceText>;
  readonly pictures: ReadonlyMap<string, NamedPicture>;
  readonly attachments: readonly AttachedFile[];
}

/** A file that travels with a message. */
export interface AttachedFile {
  readonly name: string;
  readonly bytes: Uint8Array;
}

/** Reads the style sheets and pictures that a message names; each is read once, however many editions there are. */
export class ReferenceReader {
  readonly #folder: string;
  readonly #styleSheets = new Map<string, SourceText>();
  readonly #pictures = new Map<string, Promise<PictureFile | PictureProblem>>();

  constructor(
    messagePath: string,
    private readonly projectFolder: string,
    private readonly files: FileLog,
  ) {
    this.#folder = dirname(messagePath);
  }

  /** What is missing is reported where it is named. */
  async load(message: MessageSource, report: Report): Promise<LoadedFiles> {
    const styleSheets = new Map<string, SourceText>();
    for (const link of message.styleLinks) {
      const source = await this.styleSheet(link, report);
      if (source !== null) styleSheets.set(link.path, source);
    }
    const pictures = new Map<string, NamedPicture>();
    const backgrounds = backgroundPictures(message, (path) => styleSheets.get(path) ?? null);
    for (const reference of [...message.pictures, ...backgrounds]) {
      if (pictures.has(reference.path) || isElsewhere(reference.path)) continue;
      const picture = await this.picture(reference);
      if ('bytes' in picture) {
        pictures.set(reference.path, { ...picture, place: reference.place });
        reportKind(picture, reference.path, reference.place, report);
      } else report(finding(picture.code, reference.place, { path: reference.path, ...picture.data }));
    }
    return { styleSheets, pictures, attachments: await this.attachments(message, report) };
  }

  private async attachments(message: MessageSource, report: Report): Promise<AttachedFile[]> {
    const attached: AttachedFile[] = [];
    for (const reference of message.attachments) {
      const path = this.resolve(reference);
      const name = basename(path);
      const isTwice = attached.some((other) => other.name === name);
      const bytes = isInside(path, this.projectFolder) ? await this.files.bytes(path).catch(() => null) : null;
      if (bytes === null) report(finding('attachment-missing', reference.place, { path: reference.path }));
      else if (isTwice) report(finding('attachment-twice', reference.place, { name }));
      else attached.push({ name, bytes });
    }
    return attached;
  }

  private async styleSheet(reference: Reference, report: Report): Promise<SourceText | null> {
    const fail = (code: FindingCode): null => {
      report(finding(code, reference.place, { path: reference.path }));
      return null;
    };
    if (isElsewhere(reference.path)) return fail('style-sheet-remote');
    const path = this.resolve(reference);
    const known = this.#styleSheets.get(path);
    if (known !== undefined) return known;
    if (!isInside(path, this.projectFolder)) return fail('style-sheet-outside');
    const file = await this.files.text(path, (problem) => {
      if (problem.code === 'file-missing') fail('style-sheet-missing');
      else report(problem.place === null ? { ...problem, place: reference.place } : problem);
    });
    if (file !== null) this.#styleSheets.set(path, file.source);
    return file?.source ?? null;
  }

  private async picture(reference: Reference): Promise<PictureFile | PictureProblem> {
    const path = this.resolve(reference);
    const known = this.#pictures.get(path);
    if (known !== undefined) return known;
    const reading = this.readPicture(path);
    this.#pictures.set(path, reading);
    return reading;
  }

  private async readPicture(path: string): Promise<PictureFile | PictureProblem> {
    const bounds = { root: this.projectFolder, rootName: 'the project' };
    let problem: PictureProblem = { code: 'picture-missing', data: {} };
    const refuse = (told: PictureProblem): null => {
      problem = told;
      return null;
    };
    const bytes = await readPictureFile(path, bounds, (file) => this.files.bytes(file), refuse);
    const facts =
      bytes === null
        ? null
        : await inspectPicture(bytes, (detail) => refuse({ code: 'picture-unreadable', data: { detail } }));
    return bytes === null || facts === null ? problem : { file: path, bytes, facts };
  }

  private resolve({ path }: Reference): string {
    return resolve(this.#folder, plainPath(path));
  }
}
