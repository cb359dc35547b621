/** What to write instead of what a dialect cannot say. */
export const dialectAdvice = {
  loopTag: 'a loop is written @{each list as item}',
  renameField: 'Give the field another name, or map it with --fields.',
  leaveOut: 'Leave it out.',
  sayWithout: 'Say it without, or send it to a destination whose dialect can.',
  testField: 'Test a field, or compare it with a text or a number.',
  knownWhenBuilt: (name: string): string => `It is known when the message is built: write \${${name}}.`,
  declareField: (advice: string): string => `${advice} Fields are declared under "fields:" in inscriba.yaml.`,
} as const;
