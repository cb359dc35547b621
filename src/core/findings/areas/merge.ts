import type { CatalogueEntry } from './entry.js';

/** Merge tags and dialects. */
export const mergeFindings = {
  'merge-syntax': {
    severity: 'error',
    reason: 'This merge tag cannot be read: {detail}',
    fix: 'Write it as @{field}, or @{field ?? "text"}.',
  },
  'merge-unclosed': {
    severity: 'error',
    reason: 'This {tag} is never closed',
    fix: 'Close it with @{end}.',
  },
  'merge-stray': {
    severity: 'error',
    reason: 'This {tag} belongs to no open block',
    fix: 'Remove it, or open a block with @{if …} or @{each … as …} before it.',
  },
  'unknown-field': {
    severity: 'error',
    reason: 'No field is called {name}',
    fix: '{advice}',
  },
  'unknown-system-value': {
    severity: 'error',
    reason: 'There is no value {name}',
    fix: '{advice}',
  },
  'merge-loss': {
    severity: 'error',
    reason: 'The dialect {dialect} cannot say {what}',
    fix: '{advice}',
  },
  'merge-loss-allowed': {
    severity: 'warning',
    reason: 'The dialect {dialect} cannot say {what}: what the sample shows stands instead',
    fix: '{advice}',
  },
  'merge-crossed': {
    severity: 'error',
    reason: 'This {tag} does not end {opened} of line {line}, which is still open',
    fix: 'Close the inner block first.',
  },
  'dialect-tag-unclosed': {
    severity: 'error',
    reason: 'This {tag} begins a tag of {dialect} that never ends',
    fix: 'Complete the tag: recipients would read it as it stands, or the message would not be sent at all.',
  },
  'tag-unknown-removed': {
    severity: 'warning',
    reason: '{dialect} has no tag {tag}: it is left out',
    fix: 'See whether the message is right without it.',
  },
  'tag-unknown': {
    severity: 'error',
    reason: '{dialect} has no tag {tag}',
    fix: 'Correct it: recipients would read it as it stands.',
  },
  'merge-deep': {
    severity: 'error',
    reason: 'Blocks of tags are nested more than {most} deep here',
    fix: 'Close the blocks around it first, or write them one after the other.',
  },
  'tag-repaired': {
    severity: 'warning',
    reason: '{tag} is taken for {meant}: {damage}',
    fix: 'See whether that is what was meant, and mend it where the file comes from.',
  },
  'tag-foreign': {
    severity: 'error',
    reason: 'Here is a tag of another dialect, {dialect}: {tag}',
    fix: 'Remove it, or convert the file from that dialect: it would be read as it stands, or filled by mistake.',
  },
  'dialect-unrecognized': {
    severity: 'error',
    reason: 'This file holds no tag that any dialect knows',
    fix: 'Name its dialect with --from.',
  },
  'dialect-ambiguous': {
    severity: 'error',
    reason: 'The tags of this file may be of {names}: each knows {count}',
    fix: 'Name the dialect with --from.',
  },
  'learn-unproven': {
    severity: 'error',
    reason: 'What stands between {open} and {close} in these files cannot be read back as it is written: it is no tag',
    fix: 'Give files with more fields in them, or write the dialect file by hand: see docs/dialects.md.',
  },
  'learn-nothing': {
    severity: 'error',
    reason: 'These files show no tags: nothing stands again and again around names',
    fix: 'Give files that the platform exported, as many as there are, with fields in them.',
  },
  'dialect-recognized': {
    severity: 'note',
    reason: '{file} is taken for {dialect}, which knows {count}',
    fix: 'Name another with --from if that is wrong.',
  },
  'fields-asked': {
    severity: 'note',
    reason: '{path} asks how {count} fields are called on {dialect}',
    fix: 'Correct the names in it, and convert again: until then names by rule are used.',
  },
  'footer-missing-converted': {
    severity: 'warning',
    reason: 'No {what} in the message, and {dialect} refuses a message without one',
    fix: 'Convert with --footer add, or --footer replace.',
  },
  'footer-missing': {
    severity: 'error',
    reason: 'No {what} in the message, and {dialect} refuses a message without one',
    fix: 'Put {tag} into the footer.',
  },
  'mapping-read': {
    severity: 'error',
    reason: 'The name of {name} is not read back as it is written: {found}',
    fix: 'Give it a name that the language takes, and that no other field has.',
  },
  'sample-written': {
    severity: 'error',
    usage: true,
    reason: 'The dialect writes this otherwise: {found}',
    fix: 'Correct the sample, or the pattern that it proves.',
  },
  'sample-read': {
    severity: 'error',
    usage: true,
    reason: 'The dialect’s text of this is read otherwise: {found}',
    fix: 'Correct the sample, or the pattern that it proves.',
  },
} as const satisfies Record<string, CatalogueEntry>;
