/** What to write where a value cannot be used. */
export const valueAdvice = {
  nameValue: 'Name the value itself, or correct the data.',
  holdsNothing: 'It holds nothing.',
  numberPattern: 'Write a pattern with digits, such as "0.00".',
  twoTexts: 'Write two texts: | replace "drill" "saw"',
  numberBehind: 'Write a number behind it.',
  withoutParameter: (name: string): string => `Write it without: | ${name}`,
  knownWhenSent: (name: string): string => `It is known only when the platform sends: write the merge tag @{${name}}.`,
  mayBeMissing: (advice: string): string => `${advice} Where it may be missing, write ?? and what stands instead.`,
  nameDataFile: 'Name a data file: <meta name="data" content="../data/tools.yaml">.',
  loopOverIt: (owner: string): string => `Loop over it: <template each="item of ${owner}">.`,
} as const;
