/** What the report of a conversion says of a tag beside its verdict. */
export const conversionNote = {
  takenForItemField: (name: string, list: string): string => `${name} is taken for a field of the items of ${list}`,
  takenForList: (name: string): string =>
    `${name} is taken for a list: declare it under "fields:" in inscriba.yaml to be sure`,
  takenForCondition: (name: string): string =>
    `${name} is taken for a condition: declare it under "fields:" in inscriba.yaml to be sure`,
  firstOfCase: 'of several parts of the case that fit only the first is shown',
  region: (name: string): string => `the region ${name}`,
  regionUnmarked: (name: string): string => `the region ${name}, which cannot be marked`,
  footer: 'the footer',
  footerAdded: 'a footer with what the target asks for',
  badge: 'the badge of the platform that the file comes from',
  writtenAsHtml: 'its characters were written as HTML',
  showsRecipient: (name: string): string => `an item without ${name} shows that of the recipient`,
  calledByRule: (name: string, own: string): string => `${name} is called ${own} by rule`,
  footerReplaced: 'the footer, by that of the target',
} as const;
