import { join, relative, resolve } from 'node:path';
import { exitCodeOf, isError, type Finding } from '../../core/findings/finding.js';
import { buildMessages, type BuildResult } from '../../project/build/build.js';
import type { BuildOutcome } from '../../project/build/outcome.js';
import { loadConfig, type Config } from '../../project/config/config.js';
import { startMailbox } from '../../standins/mailbox.js';
import { describeOutcomes } from '../output/outcomes.js';
import type { Io } from '../io/io.js';
import { countFindings, printFindings } from '../output/print-findings.js';
import { printTable } from '../output/tables.js';
import { pushTable, pushToPlatforms, type DemoPushes } from './demo-platforms.js';
import { proofMessages } from './proof.js';
import { command, textOr, type CommonOptions, type Told } from '../io/command.js';
import { ownFile } from '../../project/files/own-files.js';
import { keepMail } from './standin.js';
import { OUT_FOLDER } from '../../project/files/project-folder.js';

const options = { out: textOr(OUT_FOLDER, '--out <folder>', 'the folder that outputs go below') };

type DemoOptions = Told<typeof options> & CommonOptions;

/** `demo`: the whole way on the sample project. */
export const demo = command({
  name: 'demo',
  description:
    'Builds, checks and packs the sample project, the mails of the Alder Lane Tool Library, pushes it to six simulated platforms, proofs it to a simulated mailbox, and says what to look at.',
  options,
  examples: ['inscriba demo', 'inscriba demo --out /tmp/alder-lane'],
  run,
});

/** The simulated mailbox takes as many mails as come. */
const MOST_A_MINUTE = 6000;

const demoFolder = ownFile('demo');

async function run(options: DemoOptions, io: Io): Promise<number> {
  const { config, findings: problems } = await loadConfig(demoFolder);
  if (config === null) {
    printFindings(problems, io, options.color);
    return exitCodeOf(problems);
  }
  const outFolder = resolve(io.folder, options.out);
  const say = (line: string): void => {
    if (!options.quiet) io.err(`${line}\n`);
  };
  say(`${config.name}: the sample project, demo/ of the package`);
  const request = { config, messages: [], destinations: [], outFolder, isFresh: true };
  const built = await buildMessages(
    { ...request, pack: null },
    {
      done: (outcomes) => describeOutcomes(outcomes, io.folder).forEach((line) => say(`  built    ${line}`)),
    },
  );
  // What is imported as a folder is what has been built.
  const packed = await buildMessages(
    { ...request, destinations: ['members'], pack: { shape: null } },
    {
      done: (outcomes) => describeOutcomes(outcomes, io.folder).forEach((line) => say(`  packed   ${line}`)),
    },
  );
  const findings = [...built.findings, ...packed.findings];
  printFindings(findings, io, options.color);
  say(`  checked  ${checkedLine(built, findings)}`);
  if (findings.some(isError)) return exitCodeOf(findings);
  const pushed = await pushAll(outFolder, options, io, say);
  const mails = join(outFolder, 'mailbox');
  const code = await proofToMailbox(config, mails, options, io, say);
  if (pushed !== null && !options.quiet) {
    say('');
    printTable(pushTable(pushed.outcomes), io);
  }
  lookAt(packed.outcomes, outFolder, io).forEach(say);
  return Math.max(code, pushed?.code ?? 1);
}

/** "6 messages: no errors, no warnings". */
function checkedLine({ outcomes }: BuildResult, findings: readonly Finding[]): string {
  const messages = new Set(outcomes.map(({ message }) => message)).size;
  return `${messages} messages: ${findings.length === 0 ? 'no errors, no warnings' : countFindings(findings)}`;
}

/** The sample project with all platforms as destinations, pushed. */
async function pushAll(
  outFolder: string,
  options: DemoOptions,
  io: Io,
  say: (line: string) => void,
): Promise<DemoPushes | null> {
  const { config, findings } = await loadConfig(demoFolder, 'platforms.yaml');
  if (config === null) {
    printFindings(findings, io, options.color);
    return null;
  }
  const folder = join(outFolder, 'platforms');
  return pushToPlatforms(config, { folder, record: outFolder, options }, io, (line) => say(`  ${line}`));
}

/** What there is to be looked at. */
function lookAt(packed: readonly BuildOutcome[], outFolder: string, io: Io): string[] {
  const first = packed.find(({ message, written }) => message === 'may-newsletter' && written !== null);
  if (!first?.written) return [];
  const folder = relative(io.folder, join(outFolder, first.destination, first.message));
  const near = (path: string): string => relative(io.folder, path);
  return [
    '',
    'Look at',
    `  ${join(folder, 'index.html')}  in a browser; make the window narrow`,
    `  ${join(folder, 'index.txt')}  its plain-text version`,
    `  ${near(first.written.package ?? '')}  what the platform imports; import-card.txt in it says how`,
    `  ${near(join(outFolder, 'mailbox', 'mail-001.eml'))}  the first proof, in a mail program`,
    `  inscriba standin --state ${near(join(outFolder, 'platforms'))}  the six platforms, with the templates that they were given`,
  ];
}

/** Sends proofs to a simulated mailbox that is there as long as they are on their way. */
async function proofToMailbox(
  config: Config,
  folder: string,
  options: DemoOptions,
  io: Io,
  say: (line: string) => void,
): Promise<number> {
  const mailbox = await startMailbox({
    smtpPort: 0,
    pagePort: 0,
    received: async (mail) => {
      if ((await keepMail(mail, folder)) !== null) throw new Error('not kept');
    },
  });
  const { smtp } = config.mail;
  const port = smtp?.port ?? null;
  const own = smtp === null || port === null ? null : { ...smtp, port: { ...port, text: String(mailbox.smtpPort) } };
  const mail = { ...config.mail, smtp: own, perMinute: MOST_A_MINUTE };
  const request = { ...options, messages: ['may-newsletter', 'loans-due'], to: ['members'], mail: [], samples: [] };
  try {
    return await proofMessages({ ...config, mail }, request, io, (line) =>
      say(`  ${line.replace(/^sent/, 'proofed')}`),
    );
  } finally {
    await mailbox.stop();
  }
}
