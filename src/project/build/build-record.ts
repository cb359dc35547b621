import { readFileSync, statSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join, relative } from 'node:path';
import { findingsFrom, plainFindings, type PlainFindings } from '../../core/findings/plain-findings.js';
import { isError, type Finding } from '../../core/findings/finding.js';
import { resolveHosting } from '../config/config-images.js';
import { digestOf, undamagedLine, withDigest } from '../files/digest.js';
import { exists } from '../files/exists.js';
import { htmlNames } from '../load/message-names.js';
import { ownFile, ownVersion } from '../files/own-files.js';
import { writeWhole } from '../files/write-file.js';
import type { VisitPlan } from '../visit/choose-messages.js';
import type { BuildOutcome, PackRequest } from './outcome.js';
import { shapeFor, type Target } from '../visit/target.js';
import type { MessageInputs, MessageOverview, VisitedMessage } from '../visit/visit-messages.js';
import type { StoredFile, Written } from './write-outputs.js';

/** The folder of an output folder that keeps what each message was built from. */
const RECORD_FOLDER = '.record';

/** What has been built of a message. */
interface MessageRecord {
  readonly format: 1;
  readonly overview: MessageOverview | null;
  readonly destinations: Readonly<Record<string, TargetRecord>>;
}

/** What has been built of a message for one destination. Paths of inputs count from the project, others from the output folder. */
interface TargetRecord {
  /** The digest of all that decides beside files. */
  readonly key: string;
  readonly inputs: Readonly<Record<string, string | null>>;
  readonly outcomes: readonly OutcomeRecord[];
  readonly findings: PlainFindings;
}

type OutcomeRecord = Pick<BuildOutcome, 'edition' | 'pictures' | 'shape'> & { readonly written: Written };

/** A message, as it was built before and still stands. */
export interface StandingMessage {
  readonly outcomes: readonly BuildOutcome[];
  readonly findings: readonly Finding[];
  readonly inputs: MessageInputs;
}

/** Whether a message has been built for a destination, and whether anything that it is made from has changed since. */
export type BuildState = 'built' | 'changed since' | 'not built';

/**
 * What has been built into an output folder. A message stands as it was built where nothing has changed of all the files
 * that it read or looked for in vain, of the settings beside them and of the program, and where its outputs are untouched.
 * What cannot be read counts as not built.
 */
export class BuildRecord {
  /** The digests of files as they are now, by their paths in the project: most are read for many messages. */
  readonly #now = new Map<string, Promise<string | null>>();
  readonly #keys = new Map<string, string>();
  readonly #read = new Map<string, Promise<MessageRecord | null>>();
  readonly #surroundings: Promise<string>;

  constructor(
    private readonly outFolder: string,
    private readonly plan: Pick<VisitPlan, 'config' | 'partNames'>,
  ) {
    this.#surroundings = surroundingsOf(plan);
  }

  /** A message at a destination, if it stands as it was built; with a package, if one is asked for. */
  async standing(message: string, target: Target, pack: PackRequest | null): Promise<StandingMessage | null> {
    const record = await this.targetRecord(message, target);
    if (record === null || !(await this.isCurrent(record, target))) return null;
    const shape = pack === null ? null : shapeFor(target, pack.shape);
    if (shape !== null && record.outcomes.some((outcome) => outcome.shape !== shape.shape)) return null;
    const { outFolder } = this;
    const { folder } = this.plan.config;
    const names = { message, destination: target.destination.name, findings: [], isUnchanged: true };
    try {
      return {
        outcomes: record.outcomes.map((outcome) => ({
          ...outcome,
          ...names,
          written: withPaths(outcome.written, (path) => join(outFolder, path)),
        })),
        findings: findingsFrom(record.findings),
        inputs: new Map(Object.entries(record.inputs).map(([path, digest]) => [join(folder, path), digest])),
      };
    } catch {
      return null;
    }
  }

  async stateOf(message: string, target: Target): Promise<BuildState> {
    const record = await this.targetRecord(message, target);
    if (record === null) return 'not built';
    const there = await Promise.all(record.outcomes.map(({ written }) => exists(join(this.outFolder, written.folder))));
    if (there.includes(false)) return 'not built';
    return (await this.isCurrent(record, target)) ? 'built' : 'changed since';
  }

  /** What a message says of itself, if one of its outputs stands as it was built. */
  async overviewOf(message: string, targets: readonly Target[]): Promise<MessageOverview | null> {
    const record = await this.messageRecord(message);
    if (record === null) return null;
    for (const target of targets) {
      const own = targetOf(record, target);
      if (own !== null && (await this.hasSameInputs(own, target))) return record.overview;
    }
    return null;
  }

