import { CONFIG_FILE } from '../files/project-folder.js';
import { basename, join } from 'node:path';
import {
  adviceForName,
  atOrigin,
  finding,
  isError,
  withoutRepeats,
  type Finding,
  type Report,
} from '../../core/findings/finding.js';
import type { Dialect } from '../../core/dialects/dialect.js';
import { nearestName } from '../../core/text/nearest.js';
import type { Config, Destination } from '../config/config.js';
import { dialectNames, dialectNamed } from '../config/dialects.js';
import { FileLog } from '../files/file-log.js';
import { htmlNames, isPartName, loadMessage, messageFiles, type MessageFile } from '../load/load-message.js';
import { PicturePlacer } from './place-pictures.js';
import type { Target } from './target.js';
import { MessagePreparer, type Edition, type PreparedEdition } from './prepare-message.js';

/** Which messages to go through, for which destinations. */
export interface VisitRequest {
  readonly config: Config;
  /** Names of messages; all of them where the list is empty. */
  readonly messages: readonly string[];
  /** Names of destinations; all of them where the list is empty. */
  readonly destinations: readonly string[];
}

/** What the editions of a message share while it is gone through. */
export interface EditionTask {
  readonly config: Config;
  readonly message: string;
  readonly preparer: MessagePreparer;
  readonly placer: PicturePlacer;
}

/** What is done with the editions of messages. */
export interface EditionVisitor<Outcome> {
  /** Chooses among the destinations that were asked for. */
  readonly targets: (targets: readonly Target[], report: Report) => readonly Target[];
  /** Whether a name may be that of one edition: `branch-notice/mill-yard`. */
  readonly takesEditions: boolean;
  readonly visit: (task: EditionTask, ready: PreparedEdition, target: Target) => Promise<Outcome>;
  /** What comes of an edition that could not be compiled. */
  readonly failed: (message: string, edition: string | null, target: Target) => Outcome;
  /** All editions of a message have been gone through, without an error in the message itself. */
  readonly whole?: (message: string, editions: readonly Edition[], targets: readonly Target[]) => Promise<void>;
}

/** The SHA-256 of the files that a message read, null for those that were not there, by full path. */
export type MessageInputs = ReadonlyMap<string, string | null>;

/** How far the way through messages is. */
export interface VisitProgress {
  /** The message that is at hand, how many of its editions are done, and of how many. */
  readonly message: string;
  readonly done: number;
  readonly of: number;
  readonly messagesDone: number;
  readonly messages: number;
}

/** Who is told on the way. */
export interface VisitListener<Outcome> {
  /** All editions of a message are done at all destinations. */
  readonly done: (outcomes: readonly Outcome[]) => void;
  readonly progress: (progress: VisitProgress) => void;
}

export interface VisitResult<Outcome> {
  readonly outcomes: readonly Outcome[];
  /** Findings about the request and the messages themselves, in order. */
  readonly findings: readonly Finding[];
  /** What each message was made from. */
  readonly inputs: ReadonlyMap<string, MessageInputs>;
}

/** Goes through the editions of messages at their destinations. Each message is compiled once. */
export async function visitMessages<Outcome extends { readonly findings: readonly Finding[] }>(
  request: VisitRequest,
  visitor: EditionVisitor<Outcome>,
  listener: Partial<VisitListener<Outcome>> = {},
): Promise<VisitResult<Outcome>> {
  const findings: Finding[] = [];
  const report = (item: Finding): unknown => findings.push(item);
  const messages = await chooseMessages(request, visitor.takesEditions, report);
  const targets = visitor.targets(await chooseTargets(request, report), report);
  const inputs = new Map<string, MessageInputs>();
  if (findings.some(isError)) return { outcomes: [], findings, inputs };
  const partNames = await readPartNames(request.config.folder, report);
  const placer = new PicturePlacer(request.config, process.env);
  const outcomes: Outcome[] = [];
  for (const [messagesDone, message] of messages.entries()) {
    const files = new FileLog();
    const progress = (done: number, of: number): void =>
      listener.progress?.({ message: message.name, done, of, messagesDone, messages: messages.length });
    progress(0, 1);
    const own: Finding[] = [];
    const task = { targets, partNames, files, placer, progress, own };
    const done = await visitMessage(request, message, task, visitor).catch((error: unknown) => ({
      outcomes: targets.map((target) => visitor.failed(message.name, null, target)),
      findings: inReadingOrder(withoutRepeats([...own, defectIn(message, error)])),
    }));
    inputs.set(message.name, files.digests);
    findings.push(...done.findings);
    outcomes.push(...done.outcomes);
    listener.done?.(done.outcomes);
  }
  // What is wrong with a part is said once, however many messages use it.
  return { outcomes, findings: withoutRepeats(findings), inputs };
}

