import { resolve } from 'node:path';
import { exitCodeOf, finding, type Finding } from '../../core/findings/finding.js';
import { writeWhole } from '../../project/files/write-file.js';
import { startMailbox, type RunningMailbox } from '../../standins/mailbox.js';
import type { KeptMail } from '../../standins/mail-views.js';
import type { Io } from '../io/io.js';
import { printFindings } from '../output/print-findings.js';
import { command, text, wholeOr, type CommonOptions, type Told } from '../io/command.js';
import { kilobytes } from '../output/tables.js';

/** Every port there is, and 0 for one that is free. */
const ports = [0, 65_535] as const;

const options = {
  smtpPort: wholeOr(4025, ports, '--smtp-port <number>', 'the port that takes mail; 0 for any that is free'),
  pagePort: wholeOr(4080, ports, '--page-port <number>', 'the port of the page; 0 for any that is free'),
  keep: text('--keep <folder>', 'write each mail into this folder, too'),
};

type StandinOptions = Told<typeof options> & CommonOptions;

/** `standin`. */
export const standin = command({
  name: 'standin',
  description:
    'Runs a simulated mailbox on this machine until it is stopped: it takes every mail over SMTP, sends none on, and shows them on a page.',
  options,
  examples: ['inscriba standin', 'inscriba standin --smtp-port 2500 --keep mails'],
  run,
});

async function run(options: StandinOptions, io: Io): Promise<number> {
  const { quiet, keep, color } = options;
  const received = async (mail: KeptMail): Promise<void> => {
    const problem = keep === null ? null : await keepMail(mail, resolve(io.folder, keep));
    if (problem !== null) {
      printFindings([problem], io, color);
      throw new Error('not kept');
    }
    if (!quiet) io.err(`mail ${mail.number}  for ${mail.readers.join(', ')}  ${kilobytes(mail.bytes.length)}\n`);
  };
  const { mailbox, problem } = await start({ ...options, received });
  if (mailbox === null) {
    printFindings([problem], io, color);
    return exitCodeOf([problem]);
  }
  io.err(
    `A simulated mailbox takes mail on 127.0.0.1:${mailbox.smtpPort} and shows it on ${mailbox.page}; Ctrl-C stops.\n`,
  );
  await io.stopped();
  await mailbox.stop();
  io.err('Stopped.\n');
  return 130;
}

type Started =
  { readonly mailbox: RunningMailbox; readonly problem: null } | { readonly mailbox: null; readonly problem: Finding };

async function start(options: Parameters<typeof startMailbox>[0]): Promise<Started> {
  try {
    return { mailbox: await startMailbox(options), problem: null };
  } catch (error) {
    const { code, port } = error as NodeJS.ErrnoException & { port?: number };
    if (code !== 'EADDRINUSE' && code !== 'EACCES') throw error;
    const detail = code === 'EACCES' ? 'this user may not listen there' : 'another program listens there';
    return { mailbox: null, problem: finding('port-taken', null, { port: String(port ?? ''), detail }) };
  }
}

/** Writes a mail into a folder, under its number. */
export function keepMail(mail: KeptMail, folder: string): Promise<Finding | null> {
  const path = resolve(folder, `mail-${String(mail.number).padStart(3, '0')}.eml`);
  return writeWhole(path, mail.bytes);
}
