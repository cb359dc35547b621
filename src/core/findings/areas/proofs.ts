import type { CatalogueEntry } from './entry.js';

/** Comparing messages in a browser. */
export const proofFindings = {
  'browser-missing': {
    severity: 'error',
    usage: true,
    reason: 'There is no browser on this machine that could show the pages',
    fix: 'Install Chromium (on Debian: apt-get install chromium), or say where one is: --browser <path>.',
  },
  'browser-failed': {
    severity: 'error',
    usage: true,
    reason: 'The browser {path} does not start: {detail}',
    fix: 'See that it runs by itself, or name another: --browser <path>.',
  },
} as const satisfies Record<string, CatalogueEntry>;
