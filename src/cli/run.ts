import { Command, CommanderError } from 'commander';
import { definitions } from './definitions.js';
import type { Io } from './io/io.js';
import { version } from './io/version.js';

/** What every command may be told. */
export interface CommonOptions {
  readonly quiet: boolean;
  readonly color: boolean;
}

/**
 * Runs Inscriba with the words after its name, and returns the exit code: 0 done, 1 done with errors found, 2 wrong usage
 * or configuration, 70 a defect of Inscriba itself.
 */
export async function run(words: readonly string[], io: Io): Promise<number> {
  let code = 0;
  const program = makeProgram(io, (result) => {
    code = result;
  });
  try {
    await program.parseAsync([...words], { from: 'user' });
    return code;
  } catch (error) {
    if (error instanceof CommanderError) return error.exitCode === 0 ? 0 : 2;
    const detail = error instanceof Error ? (error.stack ?? error.message) : String(error);
    io.err(
      `inscriba: this is a defect of Inscriba itself, not of your files.\nPlease report it with the command that you ran, the file if you may share it, and this:\n\n  inscriba ${version()}, Node ${process.version}\n  ${detail.split('\n').slice(0, 4).join('\n  ')}\n`,
    );
    return 70;
  }
}

function makeProgram(io: Io, finish: (code: number) => void): Command {
  const program = new Command('inscriba')
    .description('Ordinary HTML and CSS in; responsive, table-based email, ready to import, out.')
    .version(version(), '--version', 'print the version')
    .helpOption('-h, --help', 'print help')
    .option('--quiet', 'print findings only, no summaries')
    .option('--no-color', 'print without colours')
    .showHelpAfterError('Run it with --help to see what it takes.')
    .exitOverride()
    .configureOutput({ writeOut: (text) => io.out(text), writeErr: (text) => io.err(text) });
  const common = (): CommonOptions => ({
    quiet: program.opts<{ quiet?: boolean }>().quiet === true,
    color: io.color && program.opts<{ color: boolean }>().color,
  });
  for (const define of definitions) define({ program, io, common, finish });
  return program;
}
