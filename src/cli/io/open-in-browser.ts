import { spawn } from 'node:child_process';

/** What systems open addresses with. */
const openers: Readonly<Record<string, readonly [program: string, ...words: string[]]>> = {
  darwin: ['open'],
  win32: ['explorer.exe'],
};

/**
 * Opens an address in a browser.
 * @param browser the path of a browser; null for the one that people have chosen on their system
 * @returns whether something was there to open it
 */
export function openInBrowser(address: string, browser: string | null, platform: string): Promise<boolean> {
  const [program, ...words] = browser === null ? (openers[platform] ?? ['xdg-open']) : [browser];
  return new Promise((resolve) => {
    const opened = spawn(program, [...words, address], { stdio: 'ignore', detached: true });
    opened.on('error', () => resolve(false));
    opened.on('spawn', () => {
      opened.unref();
      resolve(true);
    });
  });
}
