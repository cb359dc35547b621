/** What is wrong with markup, to stand within a sentence. */
export const htmlDetail = {
  nestedDeep: (most: number): string => `elements are nested more than ${most} deep`,
} as const;

/** Elements that mail clients remove or refuse, with what to write instead. */
export const unsupportedElements: ReadonlyMap<string, string> = new Map([
  ['script', 'Remove it: mail clients run no scripts.'],
  ['iframe', 'Show a picture that links to the page instead.'],
  ['embed', 'Show a picture that links to the content instead.'],
  ['object', 'Show a picture that links to the content instead.'],
  ['canvas', 'Use a picture.'],
  ['video', 'Show a still picture that links to the video.'],
  ['audio', 'Link to the recording.'],
  ['form', 'Link to a page that has the form.'],
  ['input', 'Link to a page that has the form.'],
  ['select', 'Link to a page that has the form.'],
  ['textarea', 'Link to a page that has the form.'],
  ['button', 'Use a link: <a href="…"> with padding and a background becomes a button.'],
  ['dialog', 'Put the content into the page.'],
  ['details', 'Show the content, or link to it.'],
  ['template', 'Move its content out of it.'],
  ['slot', 'Remove it: there is nothing that would fill it.'],
  ['svg', 'Use a PNG picture.'],
  ['math', 'Use a picture.'],
]);

/** Complaints of the parser that are worth a person's time in mail, with a sentence each. */
export const tellingErrors: ReadonlyMap<string, string> = new Map([
  ['duplicate-attribute', 'the same attribute stands twice on one element'],
  ['missing-whitespace-between-attributes', 'there is no space between two attributes'],
  [
    'unexpected-character-in-attribute-name',
    'a quote or "<" stands in an attribute name; a quote before it is probably missing',
  ],
  ['unexpected-character-in-unquoted-attribute-value', 'a quote stands in an attribute value without quotes'],
  ['missing-attribute-value', 'an attribute has "=" but no value'],
  ['eof-in-tag', 'the file ends inside a tag'],
  ['eof-in-comment', 'a comment is never closed'],
  ['incorrectly-closed-comment', 'a comment is closed with "--!>" instead of "-->"'],
  ['eof-before-tag-name', 'the file ends after "<"'],
  ['invalid-first-character-of-tag-name', '"<" starts no tag here; write &lt; for the character'],
  ['unexpected-null-character', 'a NUL character stands here'],
  ['unexpected-solidus-in-tag', 'a stray "/" stands in a tag'],
  ['noncharacter-in-input-stream', 'a character stands here that Unicode forbids in text'],
]);
