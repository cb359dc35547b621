import { atOrigin, type Finding, type Report } from '../findings/finding.js';
import { SourceText } from '../text/source-text.js';

/** What a function of the library gives: a value, and what it has to say on the way. */
export interface Result<T> {
  readonly value: T;
  /** In the order in which they were found. `isError` tells which of them are errors. */
  readonly findings: readonly Finding[];
}

/** A text, alone or with the name that findings call it by. */
export type Text = string | { readonly name: string; readonly text: string };

/** Runs passes that report, and collects what they report. */
export function collected<T>(run: (report: Report) => T): Result<T> {
  const findings: Finding[] = [];
  const value = run((item) => findings.push(atOrigin(item)));
  return { value, findings };
}

/** A text with its name. */
export function sourceOf(given: Text | SourceText, usual: string): SourceText {
  if (given instanceof SourceText) return given;
  return typeof given === 'string' ? new SourceText(usual, given) : new SourceText(given.name, given.text);
}
