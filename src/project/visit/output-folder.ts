import { join } from 'node:path';

/** Where an output goes. */
export interface OutputPlace {
  readonly outFolder: string;
  readonly destination: string;
  readonly message: string;
  readonly edition: string | null;
}

/** The folder of an output: that of its message at its destination, and in it one for each edition. */
export function outputFolder({ outFolder, destination, message, edition }: OutputPlace): string {
  return join(outFolder, destination, message, ...(edition === null ? [] : [edition]));
}
