import type { CatalogueEntry } from './entry.js';

/** The check itself: what is accepted and set, and links that are asked. The rules of the check have their own sentences. */
export const checkFindings = {
  'accept-unknown': {
    severity: 'warning',
    reason: 'There is no finding "{code}" that could be accepted',
    fix: '{advice}',
  },
  'accept-reason': {
    severity: 'warning',
    reason: 'This accepts {code} without a reason, so it does not count',
    fix: 'Say why, behind a colon: <!-- accept {code}: the line is decoration -->.',
  },
  'accept-unused': {
    severity: 'note',
    reason: 'This accepts {code}, and there is none any more',
    fix: 'Take the comment out.',
  },
  'check-code-unknown': {
    severity: 'error',
    usage: true,
    reason: 'There is no finding "{code}" that could be set',
    fix: '{advice}',
  },
  'unknown-engine': {
    severity: 'error',
    usage: true,
    reason: 'There is no engine called "{name}"',
    fix: '{advice}',
  },
  'engines-wrong': {
    severity: 'error',
    usage: true,
    reason: 'The table of engines cannot be read: {detail}',
    fix: 'Install Inscriba again: data/engines.yaml is part of it.',
  },
  'link-dead': {
    severity: 'error',
    reason: '{url} answers {status}',
    fix: 'Correct the address, or ask whoever keeps the page.',
  },
  'link-unreachable': {
    severity: 'error',
    reason: '{url} cannot be reached: {detail}',
    fix: 'Correct the address, or see that its server runs.',
  },
  'link-loop': {
    severity: 'error',
    reason: '{url} leads on and on, and never to a page: {way}',
    fix: 'Correct the address, or ask whoever keeps the page.',
  },
  'link-slow': {
    severity: 'warning',
    reason: '{url} did not answer within {seconds} s',
    fix: 'Open it in a browser; where it is slow there as well, readers will not wait.',
  },
  'link-moved': {
    severity: 'note',
    reason: '{url} leads on to {target}',
    fix: 'Write that address, so that readers come there at once.',
  },
} as const satisfies Record<string, CatalogueEntry>;
