import { join } from 'node:path';
import { adviceForName, atOrigin, finding, isError, withoutRepeats, type Finding } from '../core/finding.js';
import type { Dialect } from '../core/merge/dialect.js';
import { nearestName } from '../core/nearest.js';
import { buildEdition, type EditionTask } from './build-edition.js';
import { CONFIG_FILE, type Config, type Destination } from './config.js';
import { dialectNames, loadDialect } from './dialects.js';
import { FileLog } from './file-log.js';
import { htmlNames, isPartName, loadMessage, messageFiles, type MessageFile } from './load-message.js';
import { PicturePlacer, type PictureSummary } from './place-pictures.js';
import { MessagePreparer, type Edition } from './prepare-message.js';
import { removeStaleEditions, type Written } from './write-outputs.js';

/** What to build. */
export interface BuildRequest {
  readonly config: Config;
  /** Names of messages; all of them where the list is empty. */
  readonly messages: readonly string[];
  /** Names of destinations; all of them where the list is empty. */
  readonly destinations: readonly string[];
  /** The folder that outputs go below. */
  readonly outFolder: string;
  /** True to make the package that the destination imports, too. */
  readonly pack: boolean;
}

/** One message, or one of its editions, at one destination. */
export interface BuildOutcome {
  readonly message: string;
  /** Null for a message without editions. */
  readonly edition: string | null;
  readonly destination: string;
  readonly findings: readonly Finding[];
  /** What was written, or null where errors kept everything as it was. */
  readonly written: Written | null;
  /** What became of its pictures; null where nothing was written. */
  readonly pictures: PictureSummary | null;
}

/** The SHA-256 of the files that a message read, null for those that were not there, by full path. */
export type MessageInputs = ReadonlyMap<string, string | null>;

/** How far a build is. */
export interface BuildProgress {
  /** The message that is being built, how many of its editions are done, and of how many. */
  readonly message: string;
  readonly done: number;
  readonly of: number;
  readonly messagesDone: number;
  readonly messages: number;
}

/** Who is told of a build on its way. */
export interface BuildListener {
  /** All editions of a message are done at all destinations. */
  readonly done: (outcomes: readonly BuildOutcome[]) => void;
  readonly progress: (progress: BuildProgress) => void;
}

export interface BuildResult {
  readonly outcomes: readonly BuildOutcome[];
  /** Findings about the request and the messages themselves, in order. */
  readonly findings: readonly Finding[];
  /** What each message was made from. */
  readonly inputs: ReadonlyMap<string, MessageInputs>;
}

/** A destination with its dialect. */
export interface Target {
  readonly destination: Destination;
  readonly dialect: Dialect;
}

/**
 * Builds messages for destinations. Each message is compiled once; a message with errors leaves its outputs as they were.
 */
export async function buildMessages(
  request: BuildRequest,
  listener: Partial<BuildListener> = {},
): Promise<BuildResult> {
  const findings: Finding[] = [];
  const messages = await chooseMessages(request, findings);
  const targets = await chooseTargets(request, findings);
  const inputs = new Map<string, MessageInputs>();
  if (findings.some(isError)) return { outcomes: [], findings, inputs };
  const partNames = await readPartNames(request.config.folder, findings);
  const placer = new PicturePlacer(request.config, process.env);
  const outcomes: BuildOutcome[] = [];
  for (const [messagesDone, message] of messages.entries()) {
    const files = new FileLog();
    const progress = (done: number, of: number): void =>
      listener.progress?.({ message: message.name, done, of, messagesDone, messages: messages.length });
    progress(0, 1);
    const built = await buildMessage(request, message, { targets, partNames, files, placer, progress });
    inputs.set(message.name, files.digests);
    findings.push(...built.findings);
    outcomes.push(...built.outcomes);
    listener.done?.(built.outcomes);
  }
  // What is wrong with a part is said once, however many messages use it.
  return { outcomes, findings: withoutRepeats(findings), inputs };
}

/** What the messages of a build share, and what one of them reports to. */
interface MessageTask {
  readonly targets: readonly Target[];
  readonly partNames: readonly string[];
  readonly files: FileLog;
  readonly placer: PicturePlacer;
  readonly progress: (done: number, of: number) => void;
}

async function buildMessage(
  request: BuildRequest,
  message: MessageFile,
  { targets, partNames, files, placer, progress }: MessageTask,
): Promise<{ outcomes: BuildOutcome[]; findings: Finding[] }> {
  const own: Finding[] = [];
  const report = (item: Finding): unknown => own.push(atOrigin(item));
  // A change of the configuration is a change of every message.
  await files.bytes(join(request.config.folder, CONFIG_FILE)).catch(() => null);
  const loaded = await loadMessage(message, request.config, files, report);
  const outcomes: BuildOutcome[] = [];
  if (loaded === null || own.some(isError)) {
    outcomes.push(...targets.map((target) => failed(message.name, null, target)));
    return { outcomes, findings: inReadingOrder(withoutRepeats(own)) };
  }
  const preparer = new MessagePreparer(loaded, request.config, files, partNames);
  const editions = preparer.editions(report);
  const task: EditionTask = { request, message: message.name, preparer, placer };
  for (const [index, edition] of editions.entries()) {
    progress(index, editions.length);
    const ready = await preparer.prepare(edition, report);
    for (const target of targets)
      outcomes.push(
        ready === null ? failed(message.name, edition.name, target) : await buildEdition(task, ready, target),
      );
  }
  if (own.some(isError) && editions.length === 0)
    outcomes.push(...targets.map((target) => failed(message.name, null, target)));
  if (loaded.editions !== null && !own.some(isError)) await removeGone(request, message.name, editions, targets);
  const findings = withoutRepeats([...own, ...outcomes.flatMap((outcome) => outcome.findings)].map(atOrigin));
  return { outcomes, findings: inReadingOrder(findings) };
}

