import { readFileSync } from 'node:fs';

/** The version of the installed package. */
export function version(): string {
  const manifest = JSON.parse(readFileSync(new URL('../../package.json', import.meta.url), 'utf8')) as {
    version: string;
  };
  return manifest.version;
}
