import type { CatalogueEntry } from './entry.js';

/** What is wrong with text and markup. */
export const htmlFindings = {
  'not-utf8': {
    severity: 'error',
    reason: 'This file is not UTF-8: {detail}',
    fix: 'Save it as UTF-8 in your editor.',
  },
  'file-empty': {
    severity: 'error',
    reason: 'This file is empty',
    fix: 'Write an HTML document into it.',
  },
  'unclosed-tag': {
    severity: 'error',
    reason: 'This <{tag}> is never closed',
    fix: 'Close it with </{tag}>{where}.',
  },
  'end-tag-left-out': {
    severity: 'warning',
    reason: 'This <{tag}> is never closed, as the others on this page are',
    fix: 'Add </{tag}>{where}.',
  },
  'stray-end-tag': {
    severity: 'error',
    reason: 'This </{tag}> closes nothing{why}',
    fix: 'Remove it, or open <{tag}> before it.',
  },
  'markup-broken': {
    severity: 'error',
    reason: 'The markup is broken here: {detail}',
    fix: 'Mend it: mail clients repair such places each in its own way.',
  },
  'unknown-element': {
    severity: 'error',
    reason: 'There is no element <{tag}>',
    fix: 'Use an element of HTML. {advice}',
  },
  'element-unsupported': {
    severity: 'error',
    reason: 'A <{tag}> does not work in mail',
    fix: '{advice}',
  },
  'subject-missing': {
    severity: 'error',
    reason: 'The message has no subject',
    fix: 'Write it into <title> in the <head>.',
  },
  'body-empty': {
    severity: 'error',
    reason: 'The message has nothing in its <body>',
    fix: 'Write the content of the message into <body>.',
  },
} as const satisfies Record<string, CatalogueEntry>;
