import type { Argument, Command, Option } from 'commander';

/** A command as it is declared, with those under it: what its help, its completion and the manual say. */
export interface CommandTree {
  readonly name: string;
  readonly summary: string;
  readonly description: string;
  readonly options: readonly TreeOption[];
  readonly arguments: readonly TreeArgument[];
  readonly commands: readonly CommandTree[];
}

/** An option of a command. */
export interface TreeOption {
  /** `--to <destination...>`. */
  readonly written: string;
  /** `--to`, and what it is for short. */
  readonly names: readonly string[];
  readonly description: string;
  readonly takesValue: boolean;
  /** The words that it takes; none where it takes others. */
  readonly choices: readonly string[];
}

/** A word that a command takes. */
export interface TreeArgument {
  readonly written: string;
  readonly description: string;
  readonly choices: readonly string[];
}

/** A program with all its commands, as they are declared. */
export function commandTree(command: Command): CommandTree {
  const help = command.createHelp();
  return {
    name: command.name(),
    summary: command.summary(),
    description: command.description(),
    options: help.visibleOptions(command).map(optionOf),
    arguments: command.registeredArguments.map(argumentOf),
    commands: command.commands.map(commandTree),
  };
}

function optionOf({ flags, long, short, description, required, optional, argChoices }: Option): TreeOption {
  return {
    written: flags,
    names: [short, long].flatMap((name) => name ?? []),
    description,
    takesValue: required || optional,
    choices: argChoices ?? [],
  };
}

function argumentOf(argument: Argument): TreeArgument {
  const { description, argChoices, required, variadic } = argument;
  const inner = `${argument.name()}${variadic ? '...' : ''}`;
  return { written: required ? `<${inner}>` : `[${inner}]`, description, choices: argChoices ?? [] };
}
