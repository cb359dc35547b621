import { join } from 'node:path';
import { exitCodeOf } from '../../core/findings/finding.js';
import { loadConfig } from '../../project/config/config.js';
import { listMessages, type ListedMessage } from '../../project/build/list-messages.js';
import type { Io } from '../io/io.js';
import { printFindings } from '../output/print-findings.js';
import { command, flag, text, type CommonOptions, type Told } from '../io/command.js';
import { counted } from '../../core/text/amounts.js';
import { OUT_FOLDER } from '../../project/files/project-folder.js';

const options = {
  topic: text('--topic <name>', 'only messages of this topic'),
  keyword: text('--keyword <word>', 'only messages with this keyword'),
  json: flag('--json', 'as JSON'),
};

type ListOptions = Told<typeof options> & CommonOptions;

/** `list`. */
export const list = command({
  name: 'list',
  description:
    'Lists the messages of the project: subject, topic, keywords, editions, and for each destination whether it is built, or has changed since, and whether it was pushed there.',
  options,
  examples: ['inscriba list', 'inscriba list --topic monthly-news --json'],
  run,
});

async function run(options: ListOptions, io: Io): Promise<number> {
  const { config, findings } = await loadConfig(io.folder);
  if (config === null) {
    printFindings(findings, io, options.color);
    return exitCodeOf(findings);
  }
  const same = (a: string, b: string): boolean => a.toLowerCase() === b.toLowerCase();
  const all = await listMessages(config, join(config.folder, OUT_FOLDER));
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
    ...(editions.length === 0 ? [] : [`${counted(editions.length, 'edition')}: ${shortened(editions)}`]),
  ];
  const broken = errors === 0 ? '' : `${counted(errors, 'error')}; inscriba build ${name} shows where`;
  const lines = [
    subject ?? broken,
    ...(subject !== null && broken !== '' ? [broken] : []),
    ...(facts.length === 0 ? [] : [facts.join(' · ')]),
    destinations
      .map(({ name: destination, state, push }) => `${destination}: ${state}${push === null ? '' : `, ${push}`}`)
      .join(' · '),
  ];
  return lines.map((line, index) => `${(index === 0 ? name : '').padEnd(width)}${line}\n`).join('');
}

function shortened(names: readonly string[]): string {
  return names.length <= 5 ? names.join(', ') : `${names.slice(0, 5).join(', ')}, …`;
}
