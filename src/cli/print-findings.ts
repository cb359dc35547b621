import { styleText } from 'node:util';
import { textWidth } from '../project/text-width.js';
import { renderFinding, plainPaint, type Emphasis, type Paint } from '../core/code-frame.js';
import { severityOf, type Finding } from '../core/finding.js';
import type { Io } from './io.js';

const colors: Readonly<Record<Emphasis, Parameters<typeof styleText>[0]>> = {
  place: 'bold',
  error: 'red',
  warning: 'yellow',
  note: 'cyan',
  code: 'dim',
  caret: 'red',
  plain: 'reset',
};

/** Prints findings to the talk stream, each followed by an empty line. */
export function printFindings(findings: readonly Finding[], io: Io, color: boolean): void {
  const paint: Paint = color
    ? (text, emphasis) => styleText(colors[emphasis], text, { validateStream: false })
    : plainPaint;
  for (const item of findings) io.err(`${renderFinding(item, paint, textWidth)}\n\n`);
}

/** "2 errors, 1 warning". */
export function countFindings(findings: readonly Finding[]): string {
  const count = (severity: string): number => findings.filter((item) => severityOf(item) === severity).length;
  const parts = (['error', 'warning', 'note'] as const)
    .map((severity) => [count(severity), severity] as const)
    .filter(([number]) => number > 0);
  return parts.map(([number, severity]) => `${number} ${severity}${number === 1 ? '' : 's'}`).join(', ');
}
