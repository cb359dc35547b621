import { join } from 'node:path';
import { adviceForName, finding, watched, type Report } from '../../core/findings/finding.js';
import type { Dialect } from '../../core/dialects/dialect.js';
import { nearestName } from '../../core/text/nearest.js';
import type { Config, Destination } from '../config/config.js';
import { dialectNames, dialectNamed } from '../config/dialects.js';
import { CONFIG_FILE } from '../files/project-folder.js';
import { fromDisk, type ReadBytes } from '../files/read-bytes.js';
import { htmlNames, isPartName, messageFiles, type MessageFile } from '../load/message-names.js';
import type { Target } from './target.js';

/** Which messages to go through, for which destinations. */
export interface VisitRequest {
  readonly config: Config;
  /** Names of messages; all of them where the list is empty. */
  readonly messages: readonly string[];
  /** Names of destinations; all of them where the list is empty. */
  readonly destinations: readonly string[];
  /** How files are read, where not from the disk. */
  readonly read?: ReadBytes;
}

/** A message to go through, and the names of its editions that are asked for; all where the list is empty. */
export interface ChosenMessage extends MessageFile {
  readonly editions: readonly string[];
}

/** What to choose of what was asked for. */
export interface VisitChoice {
  /** Chooses among the destinations that were asked for. */
  readonly targets: (targets: readonly Target[], report: Report) => readonly Target[];
  /** Whether a name may be that of one edition: `branch-notice/mill-yard`. */
  readonly takesEditions: boolean;
}

/** What a way through messages goes through. */
export interface VisitPlan {
  readonly config: Config;
  readonly messages: readonly ChosenMessage[];
  readonly targets: readonly Target[];
  readonly partNames: readonly string[];
  readonly read: ReadBytes;
}

/** Finds out what a request means. Null where it is wrong. */
export async function planVisit(request: VisitRequest, choice: VisitChoice, given: Report): Promise<VisitPlan | null> {
  const { report, hasFailed } = watched(given);
  const { config } = request;
  const messages = await chooseMessages(request, choice.takesEditions, report);
  const targets = choice.targets(await chooseTargets(request, report), report);
  if (hasFailed()) return null;
  const { read = fromDisk } = request;
  return { config, messages, targets, partNames: await readPartNames(config.folder, given), read };
}

/** The names of the project's parts; files whose names can be no elements are reported. */
export async function readPartNames(folder: string, report: Report): Promise<string[]> {
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

/** The messages that are asked for, in the order of their names; what is wrong with the request is reported. */
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

/** The destinations that are asked for, with their dialects, in the order of the configuration. */
export async function chooseTargets(
  { config, destinations, read = fromDisk }: VisitRequest,
  report: Report,
): Promise<Target[]> {
  const known = config.destinations.map((destination) => destination.name);
  if (known.length === 0) report(finding('destinations-missing', null, { path: CONFIG_FILE }));
  for (const name of destinations.filter((candidate) => !known.includes(candidate))) {
    report(finding('unknown-destination', null, { name, advice: adviceForName(nearestName(name, known), known, '') }));
  }
  const targets: Target[] = [];
  for (const destination of config.destinations) {
    if (destinations.length > 0 && !destinations.includes(destination.name)) continue;
    const dialect = await dialectOf(destination, config, read, report);
    if (dialect !== null) targets.push({ destination, dialect });
  }
  return targets;
}

async function dialectOf(
  destination: Destination,
  config: Config,
  read: ReadBytes,
  report: Report,
): Promise<Dialect | null> {
  const known = await dialectNames(config.folder);
  if (!known.includes(destination.dialect)) {
    const advice = adviceForName(nearestName(destination.dialect, known), known, '');
    report(finding('unknown-dialect', destination.dialectPlace, { name: destination.dialect, advice }));
    return null;
  }
  const { dialect, findings: problems } = await dialectNamed(destination.dialect, config.folder, read);
  problems.forEach(report);
  return dialect;
}
