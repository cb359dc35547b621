import { join, relative, resolve } from 'node:path';
import { finding, type Place } from '../../core/findings/finding.js';
import { PictureFetcher, nameOfAddress, type FetchLimits, type FetchProblem } from '../../pictures/fetch-picture.js';
import { nameOf } from '../../project/load/message-pictures.js';
import { writeWhole } from '../../project/files/write-file.js';
import { pathTo, readdressFiles, type ImagesOptions } from './images.js';
import type { Io } from '../io/io.js';
import { kilobytes } from '../output/tables.js';

/** `images fetch`, as the command line has it. */
export interface FetchOptions extends ImagesOptions {
  readonly limits: FetchLimits;
  /** Where pictures are written; null is `images` beside the result. */
  readonly folder: string | null;
}

/** So many pictures are on their way at once. */
const AT_ONCE = 4;

/** `images fetch`. */
export async function fetchCommand(options: FetchOptions, io: Io): Promise<number> {
  const fetcher = new PictureFetcher(options.limits);
  const say = (line: string): void => {
    if (!options.quiet) io.err(`${line}\n`);
  };
  const code = await readdressFiles(options, io, async ({ doc, pictures, outFolder }, report) => {
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
        const { picture, problem } = await fetcher.fetch(address);
        if (picture === null) {
          problems.set(address, problem);
          continue;
        }
        const target = join(folder, nameOf(picture.name, picture.bytes, picture.bytes, picture.facts.format));
        const unwritable = await writeWhole(target, picture.bytes, relative(io.folder, target));
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
      const span = pictures.references.find(({ path }) => path === address)?.span ?? { start: 0, end: 0 };
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