/** A defect on the way through one message is told with its name, and ends nothing for the others. */
function defectIn({ path }: ChosenMessage, error: unknown): Finding {
  const [what = '', ...where] = (error instanceof Error ? (error.stack ?? error.message) : String(error)).split('\n');
  const at = where.map((line) => line.trim()).find((line) => line.startsWith('at '));
  const detail = at === undefined ? what : `${what} (${at})`;
  return finding('message-defect', null, { message: basename(path), detail });
}

/** What the messages on the way share, and what one of them reports to. */
interface MessageTask {
  readonly targets: readonly Target[];
  readonly partNames: readonly string[];
  readonly files: FileLog;
  readonly placer: PicturePlacer;
  readonly progress: (done: number, of: number) => void;
  /** What has been found about the message. */
  readonly own: Finding[];
}

/** A message to go through, and the names of its editions that are asked for; all where the list is empty. */
interface ChosenMessage extends MessageFile {
  readonly editions: readonly string[];
}

async function visitMessage<Outcome extends { readonly findings: readonly Finding[] }>(
  { config }: VisitRequest,
  message: ChosenMessage,
  { targets, partNames, files, placer, progress, own }: MessageTask,
  visitor: EditionVisitor<Outcome>,
): Promise<{ outcomes: Outcome[]; findings: Finding[] }> {
  const report = (item: Finding): unknown => own.push(atOrigin(item));
  // A change of the configuration is a change of every message.
  await files.bytes(join(config.folder, CONFIG_FILE)).catch(() => null);
  const loaded = await loadMessage(message, config, files, report);
  const outcomes: Outcome[] = [];
  const allFailed = (): unknown =>
    outcomes.push(...targets.map((target) => visitor.failed(message.name, null, target)));
  if (loaded === null || own.some(isError)) {
    allFailed();
    return { outcomes, findings: inReadingOrder(withoutRepeats(own)) };
  }
  const preparer = new MessagePreparer(loaded, config, files, partNames);
  const all = preparer.editions(report);
  const editions = chooseEditions(message, all, report);
  const task: EditionTask = { config, message: message.name, preparer, placer };
  for (const [index, edition] of editions.entries()) {
    progress(index, editions.length);
    const ready = await preparer.prepare(edition, report);
    for (const target of targets)
      outcomes.push(
        ready === null ? visitor.failed(message.name, edition.name, target) : await visitor.visit(task, ready, target),
      );
  }
  if (own.some(isError) && editions.length === 0) allFailed();
  if (loaded.editions !== null && !own.some(isError)) await visitor.whole?.(message.name, all, targets);
  const findings = withoutRepeats([...own, ...outcomes.flatMap((outcome) => outcome.findings)].map(atOrigin));
  return { outcomes, findings: inReadingOrder(findings) };
}

function chooseEditions(
  { name, editions: wanted }: ChosenMessage,
  all: readonly Edition[],
  report: Report,
): readonly Edition[] {
  if (wanted.length === 0) return all;
  const known = all.flatMap((edition) => (edition.name === null ? [] : [edition.name]));
  for (const edition of wanted.filter((candidate) => !known.includes(candidate)))
    report(
      finding('unknown-edition', null, {
        name: edition,
        message: name,
        advice: adviceForName(nearestName(edition, known), known, 'The message has no editions.'),
      }),
    );
  return all.filter((edition) => edition.name !== null && wanted.includes(edition.name));
}

