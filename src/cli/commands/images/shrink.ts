import { join, resolve } from 'node:path';
import { shownWidths } from '../../../core/pictures/shown-widths.js';
import { countPictures } from '../../../pictures/count-pictures.js';
import { carriedPictures, titleOf, type CarriedPicture } from '../../../project/load/message-pictures.js';
import { writeWhole } from '../../../project/files/write-file.js';
import type { Io } from '../../io/io.js';
import { kilobytes } from '../../../core/text/amounts.js';
import { printTable } from '../../output/tables.js';
import {
  filesArgument,
  filesOptions,
  kilobytesRange,
  pathTo,
  readdressFiles,
  reportRemote,
  type ImagesOptions,
} from '../../output/readdress-files.js';
import { command, text, whole, type Told } from '../../io/command.js';

const options = {
  ...filesOptions,
  folder: text('--folder <folder>', 'where the lighter pictures are written (default: images beside the result)'),
  maxKb: whole(kilobytesRange, '--max-kb <number>', 'code photographs more strongly until each has at most this'),
};

type ShrinkOptions = ImagesOptions & Told<typeof options>;

/** `images shrink`. */
export const shrink = command({
  name: 'shrink',
  summary: 'make pictures lighter, and point to the lighter ones',
  description:
    'Writes lighter copies of the pictures that lie here: at most twice as wide as they are shown, without metadata, in sRGB, never heavier than before. Kinds that many engines do not show become PNG, JPEG or GIF.',
  arguments: { files: filesArgument },
  options,
  examples: [
    'inscriba images shrink exported.html --out light/exported.html',
    'inscriba images shrink exported.html --max-kb 80 --dry-run',
  ],
  run,
});

async function run(options: ShrinkOptions, io: Io): Promise<number> {
  const mostBytes = options.maxKb === null ? null : options.maxKb * 1024;
  return readdressFiles(options, io, async ({ input, doc, pictures, outFolder }, report) => {
    const widths = shownWidths(doc);
    const carried = await carriedPictures(pictures.local, widths, { mostBytes }, report);
    const folder = options.folder === null ? join(outFolder, 'images') : resolve(io.folder, options.folder);
    const addresses = new Map<string, string>();
    for (const [path, { name, bytes }] of carried) {
      const target = join(folder, name);
      const problem = options.dryRun ? null : await writeWhole(target, bytes);
      if (problem !== null) report(problem);
      else addresses.set(path, pathTo(target, outFolder));
    }
    if (!options.quiet && carried.size > 0) printTable(shrinkTable(input, carried, widths), io);
    reportRemote(pictures, report);
    return addresses.size === carried.size ? addresses : null;
  });
}

/** Each picture before and after, and all of them together. */
function shrinkTable(
  input: string,
  carried: ReadonlyMap<string, CarriedPicture>,
  widths: ReadonlyMap<string, number | null>,
): string[][] {
  const rows = [...carried].map(([path, { from, format, width, height, bytes }]) => [
    path,
    shownAs(widths.get(path) ?? null),
    `${titleOf(from.facts.format)} ${from.facts.width}×${from.facts.height}`,
    kilobytes(from.bytes.length),
    `${titleOf(format)} ${width}×${height}`,
    kilobytes(bytes.length),
    change(from.bytes.length, bytes.length),
  ]);
  const files = new Map([...carried.values()].map((picture) => [picture.name, picture]));
  const before = sum([...files.values()].map(({ from }) => from.bytes.length));
  const after = sum([...files.values()].map(({ bytes }) => bytes.length));
  return [
    [input, 'shown', 'before', '', 'after', '', ''],
    ...rows,
    [countPictures(files.size), '', '', kilobytes(before), '', kilobytes(after), change(before, after)],
  ];
}

function shownAs(width: number | null): string {
  return width === null ? '–' : `${Math.round(width)} px`;
}

function change(before: number, after: number): string {
  if (before === after) return '=';
  const percent = Math.round((100 * (after - before)) / before);
  return percent === 0 ? '=' : `${percent < 0 ? '−' : '+'}${Math.abs(percent)} %`;
}

function sum(numbers: readonly number[]): number {
  return numbers.reduce((total, number) => total + number, 0);
}
