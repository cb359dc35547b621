import { CodeActionKind, type CodeAction, type Range, type TextEdit } from 'vscode-languageserver/node';
import { remediesOf, type Remedy } from '../core/editor/remedies.js';
import type { Finding } from '../core/findings/finding.js';
import type { SourceText } from '../core/text/source-text.js';
import { canAccept } from '../project/check/settle.js';
import type { ProjectIndex } from '../project/editor/project-index.js';
import { diagnosticsOf } from './diagnostics.js';
import { rangeOf, uriOf } from './places.js';

/** The remedies of what is wrong within a stretch of a document. */
export async function codeActionsAt(
  index: ProjectIndex,
  path: string,
  range: Range,
  findings: readonly Finding[],
): Promise<CodeAction[]> {
  const source = await index.source(path);
  if (source === null) return [];
  return findings.flatMap((item): CodeAction[] => {
    const { place } = item;
    // What was found in another text than this stands elsewhere.
    if (place === null || place.source.text !== source.text || !overlaps(rangeOf(source, place.span), range)) return [];
    const takesComment = /\.(?:html|md|css)$/.test(path) && canAccept(item);
    return remediesOf(item, source, takesComment).map((remedy) =>
      actionOf(remedy, item, { source, path, folder: index.folder }),
    );
  });
}

function actionOf(
  { title, edits, isSure }: Remedy,
  item: Finding,
  { source, path, folder }: { readonly source: SourceText; readonly path: string; readonly folder: string },
): CodeAction {
  const changes: TextEdit[] = edits.map(({ span, text }) => ({ range: rangeOf(source, span), newText: text }));
  return {
    title,
    kind: CodeActionKind.QuickFix,
    diagnostics: diagnosticsOf([item], folder),
    ...(isSure ? { isPreferred: true } : {}),
    edit: { changes: { [uriOf(path)]: changes } },
  };
}

function overlaps(a: Range, b: Range): boolean {
  return !isBefore(a.end, b.start) && !isBefore(b.end, a.start);
}

function isBefore(a: Range['start'], b: Range['start']): boolean {
  return a.line < b.line || (a.line === b.line && a.character < b.character);
}
