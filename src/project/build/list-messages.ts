import type { Delivery } from '../../core/delivery/deliveries.js';
import { isError, type Finding } from '../../core/findings/finding.js';
import type { Config } from '../config/config.js';
import { FileLog } from '../files/file-log.js';
import { fromDisk } from '../files/read-bytes.js';
import { messageFiles, type MessageFile } from '../load/message-names.js';
import { BuildRecord, type BuildState } from './build-record.js';
import { chooseTargets, readPartNames, type VisitPlan } from '../visit/choose-messages.js';
import type { MessageOverview } from '../visit/visit-messages.js';

/** How far a message is at a destination. */
export interface ListedDestination {
  readonly name: string;
  readonly state: BuildState;
  /** Whether it was pushed there, and whether all of that arrived; null for a destination that nothing is pushed to. */
  readonly push: 'pushed' | 'not pushed' | 'interrupted' | null;
}

/** A message in the overview. */
export interface ListedMessage {
  readonly name: string;
  readonly file: string;
  /** Null where the message cannot be read. */
  readonly subject: string | null;
  readonly topic: string | null;
  readonly keywords: readonly string[];
  /** The names of its editions; empty for a message without. */
  readonly editions: readonly string[];
  readonly destinations: readonly ListedDestination[];
  /** How many errors keep it from being read. */
  readonly errors: number;
}

/** The overview of a project's messages. What stands as it was built is not read again. */
export async function listMessages(config: Config, outFolder: string): Promise<ListedMessage[]> {
  const targets = await chooseTargets({ config, messages: [], destinations: [] }, () => undefined);
  const plan = { config, targets, partNames: await readPartNames(config.folder, () => undefined), read: fromDisk };
  const record = new BuildRecord(outFolder, plan);
  const deliveries = await pushedBefore(config);
  const listed: ListedMessage[] = [];
  for (const file of await messageFiles(config.folder)) {
    const known = await record.overviewOf(file.name, targets);
    const { overview, errors } = known === null ? await readOverview(file, plan) : { overview: known, errors: 0 };
    const destinations = config.destinations.map(async ({ name, push }): Promise<ListedDestination> => {
      const target = targets.find(({ destination }) => destination.name === name);
      // Without its dialect nothing can be said to be as it was.
      const state = target === undefined ? ('not built' as const) : await record.stateOf(file.name, target);
      return { name, state, push: push === null ? null : pushState(deliveries, name, file.name) };
    });
    listed.push({
      name: file.name,
      file: `messages/${file.path.slice(file.path.lastIndexOf('/') + 1)}`,
      subject: overview.subject,
      topic: overview.topic,
      keywords: overview.keywords,
      editions: overview.editions,
      destinations: await Promise.all(destinations),
      errors,
    });
  }
  return listed;
}

/** What pushes have made; nothing, where nothing is pushed. */
async function pushedBefore({ folder, destinations }: Config): Promise<readonly Delivery[]> {
  if (destinations.every(({ push }) => push === null)) return [];
  const { readDeliveryFile } = await import('../files/delivery-file.js');
  return (await readDeliveryFile(folder, () => undefined))?.deliveries ?? [];
}

function pushState(deliveries: readonly Delivery[], destination: string, message: string): ListedDestination['push'] {
  const own = deliveries.filter((known) => known.destination === destination && known.message === message);
  if (own.some(({ pending }) => pending !== null)) return 'interrupted';
  return own.length === 0 ? 'not pushed' : 'pushed';
}

type ReadOverview = Omit<MessageOverview, 'subject'> & { readonly subject: string | null };

/** Reads of a message what it says of itself, as far as it can be read. */
async function readOverview(
  file: MessageFile,
  { config, partNames }: Pick<VisitPlan, 'config' | 'partNames'>,
): Promise<{ overview: ReadOverview; errors: number }> {
  const [{ loadMessage }, { MessagePreparer }] = await Promise.all([
    import('../load/load-message.js'),
    import('../visit/prepare-message.js'),
  ]);
  const findings: Finding[] = [];
  const report = (item: Finding): unknown => findings.push(item);
  const files = new FileLog();
  const loaded = await loadMessage(file, config, { files }, report);
  const preparer = loaded === null ? null : new MessagePreparer(loaded, config, { files, partNames });
  const editions = preparer?.editions(report) ?? [];
  const [first] = editions;
  const source = preparer === null || first === undefined ? null : (preparer.read(first, report)?.html ?? null);
  const overview = {
    subject: source === null ? null : (preparer?.subjectOf(source) ?? null),
    topic: source?.metadata.topic ?? null,
    keywords: source?.metadata.keywords ?? [],
    editions: editions.flatMap(({ name }) => (name === null ? [] : [name])),
  };
  return { overview, errors: findings.filter(isError).length };
}
