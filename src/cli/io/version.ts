import { readFileSync } from 'node:fs';
import { ownFile } from '../../project/files/own-files.js';

/** The version of the installed package. */
export function version(): string {
  const manifest = JSON.parse(readFileSync(ownFile('package.json'), 'utf8')) as {
    version: string;
  };
  return manifest.version;
}
