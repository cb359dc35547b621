/** What a dialect cannot say, to stand behind "cannot say", and what to do about it where that is not always the same. */
export interface LossWording {
  readonly what: string;
  readonly advice?: string;
}

const saying = (what: string, advice: string): LossWording => ({ what, advice });
const rename = 'Give the field another name, or map it under "fields:".';
const test = 'Test a field, or compare it with a text or a number.';

/** All that a dialect may lack. */
export const losses = {
  anything: { what: 'this' },
  fields: { what: 'fields' },
  valueAsHtml: { what: 'a value as HTML (not escaped)' },
  conditions: { what: 'conditions' },
  loops: { what: 'loops' },
  otherwise: { what: '"else"' },
  elseIf: { what: '"else if"' },
  not: { what: '"not"' },
  loopWithElse: { what: 'a loop with "else"' },
  loopOverNoList: saying('a loop over anything but a list', 'Loop over a field that is a list.'),
  onceIfFilled: (list: string): LossWording => ({ what: `content that stands once if the list ${list} is filled` }),
  expression: saying('this expression', 'Print a field, with a fallback or a filter.'),
  condition: saying('this condition', test),
  filterInCondition: saying('a filter or a fallback in a condition', test),
  parentheses: saying('parentheses', 'Say it in two steps.'),
  parenthesesInCondition: saying('parentheses in a condition', 'Write one condition within the other, as two blocks.'),
  filter: (name: string): LossWording => saying(`the filter "${name}"`, 'Print the field without it.'),
  format: (written: string): LossWording => saying(`the format "${written}"`, 'Use another format.'),
  withoutFormat: (what: string): LossWording => saying(`${what} without a format`, 'Give it a format.'),
  fallback: saying('a fallback', 'Print the field without it, or send it to a destination whose dialect has one.'),
  fallbackOfFiltered: saying(
    'a fallback of a filtered value',
    'Print the field without the filter, or without the fallback.',
  ),
  fallbackThatIsNoText: saying('a fallback that is not a plain text', 'Write the text itself after ??.'),
  bothQuotes: saying('a text with both kinds of quotes', 'Say it with one kind of quotes.'),
  quotesOfAttribute: saying('a text with the quotes of its attribute', 'Say it with one kind of quotes.'),
  textThatHolds: (part: string): LossWording => saying(`a text that holds ${part}`, 'Say it in other words.'),
  systemValue: (what: string): LossWording => saying(what, 'Write the value itself, or leave it out.'),
  counter: (what: string): LossWording => saying(what, 'Leave it out.'),
  fromOtherLoop: (what: string): LossWording =>
    saying(`${what} from within another loop`, 'Print it outside of the inner loop.'),
  itemInBlock: saying('the item of a loop within another block', 'Print it outside of the inner block.'),
  fieldName: (name: string): LossWording => saying(`a field with the name ${name}`, rename),
  hyphenName: (name: string): LossWording => saying(`a field with a hyphen in its name (${name})`, rename),
  propertyName: (name: string): LossWording => saying(`a field with the name ${name}`, 'Give the field another name.'),
  hiddenField: (name: string, list: string): LossWording =>
    saying(
      `the field ${name} within a loop over ${list}, whose items have a field of that name`,
      'Give one of the two another name.',
    ),
  hiddenOuterField: (name: string): LossWording =>
    saying(
      `the field ${name} of the outer item within a loop whose items have a field of that name`,
      'Give one of the two another name.',
    ),
} as const;
