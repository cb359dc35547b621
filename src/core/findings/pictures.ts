import type { CatalogueEntry } from './entry.js';

/** What is wrong with pictures and attachments. */
export const pictureFindings = {
  'picture-missing': {
    severity: 'error',
    reason: 'The picture {path} is not there',
    fix: 'Correct the path (it counts from the folder of the message), or add the picture.',
  },
  'picture-unreadable': {
    severity: 'error',
    reason: 'The picture {path} cannot be read: {detail}',
    fix: 'Save it anew as PNG, JPEG or GIF.',
  },
  'picture-outside': {
    severity: 'error',
    reason: 'The picture {path} lies outside the project',
    fix: 'Copy it into the folder of the project, and name it there.',
  },
  'attachment-missing': {
    severity: 'error',
    reason: 'The attachment {path} is not there, or lies outside the project',
    fix: 'Correct the path (it counts from the folder of the message), or add the file.',
  },
  'attachment-twice': {
    severity: 'error',
    reason: 'Two attachments are called {name}',
    fix: 'Rename one of them: both travel in one folder.',
  },
  'picture-no-source': {
    severity: 'error',
    reason: 'This picture names no file',
    fix: 'Give it src="…" with a path.',
  },
} as const satisfies Record<string, CatalogueEntry>;
