import { resolve, relative, isAbsolute } from 'node:path';
import type { AcceptedFinding } from '../../core/check/accept.js';
import type { CheckSettings } from '../../core/check/settings.js';
import { engineNames, type EngineName } from '../../core/engines/engine.js';
import {
  adviceForName,
  exitCodeOf,
  finding,
  withoutRepeats,
  type Finding,
  type Report,
} from '../../core/findings/finding.js';
import { nearestName } from '../../core/text/nearest.js';
import type { Dialect } from '../../core/dialects/dialect.js';
import { loadConfig, type Config } from '../../project/config/config.js';
import { allDialects, dialectNamed } from '../../project/config/dialects.js';
import { checkBench, settingsFor, type CheckBench } from '../../project/check/check-bench.js';
import { ownVersion } from '../../project/files/own-files.js';
import { projectFolderOf } from '../../project/files/project-folder.js';
import type { AskedLink } from '../../links/ask-links.js';
import { command, flag, oneOfOr, texts, wholeOr, words, type CommonOptions, type Told } from '../io/command.js';
import type { Io } from '../io/io.js';
import { noProgress } from '../io/progress.js';
import { readInputFile } from '../output/file-outputs.js';
import { isFinishedFile } from '../output/named-files.js';
import { countFindings, printGrouped } from '../output/print-findings.js';
import { counted } from '../../core/text/amounts.js';

const options = {
  to: texts('--to <destination...>', 'only for these destinations of inscriba.yaml'),
  engine: texts('--engine <name...>', 'also what only looks plainer in these engines'),
  format: oneOfOr('lines', ['lines', 'json', 'sarif'], '--format <format>', 'how findings are written'),
  strict: flag('--strict', 'take warnings for errors'),
  links: flag('--links', 'ask each web address whether anything is there'),
  timeout: wholeOr(10, [1, 120], '--timeout <seconds>', 'how long an address may take to answer'),
};

type CheckOptions = Told<typeof options> & CommonOptions & { readonly what: readonly string[] };

/** What came of a check. */
interface Checked {
  readonly findings: readonly Finding[];
  readonly accepted: readonly AcceptedFinding[];
  /** "6 messages". */
  readonly counted: string;
  readonly links: readonly AskedLink[];
  /** What the project makes of findings. */
  readonly settings: CheckSettings;
}

const nothing: Checked = { findings: [], accepted: [], counted: '', links: [], settings: {} };

/** `check`. */
export const check = command({
  name: 'check',
  description:
    'Looks at messages, or at any finished HTML, as a careful colleague would before it is sent: structure, links, pictures, contrast, merge tags, footer, and what each engine makes of it.',
  arguments: {
    what: words(
      '[what...]',
      'names of messages, or HTML files; - reads standard input; all messages where none is given',
    ),
  },
  options,
  examples: ['inscriba check', 'inscriba check may-newsletter --strict', 'inscriba check exported.html --format sarif'],
  run,
});

async function run(options: CheckOptions, io: Io): Promise<number> {
  const findings: Finding[] = [];
  const report: Report = (item) => findings.push(item);
  const engines = readEngineNames(options.engine, report);
  const bench = engines === undefined ? null : await checkBench(engines, report);
  const files = options.what.filter(isFinishedFile);
  const messages = options.what.filter((word) => !isFinishedFile(word));
  if (bench === null) return finish({ ...nothing, findings }, options, io, null);
  const parts: Checked[] = [];
  if (files.length > 0) parts.push(await checkFiles(files, bench, options, io));
  if (messages.length > 0 || files.length === 0) parts.push(await checkProject(messages, bench, options, io));
  if (options.links) for (const part of [...parts]) parts.push(await ask(part, options, io));
  const checked: Checked = {
    ...nothing,
    findings: withoutRepeats([...findings, ...parts.flatMap((part) => part.findings)]),
    accepted: parts.flatMap(({ accepted }) => accepted),
    counted: parts
      .map(({ counted }) => counted)
      .filter((text) => text !== '')
      .join(' and '),
  };
  return finish(checked, options, io, bench);
}

/** The engines of these names; null for all. Undefined where one of them is none. */
function readEngineNames(names: readonly string[], report: Report): readonly EngineName[] | null | undefined {
  const wrong = names.filter((name) => !engineNames.some((known) => known === name));
  for (const name of wrong)
    report(
      finding('unknown-engine', null, { name, advice: adviceForName(nearestName(name, engineNames), engineNames, '') }),
    );
  if (wrong.length > 0) return undefined;
  return names.length === 0 ? null : engineNames.filter((name) => names.includes(name));
}

async function checkProject(
  messages: readonly string[],
  bench: CheckBench,
  { to, strict, quiet }: CheckOptions,
  io: Io,
): Promise<Checked> {
  const { config, findings } = await loadConfig(io.folder);
  if (config === null) return { ...nothing, findings };
  const { checkMessages } = await import('../../project/check/check-messages.js');
  const bar = quiet ? noProgress : await io.progress();
  const request = { config, messages, destinations: to };
  const result = await checkMessages(request, bench, { strict, progress: bar.show });
  bar.clear();
  const { count } = result;
  return {
    ...result,
    settings: config.checks,
    counted: count === 0 ? '' : counted(count, 'message'),
  };
}

