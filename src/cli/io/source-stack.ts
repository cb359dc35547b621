import { existsSync, readFileSync } from 'node:fs';
import { SourceMap } from 'node:module';
import { fileURLToPath } from 'node:url';

/** Where a frame of a stack stands: a file by its address or its path, a line and a column. */
const framePlace = /(?<=\(|^\s*at (?:async )?)((?:file:\/\/|\/|[A-Z]:[\\/])[^()\n]*?):(\d+):(\d+)(?=\)?$)/gm;

/**
 * The lines of a stack with the files and lines of the source, by the maps beside the files of the program (ECMA-426); a
 * line without a map stays as it is.
 */
export function sourceStack(stack: string): string {
  return stack.replace(framePlace, (place, file: string, line: string, column: string) => {
    const path = file.startsWith('file:') ? fileURLToPath(file) : file;
    const entry = mapOf(path)?.findEntry(Number(line) - 1, Number(column) - 1);
    if (entry === undefined || !('originalSource' in entry)) return place;
    const source = entry.originalSource.replace(/^(?:\.\.\/)+/, '');
    return `${source}:${entry.originalLine + 1}:${entry.originalColumn + 1}`;
  });
}

function mapOf(file: string): SourceMap | null {
  const path = `${file}.map`;
  if (!existsSync(path)) return null;
  try {
    return new SourceMap(JSON.parse(readFileSync(path, 'utf8')) as ConstructorParameters<typeof SourceMap>[0]);
  } catch {
    // A stack that is not mapped says more than none.
    return null;
  }
}
