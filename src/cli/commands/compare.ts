import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join, relative, resolve } from 'node:path';
import {
  exitCodeOf,
  finding,
  isError,
  reasonOf,
  withoutRepeats,
  type Finding,
  type Report,
} from '../../core/findings/finding.js';
import {
  describeMessage,
  isOther,
  looksOther,
  readsOther,
  type DescribedMessage,
} from '../../core/compare/describe-change.js';
import { titleOf, type LookPictures, type ReportedMessage } from '../../core/compare/report-page.js';
import { checkBench, type CheckBench } from '../../project/check/check-bench.js';
import { loadConfig, type Config } from '../../project/config/config.js';
import { CONFIG_FILE } from '../../project/files/project-folder.js';
import { writeWhole } from '../../project/files/write-file.js';
import type { ComparedMessage } from '../../project/compare/compare-projects.js';
import type { ProjectPreview } from '../../project/preview/project-preview.js';
import { command, flag, needed, oneOf, text, texts, words, type CommonOptions, type Told } from '../io/command.js';
import type { Io } from '../io/io.js';
import { noProgress } from '../io/progress.js';
import { printFindings } from '../output/print-findings.js';
import type { Looks, LooksAtNeed } from './compare-looks.js';
import { exists } from '../../project/files/exists.js';

const options = {
  since: needed(
    '--since <revision or folder>',
    'what to compare with: a revision of git, or a folder with the project',
  ),
  to: texts('--to <destination...>', 'only for these destinations of inscriba.yaml'),
  report: text('--report <file.html>', 'write a page with before, after and what differs'),
  json: flag('--json', 'as JSON'),
  failOn: oneOf(
    ['look', 'words', 'any'] as const,
    '--fail-on <what>',
    'exit with 1 where looks, words or anything differ',
  ),
  browser: text('--browser <path>', 'the browser that looks (default: the one that is installed)'),
};

type CompareOptions = Told<typeof options> & CommonOptions & { readonly messages: readonly string[] };

/** `compare`. */
export const compare = command({
  name: 'compare',
  summary: 'what a change does to all messages',
  description:
    'Builds messages as they were and as they are, and says for each what differs: nothing, words, links, merge tags, pictures, findings, weight, or how it looks. Nothing of the work tree is touched.',
  arguments: { messages: words('[message...]', 'names of messages (default: all of them)') },
  options,
  examples: ['inscriba compare --since main', 'inscriba compare may-newsletter --since HEAD~3 --report changes.html'],
  run,
});

async function run(options: CompareOptions, io: Io): Promise<number> {
  const findings: Finding[] = [];
  const report: Report = (item) => findings.push(item);
  const temporary = await mkdtemp(join(tmpdir(), 'inscriba-compare-'));
  try {
    const code = await compareIn(temporary, options, io, report);
    printFindings(withoutRepeats(findings), io, options.color);
    return Math.max(code, exitCodeOf(findings));
  } finally {
    await rm(temporary, { recursive: true, force: true });
  }
}

async function compareIn(temporary: string, options: CompareOptions, io: Io, report: Report): Promise<number> {
  const [{ config, findings }, bench] = await Promise.all([loadConfig(io.folder), checkBench(null, report)]);
  findings.forEach(report);
  if (config === null || bench === null) return exitCodeOf(findings);
  const past = await pastConfig(temporary, config, options, io, report);
  if (past === null) return 2;
  const after = await openState(config, options, bench, report);
  if (after === null) return 2;
  // What does not build in the state before is told as such; a state of which nothing can be read is no state.
  const problems: Finding[] = [];
  const before = await openState(past, { ...options, messages: [] }, bench, (item) => problems.push(item));
  if (before === null) {
    reportPast(options.since, problems, report);
    return 2;
  }
  const { LooksAtNeed } = await import('./compare-looks.js');
  const looks = new LooksAtNeed(() => openLooks({ before, after }, options, report));
  // Who names a browser, or waits for looks, is not told less than they asked for.
  if ((options.browser !== null || options.failOn === 'look') && (await looks.open()) === null) return 2;
  try {
    const described = await describeAll({ before, after, looks, names: after.names() }, options, io);
    return await tell(described, { config, options }, io, report);
  } finally {
    await looks.close();
  }
}

