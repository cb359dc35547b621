import { fromDisk, type ReadBytes } from '../files/read-bytes.js';

/** The files of projects as an editor has them: what is typed, and what of the disk has been read and has not changed since. */
export class EditorFiles {
  readonly #texts = new Map<string, string>();
  readonly #disk = new Map<string, Promise<Uint8Array>>();

  /** Learns what is typed now, null for what is not any more, and which files have changed on the disk. */
  change(texts: readonly (readonly [path: string, text: string | null])[], changed: readonly string[]): void {
    for (const [path, text] of texts)
      if (text === null) this.#texts.delete(path);
      else this.#texts.set(path, text);
    for (const path of [...texts.map(([path]) => path), ...changed]) this.#disk.delete(path);
  }

  readonly read: ReadBytes = (path) => {
    const text = this.#texts.get(path);
    if (text !== undefined) return Promise.resolve(Buffer.from(text));
    const known = this.#disk.get(path);
    if (known !== undefined) return known;
    const bytes = fromDisk(path);
    this.#disk.set(path, bytes);
    // What is not there may be there the next time.
    bytes.catch(() => this.#disk.delete(path));
    return bytes;
  };
}
