import { isUtf8 } from 'node:buffer';
import { finding, type Finding, type Report } from '../../core/findings/finding.js';
import { SourceText } from '../../core/text/source-text.js';
import { fromDisk, type ReadBytes } from './read-bytes.js';
import { spanAt } from '../../core/text/span.js';

/** A text file as read: the text without a byte order mark, and whether it had one. */
export interface TextFile {
  readonly source: SourceText;
  readonly hasByteOrderMark: boolean;
}

/** Reads a text file; findings call it by its name. What cannot be read, or is not UTF-8, is reported, and null. */
export async function readTextFile(
  path: string,
  name: string,
  report: Report,
  read: ReadBytes = fromDisk,
): Promise<TextFile | null> {
  try {
    return decodeText(await read(path), name, report);
  } catch (error) {
    report(readFailure(error, name));
    return null;
  }
}

/** The finding for a file that could not be read. */
export function readFailure(error: unknown, name: string): Finding {
  const code = errorCode(error);
  if (code === 'ENOENT' || code === 'ENOTDIR') return finding('file-missing', null, { path: name });
  return finding('file-unreadable', null, { path: name, detail: describeError(error) });
}

/** Decodes the bytes of a text file as UTF-8; null, and reported, where they are none. */
export function decodeText(bytes: Uint8Array, name: string, report: Report): TextFile | null {
  const utf16 =
    bytes.length >= 2 && ((bytes[0] === 0xff && bytes[1] === 0xfe) || (bytes[0] === 0xfe && bytes[1] === 0xff));
  if (utf16) {
    const place = { source: new SourceText(name, ''), span: spanAt(0, 0) };
    report(finding('not-utf8', place, { detail: 'it is UTF-16' }));
    return null;
  }
  const lossy = new TextDecoder('utf-8').decode(bytes);
  if (!isUtf8(bytes)) {
    const at = lossy.indexOf('\ufffd');
    const place = { source: new SourceText(name, lossy), span: { start: at, end: at + 1 } };
    report(finding('not-utf8', place, { detail: 'here stands a byte that no UTF-8 text has (is it Latin-1?)' }));
    return null;
  }
  const hasByteOrderMark = bytes.length >= 3 && bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf;
  return { source: new SourceText(name, lossy), hasByteOrderMark };
}

/** A system error in words. */
export function describeError(error: unknown): string {
  const words: Readonly<Record<string, string>> = {
    EACCES: 'there is no permission',
    EPERM: 'there is no permission',
    EROFS: 'the file system is read-only',
    ENOSPC: 'the disk is full',
    ENOENT: 'there is no such place',
    EISDIR: 'it is a folder',
    ENOTDIR: 'part of the path is no folder',
    EEXIST: 'something else is there',
    ENAMETOOLONG: 'the name is too long',
    ELOOP: 'its symbolic links go in circles',
  };
  const code = errorCode(error);
  return words[code] ?? (error instanceof Error ? error.message : String(error));
}

/** The code of a system error (`ENOENT`), or an empty text. */
export function errorCode(error: unknown): string {
  const code = typeof error === 'object' && error !== null && 'code' in error ? error.code : '';
  return typeof code === 'string' ? code : '';
}