/** The configuration of the state before. */
async function pastConfig(
  temporary: string,
  config: Config,
  { since }: CompareOptions,
  io: Io,
  report: Report,
): Promise<Config | null> {
  const folder = resolve(io.folder, since);
  const isProject = await exists(join(folder, CONFIG_FILE));
  const { checkOutRevision } = await import('../../project/compare/git-state.js');
  const past = isProject ? folder : await checkOutRevision(since, config.folder, temporary, report);
  if (past === null) return null;
  const loaded = await loadConfig(past);
  if (loaded.config === null) reportPast(since, loaded.findings, report);
  return loaded.config;
}

/** Why the state before cannot be read. */
function reportPast(since: string, problems: readonly Finding[], report: Report): void {
  const first = problems.find((item) => isError(item));
  report(finding('past-unreadable', null, { name: since, detail: first === undefined ? '' : reasonOf(first) }));
}

async function openState(
  config: Config,
  { messages, to }: Pick<CompareOptions, 'messages' | 'to'>,
  bench: CheckBench,
  report: Report,
): Promise<ProjectPreview | null> {
  const { ProjectPreview: Preview } = await import('../../project/preview/project-preview.js');
  // A destination may be new.
  const known = new Set(config.destinations.map(({ name }) => name));
  const destinations = messages.length === 0 ? to.filter((name) => known.has(name)) : to;
  return Preview.open({ config, messages, destinations }, { ...bench, subjects: new Map() }, report);
}

/** Who compares looks; null where there is no browser and nobody asked for looks. */
async function openLooks(
  states: { readonly before: ProjectPreview; readonly after: ProjectPreview },
  { browser, failOn, report: page }: CompareOptions,
  report: Report,
): Promise<Looks | null> {
  const problems: Finding[] = [];
  const { openBrowser } = await import('../../browser/open-browser.js');
  const opened = await openBrowser(browser, (item) => problems.push(item));
  if (opened !== null) {
    const { startLooks } = await import('./compare-looks.js');
    return startLooks(states, opened, page !== null);
  }
  if (browser !== null || failOn === 'look') problems.forEach(report);
  else if (problems.length > 0) report(finding('looks-skipped', null, {}));
  return null;
}

interface Comparing {
  readonly before: ProjectPreview;
  readonly after: ProjectPreview;
  readonly looks: LooksAtNeed;
  /** The messages that are asked for, by their names now. */
  readonly names: readonly string[];
}

async function describeAll(
  { before, after, looks, names }: Comparing,
  { quiet, messages }: CompareOptions,
  io: Io,
): Promise<ReportedMessage[]> {
  const { compareProjects } = await import('../../project/compare/compare-projects.js');
  const bar = quiet ? noProgress : await io.progress();
  const described: ReportedMessage[] = [];
  for await (const compared of compareProjects({ before, after }, messages.length === 0 ? null : names)) {
    const done = [...new Set(described.map(({ name }) => name))].length;
    bar.show({
      message: compared.looked.name,
      done: 0,
      of: 1,
      messagesDone: done,
      messages: Math.max(names.length, done + 1),
    });
    described.push(await describe(compared, looks));
  }
  bar.clear();
  return described;
}

async function describe({ looked, fate }: ComparedMessage, looks: LooksAtNeed): Promise<ReportedMessage> {
  const change = fate.kind === 'both' ? fate.change : null;
  // The same HTML with the same pictures looks the same.
  const seen = change === null || change.isSameBytes ? [] : await looks.compare(looked);
  return {
    ...looked,
    fate: fate.kind,
    change,
    looks: change === null ? null : seen,
    pictures: (seen ?? []).flatMap((item) =>
      item.pictures === null ? [] : [{ ...item.pictures, view: item.view, share: item.share }],
    ),
  };
}

