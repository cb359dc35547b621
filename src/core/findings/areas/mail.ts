import type { CatalogueEntry } from './entry.js';

/** Mails: what keeps one from being made or sent. */
export const mailFindings = {
  'sender-missing': {
    severity: 'error',
    usage: true,
    reason: 'Nobody sends: inscriba.yaml names no sender',
    fix: 'Add sender: { name: …, address: … } to inscriba.yaml.',
  },
  'header-injection': {
    severity: 'error',
    reason: 'A line end or another control character stands in {what}: it would add headers to the mail',
    fix: 'Take it out of the data or the sample that it comes from.',
  },
  'destination-needed': {
    severity: 'error',
    usage: true,
    reason: 'Several destinations could be meant: {names}',
    fix: 'Say which with --to {example}.',
  },
  'unknown-sample': {
    severity: 'error',
    usage: true,
    reason: 'There is no sample called "{name}"',
    fix: '{advice}',
  },
  'samples-wrong': {
    severity: 'error',
    usage: true,
    reason: '{path} does not hold samples',
    fix: 'Write name: { field: value, … } for each sample recipient.',
  },
  'sample-wrong': {
    severity: 'error',
    usage: true,
    reason: 'The sample "{name}" holds no fields',
    fix: 'Write {name}: { field: value, … }.',
  },
  'sample-field': {
    severity: 'error',
    usage: true,
    reason: 'The sample "{name}" has a field {field}, which recipients do not have',
    fix: '{advice}',
  },
  'server-missing': {
    severity: 'error',
    usage: true,
    reason: 'inscriba.yaml does not say which server {does}',
    fix: 'Add to inscriba.yaml: mail: { {key}: { {example} } }.{advice}',
  },
  'server-wrong': {
    severity: 'error',
    usage: true,
    reason: 'This is no server under {key}: {detail}',
    fix: 'Correct it in inscriba.yaml, or in the environment.',
  },
  'readers-missing': {
    severity: 'error',
    usage: true,
    reason: 'Nobody is named who gets the proof',
    fix: 'Name addresses with --mail, or list proof readers under mail.readers in inscriba.yaml.',
  },
  'address-invalid': {
    severity: 'error',
    usage: true,
    reason: '"{address}" is no mail address',
    fix: 'Write it as name@host, in plain letters (punycode for other scripts), one address for each word.',
  },
  'proof-many': {
    severity: 'error',
    usage: true,
    reason: 'These would be {count} proofs, more than {most}',
    fix: 'Name fewer messages, or single editions ({example}), or samples with --with.',
  },
  'draft-tags': {
    severity: 'warning',
    reason: 'Merge tags stay in the draft of {what}: whoever sends it by hand sends them as they stand',
    fix: 'Fill them with --with {sample}, or send the message through its platform.',
  },
  'piece-missing': {
    severity: 'error',
    reason: 'The message {name} has no {piece}',
    fix: 'Choose another piece: html, body, css, text or subject.',
  },
  'editions-several': {
    severity: 'error',
    usage: true,
    reason: 'The message {name} has {count} editions',
    fix: 'Say which: {name}/{example}.',
  },
  'clipboard-large': {
    severity: 'warning',
    reason: 'Terminals may cut off what is longer than 74 KB, and this is {size} KB',
    fix: 'Paste it somewhere to see whether it is whole; or write it to a file: inscriba copy … > file.',
  },
} as const satisfies Record<string, CatalogueEntry>;
