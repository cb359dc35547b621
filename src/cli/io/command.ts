import { Argument, InvalidArgumentError, Option, type Command } from 'commander';
import type { CommandTree } from './command-tree.js';
import type { Io } from './io.js';

/** What every command may be told. */
export interface CommonOptions {
  readonly quiet: boolean;
  readonly color: boolean;
}

/** An option, as it is declared: how it is written, and what a command gets for it. */
export interface OptionDeclaration<T> {
  readonly option: Option;
  readonly read: (given: unknown) => T;
}

/** A word that a command takes without the name of an option. */
export interface ArgumentDeclaration<T> {
  readonly argument: Argument;
  readonly read: (given: unknown) => T;
}

/** The options of a command, by the keys under which it is told them. */
export type OptionDeclarations = Readonly<Record<string, OptionDeclaration<unknown>>>;
type Arguments = Readonly<Record<string, ArgumentDeclaration<unknown>>>;

/** What a command is told, by what it declares: the type of each key is that of its declaration. */
export type Told<D extends OptionDeclarations | Arguments> = {
  readonly [K in keyof D]: D[K] extends { readonly read: (given: unknown) => infer T } ? T : never;
};

/** A command or a group of them: adds itself to the program. */
export interface CommandDefinition {
  readonly define: (parent: Command, around: Surroundings) => void;
}

/** What a command runs in. */
export interface Surroundings {
  readonly io: Io;
  /** The options that all commands share, as they are when a command runs. */
  readonly common: () => CommonOptions;
  /** Takes the exit code. */
  readonly finish: (code: number) => void;
  /** All commands, as they are declared. */
  readonly tree: () => Promise<CommandTree>;
}

interface CommandDeclaration<A extends Arguments, O extends OptionDeclarations> {
  readonly name: string;
  /** Its line in the help of what it belongs to. */
  readonly summary?: string;
  readonly description: string;
  /** In the order in which they are given. */
  readonly arguments?: A;
  readonly options?: O;
  readonly examples: readonly string[];
  /** Does it, and returns the exit code. */
  readonly run: (told: Told<A> & Told<O> & CommonOptions, io: Io, tree: () => Promise<CommandTree>) => Promise<number>;
}

/** Declares a command. Each of its options and arguments is declared here once: the types in `run` follow from that. */
export function command<
  A extends Arguments = Record<never, never>,
  O extends OptionDeclarations = Record<never, never>,
>(declaration: CommandDeclaration<A, O>): CommandDefinition {
  const { name, summary, description, examples, run } = declaration;
  const taken = Object.entries<ArgumentDeclaration<unknown>>(declaration.arguments ?? {});
  const options = Object.entries<OptionDeclaration<unknown>>(declaration.options ?? {});
  const define = (parent: Command, { io, common, finish, tree }: Surroundings): void => {
    const made = parent.command(name).helpOption('-h, --help', 'print help').description(description);
    if (summary !== undefined) made.summary(summary);
    for (const [, { argument }] of taken) made.addArgument(argument);
    for (const [, { option }] of options) made.addOption(option);
    made.addHelpText('after', `\nExamples:\n${examples.map((line) => `  ${line}`).join('\n')}`);
    made.action(async (...words: unknown[]) => {
      const given = made.opts();
      const told = {
        ...Object.fromEntries(taken.map(([key, { read }], place) => [key, read(words[place])])),
        ...Object.fromEntries(options.map(([key, { option, read }]) => [key, read(given[option.attributeName()])])),
        ...common(),
      };
      // What is declared is what is told: Commander gives what each declaration reads.
      finish(await run(told as Told<A> & Told<O> & CommonOptions, io, tree));
    });
  };
  return { define };
}

/** Declares commands under a common word. */
export function group(declaration: {
  readonly name: string;
  readonly description: string;
  readonly commands: readonly CommandDefinition[];
}): CommandDefinition {
  const { name, description, commands } = declaration;
  const define = (parent: Command, around: Surroundings): void => {
    const made = parent.command(name).helpOption('-h, --help', 'print help').description(description);
    for (const inner of commands) inner.define(made, around);
  };
  return { define };
}

const asGiven = <T>(given: unknown): T => given as T;

/** An option without a value. */
export function flag(written: string, description: string): OptionDeclaration<boolean> {
  return { option: new Option(written, description), read: (given) => given === true };
}

