import { fileURLToPath, pathToFileURL } from 'node:url';
import { TextDocument } from 'vscode-languageserver-textdocument';
import type { Range } from 'vscode-languageserver/node';
import type { SourceText } from '../core/text/source-text.js';
import type { Span } from '../core/text/span.js';

/** The path of a document; null for one that is no file. */
export function pathOf(uri: string): string | null {
  try {
    return uri.startsWith('file:') ? fileURLToPath(uri) : null;
  } catch {
    // An address of a file on another machine.
    return null;
  }
}

/** The address of a file. */
export function uriOf(path: string): string {
  return pathToFileURL(path).href;
}

const documents = new WeakMap<SourceText, TextDocument>();

/** A span as lines and UTF-16 code units, both from 0 (Language Server Protocol 3.17, "Position"). */
export function rangeOf(source: SourceText, { start, end }: Span): Range {
  const document = documents.get(source) ?? TextDocument.create('', '', 0, source.text);
  documents.set(source, document);
  return { start: document.positionAt(start), end: document.positionAt(end) };
}

/** The beginning of a file. */
export const topRange: Range = { start: { line: 0, character: 0 }, end: { line: 0, character: 0 } };
