import { resolve } from 'node:path';
import { exitCodeOf, finding, type Finding } from '../../core/findings/finding.js';
import { writeWhole } from '../../project/files/write-file.js';
import { startMailbox, type RunningMailbox } from '../../standins/mailbox.js';
import type { KeptMail } from '../../standins/mail-pages.js';
import type { Io } from '../io/io.js';
import { printFindings } from '../output/print-findings.js';
import type { CommonOptions } from '../run.js';
import { kilobytes } from '../output/tables.js';

export interface StandinOptions extends CommonOptions {
  readonly smtpPort: number;
  readonly pagePort: number;
  /** The folder that mails are written into, too; null for none. */
  readonly keep: string | null;
}

/** `standin`. */
export async function standinCommand(options: StandinOptions, io: Io): Promise<number> {
  const { quiet, keep, color } = options;
  const received = async (mail: KeptMail): Promise<void> => {
    const problem = keep === null ? null : await keepMail(mail, resolve(io.folder, keep), io);
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
export function keepMail(mail: KeptMail, folder: string, io: Io): Promise<Finding | null> {
  const path = resolve(folder, `mail-${String(mail.number).padStart(3, '0')}.eml`);
  return writeWhole(path, mail.bytes, io.shown(path));
}
