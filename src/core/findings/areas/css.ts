import type { CatalogueEntry } from './entry.js';

/** What is wrong with styles, or has no equal in tables. */
export const cssFindings = {
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
    reason: '{property}: {value} has no equal in tables, for {element} at {where}{condition}',
    fix: '{advice}',
  },
  'css-filled-in': {
    severity: 'error',
    reason: 'Only the platform knows what {declaration} comes to, and the layout depends on it',
    fix: 'Write the value itself; merge tags may stand in color, background and background-color.',
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
  'media-query-invalid': {
    severity: 'error',
    reason: 'No client takes the media query "{query}": {detail}, so its rules would never hold',
    fix: '{advice}',
  },
  'css-condition-layout': {
    severity: 'error',
    reason: 'Under {condition} the message would need other tables',
    fix: 'Change only colours, text and what shows there; a background or a border that comes up there must have a value outside it, too.',
  },
  'css-part-in-head': {
    severity: 'note',
    oncePerFile: true,
    reason: '{property} is kept in the head, which some mail clients drop (at "{selector}")',
    fix: 'Nothing has to be done: there it looks like the rest of its text.',
  },
  'css-decoration-lost': {
    severity: 'note',
    oncePerFile: true,
    reason: '{property} does not reach mail clients (at "{selector}")',
    fix: 'Remove it, or accept that it is left out: the layout does not change.',
  },
  'css-unknown-variable': {
    severity: 'error',
    reason: 'The custom property {name} has no value here',
    fix: 'Set it where this element or one around it is styled, or give var() a fallback.',
  },
  'css-variable-empty': {
    severity: 'warning',
    reason: 'The custom property {name} has no value here, so browsers take the declaration for none',
    fix: 'Give var() a fallback, or set the property where this element or one around it is styled.',
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
  'style-cut-by-tag': {
    severity: 'warning',
    reason:
      'The template tag {tag} stands between rules or declarations, so this style sheet stays in the head as it is',
    fix: 'Put what always holds into a style sheet of its own, so that it is inlined.',
  },
  'css-undecided': {
    severity: 'warning',
    reason: 'Whether {selector} matches depends on what the platform fills in, so its rule stays in the head',
    fix: 'Give the elements a class that no template tag takes part in, and select that.',
  },
  'tag-left-out': {
    severity: 'warning',
    reason: 'The template tag {tag} is not in the result: {why}',
    fix: 'Nothing has to be done if that is what you mean; else write the tag where it has effect.',
  },
  'tags-changed': {
    severity: 'error',
    reason: 'The template tag {tag} did not come out as it went in',
    fix: 'Keep the source, and report this with the file: it is a defect of Inscriba.',
  },
  'inline-inexact': {
    severity: 'warning',
    reason: 'The styles of a <{tag}> here cannot be kept exactly: it has no tag of its own to carry them',
    fix: 'Write its tag into the source.',
  },
  'inline-filled-in': {
    severity: 'warning',
    reason:
      'What the platform fills into the style of this <{tag}> competes with rules that stay in the head, and may lose to them',
    fix: 'Write the template tag as the value of one property, or give the element a class that those rules leave alone.',
  },
  'inline-nested-deep': {
    severity: 'warning',
    reason:
      'The styles of this <{tag}> cannot be kept exactly: rules that compete on it are nested too deep to be written out',
    fix: 'Write those rules with a class of their own, not nested.',
  },
  'inline-reverted': {
    severity: 'warning',
    reason:
      'The styles of this <{tag}> cannot be kept exactly: "revert-layer" uncovers what no style attribute can say',
    fix: 'Write the value that is meant instead of revert-layer.',
  },
  'unused-dropped': {
    severity: 'note',
    reason: '{file}: {rules} that nothing here uses, and what belongs to them, are left out: {size}',
    fix: 'Nothing has to be done. Without --unused drop they stay.',
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
} as const satisfies Record<string, CatalogueEntry>;