/** A flag that cannot be told together with another option, named by its key. */
export function flagWithout(other: string, written: string, description: string): OptionDeclaration<boolean> {
  return { option: new Option(written, description).conflicts(other), read: (given) => given === true };
}

/** An option with a text, null where it is not given. */
export function text(written: string, description: string): OptionDeclaration<string | null> {
  return { option: new Option(written, description), read: (given) => (given === undefined ? null : asGiven(given)) };
}

/** An option with a text, and what it is where it is not given. */
export function textOr(usual: string, written: string, description: string): OptionDeclaration<string> {
  return { option: new Option(written, description).default(usual), read: asGiven };
}

/** An option that has to be given. */
export function needed(written: string, description: string): OptionDeclaration<string> {
  return { option: new Option(written, description).makeOptionMandatory(), read: asGiven };
}

/** An option with several texts: none where it is not given. */
export function texts(written: string, description: string): OptionDeclaration<readonly string[]> {
  return { option: new Option(written, description), read: (given) => asGiven<string[] | undefined>(given) ?? [] };
}

/** An option with one text, read as a list of it, or of nothing. */
export function textAsList(written: string, description: string): OptionDeclaration<readonly string[]> {
  return {
    option: new Option(written, description),
    read: (given) => (given === undefined ? [] : [asGiven<string>(given)]),
  };
}

/** An option with one of some words, null where it is not given. */
export function oneOf<const T extends string>(
  words: readonly T[],
  written: string,
  description: string,
): OptionDeclaration<T | null> {
  return {
    option: new Option(written, description).choices(words),
    read: (given) => (given === undefined ? null : asGiven<T>(given)),
  };
}

/** An option with one of some words, and which it is where it is not given. */
export function oneOfOr<const T extends string>(
  usual: NoInfer<T>,
  words: readonly T[],
  written: string,
  description: string,
): OptionDeclaration<T> {
  return { option: new Option(written, description).choices(words).default(usual), read: asGiven };
}

/** An option with several of some words, also with commas between them; none where it is not given. */
export function listOf<const T extends string>(
  words: readonly T[],
  written: string,
  description: string,
): OptionDeclaration<readonly T[]> {
  const option = new Option(written, description).argParser((value: string, before: readonly string[] | undefined) => {
    const given = value.split(',').filter((word) => word !== '');
    const unknown = given.find((word) => !(words as readonly string[]).includes(word));
    if (unknown !== undefined) throw new InvalidArgumentError(`It takes ${words.join(', ')}.`);
    return [...(before ?? []), ...given];
  });
  return { option, read: (given) => asGiven<readonly T[] | undefined>(given) ?? [] };
}

/** The least and the largest number that an option takes. */
type Range = readonly [least: number, most: number];

/** An option with a whole number, null where it is not given. */
export function whole(range: Range, written: string, description: string): OptionDeclaration<number | null> {
  return {
    option: new Option(written, description).argParser(wholeNumber(range)),
    read: (given) => (given === undefined ? null : asGiven<number>(given)),
  };
}

/** An option with a whole number, and what it is where it is not given. */
export function wholeOr(usual: number, range: Range, written: string, description: string): OptionDeclaration<number> {
  return { option: new Option(written, description).default(usual).argParser(wholeNumber(range)), read: asGiven };
}

function wholeNumber([least, most]: Range): (value: string) => number {
  return (value) => {
    const number = Number(value);
    if (value.trim() !== '' && Number.isInteger(number) && number >= least && number <= most) return number;
    throw new InvalidArgumentError(`It takes a whole number from ${least} to ${most}.`);
  };
}

/** A word that has to be given: `<name>`. */
export function word(written: string, description: string): ArgumentDeclaration<string> {
  return { argument: new Argument(written, description), read: asGiven };
}

/** Several words: `<name...>`, or `[name...]` where there may be none. */
export function words(written: string, description: string): ArgumentDeclaration<readonly string[]> {
  return { argument: new Argument(written, description), read: asGiven };
}

/** One of some words. */
export function wordOf<const T extends string>(
  choices: readonly T[],
  written: string,
  description: string,
): ArgumentDeclaration<T> {
  return { argument: new Argument(written, description).choices(choices), read: asGiven };
}
