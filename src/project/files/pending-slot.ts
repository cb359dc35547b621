/** In bytes; no path of a file that a system opens is longer. */
const SIZE = 8192;

/** Where the number stands that says how many bytes follow. */
const HEAD = 4;

/**
 * A place in memory that threads share, for the path of the one file that a thread is writing just now. To tell of each file by a
 * message would take a good part of the time in which small ones are written.
 */
export class PendingSlot {
  readonly #length: Int32Array;
  readonly #bytes: Uint8Array;

  /** @param memory of the slot that another thread made; without it a new one */
  constructor(readonly memory: SharedArrayBuffer = new SharedArrayBuffer(SIZE)) {
    this.#length = new Int32Array(memory, 0, 1);
    this.#bytes = new Uint8Array(memory, HEAD);
  }

  write(path: string): void {
    // Who reads in between reads nothing.
    Atomics.store(this.#length, 0, 0);
    const { written } = new TextEncoder().encodeInto(path, this.#bytes);
    Atomics.store(this.#length, 0, written);
  }

  /** The path that was written last; null where none was. */
  read(): string | null {
    const length = Atomics.load(this.#length, 0);
    return length === 0 ? null : Buffer.from(this.#bytes.slice(0, length)).toString('utf8');
  }
}
