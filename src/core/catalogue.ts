export type Severity = 'error' | 'warning' | 'note';

/** One kind of finding. `{name}` in a text is filled from the finding's data. */
export interface CatalogueEntry {
  readonly severity: Severity;
  /** What is wrong, in one sentence. */
  readonly reason: string;
  /** What to do about it. */
  readonly fix: string;
  /** Wrong usage or configuration: the process ends with 2 rather than 1. */
  readonly usage?: true;
}

/**
 * Every finding that Inscriba can have: the only place where their sentences are written.
 * Codes are stable; machines may rely on them.
 */
export const catalogue = {
  // Usage and configuration
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
  'no-messages': {
    severity: 'error',
    usage: true,
    reason: 'There is no message in {folder}',
    fix: 'Put an HTML file into that folder; its file name is the name of the message.',
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

  // Text and HTML
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
  'stray-end-tag': {
    severity: 'error',
    reason: 'This </{tag}> closes nothing',
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

  // Pictures
  'picture-missing': {
    severity: 'error',
    reason: 'The picture {path} is not there',
    fix: 'Correct the path (it counts from the folder of this file), or add the picture.',
  },
  'picture-unreadable': {
    severity: 'error',
    reason: 'The picture {path} cannot be read: {detail}',
    fix: 'Save it anew as PNG, JPEG or GIF.',
  },
  'picture-outside': {
    severity: 'error',
    reason: 'The picture {path} lies outside the project',
    fix: 'Copy it into the folder of the project, and name it there.',
  },
  'picture-no-source': {
    severity: 'error',
    reason: 'This picture names no file',
    fix: 'Give it src="…" with a path.',
  },

  // CSS
  'style-sheet-missing': {
    severity: 'error',
    reason: 'The style sheet {path} is not there',
    fix: 'Correct the path (it counts from the folder of this file), or add the file.',
  },
  'style-sheet-outside': {
    severity: 'error',
    reason: 'The style sheet {path} lies outside the project',
    fix: 'Copy it into the folder of the project, and name it there.',
  },
  'style-sheet-remote': {
    severity: 'warning',
    reason: 'The style sheet {path} is not a local file, so its rules are not inlined',
    fix: 'Download it and link the local copy.',
  },
  'css-syntax': {
    severity: 'error',
    reason: 'This is not valid CSS: {detail}',
    fix: 'Mend it at this place; the rest was read.',
  },
  'css-ignored': {
    severity: 'warning',
    reason: 'Browsers ignore this: {detail}',
    fix: 'Correct it, or remove it.',
  },
  'css-unsupported': {
    severity: 'error',
    reason: '{property}: {value} has no equal in tables (at "{selector}")',
    fix: '{advice}',
  },
  'css-generated-box': {
    severity: 'error',
    reason: 'Mail clients make no {name} box (at "{selector}")',
    fix: 'Write its content into the message itself.',
  },
  'css-condition-unsupported': {
    severity: 'error',
    reason: 'Rules under {condition} are not compiled',
    fix: 'Write one condition on the width, such as @media (max-width: 600px), with others joined by "and".',
  },
  'css-condition-layout': {
    severity: 'error',
    reason: 'Under {condition} the message would need other tables',
    fix: 'Change only colours, text and what shows there; a background or a border that comes up there must have a value outside it, too.',
  },
  'css-decoration-lost': {
    severity: 'warning',
    reason: '{property} does not reach mail clients (at "{selector}")',
    fix: 'Remove it, or accept that it is left out: the layout does not change.',
  },
  'css-unknown-variable': {
    severity: 'error',
    reason: 'The custom property {name} has no value here',
    fix: 'Set it where this element or one around it is styled, or give var() a fallback.',
  },
  'layer-conditional': {
    severity: 'warning',
    reason: 'The layer "{name}" first comes up under a condition, so the order of layers depends on it',
    fix: 'Name all layers in their order at the top: @layer base, theme;',
  },
  'css-reads-style': {
    severity: 'warning',
    reason: 'The selector {selector} reads the style attribute, and inlining changes it',
    fix: 'Use a class instead: the rule stays in the head, and may match other elements than before.',
  },
  'inline-inexact': {
    severity: 'warning',
    reason: 'The styles of a <{tag}> here cannot be kept exactly: it has no tag of its own to carry them',
    fix: 'Write its tag into the source.',
  },
  'inline-no-tag': {
    severity: 'note',
    reason: 'The rule for {selector} stays in the head: the source has no <{tag}> tag that could carry it',
    fix: 'Write <{tag}> into the source, if the rule is to reach clients that drop the head.',
  },
  'style-long': {
    severity: 'warning',
    reason: 'The style attribute of this element has {size} characters',
    fix: 'Set less on the element, or more on the elements in it; some clients cut long attributes off.',
  },
  'html-clipped': {
    severity: 'warning',
    reason: 'The HTML has {size}, and some webmail clips it at about 100 KB',
    fix: 'Shorten the content, or split the message: what is clipped off may be the unsubscribe link.',
  },
  'background-without-color': {
    severity: 'warning',
    reason: 'There is no colour behind the background picture {path}',
    fix: 'Write a background-color beside it, on which the text can be read: many readers see the mail without pictures.',
  },
  'font-rare': {
    severity: 'warning',
    reason: 'Few readers have the font {family}, and it is no web font of this project',
    fix: 'Put a common font first, or declare it under "fonts" in inscriba.yaml.',
  },
  'font-no-generic': {
    severity: 'warning',
    reason: 'The fonts that begin with {family} end without a generic one',
    fix: 'End the list with serif, sans-serif or monospace.',
  },
  'font-refused': {
    severity: 'warning',
    reason: '{dialect} refuses web fonts: {family} is not loaded there',
    fix: 'Nothing has to be done: readers see the next font of the list.',
  },
  'column-squeezed': {
    severity: 'warning',
    reason: 'Where a client drops the head, this column is {room} wide on a phone, and its longest word needs {need}',
    fix: 'Use fewer or wider columns, or leave the paint out of them, so that they can wrap by themselves.',
  },
  'row-too-wide': {
    severity: 'error',
    reason: 'The columns of this row and the gaps between them need {need}, but it is {room} wide',
    fix: 'Make the columns or the gap smaller.',
  },
  'margin-negative': {
    severity: 'error',
    reason: 'The space above this block comes out negative ({value}px)',
    fix: 'Use margins of 0 or more: table cells cannot overlap.',
  },

  // Merge tags and dialects
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
  'footer-missing': {
    severity: 'error',
    reason: 'No {what} in the message, and {dialect} refuses a message without one',
    fix: 'Put {tag} into the footer.',
  },
  'dialect-invalid': {
    severity: 'error',
    usage: true,
    reason: 'The dialect file is wrong here: {detail}',
    fix: 'Mend the dialect file at this place.',
  },
} as const satisfies Record<string, CatalogueEntry>;

export type FindingCode = keyof typeof catalogue;
