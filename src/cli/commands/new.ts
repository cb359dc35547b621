import { relative, resolve } from 'node:path';
import { adviceForName, exitCodeOf, finding } from '../../core/findings/finding.js';
import { nearestName } from '../../core/text/nearest.js';
import { loadConfig } from '../../project/config/config.js';
import { refreshEditorFiles } from '../../project/new/editor-files.js';
import {
  newMessage,
  newMessageLike,
  newPart,
  newProject,
  starters,
  type NewResult,
  type Starter,
} from '../../project/new/new-files.js';
import type { Io } from '../io/io.js';
import { printFindings } from '../output/print-findings.js';
import type { CommonOptions } from '../run.js';

export interface NewOptions extends CommonOptions {
  readonly name: string;
  readonly starter: string;
  readonly force: boolean;
}

/** `new project`. */
export async function newProjectCommand(options: NewOptions, io: Io): Promise<number> {
  const starter = chooseStarter(options, io);
  if (starter === null) return 2;
  const folder = resolve(io.folder, options.name);
  const result = await newProject(folder, starter, options.force);
  const shown = relative(io.folder, folder);
  const next = [
    ...(shown === '' ? [] : [`  cd ${shown}`]),
    '  inscriba build',
    '',
    'Your name, address and platform stand in inscriba.yaml.',
  ];
  return finishNew(result, shown === '' ? '.' : shown, ['Now', ...next], options, io);
}

/** `new message`. */
export async function newMessageCommand(
  options: NewOptions & { readonly like: string | null },
  io: Io,
): Promise<number> {
  const starter = chooseStarter(options, io);
  if (starter === null) return 2;
  const folder = await projectFolder(options, io);
  if (folder === null) return 2;
  const result =
    options.like === null
      ? await newMessage(folder, options.name, starter, options.force)
      : await newMessageLike(folder, options.name, options.like, options.force);
  await refreshEditorFiles(folder);
  return finishNew(result, relative(io.folder, folder), [`Build it with: inscriba build ${options.name}`], options, io);
}

/** `new part`. */
export async function newPartCommand(options: Omit<NewOptions, 'starter'>, io: Io): Promise<number> {
  const folder = await projectFolder(options, io);
  if (folder === null) return 2;
  const result = await newPart(folder, options.name, options.force);
  await refreshEditorFiles(folder);
  const use = `Use it in a message: <${options.name} heading="…">…</${options.name}>`;
  return finishNew(result, relative(io.folder, folder), [use], options, io);
}

function chooseStarter(options: NewOptions, io: Io): Starter | null {
  const starter = starters.find((known) => known === options.starter);
  if (starter === undefined) {
    const advice = adviceForName(nearestName(options.starter, starters), starters, '');
    printFindings([finding('unknown-starter', null, { name: options.starter, advice })], io, options.color);
  }
  return starter ?? null;
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
