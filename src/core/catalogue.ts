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

  // Pictures
  'picture-missing': {
    severity: 'error',
    reason: 'The picture {path} is not there',
    fix: 'Correct the path (it counts from the folder of the message), or add the picture.',
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

  // CSS
  'style-sheet-missing': {
    severity: 'error',
    reason: 'The style sheet {path} is not there',
    fix: 'Correct the path (it counts from the folder of the message), or add the file.',
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

  // Templates: build values, parts, data
  'build-syntax': {
    severity: 'error',
    reason: 'This cannot be read: {detail}',
    fix: 'Mend it at this place; build values are paths such as tool.name, with ??, ? :, comparisons and | filters.',
  },
  'tag-unclosed': {
    severity: 'error',
    reason: 'This {tag} is never closed',
    fix: 'Close it with a brace, and its quotes with their partners. For the characters themselves, write {literal}.',
  },
  'unknown-build-value': {
    severity: 'error',
    reason: 'Nothing is called {name} here',
    fix: '{advice}',
  },
  'build-value-doubtful': {
    severity: 'warning',
    reason: 'Nothing is called {name} here, so what follows ?? stands',
    fix: 'Did you mean "{nearest}"? If not, give the other name to one of them.',
  },
  'build-value-plain': {
    severity: 'error',
    reason: '{owner} is {found}, and holds no {name}',
    fix: '{advice}',
  },
  'build-value-kind': {
    severity: 'error',
    reason: 'This is {found}, which cannot stand in a text',
    fix: '{advice}',
  },
  'build-value-no-list': {
    severity: 'error',
    reason: 'This is {found}, and no list to loop over',
    fix: 'Name a list of the data.',
  },
  'build-value-arithmetic': {
    severity: 'error',
    reason: 'This cannot be calculated: here is {found}',
    fix: 'Calculate with numbers only.',
  },
  'build-value-place': {
    severity: 'error',
    reason: 'A build value cannot stand {where}',
    fix: '{advice}',
  },
  'build-in-merge': {
    severity: 'error',
    reason: 'In a merge tag this gives {found}, which is no name',
    fix: 'Write the build value into quotes, or let it give the name of a field.',
  },
  'merge-in-build': {
    severity: 'error',
    reason: 'A merge tag cannot stand in a build value: it is filled in only when the platform sends',
    fix: 'Write the merge tag beside it, or in quotes as a text: ${note ?? "@{first_name}"}.',
  },
  'merge-arithmetic': {
    severity: 'error',
    reason: 'Platforms do not calculate in merge tags',
    fix: 'Add a field that holds the result, or calculate when the message is built, in ${…}.',
  },
  'unknown-filter': {
    severity: 'error',
    reason: 'There is no filter called {name}',
    fix: '{advice}',
  },
  'filter-input': {
    severity: 'error',
    reason: 'This filter takes {expected}, and gets {found}',
    fix: 'Correct the value, or leave the filter out.',
  },
  'filter-parameter': {
    severity: 'error',
    reason: 'The filter {name} cannot use what stands behind it',
    fix: '{advice}',
  },
  'template-unknown': {
    severity: 'error',
    reason: 'This <template> says {found}, and does nothing',
    fix: 'Write each="item of list", if="…", else, else if="…", or for="word|html|text". {advice}',
  },
  'template-for-unknown': {
    severity: 'error',
    reason: 'There is no "{name}" that content could be kept for',
    fix: '{advice}',
  },
  'template-else-stray': {
    severity: 'error',
    reason: 'This <template else> follows no <template if> or <template each>',
    fix: 'Put it directly behind the one that it belongs to.',
  },
  'template-word-comment': {
    severity: 'error',
    reason: 'Content for the "word" engine cannot hold comments',
    fix: 'Take the comment out: the content itself is written into one.',
  },
  'unknown-part': {
    severity: 'error',
    reason: 'There is no part <{tag}>',
    fix: '{advice}',
  },
  'part-empty': {
    severity: 'error',
    reason: 'This file holds no part',
    fix: 'Write <template accepts="…">…</template> into it, with the content of <{tag}>.',
  },
  'part-besides': {
    severity: 'error',
    reason: 'In the file of a part this would show nowhere',
    fix: 'Put it into the <template>; beside that only <style> may stand.',
  },
  'part-name': {
    severity: 'warning',
    reason: 'The part {path} cannot be used: names of parts hold a hyphen and no capitals',
    fix: 'Rename it, for example to {example}.',
  },
  'part-attribute': {
    severity: 'error',
    reason: 'A <template> of a part takes no "{name}"',
    fix: 'Name the values that the part takes in accepts="…".',
  },
  'part-accepts': {
    severity: 'error',
    reason: 'This list of values cannot be read at {found}',
    fix: 'Write names, each once, with a default where a use may leave it out: accepts="name photo fee=\'free\'".',
  },
  'part-value-missing': {
    severity: 'error',
    reason: '<{tag}> needs "{names}"',
    fix: 'Write {example}, or give it a default in parts/{tag}.html.',
  },
  'part-value-unknown': {
    severity: 'error',
    reason: '<{tag}> accepts no "{name}"',
    fix: '{advice}',
  },
  'part-cycle': {
    severity: 'error',
    reason: 'These parts use each other in a circle: {cycle}',
    fix: 'Take one of these uses out.',
  },
  'part-no-slot': {
    severity: 'error',
    reason: '<{tag}> has no slot for what stands in it',
    fix: 'Put a <slot></slot> into parts/{tag}.html, or take the content out.',
  },
  'part-no-root': {
    severity: 'error',
    reason: '<{tag}> cannot be a region: it has no single element of its own',
    fix: 'Put the content of parts/{tag}.html into one element, or mark regions in it.',
  },
  'slot-unknown': {
    severity: 'error',
    reason: '<{tag}> has no slot called "{name}"',
    fix: '{advice}',
  },
  'slot-stray': {
    severity: 'error',
    reason: 'slot="{name}" fills nothing: this element is not directly in a part',
    fix: 'Make it a child of the part itself, or remove the attribute.',
  },
  'slot-outside': {
    severity: 'error',
    reason: 'This <slot> is in no part',
    fix: 'Remove it: only parts and frames have slots.',
  },
  'data-missing': {
    severity: 'error',
    reason: 'The data file {path} is not there',
    fix: 'Correct the path (it counts from the folder of this file, or of the project), or add the file.',
  },
  'data-outside': {
    severity: 'error',
    reason: 'The data file {path} lies outside the project',
    fix: 'Copy it into the folder of the project, and name it there.',
  },
  'data-kind': {
    severity: 'error',
    reason: '{path} is no data file that can be read',
    fix: 'Use a file that ends in .yaml, .json or .csv.',
  },
  'data-syntax': {
    severity: 'error',
    reason: 'These data cannot be read: {detail}',
    fix: 'Mend the file at this place.',
  },
  'editions-none': {
    severity: 'error',
    reason: 'The file of editions {path} has no rows',
    fix: 'Write a list into it, or a table with a line for each edition.',
  },
  'edition-name': {
    severity: 'error',
    reason: '"{name}" cannot be the name of an edition',
    fix: 'Names are letters, digits, ".", "-" and "_". Let the pattern say: <meta name="edition-name" content="${branch | slug}">.',
  },
  'edition-twice': {
    severity: 'error',
    reason: 'Two editions are called {name}',
    fix: 'Let the pattern of their names differ in each row: <meta name="edition-name" content="…">.',
  },
  'message-twice': {
    severity: 'error',
    usage: true,
    reason: 'There are two messages called "{name}": an .html and an .md file',
    fix: 'Rename one of them.',
  },
  'front-matter-missing': {
    severity: 'error',
    reason: 'This Markdown message does not begin with front matter',
    fix: 'Begin it with a line of three hyphens, then "subject: …" and "frame: {frame}", and another such line.',
  },
  'front-matter-value': {
    severity: 'error',
    reason: '"{key}" should be {expected}',
    fix: 'Write {expected} here.',
  },
  'frame-unnamed': {
    severity: 'error',
    reason: 'The message names no frame',
    fix: 'Write "frame: {example}" into its front matter. {advice}',
  },
  'unknown-frame': {
    severity: 'error',
    reason: 'There is no frame called "{name}"',
    fix: '{advice}',
  },
  'frame-no-slot': {
    severity: 'error',
    reason: 'This frame has no place for the text',
    fix: 'Put a <slot></slot> where the text of the message goes.',
  },
  'frame-value-missing': {
    severity: 'error',
    reason: 'The frame {frame} needs "{name}"',
    fix: 'Write "{name}: …" into the front matter, or give it a default in the frame.',
  },

  // Regions
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
  'tag-unknown': {
    severity: 'error',
    reason: '{dialect} has no tag {tag}',
    fix: 'Correct it: recipients would read it as it stands.',
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
  'footer-missing': {
    severity: 'error',
    reason: 'No {what} in the message, and {dialect} refuses a message without one',
    fix: 'Put {tag} into the footer.',
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
  'dialect-invalid': {
    severity: 'error',
    usage: true,
    reason: 'The dialect file is wrong here: {detail}',
    fix: 'Mend the dialect file at this place.',
  },
} as const satisfies Record<string, CatalogueEntry>;

export type FindingCode = keyof typeof catalogue;
