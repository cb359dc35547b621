import { readFile } from 'node:fs/promises';
import { basename, dirname, extname, join, posix } from 'node:path';
import { finding, type Report } from '../../core/findings/finding.js';
import { isElsewhere, plainPath } from '../../core/pictures/local-path.js';
import { SourceText } from '../../core/text/source-text.js';
import { readMail } from '../../mail/read-mail.js';
import { isInside } from '../files/inside.js';
import { decodeText, describeError, readFailure } from '../files/text-file.js';

/** A finished message that was brought from elsewhere. */
export interface ForeignMessage {
  readonly source: SourceText;
  /** The subject, where the file says it apart from the HTML. */
  readonly subject: string | null;
  /** A file that the HTML names by an address; null where it is none that came along. */
  readonly file: (address: string) => Promise<ForeignFile | null>;
}

export interface ForeignFile {
  /** A name for it, without folders. */
  readonly name: string;
  readonly bytes: Uint8Array;
}

/** More than this no message has, unpacked. */
const LARGEST_PACKAGE = 200_000_000;

/** Reads finished HTML: a file with its pictures beside it, a zip of both, or a mail. What is none is reported, and null. */
export async function readForeignMessage(path: string, shown: string, report: Report): Promise<ForeignMessage | null> {
  let bytes: Uint8Array;
  try {
    bytes = await readFile(path);
  } catch (error) {
    report(readFailure(error, shown));
    return null;
  }
  const kind = extname(path).toLowerCase();
  if (kind === '.zip') return fromZip(bytes, shown, report);
  if (kind === '.eml') return fromMail(bytes, shown, report);
  const file = decodeText(bytes, shown, report);
  return file === null ? null : { source: file.source, subject: null, file: besideFile(dirname(path)) };
}

/** Files beside the HTML; those that lie elsewhere are not this message's to take. */
function besideFile(folder: string): ForeignMessage['file'] {
  return async (address) => {
    if (isElsewhere(address)) return null;
    const path = join(folder, plainPath(address));
    if (!isInside(path, folder)) return null;
    const bytes = await readFile(path).catch(() => null);
    return bytes === null ? null : { name: basename(path), bytes };
  };
}

/** More files than this no message has. A damaged zip may claim billions. */
const MOST_FILES = 10_000;

/** The files of a zip, by their paths. Throws, in words for the user, where it is damaged or larger than any message. */
async function unpack(bytes: Uint8Array): Promise<Map<string, Uint8Array>> {
  const { unzipSync } = await import('fflate');
  if (isZip64(bytes)) throw new Error('it is a ZIP64, which only packages of more than 4 GB need');
  let total = 0;
  let count = 0;
  const entries = unzipSync(bytes, {
    filter: ({ originalSize, size }) => {
      total += originalSize;
      count += 1;
      if (total > LARGEST_PACKAGE) throw new Error('it unpacks to more than 200 MB');
      if (count > MOST_FILES) throw new Error('it is damaged, or holds more than 10,000 files');
      if (size > bytes.length) throw new Error('it is damaged: a file in it is larger than the zip');
      return true;
    },
  });
  return new Map(
    Object.entries(entries).map(([name, content]) => [posix.normalize(name.replaceAll('\\', '/')), content]),
  );
}

/** Whether the zip says that its sizes take 64 bits (APPNOTE 4.3.15). In a damaged one the unpacker would look for them for ever. */
function isZip64(bytes: Uint8Array): boolean {
  const buffer = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const end = buffer.lastIndexOf('PK\x05\x06', undefined, 'latin1');
  return end >= 20 && buffer.toString('latin1', end - 20, end - 16) === 'PK\x06\x07';
}

async function fromZip(bytes: Uint8Array, shown: string, report: Report): Promise<ForeignMessage | null> {
  const fail = (detail: string): null => {
    report(finding('adopt-unreadable', null, { path: shown, detail }));
    return null;
  };
  const files = await unpack(bytes).catch((error: unknown) => describeError(error));
  if (typeof files === 'string') return fail(files);
  const pages = [...files.keys()]
    .filter((name) => /\.html?$/i.test(name) && !/^(?:__MACOSX|\.)/.test(name))
    .sort((a, b) => Number(!/index\.html?$/i.test(a)) - Number(!/index\.html?$/i.test(b)) || a.length - b.length);
  const [page] = pages;
  const content = page === undefined ? undefined : files.get(page);
  if (page === undefined || content === undefined) return fail('it holds no HTML file');
  const file = decodeText(content, `${shown}:${page}`, report);
  if (file === null) return null;
  const folder = posix.dirname(page);
  return {
    source: file.source,
    subject: null,
    file: (address) => {
      const path = posix.normalize(posix.join(folder, plainPath(address)));
      const found = isElsewhere(address) ? undefined : files.get(path);
      return Promise.resolve(found === undefined ? null : { name: posix.basename(path), bytes: found });
    },
  };
}

async function fromMail(bytes: Uint8Array, shown: string, report: Report): Promise<ForeignMessage | null> {
  const mail = await readMail(bytes).catch((error: unknown) => describeError(error));
  const html = typeof mail === 'string' || mail.html?.trim() === '' ? null : mail.html;
  if (typeof mail === 'string' || html === null) {
    const detail = typeof mail === 'string' ? mail : 'it holds no HTML';
    report(finding('adopt-unreadable', null, { path: shown, detail }));
    return null;
  }
  return {
    source: new SourceText(shown, html),
    subject: mail.subject,
    file: (address) => {
      const id = /^cid:(.+)$/i.exec(address)?.[1];
      const part = mail.parts.find(({ contentId }) => id !== undefined && contentId === plainPath(id));
      if (part === undefined) return Promise.resolve(null);
      const kind = (part.type.split('/')[1] ?? 'bin').replace(/\+.*$/, '').replace('jpeg', 'jpg');
      return Promise.resolve({ name: basename(part.name ?? `${id ?? 'picture'}.${kind}`), bytes: part.bytes });
    },
  };
}
