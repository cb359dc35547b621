import { Argument, Option } from 'commander';
import { examples, inherit, numberBetween, type Definition } from './definition.js';
import type { Piece } from './commands/copy.js';

/** `proof`. */
export function defineProof({ program, io, common, finish }: Definition): void {
  inherit(program.command('proof'))
    .summary('send test mails, filled with sample data')
    .description(
      'Sends messages as test mails over the server under mail.smtp of inscriba.yaml: of each message, and of each of its editions, one mail for each sample recipient, with merge tags filled. Nobody gets one who is not named here or listed under mail.readers.',
    )
    .argument('[message...]', 'names of messages, or of editions (branch-notice/mill-yard); all where none is given')
    .option('--to <destination>', 'as for this destination (needed where there are several)', asList)
    .option('--mail <address...>', 'who gets them (default: the proof readers of inscriba.yaml)')
    .option('--with <sample...>', 'only filled for these samples (default: each of inscriba.yaml)')
    .addHelpText(
      'after',
      examples(
        'inscriba proof may-newsletter --to members --mail desk@alderlane.example',
        'inscriba proof loans-due --to members --with nobody',
      ),
    )
    .action(async (messages: string[], options: { to?: string[]; mail?: string[]; with?: string[] }) => {
      const { proofCommand } = await import('./commands/proof.js');
      const request = { messages, to: options.to ?? [], mail: options.mail ?? [], samples: options.with ?? [] };
      finish(await proofCommand({ ...request, ...common() }, io));
    });
}

/** `draft`. */
export function defineDraft({ program, io, common, finish }: Definition): void {
  inherit(program.command('draft'))
    .summary('make an unsent mail: a file, or in the drafts of a mailbox')
    .description(
      'Makes an unsent mail of a message, its pictures in it: an .eml file that mail programs open to be sent, or a draft in a mailbox.',
    )
    .argument('[message...]', 'names of messages, or of editions (branch-notice/mill-yard); all where none is given')
    .option('--to <destination>', 'as for this destination (needed where there are several)', asList)
    .option('--with <sample>', 'fill merge tags with this sample recipient (default: they stay)')
    .addOption(
      new Option('--imap', 'put it into the drafts of the mailbox under mail.imap of inscriba.yaml').conflicts('out'),
    )
    .option('--out <path>', 'the .eml file, or the folder for several (default: standard output)')
    .addHelpText(
      'after',
      examples(
        'inscriba draft repair-day --to members --out repair-day.eml',
        'inscriba draft repair-day --to archive --with nobody --imap',
      ),
    )
    .action(async (messages: string[], options: { to?: string[]; with?: string; imap?: boolean; out?: string }) => {
      const { draftCommand } = await import('./commands/draft.js');
      const request = {
        messages,
        to: options.to ?? [],
        sample: options.with ?? null,
        imap: options.imap === true,
        out: options.out ?? null,
      };
      finish(await draftCommand({ ...request, ...common() }, io));
    });
}

/** `copy`. */
export function defineCopy({ program, io, common, finish }: Definition): void {
  inherit(program.command('copy'))
    .summary('put a piece of a message on the clipboard')
    .description(
      'Puts a piece of a message, as it is for a destination, on the clipboard, to be pasted into the form of a platform. Where the output goes to a file or another program, the piece goes there.',
    )
    .argument('<message>', 'the name of a message, or of an edition (branch-notice/mill-yard)')
    .addArgument(
      new Argument('<piece>', 'the whole page, its body or style sheet alone, the plain text, the subject').choices([
        'html',
        'body',
        'css',
        'text',
        'subject',
      ]),
    )
    .option('--to <destination>', 'as for this destination (needed where there are several)', asList)
    .addHelpText(
      'after',
      examples(
        'inscriba copy may-newsletter html --to members',
        'inscriba copy may-newsletter subject --to members | wc -m',
      ),
    )
    .action(async (message: string, piece: Piece, options: { to?: string[] }) => {
      const { copyCommand } = await import('./commands/copy.js');
      finish(await copyCommand({ message, piece, to: options.to ?? [], ...common() }, io));
    });
}

/** `standin`. */
export function defineStandin({ program, io, common, finish }: Definition): void {
  const port = numberBetween(0, 65_535);
  inherit(program.command('standin'))
    .summary('a simulated mailbox, to send proofs to')
    .description(
      'Runs a simulated mailbox on this machine until it is stopped: it takes every mail over SMTP, sends none on, and shows them on a page.',
    )
    .option('--smtp-port <number>', 'the port that takes mail; 0 for any that is free', port, 4025)
    .option('--page-port <number>', 'the port of the page; 0 for any that is free', port, 4080)
    .option('--keep <folder>', 'write each mail into this folder, too')
    .addHelpText('after', examples('inscriba standin', 'inscriba standin --smtp-port 2500 --keep mails'))
    .action(async (options: { smtpPort: number; pagePort: number; keep?: string }) => {
      const { standinCommand } = await import('./commands/standin.js');
      finish(await standinCommand({ ...options, keep: options.keep ?? null, ...common() }, io));
    });
}

/** One destination as the list that a request takes. */
function asList(value: string): string[] {
  return [value];
}
