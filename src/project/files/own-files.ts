import { existsSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** The path of a file or folder that comes with Inscriba, by its path in the package. */
export function ownFile(name: string): string {
  return join(packageFolder(dirname(fileURLToPath(import.meta.url))), name);
}

/** The folder of the package that a folder belongs to: the program is put together from modules of several depths. */
function packageFolder(folder: string): string {
  const above = dirname(folder);
  return existsSync(join(folder, 'starters')) || above === folder ? folder : packageFolder(above);
}

/** The version of the installed package. */
export function ownVersion(): string {
  const manifest = JSON.parse(readFileSync(ownFile('package.json'), 'utf8')) as { version: string };
  return manifest.version;
}

/**
 * The file of a worker: beside the module that starts it, or in the program that ships with its parts.
 * @param starter the address of that module
 */
export function workerFile(name: string, starter: string): string {
  const beside = fileURLToPath(new URL(`./${name}.js`, starter));
  return existsSync(beside) ? beside : ownFile(`dist/program/${name}.js`);
}
