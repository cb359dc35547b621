import { join } from 'node:path';
import { adviceForName, finding, type Finding, type Report } from '../core/finding.js';
import { nearestName } from '../core/nearest.js';
import type { MergeFields } from '../core/merge/model.js';
import { readTextFile } from './text-file.js';
import type { PlaceOf } from './settings.js';
import { parseYaml } from './yaml-file.js';

/** What sample recipients have, by their names: fields that differ from the samples of the fields themselves. */
export type NamedSamples = ReadonlyMap<string, ReadonlyMap<string, unknown>>;

/** Reads `samples` of the configuration, or the file that it names. What is no field is reported. */
export async function readSamples(
  raw: Readonly<Record<string, unknown>> | string | undefined,
  folder: string,
  fields: MergeFields,
  placeOf: PlaceOf,
  report: Report,
): Promise<NamedSamples> {
  const isFile = typeof raw === 'string';
  const content = isFile ? await readSampleFile(raw, folder, placeOf, report) : (raw ?? {});
  const samples = new Map<string, ReadonlyMap<string, unknown>>();
  if (!isRecord(content)) {
    report(finding('samples-wrong', placeOf(['samples']), { path: isFile ? raw : 'samples' }));
    return samples;
  }
  for (const [name, values] of Object.entries(content)) {
    const place = placeOf(isFile ? ['samples'] : ['samples', name]);
    if (values !== null && !isRecord(values)) {
      report(finding('sample-wrong', place, { name }));
      continue;
    }
    for (const field of Object.keys(values ?? {}).filter((key) => !fields.has(key))) {
      const known = [...fields.keys()];
      const advice = adviceForName(nearestName(field, known), known, 'Fields are declared under fields:.');
      report(finding('sample-field', isFile ? place : placeOf(['samples', name, field]), { name, field, advice }));
    }
    samples.set(name, new Map(Object.entries(values ?? {})));
  }
  return samples;
}

async function readSampleFile(path: string, folder: string, placeOf: PlaceOf, report: Report): Promise<unknown> {
  const { file, finding: unreadable } = await readTextFile(join(folder, path), path);
  if (file === null) {
    const place = placeOf(['samples']);
    const item: Finding =
      unreadable.code === 'file-missing' ? finding('config-missing-file', place, { path }) : { ...unreadable, place };
    report(item);
    return {};
  }
  const { data, problems } = parseYaml(file.source.text);
  for (const { detail, span } of problems) report(finding('config-syntax', { source: file.source, span }, { detail }));
  return problems.length > 0 ? {} : data;
}

function isRecord(value: unknown): value is Record<string, unknown> {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}
