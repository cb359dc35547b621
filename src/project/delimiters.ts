import { fileURLToPath } from 'node:url';
import Joi from 'joi';
import { adviceForName, finding, type Finding } from '../core/finding.js';
import type { TagDelimiters } from '../core/html/tags.js';
import { nearestName } from '../core/nearest.js';
import { delimiterList, dialectNames, loadDialect } from './dialects.js';
import { readTextFile } from './text-file.js';
import { readYaml } from './yaml-file.js';

const tagsFile = fileURLToPath(new URL('../../data/template-tags.yaml', import.meta.url));

type DelimiterTable = Readonly<Record<string, readonly TagDelimiters[]>>;

/** Delimiters that are found in finished HTML, and what was wrong on the way to them. */
export interface DelimiterResult {
  readonly delimiters: readonly TagDelimiters[];
  readonly findings: readonly Finding[];
}

/** The delimiters of template tags: those of one dialect or language, or of all that are known. */
export async function knownDelimiters(folder: string, only: string | null): Promise<DelimiterResult> {
  const table = await delimiterTable();
  const dialects = await dialectNames(folder);
  const known = [...new Set([...dialects, ...Object.keys(table)])].sort();
  if (only !== null && !known.includes(only)) {
    const advice = adviceForName(nearestName(only, known), known, '');
    return { delimiters: [], findings: [finding('unknown-dialect', null, { name: only, advice })] };
  }
  const names = only === null ? known : [only];
  const loaded = await Promise.all(
    names.filter((name) => dialects.includes(name)).map((name) => loadDialect(name, folder)),
  );
  const all = [
    ...loaded.flatMap(({ dialect }) => dialect?.delimiters ?? []),
    ...names.flatMap((name) => table[name] ?? []),
  ];
  const delimiters = all.filter((pair, index) => all.findIndex((other) => other.open === pair.open) === index);
  return { delimiters, findings: only === null ? [] : loaded.flatMap(({ findings }) => [...findings]) };
}

async function delimiterTable(): Promise<DelimiterTable> {
  const { file } = await readTextFile(tagsFile, 'template-tags.yaml');
  if (file === null) throw new Error(`${tagsFile} is missing from the installation.`);
  const { value } = readYaml(file.source, Joi.object<DelimiterTable>().pattern(Joi.string(), delimiterList));
  if (value === null) throw new Error(`${tagsFile} is damaged.`);
  return value;
}