async function tell(
  described: readonly ReportedMessage[],
  { config, options }: { readonly config: Config; readonly options: CompareOptions },
  io: Io,
  report: Report,
): Promise<number> {
  if (options.json) io.out(`${JSON.stringify({ messages: described.map(asJson) }, null, 2)}\n`);
  else printLines(described, io);
  const names = (list: readonly DescribedMessage[]): number => new Set(list.map(({ name }) => name)).size;
  const all = names(described);
  if (!options.quiet && !options.json)
    io.err(`${names(described.filter(isOther))} of ${all} ${all === 1 ? 'message differs' : 'messages differ'}.\n`);
  let code = described.some(({ fate }) => fate === 'broken-now' || fate === 'broken') ? 1 : 0;
  if (options.report !== null)
    code = Math.max(code, await writeReport(described, options.report, { config, options }, io, report));
  const fails = { look: looksOther, words: readsOther, any: isOther };
  if (options.failOn !== null && described.some(fails[options.failOn])) code = Math.max(code, 1);
  return code;
}

/** A line for each message; destinations and editions that came to the same are told together. */
function printLines(described: readonly DescribedMessage[], io: Io): void {
  const lines = new Map<string, { readonly name: string; readonly said: string; readonly of: string[] }>();
  for (const message of described) {
    const said = describeMessage(message);
    const { name, edition, destination } = message;
    const key = `${name}\n${said}`;
    const line = lines.get(key) ?? { name, said, of: [] };
    line.of.push(
      [...(edition === null ? [] : [edition]), ...(destination === null ? [] : [destination])].join(' for '),
    );
    lines.set(key, line);
  }
  const width = Math.max(0, ...[...lines.values()].map(({ name }) => name.length)) + 2;
  const counts = new Map<string, number>();
  for (const { name } of lines.values()) counts.set(name, (counts.get(name) ?? 0) + 1);
  for (const { name, said, of } of lines.values()) {
    const which = (counts.get(name) ?? 0) > 1 ? `${of.join(', ')}: ` : '';
    io.out(`${name.padEnd(width)}${which}${said}\n`);
  }
}

async function writeReport(
  described: readonly ReportedMessage[],
  path: string,
  { config, options }: { readonly config: Config; readonly options: CompareOptions },
  io: Io,
  report: Report,
): Promise<number> {
  const file = resolve(io.folder, path);
  const folder = `${file.replace(/\.html?$/i, '')}-pictures`;
  const { reportPage } = await import('../../core/compare/report-page.js');
  const problems: Finding[] = [];
  // Outputs that look alike share their pictures.
  const written = new Map<string, string>();
  const place = async (bytes: string, name: string): Promise<string> => {
    const known = written.get(bytes);
    if (known !== undefined) return known;
    const picture = join(folder, `${name.replace(/[^\p{L}\d._-]+/gu, '-')}.png`);
    const problem = await writeWhole(picture, Buffer.from(bytes, 'base64'));
    if (problem !== null) problems.push(problem);
    const address = relative(dirname(file), picture).split(/[\\/]/).map(encodeURIComponent).join('/');
    written.set(bytes, address);
    return address;
  };
  const placed: ReportedMessage[] = [];
  for (const message of described) {
    const pictures: LookPictures[] = [];
    for (const { view, share, before, after, difference } of message.pictures) {
      const name = `${titleOf(message)} ${view}`;
      pictures.push({
        ...{ view, share },
        before: await place(before, `${name} before`),
        after: await place(after, `${name} after`),
        difference: await place(difference, `${name} difference`),
      });
    }
    placed.push({ ...message, pictures });
  }
  const problem = await writeWhole(file, reportPage(placed, config.name, options.since));
  if (problem !== null) problems.push(problem);
  problems.slice(0, 1).forEach(report);
  if (!options.quiet && problems.length === 0) io.err(`${io.shown(file)} shows what differs.\n`);
  return problems.some(isError) ? 1 : 0;
}

function asJson(message: ReportedMessage): unknown {
  const { name, edition, destination, fate, change, looks } = message;
  return { name, edition, destination, fate, differs: isOther(message), change, looks };
}
