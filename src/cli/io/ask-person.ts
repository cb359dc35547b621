import { createInterface } from 'node:readline/promises';

/** Asks on the terminal; anything but a yes is a no. */
export async function askPerson(question: string): Promise<boolean> {
  const lines = createInterface({ input: process.stdin, output: process.stderr });
  try {
    return /^y(?:es)?$/i.test((await lines.question(`${question} [y/N] `)).trim());
  } finally {
    lines.close();
  }
}