/** The names of the project's parts; files whose names can be no elements are reported. */
async function readPartNames(folder: string, report: Report): Promise<string[]> {
  const names = await htmlNames(folder, 'parts');
  for (const name of names.filter((candidate) => !isPartName(candidate))) {
    const example = `parts/house-${name.toLowerCase().replace(/[^a-z\d]+/g, '-')}.html`;
    report(finding('part-name', null, { path: `parts/${name}.html`, example }));
  }
  return names.filter(isPartName);
}

/** The name of a message, by its name or the path of its file. */
export function messageNameOf(word: string): string {
  return word.replace(/^(?:\.\/)?messages\//, '').replace(/\.(?:html|md)$/, '');
}

async function chooseMessages(
  { config, messages }: VisitRequest,
  takesEditions: boolean,
  report: Report,
): Promise<ChosenMessage[]> {
  const files = await messageFiles(config.folder);
  const known = files.map(({ name }) => name);
  if (known.length === 0) report(finding('no-messages', null, { folder: join(config.folder, 'messages') }));
  for (const name of new Set(known.filter((candidate, index) => known.indexOf(candidate) < index)))
    report(finding('message-twice', null, { name }));
  const wanted = messages.map((word) => {
    const [name = '', ...edition] = takesEditions ? messageNameOf(word).split('/') : [messageNameOf(word)];
    return { name, edition: edition.length === 0 ? null : edition.join('/') };
  });
  for (const { name } of wanted.filter((candidate) => !known.includes(candidate.name))) {
    report(
      finding('unknown-message', null, {
        name,
        advice: adviceForName(nearestName(name, known), known, 'Put it into messages/.'),
      }),
    );
  }
  return files.flatMap((file): ChosenMessage[] => {
    const own = wanted.filter(({ name }) => name === file.name);
    if (wanted.length > 0 && own.length === 0) return [];
    // The whole message, where it is asked for as well.
    const editions = own.flatMap(({ edition }) => (edition === null ? [] : [edition]));
    return [{ ...file, editions: editions.length === own.length ? editions : [] }];
  });
}

async function chooseTargets({ config, destinations }: VisitRequest, report: Report): Promise<Target[]> {
  const known = config.destinations.map((destination) => destination.name);
  if (known.length === 0) report(finding('destinations-missing', null, { path: CONFIG_FILE }));
  for (const name of destinations.filter((candidate) => !known.includes(candidate))) {
    report(finding('unknown-destination', null, { name, advice: adviceForName(nearestName(name, known), known, '') }));
  }
  const targets: Target[] = [];
  for (const destination of config.destinations) {
    if (destinations.length > 0 && !destinations.includes(destination.name)) continue;
    const dialect = await dialectOf(destination, config, report);
    if (dialect !== null) targets.push({ destination, dialect });
  }
  return targets;
}

async function dialectOf(destination: Destination, config: Config, report: Report): Promise<Dialect | null> {
  const known = await dialectNames(config.folder);
  if (!known.includes(destination.dialect)) {
    const advice = adviceForName(nearestName(destination.dialect, known), known, '');
    report(finding('unknown-dialect', destination.dialectPlace, { name: destination.dialect, advice }));
    return null;
  }
  const { dialect, findings: problems } = await dialectNamed(destination.dialect, config.folder);
  problems.forEach(report);
  return dialect;
}

/** By file, as they first come up, then by place. */
function inReadingOrder(findings: readonly Finding[]): Finding[] {
  const files = [...new Set(findings.map(({ place }) => place?.source.name ?? ''))];
  const key = (item: Finding): number => files.indexOf(item.place?.source.name ?? '');
  return [...findings].sort((a, b) => key(a) - key(b) || (a.place?.span.start ?? 0) - (b.place?.span.start ?? 0));
}
