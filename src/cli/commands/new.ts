import { relative, resolve } from 'node:path';
import { exitCodeOf } from '../../core/findings/finding.js';
import { loadConfig } from '../../project/config/config.js';
import { refreshEditorFiles } from '../../project/new/editor-files.js';
import {
  newMessage,
  newMessageLike,
  newPart,
  newProject,
  starters,
  type NewResult,
} from '../../project/new/new-files.js';
import type { Io } from '../io/io.js';
import { printFindings } from '../output/print-findings.js';
import {
  command,
  flag,
  group,
  oneOfOr,
  text,
  word,
  type CommonOptions,
  type OptionDeclaration,
  type OptionDeclarations,
  type Told,
} from '../io/command.js';

const force = (what: string): OptionDeclaration<boolean> => flag('--force', `write over ${what} there`);

const projectOptions = {
  starter: oneOfOr('newsletter', starters, '--starter <name>', 'what to begin from'),
  force: force('files that are'),
};

const messageOptions = {
  starter: oneOfOr('blank', starters, '--starter <name>', 'what to begin from'),
  like: text('--like <message>', 'begin as this message does'),
  force: force('a message that is'),
};

const partOptions = { force: force('a part that is') };

/** What is told with the name of what is made. */
type Named<D extends OptionDeclarations> = Told<D> & CommonOptions & { readonly name: string };

/** `new`. */
export const newCommands = group({
  name: 'new',
  description: 'Begins a project, a message or a part. Nothing that is there is written over.',
  commands: [
    command({
      name: 'project',
      summary: 'a project that builds at once',
      description: 'Makes a project that builds at once: configuration, styles, parts, and a first message.',
      arguments: { name: word('<folder>', 'the folder to make; its name becomes that of the project') },
      options: projectOptions,
      examples: ['inscriba new project tool-library', 'inscriba new project tool-library --starter notice'],
      run: makeProject,
    }),
    command({
      name: 'message',
      summary: 'a message, from a starter or like another',
      description: 'Makes a message in the project, from a starter or like a message that is there.',
      arguments: { name: word('<name>', 'its name, which is that of its file') },
      options: messageOptions,
      examples: [
        'inscriba new message june-newsletter --like may-newsletter',
        'inscriba new message closing-early --starter notice',
      ],
      run: makeMessage,
    }),
    command({
      name: 'part',
      summary: 'a part, to use in messages',
      description: 'Makes a part in the project: a fragment that messages use by its name.',
      arguments: { name: word('<name>', 'its name, with a hyphen: it becomes an element') },
      options: partOptions,
      examples: ['inscriba new part tool-card', 'inscriba new part opening-hours --force'],
      run: makePart,
    }),
  ],
});

async function makeProject(options: Named<typeof projectOptions>, io: Io): Promise<number> {
  const folder = resolve(io.folder, options.name);
  const result = await newProject(folder, options.starter, options.force);
  const shown = relative(io.folder, folder);
  const next = [
    ...(shown === '' ? [] : [`  cd ${shown}`]),
    '  inscriba build',
    '',
    'Write your name, address and platform into inscriba.yaml; inscriba check tells what is left to fill in.',
  ];
  return finishNew(result, shown === '' ? '.' : shown, ['Now', ...next], options, io);
}

async function makeMessage(options: Named<typeof messageOptions>, io: Io): Promise<number> {
  const folder = await projectFolder(options, io);
  if (folder === null) return 2;
  const { name, like, starter } = options;
  const result =
    like === null
      ? await newMessage(folder, name, starter, options.force)
      : await newMessageLike(folder, name, like, options.force);
  await refreshEditorFiles(folder);
  return finishNew(result, relative(io.folder, folder), [`Build it with: inscriba build ${name}`], options, io);
}

async function makePart(options: Named<typeof partOptions>, io: Io): Promise<number> {
  const folder = await projectFolder(options, io);
  if (folder === null) return 2;
  const result = await newPart(folder, options.name, options.force);
  await refreshEditorFiles(folder);
  const use = `Use it in a message: <${options.name} heading="…">…</${options.name}>`;
  return finishNew(result, relative(io.folder, folder), [use], options, io);
}

async function projectFolder(options: CommonOptions, io: Io): Promise<string | null> {
  const { config, findings } = await loadConfig(io.folder);
  if (config === null) printFindings(findings, io, options.color);
  return config?.folder ?? null;
}

/** Says what was written, and what to do next. */
export function finishNew(
  { written, findings }: NewResult,
  folder: string,
  next: readonly string[],
  options: CommonOptions,
  io: Io,
): number {
  printFindings(findings, io, options.color);
  const code = exitCodeOf(findings);
  if (options.quiet || written.length === 0) return code;
  for (const path of written) io.err(`wrote ${folder === '' || folder === '.' ? path : `${folder}/${path}`}\n`);
  if (code === 0) io.err(`\n${next.join('\n')}\n`);
  return code;
}
