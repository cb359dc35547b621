import { relative } from 'node:path';
import { noProgress, progressBar, type ProgressView } from './progress.js';
import { removePending } from '../../project/files/write-file.js';

/** What a command may touch of the process that runs it. */
export interface Io {
  readonly out: (content: string | Uint8Array) => void;
  readonly err: (text: string) => void;
  readonly readInput: () => Promise<Uint8Array>;
  readonly folder: string;
  /** Whether the product goes to a terminal, and not to a file or another program. */
  readonly outIsTerminal: boolean;
  /** Puts a text on the clipboard, and says by what: a program, or the terminal itself. */
  readonly toClipboard: (text: string) => Promise<string>;
  /** A path as findings and lines show it: from the current folder. */
  readonly shown: (path: string) => string;
  /** Whether messages to a person may be coloured. */
  readonly color: boolean;
  /** A view of how far long work is: a bar on a terminal, nothing elsewhere. */
  readonly progress: () => Promise<ProgressView>;
  /** Asks a person; no, where nobody is there to answer. */
  readonly agreed: (question: string) => Promise<boolean>;
  /** Waits until somebody stops the process; from then on stopping is up to the caller. */
  readonly stopped: () => Promise<void>;
}

/** The real process: standard streams, the current folder, and a clean end on Ctrl-C. */
export function processIo(): Io {
  const end = (): void => {
    removePending();
    process.exit(130);
  };
  process.on('SIGINT', end);
  process.on('SIGTERM', end);
  // What libraries tell the console about themselves is not for our users.
  // eslint-disable-next-line no-console
  console.warn = () => undefined;
  // A reader that stops reading (`| head`) is no error of ours.
  process.stdout.on('error', (error: NodeJS.ErrnoException) => {
    if (error.code === 'EPIPE') process.exit(0);
    throw error;
  });
  return {
    out: (content) => void process.stdout.write(content),
    err: (text) => void process.stderr.write(text),
    readInput,
    folder: process.cwd(),
    outIsTerminal: process.stdout.isTTY === true,
    toClipboard: async (text) => {
      const { toClipboard } = await import('./clipboard.js');
      return toClipboard(text, process.env, process.platform, (sequence) => process.stdout.write(sequence));
    },
    shown: (path) => relative(process.cwd(), path) || path,
    progress: async () => (process.stderr.isTTY ? progressBar(process.stderr) : noProgress),
    agreed: async (question) => {
      if (!process.stdin.isTTY || !process.stderr.isTTY) return false;
      const { askPerson } = await import('./ask-person.js');
      return askPerson(question);
    },
    stopped: () =>
      new Promise((resolve) => {
        for (const signal of ['SIGINT', 'SIGTERM'] as const) {
          process.off(signal, end);
          process.once(signal, () => resolve());
        }
      }),
    color: process.stderr.isTTY === true && (process.env['NO_COLOR'] ?? '') === '',
  };
}

async function readInput(): Promise<Uint8Array> {
  const chunks: Buffer[] = [];
  for await (const chunk of process.stdin) chunks.push(chunk as Buffer);
  return Buffer.concat(chunks);
}
