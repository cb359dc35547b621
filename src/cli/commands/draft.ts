import { exitCodeOf, finding, isError, type Finding } from '../../core/findings/finding.js';
import { templateName } from '../../core/packages/manifest.js';
import { composeMail } from '../../mail/compose-mail.js';
import { putDrafts, type Draft } from '../../mail/put-draft.js';
import { missingServer, resolveServer } from '../../project/config/config-mail.js';
import { loadConfig, type Config } from '../../project/config/config.js';
import { chooseSamples, describeMail, makeMails, sampleNames, type MadeMail } from '../../project/visit/make-mails.js';
import { planOutputs, writeOutputs } from '../output/file-outputs.js';
import type { Io } from '../io/io.js';
import { noProgress } from '../io/progress.js';
import { countFindings, printFindings } from '../output/print-findings.js';
import { command, flagWithout, text, textAsList, words, type CommonOptions, type Told } from '../io/command.js';

const options = {
  to: textAsList('--to <destination>', 'as for this destination (needed where there are several)'),
  sample: text('--with <sample>', 'fill merge tags with this sample recipient (default: they stay)'),
  imap: flagWithout('out', '--imap', 'put it into the drafts of the mailbox under mail.imap of inscriba.yaml'),
  out: text('--out <path>', 'the .eml file, or the folder for several (default: standard output)'),
};

type DraftOptions = Told<typeof options> & CommonOptions & { readonly messages: readonly string[] };

/** `draft`. */
export const draft = command({
  name: 'draft',
  description:
    'Makes an unsent mail of a message, its pictures in it: an .eml file that mail programs open to be sent, or a draft in a mailbox.',
  arguments: {
    messages: words(
      '[message...]',
      'names of messages, or of editions (branch-notice/mill-yard); all where none is given',
    ),
  },
  options,
  examples: [
    'inscriba draft repair-day --to members --out repair-day.eml',
    'inscriba draft repair-day --to archive --with nobody --imap',
  ],
  run,
});

async function run(options: DraftOptions, io: Io): Promise<number> {
  const { config, findings: problems } = await loadConfig(io.folder);
  const findings = config === null ? problems : [...problems, ...(await makeDrafts(config, options, io))];
  printFindings(findings, io, options.color);
  if (!options.quiet && config !== null && findings.length > 0) io.err(`${countFindings(findings)}.\n`);
  return exitCodeOf(findings);
}

async function makeDrafts(config: Config, options: DraftOptions, io: Io): Promise<Finding[]> {
  const findings: Finding[] = [];
  const report = (item: Finding): unknown => findings.push(item);
  const samples = options.sample === null ? null : chooseSamples(config, [options.sample], report);
  if (findings.some(isError)) return findings;
  const bar = options.quiet ? noProgress : await io.progress();
  const delivery = { to: [], mark: '', isUnsent: true, date: new Date() };
  const request = { config, messages: options.messages, destinations: options.to, samples, delivery };
  const { mails, findings: found } = await makeMails(request, bar.show);
  bar.clear();
  findings.push(...found);
  for (const made of mails.filter(({ hasTags }) => hasTags))
    findings.push(finding('draft-tags', null, { what: describeMail(made), sample: sampleNames(config)[0] ?? '' }));
  if (findings.some(isError)) return findings;
  const say = (line: string): void => {
    if (!options.quiet) io.err(`${line}\n`);
  };
  return [...findings, ...(options.imap ? await put(config, mails, say) : await write(mails, options, io, say))];
}

async function put({ mail }: Config, mails: readonly MadeMail[], say: (line: string) => void): Promise<Finding[]> {
  const findings: Finding[] = [];
  if (mail.imap === null) return [missingServer('imap')];
  const server = resolveServer(mail.imap, 'imap', process.env, (item) => findings.push(item));
  if (server === null) return findings;
  const drafts = await Promise.all(
    mails.map(async (made): Promise<Draft> => ({ mail: await composeMail(made.mail), what: describeMail(made) })),
  );
  const problems = await putDrafts(server, drafts, mail.drafts, ({ draft, folder, isNew }) =>
    say(`${isNew ? 'put' : 'is there'}  ${draft.what}  in ${folder} on ${server.host}`),
  );
  return [...findings, ...problems];
}

async function write(
  mails: readonly MadeMail[],
  { out }: DraftOptions,
  io: Io,
  say: (line: string) => void,
): Promise<Finding[]> {
  const names = mails.map((made) => templateName(made));
  const { plan, findings } = await planOutputs(names, out, io, (name) => `${name}.eml`);
  if (findings.length > 0) return findings;
  const written = await Promise.all(mails.map(async ({ mail }) => (await composeMail(mail)).bytes));
  const problems = await writeOutputs(written, plan, io);
  if (problems.length === 0 && plan.kind === 'files')
    mails.forEach((made, index) => say(`wrote  ${describeMail(made)}  ${io.shown(plan.paths[index] ?? '')}`));
  return problems;
}
