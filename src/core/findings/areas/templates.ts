import type { CatalogueEntry } from './entry.js';

/** Build values, parts, data, Markdown messages and editions. */
export const templateFindings = {
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
} as const satisfies Record<string, CatalogueEntry>;
