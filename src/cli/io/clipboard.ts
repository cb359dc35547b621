import { spawn } from 'node:child_process';

/** A program that fills the clipboard of the desktop from its standard input. */
interface Helper {
  readonly program: string;
  readonly words: readonly string[];
}

type Environment = Readonly<Record<string, string | undefined>>;

/**
 * Puts a text on the clipboard: by a program of the desktop, where there is one, or by the terminal itself, which reaches the
 * desktop of whoever sits at it, also from another machine (the sequence OSC 52 of terminals).
 * @param write writes to the terminal
 * @returns the program that did it, or `terminal`
 */
export async function toClipboard(
  text: string,
  environment: Environment,
  platform: NodeJS.Platform,
  write: (text: string) => void,
): Promise<string> {
  for (const helper of helpersFor(environment, platform)) if (await runs(helper, text)) return helper.program;
  write(`\u001b]52;c;${Buffer.from(text).toString('base64')}\u0007`);
  return 'terminal';
}

/** On another machine, the clipboard of that machine is not meant. */
function helpersFor(environment: Environment, platform: NodeJS.Platform): Helper[] {
  const has = (name: string): boolean => (environment[name] ?? '') !== '';
  if (has('SSH_CONNECTION') || has('SSH_TTY')) return [];
  if (platform === 'darwin') return [{ program: 'pbcopy', words: [] }];
  if (platform === 'win32') return [{ program: 'clip', words: [] }];
  return [
    ...(has('WAYLAND_DISPLAY') ? [{ program: 'wl-copy', words: [] }] : []),
    ...(has('DISPLAY')
      ? [
          { program: 'xclip', words: ['-selection', 'clipboard', '-in'] },
          { program: 'xsel', words: ['--clipboard', '--input'] },
        ]
      : []),
  ];
}

/** So long a program may take to read what it is given, in milliseconds. */
const PATIENCE = 3000;

/** Whether the program took the text. Its output is not waited for: some stay, to hold the clipboard. */
function runs({ program, words }: Helper, text: string): Promise<boolean> {
  return new Promise((resolve) => {
    const child = spawn(program, words, { stdio: ['pipe', 'ignore', 'ignore'], timeout: PATIENCE });
    child.once('error', () => resolve(false));
    child.once('exit', (code) => resolve(code === 0));
    child.stdin.on('error', () => undefined);
    child.stdin.end(text);
  });
}
