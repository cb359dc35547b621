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
function placeLabel(place: Place, nameOf: FindingView['nameOf'] = (name) => name): string {
  const { line, column } = place.source.lineColumn(place.span.start);
  return `${nameOf(place.source.name)}:${line}:${column}`;
}

function codeFrame(place: Place, paint: Paint, width: (text: string) => number): string[] {
  const { source, span } = place;
  const { line, column } = source.lineColumn(span.start);
  const isFar = column - 1 > FRAME_WIDTH - 20;
  // A character is at most two units; one more shows whether the line goes on.
  const around = source.aroundOnLine(span.start, 2 * FRAME_WIDTH + 2);
  const before = isFar ? charactersOf(around.before).slice(-FRAME_WIDTH / 2) : charactersOf(around.before);
  const behind = charactersOf(around.behind);
  const room = FRAME_WIDTH - before.length;
  const cutLeft = isFar ? '…' : '';
  const cutRight = behind.length > room ? '…' : '';
  const end = source.lineColumn(span.end);
  const marked = end.line === line ? behind.slice(0, end.column - column) : behind;
  const visible = marked.slice(0, room).join('').trimEnd();
  const carets = '^'.repeat(Math.max(1, width(visible)));
  const gutter = `${line} | `;
  const indent = ' '.repeat(gutter.length + width(cutLeft + before.join('')) + 2);
  const shown = [...before, ...behind.slice(0, room)].join('');
  return [`  ${gutter}${cutLeft}${shown}${cutRight}`, `${indent}${paint(carets, 'caret')}`];
}

/** The characters of a piece of a line; those that a terminal would obey are spaces. */
function charactersOf(text: string): string[] {
  return Array.from(text, (character) => (isControl(character) ? ' ' : character));
}

function isControl(character: string): boolean {
  const code = character.codePointAt(0) ?? 0;
  return code < 0x20 || (code >= 0x7f && code < 0xa0);
}
