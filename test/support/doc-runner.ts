import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { parse, stringify } from 'yaml';
import { commandsOf, holdsExcerpt, showsAll, stepsOf, type DocStep } from './doc-page.js';
import { repository } from './project.js';
import { ShellSession } from './shell-session.js';

/** Where a page says something else than what is so: its line, and what is so. */
export interface Untruth {
  readonly line: number;
  readonly page: string;
  readonly truth: string;
}

/** @param page where the page lies, from the repository */
type Check = (shell: ShellSession, block: DocStep, rest: string, page: string) => Promise<Untruth[]> | Untruth[];

/** Holds the settings of a file and those of a page together, key by key. */
function merged(into: unknown, from: unknown): unknown {
  if (!isGroup(into) || !isGroup(from)) return from;
  const added = Object.entries(from).map(([key, value]) => [key, merged(into[key], value)] as const);
  return { ...into, ...Object.fromEntries(added) };
}

const isGroup = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** Runs the commands of a console block, and compares what they say and how they end with what the page shows. */
async function runCommands(shell: ShellSession, { content, line }: DocStep): Promise<Untruth[]> {
  const commands = commandsOf(content);
  if (commands.length === 0) return [{ line, page: content, truth: 'a block that nothing checks' }];
  const untruths: Untruth[] = [];
  for (const { command, shown } of commands) {
    const isShown = (said: string): boolean => shown.length === 0 || showsAll(shown, said.trimEnd().split('\n'));
    const { code, said } = await shell.run(command.replace(/ +# .*$/, ''), isShown);
    // What shows an error ends as errors do, and nothing else does.
    const isRefused = shown.some((text) => / {2}error {2}/.test(text));
    if (isRefused !== [1, 2].includes(code) || (!isRefused && code !== 0) || !isShown(said))
      untruths.push({ line, page: `$ ${command}\n${shown.join('\n')}`, truth: `exit code ${code}\n${said}` });
  }
  return untruths;
}

/** Runs a command that has to succeed, whatever it says. */
async function succeeds(shell: ShellSession, line: number, command: string): Promise<Untruth[]> {
  const { code, said } = await shell.run(command, () => true);
  return code === 0 ? [] : [{ line, page: command, truth: `exit code ${code}\n${said}` }];
}

/** The folders of a tree that is drawn with lines: a folder is indented by what it lies in. */
function foldersOf(drawing: string): string[] {
  const path: string[] = [];
  return drawing.split('\n').flatMap((line) => {
    const [, indent = '', name] = /^((?:│ {2}|[├└]─ )*)([\w-]+)\//.exec(line) ?? [];
    if (name === undefined) return [];
    path.splice(indent.length / 3, path.length, name);
    return path.join('/');
  });
}

const nothing: Untruth[] = [];

/** What is done with a block, by the word of the comment before it. */
const checks: Readonly<Record<string, Check>> = {
  run: (shell, { line }, command) => succeeds(shell, line, command),
  file: (shell, { content }, path) => (shell.write(path, content), nothing),
  append: (shell, { content }, path) => (shell.write(path, shell.read(path) + content), nothing),
  replace: (shell, { content, line, said }, rest) => {
    const [, path = '', from = '', to = ''] = /^(\S+) from "([^"]+)" to "([^"]+)"$/.exec(rest) ?? [];
    const text = shell.read(path);
    const start = text.indexOf(from);
    const end = text.indexOf(to, start);
    if (start < 0 || end < 0 || from === '') return [{ line, page: said, truth: text }];
    shell.write(path, text.slice(0, start) + content + text.slice(end));
    return nothing;
  },
  'found in': (shell, { content, line }, path) => {
    const file = existsSync(join(shell.place, path)) ? shell.read(path) : 'no such file';
    return holdsExcerpt(file, content) ? nothing : [{ line, page: content, truth: file }];
  },
  'settings in': (shell, { content, line }, path) => {
    shell.write(path, stringify(merged(parse(shell.read(path)), parse(content))));
    return succeeds(shell, line, 'inscriba list');
  },
  'folders in': (_, { content, line }) =>
    foldersOf(content)
      .filter((folder) => !existsSync(join(repository, folder)))
      .map((folder) => ({ line, page: folder, truth: 'no such folder' })),
  // Who runs a block takes it from its page, and so names it.
  'run by': (_, { line, said }, path, page) => {
    const file = existsSync(join(repository, path)) ? readFileSync(join(repository, path), 'utf8') : 'no such file';
    return file.includes(page) ? nothing : [{ line, page: said, truth: file }];
  },
  'not run': (_, { line, said }, why) => (why.length > 20 ? nothing : [{ line, page: said, truth: 'no reason' }]),
};

/**
 * Follows a page to the letter in an empty folder: runs its commands, writes its files, and finds its excerpts.
 *
 * @param page where it lies, from the repository
 * @returns where it says something else than what is so
 */
export async function followPage(page: string): Promise<Untruth[]> {
  const shell = new ShellSession();
  const untruths: Untruth[] = [];
  try {
    for (const block of stepsOf(readFileSync(join(repository, page), 'utf8'))) {
      const [, word, rest = ''] = /^([\w ]+): (.*)$/.exec(block.said) ?? [];
      const check = word === undefined ? runCommands : checks[word];
      if (check === undefined) untruths.push({ line: block.line, page: block.said, truth: 'no such word' });
      else untruths.push(...(await check(shell, block, rest, page)));
    }
  } finally {
    await shell.end();
  }
  return untruths;
}
