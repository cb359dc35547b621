import { resolve } from 'node:path';
import { adviceForName, exitCodeOf, finding, isError, type Finding } from '../core/finding.js';
import {
  conversionVerdicts,
  convertTags,
  recognizeDialects,
  type ConversionSetting,
  type ConvertedTag,
} from '../core/merge/convert.js';
import type { Dialect } from '../core/merge/dialect.js';
import type { MergeFields } from '../core/merge/model.js';
import { nearestName } from '../core/nearest.js';
import type { SourceText } from '../core/text/source-text.js';
import { dialectNames, loadDialect } from '../project/dialects.js';
import { loadConfig, projectFolderOf } from '../project/config.js';
import { writeWhole } from '../project/write-file.js';
import { planOutputs, readInputFile, writeOutputs } from './file-outputs.js';
import type { Io } from './io.js';
import { countFindings, printFindings } from './print-findings.js';
import type { CommonOptions } from './run.js';

export interface ConvertOptions extends CommonOptions {
  readonly files: readonly string[];
  readonly from: string;
  readonly to: string;
  readonly out: string | null;
  readonly report: string | null;
}

interface Converted {
  readonly file: string;
  readonly source: SourceText;
  readonly text: string | null;
  readonly tags: readonly ConvertedTag[];
}

/** `convert`. */
export async function convertCommand(options: ConvertOptions, io: Io): Promise<number> {
  const { plan, findings } = await planOutputs(options.files, options.out, io, (name) => name);
  const dialects = await loadAll(io, findings);
  const fields = await projectFields(io, findings);
  const to = chosen(options.to, dialects, findings);
  const from = options.from === 'auto' ? null : chosen(options.from, dialects, findings);
  if (to === null || findings.some(isError)) return finish(findings, [], options, io);
  const converted: Converted[] = [];
  const texts: string[] = [];
  for (const input of options.files) {
    const { file, finding: unreadable } = await readInputFile(input, io);
    if (file === null) {
      findings.push(unreadable);
      continue;
    }
    const { source } = file;
    const own = from ?? recognized(source, dialects, findings);
    if (own === null) continue;
    const setting: ConversionSetting = { from: own, to, others: dialects, fields, answers: null };
    const result = convertTags(source, setting, (item) => findings.push(item));
    converted.push({ file: input, source, ...result });
    if (result.text !== null) texts.push(file.hasByteOrderMark ? `\ufeff${result.text}` : result.text);
  }
  if (options.report !== null) {
    const problem = await writeWhole(resolve(io.folder, options.report), reportJson(converted), options.report);
    if (problem !== null) findings.push(problem);
  }
  // Where one file is refused, none is written.
  if (texts.length === options.files.length && !findings.some(isError))
    findings.push(...(await writeOutputs(texts, plan, io)));
  return finish(findings, converted, options, io);
}

async function loadAll(io: Io, findings: Finding[]): Promise<Dialect[]> {
  const folder = (await projectFolderOf(io.folder)) ?? io.folder;
  const loaded = await Promise.all((await dialectNames(folder)).map((name) => loadDialect(name, folder)));
  findings.push(...loaded.flatMap((result) => [...result.findings]));
  return loaded.flatMap(({ dialect }) => (dialect === null ? [] : [dialect]));
}

/** What the project around declares of its fields; nothing where there is no project. */
async function projectFields(io: Io, findings: Finding[]): Promise<MergeFields> {
  const folder = await projectFolderOf(io.folder);
  if (folder === null) return new Map();
  const { config, findings: problems } = await loadConfig(folder);
  findings.push(...problems);
  return config?.fields ?? new Map();
}

function chosen(name: string, dialects: readonly Dialect[], findings: Finding[]): Dialect | null {
  const dialect = dialects.find((candidate) => candidate.name === name);
  if (dialect === undefined) {
    const known = dialects.map((candidate) => candidate.name).sort();
    findings.push(
      finding('unknown-dialect', null, { name, advice: adviceForName(nearestName(name, known), known, '') }),
    );
  }
  return dialect ?? null;
}

/** The dialect that a text shows; null, with a finding, where it shows none, or several alike. */
function recognized(source: SourceText, dialects: readonly Dialect[], findings: Finding[]): Dialect | null {
  const place = { source, span: { start: 0, end: 0 } };
  const [first, second] = recognizeDialects(source, dialects);
  if (first === undefined) {
    findings.push(finding('dialect-unrecognized', place, {}));
    return null;
  }
  if (second !== undefined && second.known - second.unknown === first.known - first.unknown) {
    const names = `${first.dialect.name} and ${second.dialect.name}`;
    findings.push(finding('dialect-ambiguous', place, { names, count: String(first.known) }));
    return null;
  }
  return first.dialect;
}

function reportJson(converted: readonly Converted[]): string {
  const tags = converted.flatMap(({ file, source, tags: own }) =>
    own.map(({ span, from, to, verdict, message }) => ({
      file,
      ...source.lineColumn(span.start),
      from,
      to,
      verdict,
      message,
    })),
  );
  return `${JSON.stringify({ tags }, null, 2)}\n`;
}

function finish(findings: readonly Finding[], converted: readonly Converted[], options: CommonOptions, io: Io): number {
  printFindings(findings, io, options.color);
  if (!options.quiet) for (const { file, tags } of converted) io.err(`${file}: ${verdictCounts(tags)}\n`);
  if (!options.quiet && findings.some(isError)) io.err(`${countFindings(findings)}. Nothing was written.\n`);
  return exitCodeOf(findings);
}

/** "7 tags: 5 exact, 2 rewritten". */
function verdictCounts(tags: readonly ConvertedTag[]): string {
  const counts = conversionVerdicts
    .map((verdict) => [verdict, tags.filter((tag) => tag.verdict === verdict).length] as const)
    .filter(([, count]) => count > 0)
    .map(([verdict, count]) => `${count} ${verdict}`);
  const total = `${tags.length} ${tags.length === 1 ? 'tag' : 'tags'}`;
  return counts.length === 0 ? total : `${total}: ${counts.join(', ')}`;
}
