import { fixOf, reasonOf, severityOf, type Finding, type Place } from '../../findings/finding.js';
import type { AcceptedFinding } from '../accept.js';
import type { Rule } from '../facts/rule.js';

/** What a report is made of. */
export interface CheckReport {
  readonly findings: readonly Finding[];
  readonly accepted: readonly AcceptedFinding[];
  readonly rules: readonly Rule[];
  /** What a file is called, by the name of its source: a path from the folder that the reader is in. */
  readonly nameOf: (name: string) => string;
  readonly version: string;
}

interface JsonPlace {
  readonly file: string;
  readonly line: number;
  readonly column: number;
  readonly endLine: number;
  readonly endColumn: number;
}

/** The report of a check as JSON, as schemas/check.schema.json describes it. Lines and columns count from 1. */
export function checkJson({ findings, accepted, rules, nameOf, version }: CheckReport): string {
  const groups = new Map(rules.map(({ code, group }) => [code, group]));
  const asJson = (item: Finding): object => ({
    code: item.code,
    severity: severityOf(item),
    group: groups.get(item.code) ?? 'build',
    message: reasonOf(item),
    fix: fixOf(item),
    place: item.place === null ? null : placeJson(item.place, nameOf),
    uses: (item.uses ?? []).map((use) => placeJson(use, nameOf)),
  });
  const count = (severity: string): number => findings.filter((item) => severityOf(item) === severity).length;
  const report = {
    format: 1,
    version,
    counts: { error: count('error'), warning: count('warning'), note: count('note'), accepted: accepted.length },
    findings: findings.map(asJson),
    accepted: accepted.map(({ finding, reason }) => ({ ...asJson(finding), reason })),
  };
  return `${JSON.stringify(report, null, 2)}\n`;
}

function placeJson({ source, span }: Place, nameOf: CheckReport['nameOf']): JsonPlace {
  const [start, end] = [source.lineColumn(span.start), source.lineColumn(span.end)];
  return {
    file: nameOf(source.name),
    line: start.line,
    column: start.column,
    endLine: end.line,
    endColumn: end.column,
  };
}
