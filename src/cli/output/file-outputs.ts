import { basename, join, resolve } from 'node:path';
import { finding, type Finding, type Report } from '../../core/findings/finding.js';
import { decodeText, readTextFile, type TextFile } from '../../project/files/text-file.js';
import { writeWhole } from '../../project/files/write-file.js';
import type { Io } from '../io/io.js';
import { exists, isFolder } from '../../project/files/exists.js';

/** The name that findings give to standard input. */
const INPUT_NAME = '<stdin>';

/** Where the results of a command on files go. */
export type OutputPlan = { readonly kind: 'stream' } | { readonly kind: 'files'; readonly paths: readonly string[] };

/**
 * Plans where results go: one input without `--out` goes to standard output; one with `--out` to that file (or into
 * that folder); several go into a folder, each under its own name.
 * @param rename gives a result's file name from its input's
 */
export async function planOutputs(
  inputs: readonly string[],
  out: string | null,
  io: Io,
  rename: (name: string) => string,
): Promise<{ plan: OutputPlan; findings: Finding[] }> {
  const stream: OutputPlan = { kind: 'stream' };
  if (out === null || out === '-')
    return inputs.length > 1
      ? { plan: stream, findings: [finding('out-needs-folder', null)] }
      : { plan: stream, findings: [] };
  const full = resolve(io.folder, out);
  const goesBelow = out.endsWith('/') || (await isFolder(full));
  if (inputs.length > 1 && !goesBelow && ((await exists(full)) || /\.\w+$/.test(basename(full))))
    return { plan: stream, findings: [finding('out-needs-folder', null)] };
  const names = inputs.map((input) => rename(input === '-' ? 'stdin.html' : basename(input)));
  const paths = goesBelow || inputs.length > 1 ? names.map((name) => join(full, name)) : [full];
  return { plan: { kind: 'files', paths }, findings: clashes(inputs, paths, io) };
}

function clashes(inputs: readonly string[], paths: readonly string[], io: Io): Finding[] {
  const sources = new Set(inputs.filter((input) => input !== '-').map((input) => resolve(io.folder, input)));
  const overwritten = paths.filter((path) => sources.has(path)).map((path) => finding('out-is-source', null, { path }));
  const doubles = paths.flatMap((path, index) => {
    const first = paths.indexOf(path);
    return first < index
      ? [finding('same-name', null, { first: inputs[first] ?? '', second: inputs[index] ?? '', path })]
      : [];
  });
  return [...overwritten, ...doubles];
}

/** Reads an input file; `-` is standard input. What is no text is reported, and null. */
export async function readInputFile(input: string, io: Io, report: Report): Promise<TextFile | null> {
  if (input === '-') return decodeText(await io.readInput(), INPUT_NAME, report);
  return readTextFile(resolve(io.folder, input), input, report);
}

/** Writes results where they were planned to go. */
export async function writeOutputs(
  results: readonly (string | Uint8Array)[],
  plan: OutputPlan,
  io: Io,
): Promise<Finding[]> {
  if (plan.kind === 'stream') {
    for (const result of results) io.out(result);
    return [];
  }
  const findings: Finding[] = [];
  for (const [index, path] of plan.paths.entries()) {
    const problem = await writeWhole(path, results[index] ?? '', path);
    if (problem !== null) findings.push(problem);
  }
  return findings;
}
