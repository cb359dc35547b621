import type { CatalogueEntry } from './entry.js';

/** Regions and links. */
export const regionFindings = {
  'region-name': {
    severity: 'error',
    reason: '"{name}" cannot be the name of a region',
    fix: 'Use letters, digits, "-" and "_".',
  },
  'region-unnamed': {
    severity: 'error',
    reason: '{name} stands on an element that is no region',
    fix: 'Give the element a name, region="…", or remove the attribute.',
  },
  'region-duplicate': {
    severity: 'error',
    reason: 'There are two regions called {name}',
    fix: 'Give each a name of its own; in parts and loops they are numbered by themselves.',
  },
  'region-kind-unknown': {
    severity: 'error',
    reason: 'There is no kind of region "{name}"',
    fix: '{advice}',
  },
  'region-attribute-unknown': {
    severity: 'error',
    reason: 'There is no attribute {name}',
    fix: '{advice}',
  },
  'region-mark-loss': {
    severity: 'warning',
    reason: '{dialect} has no mark for {what}: {name}',
    fix: 'Nothing has to be done: the rest of the region is kept.',
  },
  'region-loss': {
    severity: 'note',
    reason: '{dialect} marks no editable regions: {names}',
    fix: 'Nothing has to be done: the message is written without their marks.',
  },
  'link-parameter-merge': {
    severity: 'error',
    usage: true,
    reason: 'The link parameter "{name}" holds a merge tag',
    fix: 'Write a fixed text, or a build value such as ${message.name}: parameters are the same for all recipients.',
  },
  'link-parameters-unclear': {
    severity: 'warning',
    reason: 'No parameters are added to this link: whether it has some already depends on a merge tag',
    fix: 'Write two whole links, each in its branch.',
  },
} as const satisfies Record<string, CatalogueEntry>;
