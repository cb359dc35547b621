import { createHash } from 'node:crypto';
import { readdir, readFile, realpath } from 'node:fs/promises';
import { basename, dirname, extname, join, relative, resolve, sep } from 'node:path';
import { finding, type Finding, type Report } from '../core/finding.js';
import type { PictureSize } from '../core/layout/emit.js';
import { backgroundPictures } from '../core/source/background-pictures.js';
import type { MessageSource, Reference } from '../core/source/read-message.js';
import type { SourceText } from '../core/text/source-text.js';
import { readPictureSize } from '../pictures/read-picture.js';
import { describeError, errorCode, readTextFile } from './text-file.js';

/** A picture of a message, read. */
export interface PictureFile {
  readonly bytes: Uint8Array;
  readonly size: PictureSize;
  /** Its name in a package: readable, and new whenever the content is. */
  readonly outputName: string;
}

/** What a message's references came to, by the paths that the message gives. */
export interface LoadedFiles {
  readonly styleSheets: ReadonlyMap<string, SourceText>;
  readonly pictures: ReadonlyMap<string, PictureFile>;
}

/** The names of a project's messages, sorted. */
export async function messageNames(projectFolder: string): Promise<string[]> {
  const entries = await readdir(join(projectFolder, 'messages')).catch(() => []);
  return entries
    .filter((entry) => entry.endsWith('.html'))
    .map((entry) => entry.slice(0, -'.html'.length))
    .sort();
}

/** Reads the style sheets and pictures that a message names; what is missing is reported where it is named. */
export async function loadMessageFiles(
  message: MessageSource,
  messagePath: string,
  projectFolder: string,
  report: Report,
): Promise<LoadedFiles> {
  const reader = new ReferenceReader(dirname(messagePath), projectFolder, report);
  const styleSheets = new Map<string, SourceText>();
  for (const sheet of message.sheets) {
    const source = sheet.kind === 'linked' ? await reader.styleSheet(sheet) : null;
    if (sheet.kind === 'linked' && source !== null) styleSheets.set(sheet.path, source);
  }
  const pictures = new Map<string, PictureFile>();
  const backgrounds = backgroundPictures(message, (path) => styleSheets.get(path) ?? null);
  for (const reference of [...message.pictures, ...backgrounds]) {
    if (pictures.has(reference.path) || isElsewhere(reference.path)) continue;
    const picture = await reader.picture(reference);
    if (picture !== null) pictures.set(reference.path, picture);
  }
  return { styleSheets, pictures };
}

/** Addresses on the web, data URLs, parts of a mail, and paths that a merge tag fills in name no file here. */
function isElsewhere(path: string): boolean {
  return /^(?:[a-z][a-z\d+.-]*:|\/\/)/i.test(path) || path.includes('\uFDD0');
}

class ReferenceReader {
  constructor(
    private readonly folder: string,
    private readonly projectFolder: string,
    private readonly report: Report,
  ) {}

  async styleSheet(reference: Reference): Promise<SourceText | null> {
    if (isElsewhere(reference.path)) return this.fail('style-sheet-remote', reference);
    const path = this.resolve(reference);
    if (!(await this.isInside(path))) return this.fail('style-sheet-outside', reference);
    const { file, finding: unreadable } = await readTextFile(path, relative(process.cwd(), path));
    if (file !== null) return file.source;
    if (unreadable.code === 'file-missing') return this.fail('style-sheet-missing', reference);
    this.report(unreadable.place === null ? { ...unreadable, place: reference.place } : unreadable);
    return null;
  }

  async picture(reference: Reference): Promise<PictureFile | null> {
    const path = this.resolve(reference);
    if (!(await this.isInside(path))) return this.fail('picture-outside', reference);
    const bytes = await this.pictureBytes(path, reference);
    if (bytes === null) return null;
    const { size, detail } = await readPictureSize(bytes);
    if (size === null) return this.fail('picture-unreadable', reference, { detail });
    return { bytes, size, outputName: outputName(path, bytes) };
  }

  private async pictureBytes(path: string, reference: Reference): Promise<Uint8Array | null> {
    try {
      return await readFile(path);
    } catch (error) {
      if (errorCode(error) === 'ENOENT') return this.fail('picture-missing', reference);
      return this.fail('picture-unreadable', reference, { detail: describeError(error) });
    }
  }

  private resolve({ path }: Reference): string {
    const bare = path.replace(/[?#].*$/, '');
    try {
      return resolve(this.folder, decodeURIComponent(bare));
    } catch {
      return resolve(this.folder, bare);
    }
  }

  /** Neither `..` nor a symbolic link may lead out of the project. */
  private async isInside(path: string): Promise<boolean> {
    const root = await realpath(this.projectFolder);
    const real = await realpath(path).catch(() => path);
    return real.startsWith(root + sep) || (real === path && path.startsWith(this.projectFolder + sep));
  }

  private fail(code: Finding['code'], reference: Reference, data: Readonly<Record<string, string>> = {}): null {
    this.report(finding(code, reference.place, { path: reference.path, ...data }));
    return null;
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

/** The SHA-256 of bytes, in hexadecimal. */
export function digestOf(bytes: Uint8Array): string {
  return createHash('sha256').update(bytes).digest('hex');
}
