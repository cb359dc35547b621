import { stat } from 'node:fs/promises';
import { isError, type Finding } from '../../core/findings/finding.js';
import { buildState, readBuildRecord } from './build-record.js';
import type { Config } from '../config/config.js';
import { FileLog } from '../files/file-log.js';
import { htmlNames, isPartName, loadMessage, messageFiles } from '../load/load-message.js';
import { MessagePreparer } from './prepare-message.js';
import { outputFolder } from './write-outputs.js';

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
  readonly destinations: readonly { readonly name: string; readonly state: 'built' | 'changed since' | 'not built' }[];
  /** How many errors keep it from being read. */
  readonly errors: number;
}

/** The overview of a project's messages. */
export async function listMessages(config: Config, outFolder: string): Promise<ListedMessage[]> {
  const record = await readBuildRecord(outFolder);
  const partNames = (await htmlNames(config.folder, 'parts')).filter(isPartName);
  const listed: ListedMessage[] = [];
  for (const file of await messageFiles(config.folder)) {
    const findings: Finding[] = [];
    const report = (item: Finding): unknown => findings.push(item);
    const files = new FileLog();
    const loaded = await loadMessage(file, config, files, report);
    const preparer = loaded === null ? null : new MessagePreparer(loaded, config, files, partNames);
    const editions = preparer?.editions(report) ?? [];
    const [first] = editions;
    const source = preparer === null || first === undefined ? null : (preparer.read(first, report)?.html ?? null);
    const destinations = await Promise.all(
      config.destinations.map(async ({ name }) => {
        const state = await buildState(record, config.folder, name, file.name);
        const folder = outputFolder({ outFolder, destination: name, message: file.name, edition: null });
        const isThere = await stat(folder).then(
          () => true,
          () => false,
        );
        return { name, state: isThere ? state : ('not built' as const) };
      }),
    );
    listed.push({
      name: file.name,
      file: `messages/${file.path.slice(file.path.lastIndexOf('/') + 1)}`,
      subject: source === null ? null : (preparer?.subjectOf(source) ?? null),
      topic: source?.metadata.topic ?? null,
      keywords: source?.metadata.keywords ?? [],
      editions: editions.flatMap(({ name }) => (name === null ? [] : [name])),
      destinations,
      errors: findings.filter(isError).length,
    });
  }
  return listed;
}