  /** Keeps what came of a message, in place of what was kept of it for these destinations. */
  async keep(
    message: string,
    targets: readonly Target[],
    { outcomes, own, inputs, overview }: VisitedMessage<BuildOutcome>,
  ): Promise<Finding | null> {
    const { outFolder } = this;
    const built = targets.filter(({ destination }) => isWhole(outcomes, own, destination.name));
    if (built.length === 0) return null;
    const before = await this.messageRecord(message);
    const files = [...inputs].map(([path, digest]): [string, string | null] => [this.inProject(path), digest]);
    const entries = built.map(async (target): Promise<[string, TargetRecord]> => {
      const at = outcomes.filter(({ destination }) => destination === target.destination.name);
      const record: TargetRecord = {
        key: await this.keyOf(target),
        inputs: Object.fromEntries(files.sort(([a], [b]) => (a < b ? -1 : 1))),
        outcomes: at.flatMap(({ edition, written, pictures, shape }) =>
          written === null
            ? []
            : [{ edition, pictures, shape, written: withPaths(written, (path) => relative(outFolder, path)) }],
        ),
        findings: plainFindings([...own, ...at.flatMap(({ findings }) => findings)]),
      };
      return [target.destination.name, record];
    });
    const destinations = { ...before?.destinations, ...Object.fromEntries(await Promise.all(entries)) };
    const record: MessageRecord = { format: 1, overview, destinations };
    this.#read.set(message, Promise.resolve(record));
    return writeWhole(this.pathOf(message), withDigest(JSON.stringify(record)));
  }

  private inProject(path: string): string {
    return relative(this.plan.config.folder, path);
  }

  private pathOf(message: string): string {
    return join(this.outFolder, RECORD_FOLDER, `${message}.json`);
  }

  private messageRecord(message: string): Promise<MessageRecord | null> {
    const known = this.#read.get(message) ?? readRecord(this.pathOf(message));
    this.#read.set(message, known);
    return known;
  }

  private async targetRecord(message: string, target: Target): Promise<TargetRecord | null> {
    const record = await this.messageRecord(message);
    return record === null ? null : targetOf(record, target);
  }

  private async isCurrent(record: TargetRecord, target: Target): Promise<boolean> {
    if (!(await this.hasSameInputs(record, target))) return false;
    const stored = record.outcomes.flatMap(({ written }) => written.stored);
    return stored.every((file) => isUntouched(file, this.outFolder));
  }

  private async hasSameInputs(record: TargetRecord, target: Target): Promise<boolean> {
    if (record.key !== (await this.keyOf(target))) return false;
    for (const [path, digest] of Object.entries(record.inputs))
      if ((await this.digestNow(path)) !== digest) return false;
    return true;
  }

  private digestNow(path: string): Promise<string | null> {
    const known = this.#now.get(path) ?? readFile(join(this.plan.config.folder, path)).then(digestOf, () => null);
    this.#now.set(path, known);
    return known;
  }

  private async keyOf({ destination, dialect }: Target): Promise<string> {
    const surroundings = await this.#surroundings;
    const known = this.#keys.get(destination.name);
    if (known !== undefined) return known;
    const { images } = destination;
    // An address may come from the environment; what is secret there decides nothing about outputs.
    const { hosting } =
      images.baseUrl === null ? { hosting: null } : resolveHosting(images, process.env, this.plan.config.folder);
    const key = digestOf(JSON.stringify([surroundings, dialect, hosting?.baseUrl ?? null]));
    this.#keys.set(destination.name, key);
    return key;
  }
}

/** What decides about every message beside the files that it reads. */
async function surroundingsOf({ config, partNames }: Pick<VisitPlan, 'config' | 'partNames'>): Promise<string> {
  const { folder, fields, samples } = config;
  const frames = await htmlNames(folder, 'frames');
  const named = [...samples].map(([name, values]) => [name, [...values]]);
  const year = new Date().getFullYear();
  return JSON.stringify([ownVersion(), await programDigest(), year, partNames, frames, [...fields], named]);
}

/** The digest of the program: its first file names the others by what is in them. */
function programDigest(): Promise<string | null> {
  return readFile(ownFile('dist/program/inscriba.js')).then(digestOf, () => null);
}

async function readRecord(path: string): Promise<MessageRecord | null> {
  const text = await readFile(path, 'utf8').catch(() => '');
  const content = undamagedLine(text);
  if (content === null) return null;
  const record = JSON.parse(content) as MessageRecord;
  // Of another version of the program it may be something else.
  return (record.format as number) === 1 ? record : null;
}

function targetOf({ destinations }: MessageRecord, { destination: { name } }: Target): TargetRecord | null {
  return Object.hasOwn(destinations, name) ? (destinations[name] ?? null) : null;
}

/** Whether all editions of a message were written for a destination. */
function isWhole(outcomes: readonly BuildOutcome[], own: readonly Finding[], name: string): boolean {
  const at = outcomes.filter(({ destination }) => destination === name);
  return !own.some(isError) && at.length > 0 && at.every(({ written }) => written !== null);
}

function withPaths(written: Written, change: (path: string) => string): Written {
  return {
    folder: change(written.folder),
    files: written.files,
    stored: written.stored.map((file) => ({ ...file, path: change(file.path) })),
    package: written.package === null ? null : change(written.package),
  };
}

/**
 * Whether a file is as it was written: by its size and time, or else by what is in it. Thousands are looked at one after the
 * other, which takes a tenth of the time that it takes to wait for each.
 */
function isUntouched({ path, size, digest, time }: StoredFile, outFolder: string): boolean {
  const full = join(outFolder, path);
  try {
    const stats = statSync(full);
    if (stats.size !== size) return false;
    return stats.mtimeMs === time || digestOf(readFileSync(full)) === digest;
  } catch {
    return false;
  }
}
