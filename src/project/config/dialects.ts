import { projectFolderOf } from '../files/project-folder.js';
import { readdir } from 'node:fs/promises';
import { join } from 'node:path';
import type { Finding, Report } from '../../core/findings/finding.js';
import type { Dialect } from '../../core/dialects/dialect.js';
import { exists } from '../files/exists.js';
import { fromDisk, type ReadBytes } from '../files/read-bytes.js';
import { readTextFile } from '../files/text-file.js';
import { builtInDialects, shippedDialect } from './shipped-dialects.js';
import type { DialectResult } from '../../core/dialects/file/read-dialect.js';

/** The names of all dialects at hand, those of the project first. */
export async function dialectNames(projectFolder: string): Promise<string[]> {
  const lists = await Promise.all([join(projectFolder, 'dialects'), builtInDialects].map(yamlNames));
  return [...new Set(lists.flat())];
}

async function yamlNames(folder: string): Promise<string[]> {
  const entries = await readdir(folder).catch(() => []);
  return entries.filter((entry) => entry.endsWith('.yaml')).map((entry) => entry.slice(0, -'.yaml'.length));
}

/** Loads a dialect by its name; a project's own file comes before one that ships. */
export async function loadDialect(name: string, projectFolder: string, read = fromDisk): Promise<DialectResult> {
  const own = ownDialectFile(name, projectFolder);
  return (await exists(own))
    ? loadDialectFile(own, `dialects/${name}.yaml`, read)
    : loadDialectFile(join(builtInDialects, `${name}.yaml`), `${name}.yaml`);
}

/** Whether a project has a dialect file of its own for a name. */
export function isOwnDialect(name: string, projectFolder: string): Promise<boolean> {
  return exists(ownDialectFile(name, projectFolder));
}

function ownDialectFile(name: string, projectFolder: string): string {
  return join(projectFolder, 'dialects', `${name}.yaml`);
}

/** Loads a dialect from its file. */
export async function loadDialectFile(path: string, shown: string, read = fromDisk): Promise<DialectResult> {
  const findings: Finding[] = [];
  const file = await readTextFile(path, shown, (item) => findings.push(item), read);
  if (file === null) return { dialect: null, findings };
  const { readDialect } = await import('../../core/dialects/file/read-dialect.js');
  return readDialect(file.source);
}

/** A dialect by its name, without the places of what its file says. */
export async function dialectNamed(
  name: string,
  projectFolder: string,
  read: ReadBytes = fromDisk,
): Promise<Pick<DialectResult, 'dialect' | 'findings'>> {
  return (await isOwnDialect(name, projectFolder)) ? loadDialect(name, projectFolder, read) : comingDialect(name);
}

/** A dialect that comes with the program, as it was read when that was built, or from its file. */
async function comingDialect(name: string): Promise<Pick<DialectResult, 'dialect' | 'findings'>> {
  const dialect = shippedDialect(name);
  return dialect === null
    ? loadDialectFile(join(builtInDialects, `${name}.yaml`), `${name}.yaml`)
    : { dialect, findings: [] };
}

/** The dialects that ship. */
export async function shippedDialects(): Promise<Dialect[]> {
  return (await yamlNames(builtInDialects)).map(shippedDialect).filter((dialect) => dialect !== null);
}

/** All dialects at hand around a folder: those of its project, and those that ship. */
export async function allDialects(around: string, report: Report): Promise<Dialect[]> {
  const folder = (await projectFolderOf(around)) ?? around;
  const own = await yamlNames(join(folder, 'dialects'));
  const names = await dialectNames(folder);
  const loaded = await Promise.all(
    names.map((name) => (own.includes(name) ? loadDialect(name, folder) : comingDialect(name))),
  );
  loaded.flatMap(({ findings }) => [...findings]).forEach(report);
  return loaded.flatMap(({ dialect }) => (dialect === null ? [] : [dialect]));
}
