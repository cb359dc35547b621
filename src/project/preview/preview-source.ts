import type { Finding } from '../../core/findings/finding.js';
import type { BenchMessage, ChangedMessage, Wall } from '../../core/views/model.js';
import type { View } from '../../core/views/view.js';

/** Which edition of a message for which destination is looked at; null for the first of them. */
export interface Looked {
  readonly name: string;
  readonly edition: string | null;
  readonly destination: string | null;
}

/** A picture as a preview serves it. */
export interface ServedPicture {
  readonly bytes: Uint8Array;
  readonly type: string;
}

/** The addresses that pictures have in a preview. */
export const PICTURE_PATH = '/-/picture/';

/** Where a preview takes what it shows from: a project, or finished HTML. */
export interface PreviewSource {
  /** The names of the messages. */
  readonly names: () => readonly string[];
  /** What was asked for: messages, or editions of them. */
  readonly looked: () => readonly Looked[];
  readonly findings: (looked: Looked) => Promise<readonly Finding[]>;
  readonly wall: () => Promise<Wall>;
  /** Null where there is no such message. */
  readonly bench: (looked: Looked) => Promise<BenchMessage | null>;
  /** The page of a view; null where there is nothing to show. */
  readonly frame: (looked: Looked, view: View) => Promise<string | null>;
  readonly picture: (name: string) => ServedPicture | null;
  /** The names of the recipients that merge tags may be filled for. */
  readonly samples: () => readonly string[];
  /** Learns that files have changed; what of the messages is another then is told as soon as it is known. */
  readonly change: (paths: readonly string[], open: ReadonlySet<string>) => Promise<void>;
  /** Is told of each message that is another than it was. */
  readonly listen: (listener: (changed: ChangedMessage) => void) => () => void;
}

/** Tells whoever listens. */
export class Listeners {
  readonly #listeners = new Set<(changed: ChangedMessage) => void>();

  listen(listener: (changed: ChangedMessage) => void): () => void {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  }

  tell(changed: ChangedMessage): void {
    for (const listener of this.#listeners) listener(changed);
  }
}
