/** What to write in templates and parts. */
export const templateAdvice = {
  nestedDeep: (most: number): string => `templates and parts are nested more than ${most} deep`,
  loopAttribute: 'a loop is written each="item of list"',
  intoAttribute: 'Put it into the value of an attribute, in quotes.',
  noValues: 'It accepts no values.',
  noSlots: 'It has no named slots.',
  loopOver: 'Loop over it with <template each="item of …">, or put its items together: | join ", ".',
  printOne: (names: readonly string[]): string => `Print one of its values: ${names.join(', ')}.`,
  writePart: (tag: string, others: string): string => `Write it into parts/${tag}.html.${others}`,
} as const;
