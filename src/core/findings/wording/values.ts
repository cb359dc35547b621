/** What to write where a value cannot be used. */
export const valueAdvice = {
  nameValue: 'Name the value itself, or correct the data.',
  holdsNothing: 'It holds nothing.',
  numberPattern: 'Write a pattern with digits, such as "0.00".',
  twoTexts: 'Write two texts: | replace "drill" "saw"',
  numberBehind: 'Write a number behind it.',
  withoutParameter: (name: string): string => `Write it without: | ${name}`,
} as const;
