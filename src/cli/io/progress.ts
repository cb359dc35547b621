import type { SingleBar } from 'cli-progress';
import type { VisitProgress } from '../../project/visit/visit-messages.js';

/** Shows how far a build is. */
export interface ProgressView {
  readonly show: (progress: VisitProgress) => void;
  /** Takes the view away, so that lines may be printed; the next `show` brings it back. */
  readonly clear: () => void;
}

/** Work that is done within this many milliseconds shows no bar. */
const PATIENCE = 500;

/** A view that shows nothing, for streams that are no terminal and for those who asked for quiet. */
export const noProgress: ProgressView = { show: () => undefined, clear: () => undefined };

/** A bar on a terminal, once the work takes long enough to wonder. */
export async function progressBar(stream: NodeJS.WritableStream): Promise<ProgressView> {
  const { SingleBar: Bar, Presets } = await import('cli-progress');
  const format = '{bar} {what}';
  const started = performance.now();
  let bar: SingleBar | null = null;
  return {
    show: ({ message, done, of, messagesDone, messages }) => {
      if (performance.now() - started < PATIENCE) return;
      if (bar === null) {
        bar = new Bar({ format, stream, clearOnComplete: true, hideCursor: true, barsize: 24 }, Presets.shades_classic);
        bar.start(messages, 0, { what: '' });
      }
      const what = of > 1 ? `${message} ${done} of ${of}` : message;
      bar.update(messagesDone + done / of, { what });
    },
    clear: () => {
      bar?.stop();
      bar = null;
    },
  };
}
