import { plainShape, shapeOfTable, type DataShape } from '../../core/editor/data-shape.js';
import { isList, isRecord, textOf, type BuildValue } from '../../core/expressions/values.js';
import type { SourceText } from '../../core/text/source-text.js';
import { type Span, spanAt } from '../../core/text/span.js';
import { columnNames, delimiterOf, readTable } from '../load/data-files.js';

/** What a table of data (CSV) holds: its columns, with examples from its first row. */
export function tableShape(source: SourceText, id: string, name: string): DataShape {
  const { value = null } = readTable(source, name, () => undefined) ?? {};
  const rows = isList(value) ? value.map(shapesOfRow) : [];
  return shapeOfTable(source, id, name, { columns: columnsOf(source), rows });
}

function shapesOfRow(row: BuildValue): ReadonlyMap<string, DataShape> {
  const entries = isRecord(row) ? [...row] : [];
  return new Map(entries.map(([key, value]) => [key, plainShape('', key, textOf(value))]));
}

/** The columns that the first line names, where it does. */
function columnsOf(source: SourceText): { name: string; span: Span }[] {
  const header = source.lineText(1);
  const delimiter = delimiterOf(header);
  const cell = new RegExp(`("(?:[^"]|"")*"|[^${delimiter}]*)(?:${delimiter}|$)`, 'g');
  const cells = [...header.matchAll(cell)]
    .filter(({ index, 0: whole }) => index < header.length || whole !== '')
    .map(({ 1: written = '', index }) => {
      const bare = written.trim();
      const isQuoted = bare.startsWith('"') && bare.length > 1;
      const text = isQuoted ? bare.slice(1, -1) : bare;
      return { text, span: spanAt(index + written.indexOf(text), text.length) };
    });
  try {
    return columnNames(cells.map(({ text }) => text)).map((name, at) => ({
      name,
      span: cells[at]?.span ?? spanAt(0, 0),
    }));
  } catch {
    // Two columns of one name: the data themselves are wrong.
    return [];
  }
}
