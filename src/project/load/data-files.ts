import { basename, extname, resolve } from 'node:path';
import { parse as parseCsv, CsvError } from 'csv-parse/sync';
import { isMap, isSeq, type Node } from 'yaml';
import { finding, type Place, type Report } from '../../core/findings/finding.js';
import type { NamedFile } from '../../core/template/message-template.js';
import { buildValue, isList, isRecord, type BuildRecord, type BuildValue } from '../../core/expressions/values.js';
import type { SourceText } from '../../core/text/source-text.js';
import type { FileLog } from '../files/file-log.js';
import { isInside } from '../files/inside.js';
import { describeError } from '../files/text-file.js';
import { parseYaml } from '../../core/yaml/read-yaml.js';
import { spanAt } from '../../core/text/span.js';

/** The data of a file, and where the items of a list stand in it. */
export interface DataFile {
  readonly value: BuildValue;
  /** What a list is called that has no name of its own: the file's name without its ending. */
  readonly stem: string;
  readonly placeOfItem: (index: number) => Place;
}

/**
 * Reads a YAML, JSON or CSV file that a message (or the configuration) names. Paths count from the folder of the file
 * that names it, or else from the folder of the project.
 */
export async function loadDataFile(
  { path, place }: NamedFile,
  folder: string,
  projectFolder: string,
  files: FileLog,
  report: Report,
): Promise<DataFile | null> {
  let isOutside = true;
  for (const full of new Set([resolve(folder, path), resolve(projectFolder, path)])) {
    if (!isInside(full, projectFolder)) continue;
    isOutside = false;
    let isMissing = false;
    const file = await files.text(full, (problem) => {
      isMissing = problem.code === 'file-missing';
      if (!isMissing) report(problem.place === null ? { ...problem, place } : problem);
    });
    if (file !== null) return readData(file.source, full, path, place, report);
    if (!isMissing) return null;
  }
  report(finding(isOutside ? 'data-outside' : 'data-missing', place, { path }));
  return null;
}

function readData(source: SourceText, full: string, path: string, place: Place, report: Report): DataFile | null {
  const stem = basename(full, extname(full)).replace(/\W+/g, '_');
  switch (extname(full).toLowerCase()) {
    case '.yaml':
    case '.yml':
    case '.json':
      return readYamlData(source, stem, report);
    case '.csv':
      return readTable(source, stem, report);
    default:
      report(finding('data-kind', place, { path }));
      return null;
  }
}

function readYamlData(source: SourceText, stem: string, report: Report): DataFile | null {
  const { document, data, problems } = parseYaml(source.text);
  const [problem] = problems;
  if (document === null || problem !== undefined) {
    const { detail = '', span = spanAt(0, 0) } = problem ?? {};
    report(finding('data-syntax', { source, span }, { detail }));
    return null;
  }
  const items: readonly unknown[] = isSeq(document.contents)
    ? document.contents.items
    : isMap(document.contents)
      ? document.contents.items.map(({ value }) => value)
      : [];
  return {
    value: buildValue(data),
    stem,
    placeOfItem: (index) => {
      const [start = 0, end = 0] = (items[index] as Node | undefined)?.range ?? [];
      return { source, span: { start, end } };
    },
  };
}

/** A table as RFC 4180 has it, with commas, semicolons or tabs between its columns; the first line names them. */
export function readTable(source: SourceText, stem: string, report: Report): DataFile | null {
  const lines = [...source.text.matchAll(/[^\r\n]*(?:\r\n|\n|\r|$)/g)];
  const placeOfLine = (line: number): Place => {
    const match = lines[line - 1];
    const start = match?.index ?? 0;
    return { source, span: { start, end: start + (match?.[0].trimEnd().length ?? 0) } };
  };
  const [header = ''] = lines[0] ?? [];
  try {
    const rows = parseCsv(source.text, {
      delimiter: delimiterOf(header),
      columns: (names: string[]) => columnNames(names),
      skip_empty_lines: true,
      trim: true,
      info: true,
    }) as unknown as { record: Record<string, string>; info: { lines: number } }[];
    return {
      value: buildValue(rows.map(({ record }) => new Map(Object.entries(record)))),
      stem,
      placeOfItem: (index) => placeOfLine(rows[index]?.info.lines ?? 1),
    };
  } catch (error) {
    const known = error instanceof CsvError ? error : null;
    const line = typeof known?.['lines'] === 'number' ? known['lines'] : 1;
    report(finding('data-syntax', placeOfLine(line), { detail: describeCsvError(error) }));
    return null;
  }
}

/** What stands between the columns of a table: what its first line has most of. */
export function delimiterOf(header: string): string {
  return [',', ';', '\t'].sort((a, b) => header.split(b).length - header.split(a).length)[0] ?? ',';
}

/** Columns are named so that expressions can name them: "First name" is `First_name`. */
export function columnNames(names: readonly string[]): string[] {
  const known = new Set<string>();
  return names.map((written, index) => {
    const bare = written
      .trim()
      .replace(/[^\p{L}\d_-]+/gu, '_')
      .replace(/^(?=\d)/, '_');
    const name = bare === '' || bare === '_' ? `column_${index + 1}` : bare;
    if (known.has(name)) throw new Error(`two columns are called "${written}"`);
    known.add(name);
    return name;
  });
}

function describeCsvError(error: unknown): string {
  const words: Readonly<Record<string, string>> = {
    CSV_RECORD_INCONSISTENT_COLUMNS: 'this line has more or fewer columns than the first',
    CSV_QUOTE_NOT_CLOSED: 'a quote is never closed',
    CSV_INVALID_CLOSING_QUOTE: 'a character stands behind a closing quote',
    INVALID_OPENING_QUOTE: 'a quote stands in the middle of a value; double it and put the value into quotes',
  };
  if (error instanceof CsvError) return words[error.code] ?? error.message;
  return describeError(error);
}

/** The data of a file as named values: those of a group by their own names, a list by the name of the file. */
export function namedData({ value, stem }: DataFile): BuildRecord {
  return isRecord(value) ? value : new Map([[stem, value]]);
}

/** The rows of a file of editions. */
export function rowsOf({ value }: DataFile): readonly BuildRecord[] {
  const items = isRecord(value) ? [...value.values()] : isList(value) ? value : [];
  return items.map((item) => (isRecord(item) ? item : new Map([['value', item]])));
}
