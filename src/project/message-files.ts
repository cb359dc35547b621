import { basename, dirname, extname, relative, resolve } from 'node:path';
import { finding, type Finding, type Report } from '../core/finding.js';
import type { PictureSize } from '../core/layout/emit.js';
import { backgroundPictures } from '../core/source/background-pictures.js';
import type { MessageSource, Reference } from '../core/source/read-message.js';
import type { SourceText } from '../core/text/source-text.js';
import { readPictureSize } from '../pictures/read-picture.js';
import { digestOf } from './digest.js';
import type { FileLog } from './file-log.js';
import { isInside } from './inside.js';
import { describeError, errorCode } from './text-file.js';

/** A picture of a message, read. */
export interface PictureFile {
  readonly bytes: Uint8Array;
  readonly size: PictureSize;
  /** Its name in a package: readable, and new whenever the content is. */
  readonly outputName: string;
}

/** Why a picture cannot be used. */
interface Problem {
  readonly code: Finding['code'];
  readonly data: Readonly<Record<string, string>>;
}

/** What a message's references came to, by the paths that the message gives. */
export interface LoadedFiles {
  readonly styleSheets: ReadonlyMap<string, SourceText>;
  readonly pictures: ReadonlyMap<string, PictureFile>;
  readonly attachments: readonly AttachedFile[];
}

/** A file that travels with a message. */
export interface AttachedFile {
  readonly name: string;
  readonly bytes: Uint8Array;
}

/** Addresses on the web, data URLs, parts of a mail, and paths that a merge tag fills in name no file here. */
function isElsewhere(path: string): boolean {
  return /^(?:[a-z][a-z\d+.-]*:|\/\/)/i.test(path) || path.includes('\uFDD0');
}

/** Reads the style sheets and pictures that a message names; each is read once, however many editions there are. */
export class ReferenceReader {
  readonly #folder: string;
  readonly #styleSheets = new Map<string, SourceText>();
  readonly #pictures = new Map<string, Promise<PictureFile | Problem>>();

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
    for (const sheet of message.sheets) {
      const source = sheet.kind === 'linked' ? await this.styleSheet(sheet, report) : null;
      if (sheet.kind === 'linked' && source !== null) styleSheets.set(sheet.path, source);
    }
    const pictures = new Map<string, PictureFile>();
    const backgrounds = backgroundPictures(message, (path) => styleSheets.get(path) ?? null);
    for (const reference of [...message.pictures, ...backgrounds]) {
      if (pictures.has(reference.path) || isElsewhere(reference.path)) continue;
      const picture = await this.picture(reference);
      if ('bytes' in picture) pictures.set(reference.path, picture);
      else report(finding(picture.code, reference.place, { path: reference.path, ...picture.data }));
    }
    return { styleSheets, pictures, attachments: await this.attachments(message, report) };
  }

  private async attachments(message: MessageSource, report: Report): Promise<AttachedFile[]> {
    const attached: AttachedFile[] = [];
    for (const reference of message.attachments) {
      const path = this.resolve(reference);
      const name = basename(path);
      const isTwice = attached.some((other) => other.name === name);
      const bytes = (await isInside(path, this.projectFolder)) ? await this.files.bytes(path).catch(() => null) : null;
      if (bytes === null) report(finding('attachment-missing', reference.place, { path: reference.path }));
      else if (isTwice) report(finding('attachment-twice', reference.place, { name }));
      else attached.push({ name, bytes });
    }
    return attached;
  }

  private async styleSheet(reference: Reference, report: Report): Promise<SourceText | null> {
    const fail = (code: Finding['code']): null => {
      report(finding(code, reference.place, { path: reference.path }));
      return null;
    };
    if (isElsewhere(reference.path)) return fail('style-sheet-remote');
    const path = this.resolve(reference);
    const known = this.#styleSheets.get(path);
    if (known !== undefined) return known;
    if (!(await isInside(path, this.projectFolder))) return fail('style-sheet-outside');
    const { file, finding: unreadable } = await this.files.text(path, relative(process.cwd(), path));
    if (file !== null) {
      this.#styleSheets.set(path, file.source);
      return file.source;
    }
    if (unreadable.code === 'file-missing') return fail('style-sheet-missing');
    report(unreadable.place === null ? { ...unreadable, place: reference.place } : unreadable);
    return null;
  }

  private async picture(reference: Reference): Promise<PictureFile | Problem> {
    const path = this.resolve(reference);
    const known = this.#pictures.get(path);
    if (known !== undefined) return known;
    const reading = this.readPicture(path);
    this.#pictures.set(path, reading);
    return reading;
  }

  private async readPicture(path: string): Promise<PictureFile | Problem> {
    if (!(await isInside(path, this.projectFolder))) return { code: 'picture-outside', data: {} };
    try {
      const bytes = await this.files.bytes(path);
      const { size, detail } = await readPictureSize(bytes);
      if (size === null) return { code: 'picture-unreadable', data: { detail } };
      return { bytes, size, outputName: outputName(path, bytes) };
    } catch (error) {
      if (errorCode(error) === 'ENOENT') return { code: 'picture-missing', data: {} };
      return { code: 'picture-unreadable', data: { detail: describeError(error) } };
    }
  }

  private resolve({ path }: Reference): string {
    const bare = path.replace(/[?#].*$/, '');
    try {
      return resolve(this.#folder, decodeURIComponent(bare));
    } catch {
      return resolve(this.#folder, bare);
    }
  }
}

function outputName(path: string, bytes: Uint8Array): string {
  const extension = extname(path).toLowerCase();
  const stem = basename(path, extname(path))
    .normalize('NFKD')
    .replace(/[^\w-]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .toLowerCase();
  return `${stem === '' ? 'picture' : stem}-${digestOf(bytes).slice(0, 8)}${extension}`;
}
