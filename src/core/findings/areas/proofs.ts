import type { CatalogueEntry } from './entry.js';

/** Comparing messages in a browser. */
export const proofFindings = {
  'looks-skipped': {
    severity: 'note',
    reason: 'There is no browser on this machine: how messages look was not compared',
    fix: 'Install Chromium (on Debian: apt-get install chromium), or say where one is: --browser <path>.',
  },
  'unknown-revision': {
    severity: 'error',
    usage: true,
    reason: 'There is no revision, and no folder with a project, called "{name}"',
    fix: 'Name a branch, a tag or a commit (git log --oneline shows some), or a folder that has an inscriba.yaml.',
  },
  'no-repository': {
    severity: 'error',
    usage: true,
    reason: '"{name}" is no folder with a project, and this project is in no git repository',
    fix: 'Name a folder that holds the project as it was, or compare in a repository.',
  },
  'git-failed': {
    severity: 'error',
    usage: true,
    reason: 'The project as it was at "{name}" could not be read: {detail}',
    fix: 'See that git works in this folder (git status), or name a folder that holds the project as it was.',
  },
  'past-unreadable': {
    severity: 'error',
    usage: true,
    reason: 'The project as it was at "{name}" cannot be read: {detail}',
    fix: 'Name a revision, or a folder, in which the project can be built.',
  },
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
