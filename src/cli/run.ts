import { CommanderError, type Command } from 'commander';
import { commands } from './commands/commands.js';
import type { CommonOptions } from './io/command.js';
import { commandTree, type CommandTree } from './io/command-tree.js';
import { bareProgram } from './io/program.js';
import type { Io } from './io/io.js';
import { ownVersion } from '../project/files/own-files.js';

/**
 * Runs Inscriba with the words after its name, and returns the exit code: 0 done, 1 done with errors found, 2 wrong usage
 * or configuration, 70 a defect of Inscriba itself.
 */
export async function run(words: readonly string[], io: Io): Promise<number> {
  let code = 0;
  try {
    const program = await makeProgram(words, io, (result) => {
      code = result;
    });
    await program.parseAsync([...words], { from: 'user' });
    return code;
  } catch (error) {
    if (error instanceof CommanderError) return error.exitCode === 0 ? 0 : 2;
    const { sourceStack } = await import('./io/source-stack.js');
    const detail = error instanceof Error ? sourceStack(error.stack ?? error.message) : String(error);
    io.err(
      `inscriba: this is a defect of Inscriba itself, not of your files.\nPlease report it with the command that you ran, the file if you may share it, and this:\n\n  inscriba ${ownVersion()}, Node ${process.version}\n  ${detail.split('\n').slice(0, 4).join('\n  ')}\n`,
    );
    return 70;
  }
}

/** The program with what `words` ask for; of the other commands it knows the names. */
async function makeProgram(words: readonly string[], io: Io, finish: (code: number) => void): Promise<Command> {
  const program = bareProgram()
    .showHelpAfterError('Run it with --help to see what it takes.')
    .exitOverride()
    .configureOutput({ writeOut: (text) => io.out(text), writeErr: (text) => io.err(text) });
  const common = (): CommonOptions => ({
    quiet: program.opts<{ quiet?: boolean }>().quiet === true,
    color: io.color && program.opts<{ color: boolean }>().color,
  });
  // The help of the program shows what each command takes.
  const isNamed = commands.some(({ name }) => words.includes(name));
  const isHelp = !isNamed && !words.includes('--version');
  for (const { name, summary, load } of commands) {
    if (isHelp || words.includes(name)) (await load()).define(program, { io, common, finish, tree: programTree });
    else program.command(name);
    program.commands.at(-1)?.summary(summary);
  }
  return program;
}

/** The whole program, as its commands declare it: for who tells of it and runs none of them. */
export async function programTree(): Promise<CommandTree> {
  const program = bareProgram();
  const nothing = { io: undefined as never, common: () => ({ quiet: false, color: false }), finish: () => undefined };
  for (const { summary, load } of commands) {
    (await load()).define(program, { ...nothing, tree: programTree });
    program.commands.at(-1)?.summary(summary);
  }
  return commandTree(program);
}
