import type { CatalogueEntry } from './entry.js';

/** Plans that cut drawn designs. */
export const sliceFindings = {
  'slice-order': {
    severity: 'error',
    reason: 'This slice ends at {to}, but it begins at {from}',
    fix: 'Write a number above {from}, and at most {most}: slices follow each other.',
  },
  'slice-end': {
    severity: 'error',
    reason: 'The last slice ends at {to}, but the picture at {most}',
    fix: 'Write to: {most} here, or add the slice that is missing.',
  },
  'slice-size': {
    severity: 'error',
    reason: '{path} has {now} pixels now; the plan was made for {before}',
    fix: 'Correct the cuts and the size, or propose a new plan with: inscriba slice {path} --force.',
  },
  'slice-alt-missing': {
    severity: 'error',
    reason: 'The slice {name} has no alt: whoever does not see pictures learns nothing of it',
    fix: 'Write what it says or shows; alt: "" where it says nothing.',
  },
  'slice-name-twice': {
    severity: 'error',
    reason: 'Two slices are called {name}',
    fix: 'Rename one of them: their files are named after them.',
  },
  'slice-thin': {
    severity: 'error',
    reason: 'The slice {name} would be less than 1 px when it is shown',
    fix: 'Move its cut: it is smaller than what a screen can show.',
  },
  'slice-live-column': {
    severity: 'error',
    reason: 'The slice {name} is live, but stands beside others',
    fix: 'Text grows with its reader: give it a band of its own.',
  },
  'slice-live-missing': {
    severity: 'error',
    reason: '{path} is no part of the project',
    fix: 'Name a file in parts/, such as parts/house-footer.html.',
  },
  'slice-place': {
    severity: 'error',
    reason: 'A sliced picture cannot stand in <{tag}>: it is a table',
    fix: 'Put it into a <div>, or straight into the body; links of its own stand in the plan.',
  },
  'slice-plan-missing': {
    severity: 'error',
    reason: 'The plan {path} is not there, or lies outside the project',
    fix: 'Correct the path (it counts from the folder of the message), or make a plan with: inscriba slice {picture}.',
  },
  'slice-heavy': {
    severity: 'note',
    reason: 'The slice {name} has {size} KB',
    fix: 'If it is a photograph, write jpeg: 80 beside it in the plan.',
  },
  'slice-exists': {
    severity: 'error',
    usage: true,
    reason: '{path} is there already',
    fix: 'Edit it, and cut the picture with --plan {path}; or propose anew with --force.',
  },
  'alt-unread': {
    severity: 'warning',
    reason: 'The texts in the slices could not be read: {detail}',
    fix: 'Write them by hand, or install what reads them: npm install tesseract.js @tesseract.js-data/eng.',
  },
} as const satisfies Record<string, CatalogueEntry>;