async function checkFiles(
  files: readonly string[],
  bench: CheckBench,
  { to, strict }: CheckOptions,
  io: Io,
): Promise<Checked> {
  const [{ checkFile }, { boundsOf }, { asSet, withoutAccepted }] = await Promise.all([
    import('../../project/check/check-file.js'),
    import('../../project/load/finished-pictures.js'),
    import('../../project/check/settle.js'),
  ]);
  const findings: Finding[] = [];
  const accepted: AcceptedFinding[] = [];
  const links: AskedLink[] = [];
  const report: Report = (item) => findings.push(item);
  const { config, destination, dialect } = await placeOfUse(to, io, report);
  const dialects = dialect === null ? await allDialects(io.folder, report) : [dialect];
  const settings = config === null ? {} : settingsFor(config, destination);
  for (const input of files) {
    const file = await readInputFile(input, io, report);
    if (file === null) continue;
    const path = input === '-' ? null : resolve(io.folder, input);
    const bounds = await boundsOf(path, io.folder);
    const setting = { bench, dialect, dialects, fields: config?.fields ?? new Map(), bounds, path };
    const { findings: found, links: own } = await checkFile(file.source, setting);
    const settled = withoutAccepted(found, [file.source]);
    findings.push(...asSet(settled.standing, settings, strict));
    accepted.push(...settled.accepted);
    links.push(...own);
  }
  return { findings, accepted, links, settings, counted: counted(files.length, 'file') };
}

/** The project around, and the destination that finished HTML is meant for. */
async function placeOfUse(
  to: readonly string[],
  io: Io,
  report: Report,
): Promise<{ config: Config | null; destination: Config['destinations'][number] | null; dialect: Dialect | null }> {
  const none = { config: null, destination: null, dialect: null };
  if ((await projectFolderOf(io.folder)) === null) {
    for (const name of to) report(finding('unknown-destination', null, { name, advice: 'There is no project here.' }));
    return none;
  }
  const { config, findings } = await loadConfig(io.folder);
  findings.forEach(report);
  if (config === null) return none;
  const known = config.destinations.map(({ name }) => name);
  for (const name of to.filter((word) => !known.includes(word)))
    report(finding('unknown-destination', null, { name, advice: adviceForName(nearestName(name, known), known, '') }));
  const destination = config.destinations.find(({ name }) => name === to[0]) ?? null;
  if (destination === null) return { ...none, config };
  const { dialect, findings: problems } = await dialectNamed(destination.dialect, config.folder);
  problems.forEach(report);
  return { config, destination, dialect };
}

/** How many addresses are asked at a time. */
const AT_ONCE = 8;

/** Asks the addresses of what was checked; what is found there can be set and accepted like anything else. */
async function ask({ links, settings }: Checked, { timeout, quiet, strict }: CheckOptions, io: Io): Promise<Checked> {
  const [{ askLinks }, { asSet, withoutAccepted }] = await Promise.all([
    import('../../links/ask-links.js'),
    import('../../project/check/settle.js'),
  ]);
  const bar = quiet ? noProgress : await io.progress();
  const found = await askLinks(links, {
    milliseconds: timeout * 1000,
    atOnce: AT_ONCE,
    progress: (done, of) => bar.show({ message: 'links', done, of, messagesDone: 0, messages: 1 }),
  });
  bar.clear();
  const sources = new Set(found.flatMap(({ place }) => (place === null ? [] : [place.source])));
  const { standing, accepted } = withoutAccepted(found, [...sources]);
  // What is wrong with the comments that accept has been told.
  const codes = new Set(found.map(({ code }) => code));
  const findings = asSet(
    standing.filter(({ code }) => codes.has(code)),
    settings,
    strict,
  );
  return { ...nothing, findings, accepted };
}

async function finish(
  { findings, accepted, counted }: Checked,
  options: CheckOptions,
  io: Io,
  bench: CheckBench | null,
): Promise<number> {
  const nameOf = (name: string): string => (isAbsolute(name) ? relative(io.folder, name) || name : name);
  if (options.format !== 'lines' && bench !== null) {
    const [{ checkJson }, { sarif }] = await Promise.all([
      import('../../core/check/reports/check-json.js'),
      import('../../core/check/reports/sarif.js'),
    ]);
    const report = { findings, accepted, rules: bench.rules, nameOf, version: ownVersion() };
    io.out(options.format === 'json' ? checkJson(report) : sarif(report));
    return exitCodeOf(findings);
  }
  printGrouped(findings, io, options.color);
  if (!options.quiet && counted !== '') {
    const what = findings.length === 0 ? 'nothing found' : countFindings(findings);
    io.err(`${counted}: ${what}${accepted.length === 0 ? '' : `; ${accepted.length} accepted`}.\n`);
  }
  return exitCodeOf(findings);
}
