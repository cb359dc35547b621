import { exitCodeOf, finding, isError, type Finding, type Report } from '../../core/findings/finding.js';
import { composeMail } from '../../mail/compose-mail.js';
import { sendMails, type PostedMail } from '../../mail/send-mails.js';
import { missingServer, resolveServer } from '../../project/config/config-mail.js';
import { loadConfig, type Config } from '../../project/config/config.js';
import { mailAddress } from '../../core/yaml/keys.js';
import { chooseSamples, describeMail, makeMails, type MadeMail } from '../../project/visit/make-mails.js';
import type { Io } from '../io/io.js';
import { noProgress } from '../io/progress.js';
import { countFindings, printFindings } from '../output/print-findings.js';
import { command, textAsList, texts, words, type CommonOptions, type Told } from '../io/command.js';

const options = {
  to: textAsList('--to <destination>', 'as for this destination (needed where there are several)'),
  mail: texts('--mail <address...>', 'who gets them (default: the proof readers of inscriba.yaml)'),
  samples: texts('--with <sample...>', 'only filled for these samples (default: each of inscriba.yaml)'),
};

type ProofOptions = Told<typeof options> & CommonOptions & { readonly messages: readonly string[] };

/** `proof`. */
export const proof = command({
  name: 'proof',
  description:
    'Sends messages as test mails over the server under mail.smtp of inscriba.yaml: of each message, and of each of its editions, one mail for each sample recipient, with merge tags filled. Nobody gets one who is not named here or listed under mail.readers.',
  arguments: {
    messages: words(
      '[message...]',
      'names of messages, or of editions (branch-notice/mill-yard); all where none is given',
    ),
  },
  options,
  examples: [
    'inscriba proof may-newsletter --to members --mail desk@alderlane.example',
    'inscriba proof loans-due --to members --with nobody',
  ],
  run,
});

/** What stands before the subject of a proof. */
const MARK = '[proof] ';

/** More proofs than these are hardly meant. */
const MOST_PROOFS = 50;

async function run(options: ProofOptions, io: Io): Promise<number> {
  const { config, findings: problems } = await loadConfig(io.folder);
  if (config === null) {
    printFindings(problems, io, options.color);
    return exitCodeOf(problems);
  }
  return proofMessages(config, options, io, (line) => io.err(`${line}\n`));
}

/** Makes and sends the proofs of a project's messages. */
export async function proofMessages(
  config: Config,
  options: ProofOptions,
  io: Io,
  say: (line: string) => void,
): Promise<number> {
  const findings: Finding[] = [];
  const report = (item: Finding): unknown => findings.push(item);
  const finish = (): number => {
    printFindings(findings, io, options.color);
    if (!options.quiet && findings.length > 0) io.err(`${countFindings(findings)}.\n`);
    return exitCodeOf(findings);
  };
  const readers = chooseReaders(config, options.mail, report);
  const samples = chooseSamples(config, options.samples, report);
  const { smtp, perMinute } = config.mail;
  if (smtp === null) report(missingServer('smtp'));
  const server = smtp === null ? null : resolveServer(smtp, 'smtp', process.env, report);
  if (server === null || findings.some(isError)) return finish();
  const bar = options.quiet ? noProgress : await io.progress();
  const delivery = { to: readers, mark: MARK, isUnsent: false, date: new Date() };
  const request = { config, messages: options.messages, destinations: options.to, samples, delivery };
  const { mails, findings: found } = await makeMails(request, bar.show);
  bar.clear();
  findings.push(...found);
  reportMany(mails, report);
  if (findings.some(isError) || mails.length === 0) return finish();
  const posted = await Promise.all(mails.map((made) => post(made, readers)));
  const names = new Map(posted.map((mail, index) => [mail, mails[index]]));
  const { findings: failures, sent } = await sendMails(server, posted, perMinute, (mail, taken) => {
    const made = names.get(mail);
    if (!options.quiet && made !== undefined) say(`sent  ${describeMail(made)}  to ${taken.join(', ')}`);
  });
  findings.push(...failures);
  if (!options.quiet && sent < posted.length) io.err(`${sent} of ${posted.length} proofs sent.\n`);
  if (findings.length > 0 && !options.quiet) io.err('\n');
  return finish();
}

/** Who gets proofs: those who are named, or else the proof readers of the project; nobody else, ever. */
function chooseReaders({ mail }: Config, named: readonly string[], report: Report): readonly string[] {
  const readers = [...new Set(named.length > 0 ? named.map((address) => address.trim()) : mail.readers)];
  for (const reader of readers.filter((candidate) => mailAddress().validate(candidate).error !== undefined))
    report(finding('address-invalid', null, { address: reader }));
  if (readers.length === 0) report(finding('readers-missing', null));
  return readers;
}

function reportMany(mails: readonly MadeMail[], report: Report): void {
  if (mails.length <= MOST_PROOFS) return;
  const edition = mails.find((made) => made.edition !== null);
  const example = edition === undefined ? (mails[0]?.message ?? '') : `${edition.message}/${edition.edition ?? ''}`;
  report(finding('proof-many', null, { count: String(mails.length), most: String(MOST_PROOFS), example }));
}

async function post(made: MadeMail, to: readonly string[]): Promise<PostedMail> {
  return { from: made.mail.from.address, to, mail: await composeMail(made.mail), what: describeMail(made) };
}
