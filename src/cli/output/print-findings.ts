import { isAbsolute } from 'node:path';
import { styleText } from 'node:util';
import { textWidth } from '../../core/text/text-width.js';
import { renderFinding, plainPaint, type Emphasis, type Paint } from '../../core/findings/code-frame.js';
import { severityOf, type Finding } from '../../core/findings/finding.js';
import type { Io } from '../io/io.js';
import { counted } from '../../core/text/amounts.js';

const colors: Readonly<Record<Emphasis, Parameters<typeof styleText>[0]>> = {
  place: 'bold',
  error: 'red',
  warning: 'yellow',
  note: 'cyan',
  code: 'dim',
  caret: 'red',
  plain: 'reset',
};

/** More than a person reads in one go; what is left is counted. */
const MOST_PRINTED = 100;

/** Prints findings to the talk stream, each followed by an empty line; of very many the first hundred, and how many more there are. */
export function printFindings(findings: readonly Finding[], io: Io, color: boolean): void {
  const paint: Paint = color
    ? (text, emphasis) => styleText(colors[emphasis], text, { validateStream: false })
    : plainPaint;
  const nameOf = (name: string): string => (isAbsolute(name) ? shorter(io.shown(name), name) : name);
  for (const item of findings.slice(0, MOST_PRINTED)) {
    // Files are known by their full paths, and shown from the folder that the user is in.
    const data = Object.fromEntries(Object.entries(item.data).map(([key, value]) => [key, nameOf(value)]));
    io.err(`${renderFinding({ ...item, data }, { paint, width: textWidth, nameOf })}\n\n`);
  }
  const more = findings.slice(MOST_PRINTED);
  if (more.length > 0) io.err(`… and ${countFindings(more)} more.\n\n`);
}

/** A file far from the folder that the user is in is better known by its full path. */
function shorter(near: string, full: string): string {
  return near.length < full.length ? near : full;
}

/** So many findings of one kind are shown; of more the first three, and how many more there are. */
const MOST_OF_A_KIND = 10;
const SHOWN_OF_MANY = 3;

/** Prints findings as `printFindings` does; of a kind that stands many times the first, and how many more there are. */
export function printGrouped(findings: readonly Finding[], io: Io, color: boolean): void {
  const counts = new Map<string, number>();
  for (const { code } of findings) counts.set(code, (counts.get(code) ?? 0) + 1);
  const seen = new Map<string, number>();
  const shown = findings.filter(({ code }) => {
    const before = seen.get(code) ?? 0;
    seen.set(code, before + 1);
    return (counts.get(code) ?? 0) <= MOST_OF_A_KIND || before < SHOWN_OF_MANY;
  });
  printFindings(shown, io, color);
  for (const [code, count] of counts)
    if (count > MOST_OF_A_KIND) io.err(`… and ${count - SHOWN_OF_MANY} more of ${code}, ${count} in all.\n\n`);
}

/** "2 errors, 1 warning". */
export function countFindings(findings: readonly Finding[]): string {
  const count = (severity: string): number => findings.filter((item) => severityOf(item) === severity).length;
  const parts = (['error', 'warning', 'note'] as const)
    .map((severity) => [count(severity), severity] as const)
    .filter(([number]) => number > 0);
  return parts.map(([number, severity]) => counted(number, severity)).join(', ');
}
