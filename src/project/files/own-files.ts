import { fileURLToPath } from 'node:url';

/** The path of a file or folder that comes with Inscriba, by its path in the package. */
export function ownFile(name: string): string {
  return fileURLToPath(new URL(`../../../${name}`, import.meta.url));
}
