import type { CatalogueEntry } from './entry.js';

/** Text versions that authors write themselves. */
export const plainTextFindings = {
  'text-empty': {
    severity: 'error',
    reason: 'This text version is empty',
    fix: 'Write the text of the message into it, or delete it: then the text is made from the message.',
  },
  'text-link-missing': {
    severity: 'warning',
    reason: 'The text version {path} lacks the link to {address}',
    fix: 'Add the address to the text version, or take the link out of the message.',
  },
  'text-link-extra': {
    severity: 'warning',
    reason: 'The message has no link to {address}',
    fix: 'Correct the address in the text version, or add the link to the message.',
  },
  'text-tag-missing': {
    severity: 'warning',
    reason: 'The text version {path} never prints {tag}',
    fix: 'Add the tag to the text version, or take it out of the message.',
  },
  'text-tag-extra': {
    severity: 'warning',
    reason: 'The message never prints {tag}',
    fix: 'Take the tag out of the text version, or add it to the message.',
  },
  'text-footer-missing': {
    severity: 'error',
    reason: 'The text version lacks what {dialect} requires: {what}',
    fix: 'Add {tag} at its end.',
  },
} as const satisfies Record<string, CatalogueEntry>;
