import { digestOf } from './digest.js';
import type { Report } from '../../core/findings/finding.js';
import { fromDisk, type ReadBytes } from './read-bytes.js';
import type { SourceText } from '../../core/text/source-text.js';
import { decodeText, readFailure, type TextFile } from './text-file.js';

/**
 * Reads files for one message and remembers which: what it read, and what it looked for and did not find. Each file is
 * read once.
 */
export class FileLog {
  readonly #files = new Map<string, Promise<Uint8Array>>();
  readonly #digests = new Map<string, string | null>();

  constructor(private readonly read: ReadBytes = fromDisk) {}

  /** The bytes of a file; fails as reading does. */
  async bytes(path: string): Promise<Uint8Array> {
    const known = this.#files.get(path);
    if (known !== undefined) return known;
    const reading = this.read(path);
    this.#files.set(path, reading);
    try {
      const bytes = await reading;
      this.#digests.set(path, digestOf(bytes));
      return bytes;
    } catch (error) {
      this.#digests.set(path, null);
      throw error;
    }
  }

  /** Gives a file that is not there: whoever reads it gets this text. */
  put(path: string, text: string): void {
    this.#files.set(path, Promise.resolve(Buffer.from(text)));
  }

  /** The text of a file. What cannot be read, or is not UTF-8, is reported, and null. */
  async text(path: string, report: Report): Promise<TextFile | null> {
    try {
      return decodeText(await this.bytes(path), path, report);
    } catch (error) {
      report(readFailure(error, path));
      return null;
    }
  }

  /** The texts that were read and hold a word. */
  async textsWith(word: string): Promise<SourceText[]> {
    const found: SourceText[] = [];
    for (const [path, reading] of this.#files) {
      const bytes = /\.(?:html|md|css|txt)$/.test(path) ? await reading.catch(() => null) : null;
      const text =
        bytes === null || !Buffer.from(bytes).includes(word) ? null : decodeText(bytes, path, () => undefined);
      if (text !== null) found.push(text.source);
    }
    return found;
  }

  /** The SHA-256 of each file that was read, null for those that could not be, by their full paths. */
  get digests(): ReadonlyMap<string, string | null> {
    return this.#digests;
  }
}
