import { fixOf, reasonOf, severityOf, type Finding, type Place } from './finding.js';

/** Widest code frame line; longer source lines are cut around the place. */
const FRAME_WIDTH = 100;

/** How a piece of a printed finding is to be shown. */
export type Emphasis = 'place' | 'error' | 'warning' | 'note' | 'code' | 'caret' | 'plain';

/** Shows a text with an emphasis; the plain printer returns it unchanged. */
export type Paint = (text: string, emphasis: Emphasis) => string;

/** A painter that leaves everything plain. */
export const plainPaint: Paint = (text) => text;

/** How findings are shown. */
export interface FindingView {
  readonly paint: Paint;
  /** Measures how many terminal cells a text takes. */
  readonly width: (text: string) => number;
  /** What a file is called, by the name of its source. */
  readonly nameOf: (name: string) => string;
}

/** A finding as lines of text: place, severity, code and sentence; the source line with a caret; the remedy. */
export function renderFinding(item: Finding, { paint, width, nameOf }: FindingView): string {
  const severity = severityOf(item);
  const head = [
    ...(item.place === null ? [] : [paint(placeLabel(item.place, nameOf), 'place')]),
    paint(severity, severity),
    paint(item.code, 'code'),
    reasonOf(item),
  ].join('  ');
  const frame = item.place === null ? [] : codeFrame(item.place, paint, width);
  const used = (item.uses ?? []).map((use) => `  used at ${placeLabel(use, nameOf)}`);
  return [head, ...frame, ...used, `  fix: ${fixOf(item)}`].join('\n');
}

/** `file:line:column`, as editors and terminals link it. */
export function placeLabel(place: Place, nameOf: FindingView['nameOf'] = (name) => name): string {
  const { line, column } = place.source.lineColumn(place.span.start);
  return `${nameOf(place.source.name)}:${line}:${column}`;
}

function codeFrame(place: Place, paint: Paint, width: (text: string) => number): string[] {
  const { source, span } = place;
  const { line, column } = source.lineColumn(span.start);
  const characters = [...source.lineText(line)].map((character) => (isControl(character) ? ' ' : character));
  const from = column - 1 > FRAME_WIDTH - 20 ? column - 1 - FRAME_WIDTH / 2 : 0;
  const cutLeft = from > 0 ? '…' : '';
  const cutRight = characters.length > from + FRAME_WIDTH ? '…' : '';
  const shown = characters.slice(from, from + FRAME_WIDTH);
  const before = characters.slice(from, column - 1).join('');
  const end = source.lineColumn(span.end);
  const marked = end.line === line ? characters.slice(column - 1, end.column - 1) : characters.slice(column - 1);
  const visible = marked
    .slice(0, Math.max(0, from + FRAME_WIDTH - (column - 1)))
    .join('')
    .trimEnd();
  const carets = '^'.repeat(Math.max(1, width(visible)));
  const gutter = `${line} | `;
  const indent = ' '.repeat(gutter.length + width(cutLeft + before) + 2);
  return [`  ${gutter}${cutLeft}${shown.join('')}${cutRight}`, `${indent}${paint(carets, 'caret')}`];
}

function isControl(character: string): boolean {
  const code = character.codePointAt(0) ?? 0;
  return code < 0x20 || (code >= 0x7f && code < 0xa0);
}
