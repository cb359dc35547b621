import { completionScript, shells, type Shell } from '../output/completion-script.js';
import { command, wordOf } from '../io/command.js';
import type { CommandTree } from '../io/command-tree.js';
import type { Io } from '../io/io.js';

/** `completion`. */
export const completion = command({
  name: 'completion',
  summary: 'a script by which your shell completes commands and options',
  description:
    'Prints a script for your shell: commands, their options and the words that these take are completed, and files elsewhere.',
  arguments: { shell: wordOf(shells, '<shell>', 'the shell that reads it') },
  examples: ['source <(inscriba completion bash)', 'inscriba completion fish | source'],
  run,
});

async function run({ shell }: { readonly shell: Shell }, io: Io, tree: () => Promise<CommandTree>): Promise<number> {
  io.out(completionScript(await tree(), shell));
  return 0;
}
