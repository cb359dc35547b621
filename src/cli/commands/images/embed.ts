import { finding } from '../../../core/findings/finding.js';
import { shownWidths } from '../../../core/pictures/shown-widths.js';
import { countPictures } from '../../../pictures/count-pictures.js';
import { carriedPictures, mediaTypeOf } from '../../../project/load/message-pictures.js';
import type { Io } from '../../io/io.js';
import { kilobytes } from '../../../core/text/amounts.js';
import {
  filesArgument,
  filesOptions,
  kilobytesRange,
  readdressFiles,
  reportRemote,
  type ImagesOptions,
} from '../../output/readdress-files.js';
import { command, whole, type Told } from '../../io/command.js';

const options = {
  ...filesOptions,
  maxKb: whole(kilobytesRange, '--max-kb <number>', 'leave pictures that are heavier than this where they are'),
};

type EmbedOptions = ImagesOptions & Told<typeof options>;

/** `images embed`. */
export const embed = command({
  name: 'embed',
  summary: 'put pictures into the HTML itself, as data',
  description:
    'Puts the pictures that lie here into the HTML itself, as data URLs: for pages and drafts. Some mail engines show none of them.',
  arguments: { files: filesArgument },
  options,
  examples: [
    'inscriba images embed out/members/may-newsletter/index.html --out whole.html',
    'inscriba images embed out/members/repair-day/index.html --max-kb 40 --out whole.html',
  ],
  run,
});

async function run(options: EmbedOptions, io: Io): Promise<number> {
  const mostBytes = options.maxKb === null ? null : options.maxKb * 1024;
  return readdressFiles(options, io, async ({ doc, pictures }, report) => {
    const carried = await carriedPictures(
      pictures.local,
      shownWidths(doc),
      { mostBytes: null, keepsBytes: true },
      report,
    );
    const addresses = new Map<string, string>();
    let bytesOfAll = 0;
    for (const [path, { bytes, format, from }] of carried) {
      if (mostBytes !== null && bytes.length > mostBytes) {
        const [size, most] = [(bytes.length / 1024).toFixed(1), String(mostBytes / 1024)];
        report(finding('picture-too-heavy', from.place, { path, size, most }));
        continue;
      }
      addresses.set(path, `data:${mediaTypeOf(format)};base64,${Buffer.from(bytes).toString('base64')}`);
      bytesOfAll += bytes.length;
    }
    if (addresses.size > 0)
      report(
        finding('pictures-embedded', null, {
          count: countPictures(addresses.size),
          size: (bytesOfAll / 1024).toFixed(1),
        }),
      );
    reportRemote(pictures, report);
    if (!options.quiet && options.dryRun)
      io.err(`would embed ${countPictures(addresses.size)}, ${kilobytes(bytesOfAll)}\n`);
    return addresses;
  });
}
