import { catalogue, type CatalogueEntry } from '../../findings/catalogue.js';
import { fixOf, reasonOf, severityOf, type Finding, type Place } from '../../findings/finding.js';
import type { CheckReport } from './check-json.js';

/** The report of a check as SARIF (Static Analysis Results Interchange Format 2.1.0, an OASIS standard). */
export function sarif({ findings, accepted, rules, nameOf, version }: CheckReport): string {
  const all = [...findings, ...accepted.map(({ finding }) => finding)];
  const codes = [...new Set(all.map(({ code }) => code))].sort();
  const known = new Map(rules.map((rule) => [rule.code, rule]));
  const descriptors = codes.map((code) => {
    const rule = known.get(code);
    const entry: CatalogueEntry | undefined = (catalogue as Readonly<Record<string, CatalogueEntry>>)[code];
    const severity = rule?.severity ?? entry?.severity ?? 'warning';
    return {
      id: code,
      shortDescription: { text: rule?.sentence ?? entry?.reason ?? code },
      ...(rule === undefined ? {} : { fullDescription: { text: rule.why }, properties: { group: rule.group } }),
      help: { text: rule?.remedy ?? entry?.fix ?? code },
      defaultConfiguration: { level: severity },
    };
  });
  const result = (item: Finding, reason: string | null): object => ({
    ruleId: item.code,
    ruleIndex: codes.indexOf(item.code),
    level: severityOf(item),
    message: { text: `${reasonOf(item)}. ${fixOf(item)}` },
    locations: item.place === null ? [] : [location(item.place, nameOf)],
    ...(item.uses === undefined
      ? {}
      : { relatedLocations: item.uses.map((use, id) => ({ id, ...location(use, nameOf) })) }),
    ...(reason === null ? {} : { suppressions: [{ kind: 'inSource', status: 'accepted', justification: reason }] }),
  });
  const log = {
    version: '2.1.0',
    runs: [
      {
        tool: { driver: { name: 'Inscriba', semanticVersion: version, rules: descriptors } },
        columnKind: 'unicodeCodePoints',
        results: [
          ...findings.map((item) => result(item, null)),
          ...accepted.map(({ finding, reason }) => result(finding, reason)),
        ],
      },
    ],
  };
  return `${JSON.stringify(log, null, 2)}\n`;
}

function location({ source, span }: Place, nameOf: CheckReport['nameOf']): object {
  const [start, end] = [source.lineColumn(span.start), source.lineColumn(span.end)];
  return {
    physicalLocation: {
      artifactLocation: { uri: asUri(nameOf(source.name)) },
      region: {
        startLine: start.line,
        startColumn: start.column,
        endLine: end.line,
        endColumn: end.column,
      },
    },
  };
}

/** A path as a reference (RFC 3986, 4.1). */
function asUri(path: string): string {
  return path.split(/[\\/]/).map(encodeURIComponent).join('/');
}
