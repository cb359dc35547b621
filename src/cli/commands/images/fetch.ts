import { join, relative, resolve } from 'node:path';
import { finding, type Place } from '../../../core/findings/finding.js';
import { PictureFetcher, nameOfAddress, type FetchProblem } from '../../../pictures/fetch-picture.js';
import { nameOf } from '../../../project/load/message-pictures.js';
import { writeWhole } from '../../../project/files/write-file.js';
import {
  filesArgument,
  filesOptions,
  kilobytesRange,
  pathTo,
  readdressFiles,
  secondsRange,
  type ImagesOptions,
} from '../../output/readdress-files.js';
import { command, flag, text, wholeOr, type Told } from '../../io/command.js';
import type { Io } from '../../io/io.js';
import { kilobytes } from '../../../core/text/amounts.js';
import { spanAt } from '../../../core/text/span.js';

/** Pictures on the web are brought up to this size, in KB. */
const MOST_KB_FETCHED = 5120;

const options = {
  ...filesOptions,
  folder: text('--folder <folder>', 'where the pictures are written (default: images beside the result)'),
  maxKb: wholeOr(MOST_KB_FETCHED, kilobytesRange, '--max-kb <number>', 'bring no picture that is heavier than this'),
  timeout: wholeOr(30, secondsRange, '--timeout <seconds>', 'how long one picture may take'),
  allowLocal: flag('--allow-local', 'bring pictures from this machine and private networks too'),
};

type FetchOptions = ImagesOptions & Told<typeof options>;

/** `images fetch`. */
export const fetchPictures = command({
  name: 'fetch',
  summary: 'bring pictures from the web, and point to them here',
  description: 'Brings the pictures that finished HTML shows from the web into a folder, and points to them there.',
  arguments: { files: filesArgument },
  options,
  examples: [
    'inscriba images fetch exported.html --out home/exported.html',
    'inscriba images fetch exported.html --max-kb 500 --timeout 10 --dry-run',
  ],
  run,
});

/** So many pictures are on their way at once. */
const AT_ONCE = 4;

async function run(options: FetchOptions, io: Io): Promise<number> {
  const { maxKb, timeout, allowLocal } = options;
  const fetcher = new PictureFetcher({ mostBytes: maxKb * 1024, milliseconds: timeout * 1000, allowLocal });
  const say = (line: string): void => {
    if (!options.quiet) io.err(`${line}\n`);
  };
  const code = await readdressFiles(options, io, async ({ input, doc, pictures, outFolder }, report) => {
    if (pictures.references.length > 0 && pictures.remote.length === 0) say(`${input} names no pictures on the web.`);
    const folder = options.folder === null ? join(outFolder, 'images') : resolve(io.folder, options.folder);
    const addresses = new Map<string, string>();
    const queue = [...pictures.remote];
    const problems = new Map<string, FetchProblem>();
    const work = async (): Promise<void> => {
      for (let address = queue.shift(); address !== undefined; address = queue.shift()) {
        if (options.dryRun) {
          say(`would bring  ${nameOfAddress(address)}`);
          continue;
        }
        const picture = await fetcher.fetch(address, (problem) => {
          problems.set(address, problem);
          return null;
        });
        if (picture === null) continue;
        const target = join(folder, nameOf(picture.name, picture.bytes, picture.bytes, picture.facts.format));
        const unwritable = await writeWhole(target, picture.bytes);
        if (unwritable !== null) {
          report(unwritable);
          continue;
        }
        addresses.set(address, pathTo(target, outFolder));
        say(`brought  ${relative(io.folder, target)}  ${kilobytes(picture.bytes.length)}  ${nameOfAddress(address)}`);
      }
    };
    await Promise.all(Array.from({ length: AT_ONCE }, work));
    for (const address of pictures.remote) {
      const problem = problems.get(address);
      if (problem === undefined) continue;
      const span = pictures.references.find(({ path }) => path === address)?.span ?? spanAt(0, 0);
      const { isRefusal, detail, advice } = problem;
      const url = nameOfAddress(address);
      // A line that holds a password is not shown.
      const place: Place | null = /^(?:\w+:)?\/\/[^/?#]*@/.test(address) ? null : { source: doc.source, span };
      report(finding(isRefusal ? 'fetch-refused' : 'fetch-failed', place, { url, detail, advice }));
    }
    return addresses;
  });
  await fetcher.close();
  return code;
}
