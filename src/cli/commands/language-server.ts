import { ownVersion } from '../../project/files/own-files.js';
import { command, flag } from '../io/command.js';
import type { Io } from '../io/io.js';

const options = {
  stdio: flag('--stdio', 'speak over standard input and output, which it always does; many editors say so'),
};

/** `language-server`. */
export const languageServer = command({
  name: 'language-server',
  summary: 'findings, completion and answers in your editor, while you type',
  description:
    'Serves an editor by the Language Server Protocol over standard input and output, until the editor ends. docs/editors.md has the lines that editors need.',
  arguments: {},
  options,
  examples: ['inscriba language-server'],
  run,
});

async function run(_told: object, io: Io): Promise<number> {
  if (process.stdin.isTTY)
    io.err('This waits for an editor to speak; docs/editors.md has the lines that editors need. Ctrl-C stops.\n');
  const { serveEditor } = await import('../../editor/language-server.js');
  serveEditor(process.stdin, process.stdout, ownVersion());
  // Whoever ends the conversation ends the process.
  return new Promise(() => undefined);
}
