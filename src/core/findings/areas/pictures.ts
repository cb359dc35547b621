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
    reason: 'The picture {path} cannot be used: {detail}',
    fix: 'Save it anew as PNG, JPEG or GIF with less than 50 million pixels.',
  },
  'picture-outside': {
    severity: 'error',
    reason: 'The picture {path} lies outside {place}',
    fix: 'Copy it into that folder, and name it there.',
  },
  'picture-extension': {
    severity: 'warning',
    reason: 'The picture {path} is of another kind than its name says: {kind}',
    fix: 'Rename it to {name}; what is written gets the right ending by itself.',
  },
  'picture-drawn': {
    severity: 'warning',
    reason: 'The drawing {path} holds more than shapes ({what}): it is drawn without that',
    fix: 'Save it without scripts and pages within it.',
  },
  'picture-external': {
    severity: 'error',
    reason: 'The drawing {path} shows things from elsewhere: {what}',
    fix: 'Embed them in the drawing, or save it as PNG.',
  },
  'picture-heavy': {
    severity: 'warning',
    reason: '{path} still has {size} KB, more than {most} KB',
    fix: 'Show it smaller, crop it, or save it as JPEG.',
  },
  'picture-too-heavy': {
    severity: 'warning',
    reason: '{path} has {size} KB, more than {most} KB: it stays where it is',
    fix: 'Make it lighter first with: inscriba images shrink.',
  },
  'picture-remote': {
    severity: 'note',
    reason: '{count} left on the web: {addresses}',
    fix: 'Bring them here first with: inscriba images fetch.',
  },
  'pictures-embedded': {
    severity: 'warning',
    reason: 'Embedded {count} in the HTML itself ({size} KB): the engines word and webmail show nothing there',
    fix: 'Use it for pages and drafts; for mail choose another mode of images.',
  },
  'pictures-library': {
    severity: 'note',
    reason: 'The picture store of {dialect} lacks {count} from {folder}',
    fix: 'Put them there, and give base_url under images the address under which the store shows them.',
  },
  'package-pictures': {
    severity: 'error',
    reason: 'A single file of HTML takes no pictures along, and {count} of destination "{name}" would lie beside it',
    fix: 'Host them, with images: { mode: host, base_url: … } under "{name}" in inscriba.yaml, or pack with --shape zip.',
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
