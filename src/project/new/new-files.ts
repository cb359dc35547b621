import { CONFIG_FILE } from '../files/project-folder.js';
import { readdir, readFile } from 'node:fs/promises';
import { basename, join, relative, resolve } from 'node:path';
import { stringify } from 'yaml';
import { adviceForName, finding, isError, type Finding } from '../../core/findings/finding.js';
import { nearestName } from '../../core/text/nearest.js';
import { EDITOR_FOLDER, ELEMENTS_FILE, SCHEMA_FILE, writeEditorFiles } from './editor-files.js';
import { exists } from '../files/exists.js';
import { isPartName, messageFiles } from '../load/message-names.js';
import { readFailure } from '../files/text-file.js';
import { ownFile } from '../files/own-files.js';
import { writeWhole } from '../files/write-file.js';

const startersFolder = ownFile('starters');

/** What a project or a message may be begun from. */
export const starters = ['newsletter', 'notice', 'receipt', 'blank'] as const;

export type Starter = (typeof starters)[number];

/** What making something came to: the files that were written, relative to the folder, and what kept others from it. */
export interface NewResult {
  readonly written: readonly string[];
  readonly findings: readonly Finding[];
}

/** A file to be written into a project. */
export interface NewFile {
  /** Relative, with forward slashes. */
  readonly path: string;
  readonly content: Uint8Array | string;
}

/** Makes a project from a starter. Files that are there are only written over when `force` says so. */
export async function newProject(folder: string, starter: Starter, force: boolean): Promise<NewResult> {
  const config = join(folder, CONFIG_FILE);
  if (!force && (await exists(config))) {
    return { written: [], findings: [finding('new-exists', null, { path: config })] };
  }
  const name = projectName(basename(resolve(folder)));
  const files = [...(await starterFiles('base')), ...(await starterFiles(starter))].map((file) =>
    file.path === CONFIG_FILE ? { ...file, content: withName(file.content, name) } : file,
  );
  const result = await writeNew(folder, files, force);
  if (result.findings.some(isError)) return result;
  const editorFiles = [SCHEMA_FILE, ELEMENTS_FILE].map((file) => `${EDITOR_FOLDER}/${file}`);
  const findings = [...result.findings, ...(await writeEditorFiles(folder))];
  return { written: [...result.written, ...editorFiles], findings };
}

/** "tool-library" becomes "Tool library". */
function projectName(folder: string): string {
  const words = folder.replace(/[-_]+/g, ' ').trim();
  return words === '' ? 'My project' : words.charAt(0).toUpperCase() + words.slice(1);
}

function withName(content: Uint8Array | string, name: string): string {
  return Buffer.from(content).toString('utf8').replaceAll('{project}', stringify(name).trim());
}

/** Makes a message from a starter; what the starter brings along (parts, styles, data) is added where it is missing. */
export async function newMessage(
  projectFolder: string,
  name: string,
  starter: Starter,
  force: boolean,
): Promise<NewResult> {
  const bad = await messageNameProblem(projectFolder, name, force);
  if (bad !== null) return { written: [], findings: [bad] };
  const own = await starterFiles(starter);
  const message = own.find(({ path }) => path.startsWith('messages/'));
  if (message === undefined) throw new Error(`The starter ${starter} has no message.`);
  const path = `messages/${name}${message.path.endsWith('.md') ? '.md' : '.html'}`;
  const beside = [...(await starterFiles('base')), ...own].filter(
    (file) => file !== message && file.path !== CONFIG_FILE,
  );
  const missing: NewFile[] = [];
  for (const file of beside) if (!(await exists(join(projectFolder, file.path)))) missing.push(file);
  return writeNew(projectFolder, [{ ...message, path }, ...missing], force);
}

/** Makes a message that begins as another does. */
export async function newMessageLike(
  projectFolder: string,
  name: string,
  like: string,
  force: boolean,
): Promise<NewResult> {
  const bad = await messageNameProblem(projectFolder, name, force);
  if (bad !== null) return { written: [], findings: [bad] };
  const files = await messageFiles(projectFolder);
  const model = files.find((file) => file.name === like.replace(/^messages\//, '').replace(/\.(?:html|md)$/, ''));
  if (model === undefined) {
    const known = files.map((file) => file.name);
    const advice = adviceForName(nearestName(like, known), known, 'There is no message yet.');
    return { written: [], findings: [finding('unknown-message', null, { name: like, advice })] };
  }
  try {
    const content = await readFile(model.path);
    const path = `messages/${name}${model.path.endsWith('.md') ? '.md' : '.html'}`;
    return await writeNew(projectFolder, [{ path, content }], force);
  } catch (error) {
    return { written: [], findings: [readFailure(error, model.path)] };
  }
}

/** A message's name is that of its file and of the folder of its output. */
export async function messageNameProblem(projectFolder: string, name: string, force: boolean): Promise<Finding | null> {
  if (!/^[\p{L}\d][\p{L}\d._-]*$/u.test(name))
    return finding('new-name', null, { what: 'a message', name, advice: 'Use letters, digits, ".", "-" and "_".' });
  const there = (await messageFiles(projectFolder)).find((file) => file.name === name);
  return there === undefined || force ? null : finding('new-exists', null, { path: there.path });
}

/** Makes a part. */
export async function newPart(projectFolder: string, name: string, force: boolean): Promise<NewResult> {
  if (!isPartName(name)) {
    const advice = `Names of parts are small letters with a hyphen, such as "house-${
      name
        .toLowerCase()
        .replace(/[^a-z\d]+/g, '-')
        .replace(/^-+|-+$/g, '') || 'part'
    }".`;
    return { written: [], findings: [finding('new-name', null, { what: 'a part', name, advice })] };
  }
  const content = `<!-- Used as <${name} heading="…">content</${name}>. -->
<style>
  .${name} {
    padding: 16px 24px;
  }
</style>
<template accepts="heading">
  <section class="${name}">
    <h2>\${heading}</h2>
    <p><slot></slot></p>
  </section>
</template>
`;
  return writeNew(projectFolder, [{ path: `parts/${name}.html`, content }], force);
}

async function starterFiles(starter: Starter | 'base'): Promise<NewFile[]> {
  const root = join(startersFolder, starter);
  const entries = await readdir(root, { recursive: true, withFileTypes: true });
  const paths = entries.filter((entry) => entry.isFile()).map((entry) => join(entry.parentPath, entry.name));
  return Promise.all(
    paths.sort().map(async (path) => ({
      path: relative(root, path).replaceAll('\\', '/'),
      content: await readFile(path),
    })),
  );
}

export async function writeNew(folder: string, files: readonly NewFile[], force: boolean): Promise<NewResult> {
  const there: Finding[] = [];
  for (const { path } of files) {
    const full = join(folder, path);
    if (!force && (await exists(full))) there.push(finding('new-exists', null, { path: full }));
  }
  if (there.length > 0) return { written: [], findings: there };
  const written: string[] = [];
  for (const { path, content } of files) {
    const full = join(folder, path);
    const problem = await writeWhole(full, content);
    if (problem !== null) return { written, findings: [problem] };
    written.push(path);
  }
  return { written, findings: [] };
}
