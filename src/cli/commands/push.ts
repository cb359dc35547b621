import { exitCodeOf, isError, withoutRepeats } from '../../core/findings/finding.js';
import { loadConfig, type Config } from '../../project/config/config.js';
import { pushMessages } from '../../project/push/push-messages.js';
import type { PushOutcome, PushRequest } from '../../project/push/push-request.js';
import { command, flag, texts, words, type CommonOptions, type Told } from '../io/command.js';
import type { Io } from '../io/io.js';
import { noProgress } from '../io/progress.js';
import { countFindings, printFindings } from '../output/print-findings.js';
import { counted } from '../../core/text/amounts.js';

const options = {
  to: texts('--to <destination...>', 'only to these destinations (default: all that have push in inscriba.yaml)'),
  dryRun: flag('--dry-run', 'print every request that would be made, without secrets, and make none'),
  yes: flag('--yes', 'make templates anew that are gone there, without asking'),
  force: flag('--force', 'put yours in place of what somebody changed there, or made there under the same name'),
};

type PushOptions = Told<typeof options> & CommonOptions & { readonly messages: readonly string[] };

/** `push`. */
export const push = command({
  name: 'push',
  description:
    'Brings messages into the sending platforms of their destinations, over the interfaces that their dialects describe: pictures, template, subject, plain text. What a push made is on record in deliveries.json, and the next one updates it; what has not changed is left alone, and what somebody changed there is not overwritten.',
  arguments: {
    messages: words(
      '[message...]',
      'names of messages, or of editions (branch-notice/mill-yard); all where none is given',
    ),
  },
  options,
  examples: ['inscriba push may-newsletter --to members', 'inscriba push --dry-run'],
  run,
});

async function run(options: PushOptions, io: Io): Promise<number> {
  const { config, findings: problems } = await loadConfig(io.folder);
  if (config === null) {
    printFindings(problems, io, options.color);
    return exitCodeOf(problems);
  }
  const request: PushRequest = {
    config,
    messages: options.messages,
    destinations: options.to,
    environment: process.env,
    recordFolder: config.folder,
    isDry: options.dryRun,
    isForced: options.force,
  };
  const say = (line: string): void => {
    if (!options.quiet) io.err(`${line}\n`);
  };
  const { code } = await pushAndTell(config, request, options, io, say);
  return code;
}

/** Pushes messages, and tells what came of each. */
export async function pushAndTell(
  config: Config,
  request: PushRequest,
  options: CommonOptions & { readonly yes: boolean; readonly isBrief?: boolean },
  io: Io,
  say: (line: string) => void,
): Promise<{ readonly code: number; readonly outcomes: readonly PushOutcome[] }> {
  const bar = options.quiet ? noProgress : await io.progress();
  const width = Math.max(0, ...config.destinations.map(({ name }) => name.length));
  const { outcomes, findings } = await pushMessages(request, {
    progress: bar.show,
    done: (outcome) => {
      bar.clear();
      if (outcome.how === 'planned') io.out(planOf(outcome));
      else if (options.isBrief !== true) say(lineOf(outcome, width));
    },
    makesAnew: async (what, destination) => {
      if (options.yes) return true;
      bar.clear();
      return io.agreed(`The template of ${what} is no longer at ${destination}. Make it anew?`);
    },
  });
  bar.clear();
  // Whoever tells of more has said already what is to be done about warnings.
  const told = options.isBrief === true ? findings.filter(isError) : findings;
  if (told.length > 0 && !options.quiet) io.err('\n');
  printFindings(told, io, options.color);
  if (options.isBrief === true) {
    for (const name of new Set(outcomes.map(({ destination }) => destination)))
      say(`pushed   ${name}: ${summaryOf(outcomes.filter(({ destination }) => destination === name))}`);
    return { code: exitCodeOf(findings), outcomes };
  }
  if (outcomes.length > 0 && !request.isDry) say(`\n${summaryOf(outcomes)}.`);
  if (!options.quiet && findings.length > 0) io.err(`${countFindings(findings)}.\n`);
  return { code: exitCodeOf(findings), outcomes };
}

const verbs: Readonly<Record<PushOutcome['how'], string>> = {
  created: 'created',
  updated: 'updated',
  unchanged: 'unchanged',
  'found there': 'found there',
  failed: 'not pushed',
  planned: 'planned',
};

function nameOf({ message, edition }: PushOutcome): string {
  return edition === null ? message : `${message}/${edition}`;
}

function lineOf(outcome: PushOutcome, width: number): string {
  const { how, destination, link, pictures, findings } = outcome;
  const sent = pictures === 0 ? '' : `  ${counted(pictures, 'picture')} sent`;
  const errors = withoutRepeats(findings).filter(isError).length;
  const why = how !== 'failed' || errors === 0 ? '' : `  ${counted(errors, 'error')}`;
  const where = link === null || how === 'failed' ? '' : `  ${link}`;
  return `${verbs[how].padEnd(11)}  ${destination.padEnd(width)}  ${nameOf(outcome)}${sent}${where}${why}`;
}

/** Every request that a push would make of a message. */
function planOf(outcome: PushOutcome): string {
  const heading = `# ${nameOf(outcome)} to ${outcome.destination}\n`;
  return `${heading}\n${outcome.requests.join('\n')}\n`;
}

/** "5 created, 2 unchanged, 1 not pushed". */
function summaryOf(outcomes: readonly PushOutcome[]): string {
  const kinds = Object.keys(verbs) as PushOutcome['how'][];
  const counts = kinds.flatMap((how) => {
    const count = outcomes.filter((outcome) => outcome.how === how).length;
    return count === 0 ? [] : [`${count} ${verbs[how]}`];
  });
  return counts.join(', ');
}
