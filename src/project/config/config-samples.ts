import { join } from 'node:path';
import { adviceForName, finding, type Finding, type Place, type Report } from '../../core/findings/finding.js';
import { nearestName } from '../../core/text/nearest.js';
import type { MergeFields } from '../../core/dialects/model.js';
import { keep, readKept } from '../files/kept.js';
import type { ReadBytes } from '../files/read-bytes.js';
import { readTextFile } from '../files/text-file.js';
import type { PlaceOf } from '../../core/yaml/yaml-places.js';
import { parseYaml } from '../../core/yaml/read-yaml.js';

/** What sample recipients have, by their names: fields that differ from the samples of the fields themselves. */
export type NamedSamples = ReadonlyMap<string, ReadonlyMap<string, unknown>>;

/** The folder that paths in the configuration count from, and how files are read. */
export interface ConfigFiles {
  readonly folder: string;
  readonly read: ReadBytes;
}

/** Reads `samples` of the configuration, or the file that it names. What is no field is reported. */
export async function readSamples(
  raw: Readonly<Record<string, unknown>> | string | undefined,
  files: ConfigFiles,
  fields: MergeFields,
  placeOf: PlaceOf,
  report: Report,
): Promise<NamedSamples> {
  const isFile = typeof raw === 'string';
  const samples = new Map<string, ReadonlyMap<string, unknown>>();
  let isRead = true;
  const content = isFile
    ? await readSampleFile(raw, files, placeOf(['samples']), (item) => {
        isRead = false;
        report(item);
      })
    : (raw ?? {});
  if (!isRead) return samples;
  const named = entriesOf(content);
  if (named === null) {
    report(finding('samples-wrong', placeOf(['samples']), { path: isFile ? raw : 'samples' }));
    return samples;
  }
  for (const [name, value] of named) {
    const place = placeOf(isFile ? ['samples'] : ['samples', name]);
    const values = value === null ? [] : entriesOf(value);
    if (values === null) {
      report(finding('sample-wrong', place, { name }));
      continue;
    }
    for (const field of values.map(([key]) => key).filter((key) => !fields.has(key))) {
      const known = [...fields.keys()];
      const advice = adviceForName(nearestName(field, known), known, 'Fields are declared under fields:.');
      report(finding('sample-field', isFile ? place : placeOf(['samples', name, field]), { name, field, advice }));
    }
    samples.set(name, new Map(values));
  }
  return samples;
}

/** The content of a YAML file with samples; null, with findings, where it cannot be read. */
export async function readSampleFile(
  path: string,
  { folder, read }: ConfigFiles,
  place: Place,
  report: Report,
): Promise<unknown> {
  const told = (problem: Finding): void =>
    report(problem.code === 'file-missing' ? finding('config-missing-file', place, { path }) : { ...problem, place });
  const full = join(folder, path);
  const file = await readTextFile(full, path, told, read);
  if (file === null) return null;
  const { text } = file.source;
  const kept = await readKept<readonly [unknown]>('sample', full, text);
  if (kept !== null) return kept[0];
  const { data, problems } = parseYaml(text);
  if (problems.length === 0) await keep('sample', full, text, [data]);
  for (const { detail, span } of problems) report(finding('config-syntax', { source: file.source, span }, { detail }));
  return data;
}

/** The entries of a group of keys, as the configuration or a file of its own has it; null for anything else. */
function entriesOf(value: unknown): [string, unknown][] | null {
  if (value instanceof Map) return [...value].map(([key, entry]): [string, unknown] => [String(key), entry]);
  return typeof value === 'object' && value !== null && !Array.isArray(value) ? Object.entries(value) : null;
}
