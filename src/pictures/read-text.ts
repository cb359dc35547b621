import type { Refuse } from '../core/findings/finding.js';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type { Pixels, Region } from '../core/slices/pixels.js';

/** A text that was read from a picture. */
export interface ReadText {
  /** Empty where there is none. */
  readonly text: string;
  /** How sure the reading is, from 0 to 100. */
  readonly confidence: number;
}

/** What reading takes: the texts of regions, and an end. */
export interface TextReader {
  readonly read: (pixels: Pixels, region: Region) => Promise<ReadText>;
  readonly close: () => Promise<void>;
}

/** Letters are read best when a line is about this high, so small pictures are enlarged. */
const READING_WIDTH = 1200;

/**
 * Optical character recognition, offline: its data come with the package. Null where that is not installed.
 */
export async function openTextReader(refuse: Refuse): Promise<TextReader | null> {
  try {
    const require = createRequire(import.meta.url);
    const data = dirname(require.resolve('@tesseract.js-data/eng/package.json'));
    const { createWorker, OEM } = await import('tesseract.js');
    const worker = await createWorker('eng', OEM.LSTM_ONLY, {
      langPath: join(data, '4.0.0_best_int'),
      gzip: true,
      cacheMethod: 'none',
      errorHandler: () => undefined,
    });
    return {
      read: async (pixels, region) => {
        const { data: found } = await worker.recognize(await enlarged(pixels, region));
        return { text: found.text.replace(/\s+/g, ' ').trim(), confidence: found.confidence };
      },
      close: async () => {
        await worker.terminate();
      },
    };
  } catch (error) {
    const isMissing = error instanceof Error && /Cannot find (?:module|package)/.test(error.message);
    return refuse(isMissing ? 'what reads them is not installed' : String(error));
  }
}

async function enlarged(pixels: Pixels, { left, top, right, bottom }: Region): Promise<Buffer> {
  const { default: sharp } = await import('sharp');
  const image = sharp(pixels.data, { raw: { width: pixels.width, height: pixels.height, channels: 4 } })
    .extract({ left, top, width: right - left, height: bottom - top })
    .flatten({ background: '#ffffff' });
  const factor = Math.max(1, Math.min(3, READING_WIDTH / pixels.width));
  return (
    image
      .resize({ width: Math.round((right - left) * factor), kernel: 'cubic' })
      // Without a resolution the reader complains.
      .withMetadata({ density: 150 })
      .png({ compressionLevel: 1 })
      .toBuffer()
  );
}
