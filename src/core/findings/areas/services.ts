import type { CatalogueEntry } from './entry.js';

/** What outside services answer, or do not. */
export const serviceFindings = {
  'host-unreachable': {
    severity: 'error',
    service: true,
    reason: '{host} cannot be reached: {detail}',
    fix: 'See that the server runs and that the address is right, and run this again: what was done is not done twice.',
  },
  'host-timeout': {
    severity: 'error',
    service: true,
    reason: '{host} did not finish its answer within {seconds} s',
    fix: 'Run this again, or allow more time with {how}: what was done is not done twice.',
  },
  'host-broken': {
    severity: 'error',
    service: true,
    reason: '{host} broke off the connection while {what} was on its way',
    fix: 'Run this again: what was done is not done twice.',
  },
  'host-login': {
    severity: 'error',
    service: true,
    reason: '{host} refuses to take {what}: {status}',
    fix: '{advice}',
  },
  'host-locked': {
    severity: 'error',
    service: true,
    reason: '{host} cannot take {what} now: somebody has locked the place (423)',
    fix: 'Wait until the lock is given up, or take it away on the server; then run this again.',
  },
  'host-full': {
    severity: 'error',
    service: true,
    reason: '{host} has no room for {what} ({status})',
    fix: 'Make room on the server, or make the picture lighter with: inscriba images shrink.',
  },
  'host-answer': {
    severity: 'error',
    service: true,
    reason: '{host} answered {status} when {what} was put there',
    fix: 'See that the address of the upload is a folder that takes files in this way; then run this again.',
  },
  'host-unverified': {
    severity: 'error',
    service: true,
    reason: '{url} does not show the picture that was put there: {detail}',
    fix: 'See that base_url is the address under which the server shows what the upload puts there.',
  },
  'host-sync': {
    severity: 'note',
    reason: '{count} still to be brought from {folder} to {url}',
    fix: 'Sync the folder before you send: the addresses were not verified.',
  },
  'host-by-hand': {
    severity: 'note',
    reason: 'Nothing uploads the pictures: {count} in {folder} belong below {url}',
    fix: 'Put them there before you send, or say in inscriba.yaml under images how they are uploaded.',
  },
  'fetch-failed': {
    severity: 'error',
    service: true,
    reason: '{url} was not brought: {detail}',
    fix: 'See in a browser whether the address still shows a picture. Whatever else could be brought was.',
  },
  'fetch-refused': {
    severity: 'error',
    reason: '{url} was not brought: {detail}',
    fix: '{advice}',
  },
  'mail-login': {
    severity: 'error',
    service: true,
    reason: '{host} does not know this user with this password: {answer}',
    fix: 'Correct user and password under {key} in inscriba.yaml; the password comes from the environment.',
  },
  'mail-tls': {
    severity: 'error',
    service: true,
    reason: 'No private connection to {host}: {detail}',
    fix: 'Set security (tls, starttls or none) and port under {key} in inscriba.yaml as the server has them; a certificate of your own is known by NODE_EXTRA_CA_CERTS.',
  },
  'mail-sender-refused': {
    severity: 'error',
    service: true,
    reason: '{host} takes no mail from this sender: {answer}',
    fix: 'Correct address under sender in inscriba.yaml, or log in with user and password under mail.smtp.',
  },
  'mail-reader-refused': {
    severity: 'error',
    service: true,
    reason: '{host} does not take {what} for {address}: {answer}',
    fix: 'Correct the address; what other readers were sent has arrived.',
  },
  'mail-refused': {
    severity: 'error',
    service: true,
    reason: '{host} does not take {what}: {answer}',
    fix: 'Do what the answer says, and run this again.',
  },
  'imap-no-drafts': {
    severity: 'error',
    service: true,
    reason: 'The server marks no folder as that of drafts',
    fix: 'Name one with drafts under mail.imap in inscriba.yaml. There are: {known}.',
  },
  'imap-no-folder': {
    severity: 'error',
    service: true,
    reason: 'The mailbox has no folder "{folder}"',
    fix: 'Correct drafts under mail.imap in inscriba.yaml, or make the folder. There are: {known}.',
  },
} as const satisfies Record<string, CatalogueEntry>;
