import type { PlainFindings } from '../../core/findings/plain-findings.js';

/** Something of a project to look at: a message with all that it is made of, or a file by itself. */
export interface EditorTask {
  readonly number: number;
  readonly kind: 'message' | 'file';
  readonly path: string;
  /** The folder of the project. */
  readonly folder: string;
  /** Rises whenever something changes that concerns all messages: the configuration, a dialect, which parts there are. */
  readonly state: number;
  /** What has changed of what is typed and not saved since the task before; null for what is saved or closed. */
  readonly texts: readonly (readonly [path: string, text: string | null])[];
  /** The files that have changed on the disk since then. */
  readonly changed: readonly string[];
}

/** What came of a task. */
export interface EditorAnswer {
  readonly number: number;
  readonly findings: PlainFindings;
  /** The files that were read, or looked for in vain, by their full paths. */
  readonly inputs: readonly string[];
}