async function removeGone(
  { outFolder }: BuildRequest,
  message: string,
  editions: readonly Edition[],
  targets: readonly Target[],
): Promise<void> {
  const current = new Set(editions.map(({ name }) => name ?? ''));
  for (const { destination } of targets)
    await removeStaleEditions({ outFolder, destination: destination.name, message, edition: null }, current);
}

function failed(message: string, edition: string | null, { destination }: Target): BuildOutcome {
  return { message, edition, destination: destination.name, findings: [], written: null, pictures: null };
}

/** The names of the project's parts; files whose names can be no elements are reported. */
async function readPartNames(folder: string, findings: Finding[]): Promise<string[]> {
  const names = await htmlNames(folder, 'parts');
  for (const name of names.filter((candidate) => !isPartName(candidate))) {
    const example = `parts/house-${name.toLowerCase().replace(/[^a-z\d]+/g, '-')}.html`;
    findings.push(finding('part-name', null, { path: `parts/${name}.html`, example }));
  }
  return names.filter(isPartName);
}

/** The name of a message, by its name or the path of its file. */
export function messageNameOf(word: string): string {
  return word.replace(/^(?:\.\/)?messages\//, '').replace(/\.(?:html|md)$/, '');
}

async function chooseMessages({ config, messages }: BuildRequest, findings: Finding[]): Promise<MessageFile[]> {
  const files = await messageFiles(config.folder);
  const known = files.map(({ name }) => name);
  if (known.length === 0) findings.push(finding('no-messages', null, { folder: join(config.folder, 'messages') }));
  for (const name of new Set(known.filter((candidate, index) => known.indexOf(candidate) < index)))
    findings.push(finding('message-twice', null, { name }));
  const wanted = messages.map(messageNameOf);
  for (const name of wanted.filter((candidate) => !known.includes(candidate))) {
    findings.push(
      finding('unknown-message', null, {
        name,
        advice: adviceForName(nearestName(name, known), known, 'Put it into messages/.'),
      }),
    );
  }
  return wanted.length === 0 ? files : files.filter(({ name }) => wanted.includes(name));
}

async function chooseTargets({ config, destinations, pack }: BuildRequest, findings: Finding[]): Promise<Target[]> {
  const known = config.destinations.map((destination) => destination.name);
  for (const name of destinations.filter((candidate) => !known.includes(candidate))) {
    findings.push(
      finding('unknown-destination', null, { name, advice: adviceForName(nearestName(name, known), known, '') }),
    );
  }
  const targets: Target[] = [];
  for (const destination of config.destinations) {
    if (destinations.length > 0 && !destinations.includes(destination.name)) continue;
    const dialect = await dialectOf(destination, config, findings);
    if (dialect !== null) targets.push({ destination, dialect });
  }
  return pack ? packable(targets, destinations, findings) : targets;
}

async function dialectOf(destination: Destination, config: Config, findings: Finding[]): Promise<Dialect | null> {
  const known = await dialectNames(config.folder);
  if (!known.includes(destination.dialect)) {
    const advice = adviceForName(nearestName(destination.dialect, known), known, '');
    findings.push(finding('unknown-dialect', destination.dialectPlace, { name: destination.dialect, advice }));
    return null;
  }
  const { dialect, findings: problems } = await loadDialect(destination.dialect, config.folder);
  findings.push(...problems);
  return dialect;
}

/** Without a choice of the user's, `pack` takes the destinations whose dialect describes an archive. */
function packable(targets: readonly Target[], wanted: readonly string[], findings: Finding[]): Target[] {
  const able = targets.filter(
    ({ dialect }) => dialect.package !== null && (wanted.length > 0 || dialect.package.shape === 'zip'),
  );
  for (const { destination, dialect } of targets.filter(
    (target) => target.dialect.package === null && wanted.length > 0,
  )) {
    const known = able.map((target) => target.destination.name).join(', ');
    findings.push(finding('not-packable', null, { name: destination.name, dialect: dialect.name, known }));
  }
  return able;
}

/** By file, as they first come up, then by place. */
function inReadingOrder(findings: readonly Finding[]): Finding[] {
  const files = [...new Set(findings.map(({ place }) => place?.source.name ?? ''))];
  const key = (item: Finding): number => files.indexOf(item.place?.source.name ?? '');
  return [...findings].sort((a, b) => key(a) - key(b) || (a.place?.span.start ?? 0) - (b.place?.span.start ?? 0));
}
