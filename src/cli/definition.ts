import { InvalidArgumentError, type Command } from 'commander';
import type { Io } from './io/io.js';
import type { CommonOptions } from './run.js';

/** What a command is defined on. */
export interface Definition {
  readonly program: Command;
  readonly io: Io;
  /** The options that all commands share, as they are when a command runs. */
  readonly common: () => CommonOptions;
  /** Takes the exit code. */
  readonly finish: (code: number) => void;
}

/** Subcommands print and end as the program does. */
export function inherit(command: Command): Command {
  return command.helpOption('-h, --help', 'print help');
}

/** Examples at the end of a command's help. */
export function examples(...lines: string[]): string {
  return `\nExamples:\n${lines.map((line) => `  ${line}`).join('\n')}`;
}

/** Reads an option that takes a whole number. */
export function numberBetween(least: number, most: number): (value: string) => number {
  return (value) => {
    const number = Number(value);
    if (value.trim() !== '' && Number.isInteger(number) && number >= least && number <= most) return number;
    throw new InvalidArgumentError(`It takes a whole number from ${least} to ${most}.`);
  };
}
