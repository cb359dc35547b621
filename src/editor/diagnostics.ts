import { isAbsolute, join } from 'node:path';
import { DiagnosticSeverity, type Diagnostic, type DiagnosticRelatedInformation } from 'vscode-languageserver/node';
import { fixOf, reasonOf, severityOf, type Finding, type Place, type Severity } from '../core/findings/finding.js';
import { rangeOf, topRange, uriOf } from './places.js';

const severities: Readonly<Record<Severity, DiagnosticSeverity>> = {
  error: DiagnosticSeverity.Error,
  warning: DiagnosticSeverity.Warning,
  note: DiagnosticSeverity.Information,
};

/** Findings as an editor shows them; what stands nowhere stands at the top of the file. */
export function diagnosticsOf(findings: readonly Finding[], folder: string): Diagnostic[] {
  return findings.map((item) => {
    const related = (item.uses ?? []).map((use) => usedAt(use, folder));
    return {
      range: item.place === null ? topRange : rangeOf(item.place.source, item.place.span),
      severity: severities[severityOf(item)],
      code: item.code,
      source: 'inscriba',
      message: `${reasonOf(item)}\n${fixOf(item)}`,
      ...(related.length === 0 ? {} : { relatedInformation: related }),
    };
  });
}

function usedAt({ source, span }: Place, folder: string): DiagnosticRelatedInformation {
  const path = isAbsolute(source.name) ? source.name : join(folder, source.name);
  return { location: { uri: uriOf(path), range: rangeOf(source, span) }, message: 'used here' };
}
