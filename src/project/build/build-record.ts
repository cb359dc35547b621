import { readFile } from 'node:fs/promises';
import { join, relative } from 'node:path';
import type { Finding } from '../../core/findings/finding.js';
import type { BuildOutcome } from './outcome.js';
import { digestOf } from '../files/digest.js';
import type { MessageInputs } from './visit-messages.js';
import { writeWhole } from '../files/write-file.js';

const RECORD_FILE = 'build-record.json';

/** What each message was built from, for each destination: digests of files by their paths in the project. */
export interface BuildRecord {
  readonly format: 1;
  readonly destinations: Readonly<Record<string, Readonly<Record<string, MessageRecord>>>>;
}

interface MessageRecord {
  readonly files: Readonly<Record<string, string | null>>;
}

/** Reads the record of an output folder; an empty one where there is none that can be read. */
export async function readBuildRecord(outFolder: string): Promise<BuildRecord> {
  const empty: BuildRecord = { format: 1, destinations: {} };
  try {
    const read = JSON.parse(await readFile(join(outFolder, RECORD_FILE), 'utf8')) as BuildRecord;
    return read.format === 1 && typeof read.destinations === 'object' ? read : empty;
  } catch {
    return empty;
  }
}

/** Adds what was built to the record of an output folder. */
export async function writeBuildRecord(
  outFolder: string,
  projectFolder: string,
  outcomes: readonly BuildOutcome[],
  inputs: ReadonlyMap<string, MessageInputs>,
): Promise<Finding | null> {
  const record = await readBuildRecord(outFolder);
  const destinations = new Map(
    Object.entries(record.destinations).map(([name, messages]) => [name, new Map(Object.entries(messages))]),
  );
  for (const { destination, message } of builtWhole(outcomes)) {
    const files = Object.fromEntries(
      [...(inputs.get(message) ?? [])]
        .map(([path, digest]): [string, string | null] => [relative(projectFolder, path), digest])
        .sort(([a], [b]) => (a < b ? -1 : 1)),
    );
    const messages = destinations.get(destination) ?? new Map<string, MessageRecord>();
    destinations.set(destination, messages.set(message, { files }));
  }
  const content: BuildRecord = {
    format: 1,
    destinations: Object.fromEntries([...destinations].map(([name, messages]) => [name, Object.fromEntries(messages)])),
  };
  const path = join(outFolder, RECORD_FILE);
  return writeWhole(path, `${JSON.stringify(content, null, 2)}\n`);
}

/** Messages of which all editions were written. */
function builtWhole(outcomes: readonly BuildOutcome[]): BuildOutcome[] {
  const failed = new Set(
    outcomes.filter(({ written }) => written === null).map(({ destination, message }) => `${destination}/${message}`),
  );
  return outcomes.filter(({ destination, message }) => !failed.has(`${destination}/${message}`));
}

/** Whether a message has been built for a destination, and whether anything that it reads has changed since. */
export async function buildState(
  record: BuildRecord,
  projectFolder: string,
  destination: string,
  message: string,
): Promise<'built' | 'changed since' | 'not built'> {
  const messages = Object.hasOwn(record.destinations, destination) ? record.destinations[destination] : undefined;
  const own = messages !== undefined && Object.hasOwn(messages, message) ? messages[message] : undefined;
  if (own === undefined) return 'not built';
  for (const [path, digest] of Object.entries(own.files)) {
    const now = await readFile(join(projectFolder, path)).then(digestOf, () => null);
    if (now !== digest) return 'changed since';
  }
  return 'built';
}
