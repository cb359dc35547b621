import type { CatalogueEntry } from './entry.js';

/** Wrong usage, configuration, files that cannot be read or written. */
export const usageFindings = {
  'config-missing': {
    severity: 'error',
    usage: true,
    reason: 'No inscriba.yaml in {folder} or in any folder above it',
    fix: 'Change to the folder of your project, or make an inscriba.yaml there.',
  },
  'config-syntax': {
    severity: 'error',
    usage: true,
    reason: 'This is not valid YAML: {detail}',
    fix: 'Mend the YAML at this place.',
  },
  'config-unknown-key': {
    severity: 'error',
    usage: true,
    reason: 'There is no key "{key}" here',
    fix: '{advice}',
  },
  'config-missing-key': {
    severity: 'error',
    usage: true,
    reason: 'The key "{key}" is missing here',
    fix: 'Add "{key}:" with {expected}.',
  },
  'config-wrong-type': {
    severity: 'error',
    usage: true,
    reason: '"{key}" should be {expected}, but is {found}',
    fix: 'Write {expected} here.',
  },
  'config-missing-file': {
    severity: 'error',
    usage: true,
    reason: 'The file {path} is not there',
    fix: 'Correct the path (it counts from the folder of this file), or add the file.',
  },
  'unknown-message': {
    severity: 'error',
    usage: true,
    reason: 'There is no message called "{name}"',
    fix: '{advice}',
  },
  'adopt-unreadable': {
    severity: 'error',
    reason: '{path} cannot be adopted: {detail}',
    fix: 'Give a file of HTML, a zip with one and its pictures, or a mail with an HTML part.',
  },
  'adopt-picture-left': {
    severity: 'note',
    reason: '{count} stay where they are: {addresses}',
    fix: 'Put copies into images/ and change the addresses, if the message is to carry them.',
  },
  'adopt-fields': {
    severity: 'note',
    reason: 'The message uses fields that inscriba.yaml did not have: {names}',
    fix: 'They are declared there now: give each a sample of what recipients have.',
  },
  'new-exists': {
    severity: 'error',
    usage: true,
    reason: '{path} is there already',
    fix: 'Choose another name, or write over it with --force.',
  },
  'new-name': {
    severity: 'error',
    usage: true,
    reason: '"{name}" cannot be the name of {what}',
    fix: '{advice}',
  },
  'unknown-starter': {
    severity: 'error',
    usage: true,
    reason: 'There is no starter called "{name}"',
    fix: '{advice}',
  },
  'no-messages': {
    severity: 'error',
    usage: true,
    reason: 'There is no message in {folder}',
    fix: 'Make one with: inscriba new message first-news.',
  },
  'unknown-destination': {
    severity: 'error',
    usage: true,
    reason: 'There is no destination called "{name}"',
    fix: '{advice}',
  },
  'unknown-dialect': {
    severity: 'error',
    usage: true,
    reason: 'There is no dialect called "{name}"',
    fix: '{advice}',
  },
  'not-packable': {
    severity: 'error',
    usage: true,
    reason: 'The dialect {dialect} of destination "{name}" describes no package',
    fix: 'Choose a destination whose dialect has a package: {known}.',
  },
  'file-missing': {
    severity: 'error',
    usage: true,
    reason: 'There is no file {path}',
    fix: 'Check the path; it counts from the folder you are in.',
  },
  'file-unreadable': {
    severity: 'error',
    usage: true,
    reason: '{path} cannot be read: {detail}',
    fix: 'Make it a readable file, or name another.',
  },
  'file-outside': {
    severity: 'error',
    usage: true,
    reason: '{path} leads out of the project',
    fix: 'Copy the file into the folder of the project.',
  },
  'file-unwritable': {
    severity: 'error',
    usage: true,
    reason: '{path} cannot be written: {detail}',
    fix: 'Nothing was changed there. Free the space or the permission, or choose another place with --out.',
  },
  'out-is-source': {
    severity: 'error',
    usage: true,
    reason: 'The output {path} is also an input',
    fix: 'Choose another --out: sources are never written over.',
  },
  'out-needs-folder': {
    severity: 'error',
    usage: true,
    reason: 'Several inputs cannot go to one output',
    fix: 'Give --out a folder (an existing one, or a name that ends in "/"); each result keeps its own name there.',
  },
  'same-name': {
    severity: 'error',
    usage: true,
    reason: '{first} and {second} would both be written to {path}',
    fix: 'Run them one after the other, with an --out folder each.',
  },
} as const satisfies Record<string, CatalogueEntry>;
