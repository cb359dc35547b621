/** What is wrong with CSS, to stand within a sentence. */
export const cssDetail = {
  unreadableQuery: 'it cannot be read',
  noFeature: (unknown: string): string => `there is no feature "${unknown}"`,
  unknownSelector: 'no browser knows this selector, so the rule is left out',
  noAtRule: (name: string): string => `there is no at-rule "@${name}", so browsers leave it out`,
  declarationParts: 'a declaration needs a property, a colon and a value',
  closesNothing: 'this "}" closes nothing',
  neither: 'neither a declaration (property: value) nor a rule',
  noBlock: 'a rule without a block in braces',
  nestedDeep: (most: number): string => `blocks are nested more than ${most} deep`,
  blockUnclosed: 'its "{" is never closed',
  valueUnclosed: 'a string or address in this value does not end',
  noValue: (written: string): string => `"${written}" has no value`,
  neverClosed: (opener: string): string => `this "${opener}" is never closed, so all that follows is lost`,
  noValueOf: (value: string, property: string, nearest: string | null): string =>
    `"${value}" is no value of ${property}${nearest === null ? '' : `; the nearest is "${nearest}"`}`,
  noProperty: (property: string, nearest: string): string =>
    `there is no property "${property}"; the nearest is "${nearest}"`,
  queryNeverHolds: (text: string, detail: string, hint: string): string =>
    `the media query "${text}" never holds: ${detail}${hint}`,
} as const;
