import { spawn } from 'node:child_process';

/** What systems open addresses with. */
const openers: Readonly<Record<string, readonly [program: string, ...words: string[]]>> = {
  darwin: ['open'],
  win32: ['explorer.exe'],
};

/** Opens an address with the browser that people have chosen. @returns whether something was there to open it */
export function openInBrowser(address: string, platform: string): Promise<boolean> {
  const [program, ...words] = openers[platform] ?? ['xdg-open'];
  return new Promise((resolve) => {
    const opened = spawn(program, [...words, address], { stdio: 'ignore', detached: true });
    opened.on('error', () => resolve(false));
    opened.on('spawn', () => {
      opened.unref();
      resolve(true);
    });
  });
}
