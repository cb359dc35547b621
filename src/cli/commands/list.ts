import { join } from 'node:path';
import { exitCodeOf } from '../../core/findings/finding.js';
import { loadConfig } from '../../project/config/config.js';
import { listMessages, type ListedMessage } from '../../project/build/list-messages.js';
import type { Io } from '../io/io.js';
import { printFindings } from '../output/print-findings.js';
import type { CommonOptions } from '../run.js';

export interface ListOptions extends CommonOptions {
  readonly topic: string | null;
  readonly keyword: string | null;
  readonly json: boolean;
}

/** `list`. */
export async function listCommand(options: ListOptions, io: Io): Promise<number> {
  const { config, findings } = await loadConfig(io.folder);
  if (config === null) {
    printFindings(findings, io, options.color);
    return exitCodeOf(findings);
  }
  const same = (a: string, b: string): boolean => a.toLowerCase() === b.toLowerCase();
  const all = await listMessages(config, join(config.folder, 'out'));
  const shown = all.filter(
    ({ topic, keywords }) =>
      (options.topic === null || same(topic ?? '', options.topic)) &&
      (options.keyword === null || keywords.some((word) => same(word, options.keyword ?? ''))),
  );
  if (options.json) io.out(`${JSON.stringify({ messages: shown }, null, 2)}\n`);
  else io.out(overview(shown));
  if (!options.quiet && !options.json && shown.length < all.length)
    io.err(`${all.length - shown.length} of ${all.length} messages are not shown.\n`);
  if (!options.quiet && !options.json && all.length === 0)
    io.err('There are no messages yet. Make one with: inscriba new message <name>\n');
  return 0;
}

function overview(messages: readonly ListedMessage[]): string {
  const width = Math.max(0, ...messages.map(({ name }) => name.length)) + 2;
  return messages.map((message) => describe(message, width)).join('');
}

function describe(message: ListedMessage, width: number): string {
  const { name, subject, topic, keywords, editions, destinations, errors } = message;
  const facts = [
    ...(topic === null ? [] : [topic]),
    ...(keywords.length === 0 ? [] : [keywords.join(', ')]),
    ...(editions.length === 0
      ? []
      : [`${editions.length} ${editions.length === 1 ? 'edition' : 'editions'}: ${shortened(editions)}`]),
  ];
  const broken =
    errors === 0 ? '' : `${errors} ${errors === 1 ? 'error' : 'errors'}; inscriba build ${name} shows where`;
  const lines = [
    subject ?? broken,
    ...(subject !== null && broken !== '' ? [broken] : []),
    ...(facts.length === 0 ? [] : [facts.join(' · ')]),
    destinations.map(({ name: destination, state }) => `${destination}: ${state}`).join(' · '),
  ];
  return lines.map((line, index) => `${(index === 0 ? name : '').padEnd(width)}${line}\n`).join('');
}

function shortened(names: readonly string[]): string {
  return names.length <= 5 ? names.join(', ') : `${names.slice(0, 5).join(', ')}, …`;
}
