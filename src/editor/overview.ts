import { SymbolKind, type DocumentSymbol, type FoldingRange, type SymbolInformation } from 'vscode-languageserver/node';
import { wholeSheet } from '../core/css/syntax/css-items.js';
import { parseStyleSheet } from '../core/css/syntax/style-sheet.js';
import { foldedSpans, markupOutline, styleOutline, yamlOutline, type OutlineEntry } from '../core/editor/outline.js';
import type { SourceText } from '../core/text/source-text.js';
import type { Span } from '../core/text/span.js';
import type { ProjectIndex } from '../project/editor/project-index.js';
import { rangeOf, uriOf } from './places.js';

const kinds: Readonly<Record<OutlineEntry['kind'], SymbolKind>> = {
  part: SymbolKind.Class,
  heading: SymbolKind.String,
  region: SymbolKind.Interface,
  template: SymbolKind.Array,
  slot: SymbolKind.Field,
  rule: SymbolKind.Namespace,
  key: SymbolKind.Module,
  value: SymbolKind.Property,
};

/** What a document is made of; as a list for an editor that takes no tree. */
export async function symbolTree(
  index: ProjectIndex,
  path: string,
  isNested: boolean,
): Promise<DocumentSymbol[] | SymbolInformation[]> {
  const source = await index.source(path);
  if (source === null) return [];
  const entries = await entriesOf(index, path, source);
  return isNested
    ? entries.map((entry) => asTree(entry, source))
    : entries.flatMap((entry) => asList(entry, source, path));
}

async function entriesOf(index: ProjectIndex, path: string, source: SourceText): Promise<OutlineEntry[]> {
  switch (index.kindOf(path)) {
    case 'message':
    case 'part':
    case 'frame': {
      const file = await index.markup(path);
      return file === null ? [] : markupOutline(file);
    }
    case 'style sheet':
      return styleOutline(
        parseStyleSheet(wholeSheet(source), () => undefined),
        source,
      );
    case 'config':
    case 'dialect':
    case 'data':
      return path.endsWith('.csv') ? [] : yamlOutline(await index.tree(path));
    default:
      return [];
  }
}

function asTree(entry: OutlineEntry, source: SourceText): DocumentSymbol {
  const { name, detail, kind, children } = entry;
  return {
    name,
    ...(detail === '' ? {} : { detail }),
    kind: kinds[kind],
    range: rangeOf(source, entry.span),
    selectionRange: rangeOf(source, entry.selection),
    children: children.map((child) => asTree(child, source)),
  };
}

function asList(entry: OutlineEntry, source: SourceText, path: string): SymbolInformation[] {
  const { name, kind, span, children } = entry;
  const own = { name, kind: kinds[kind], location: { uri: uriOf(path), range: rangeOf(source, span) } };
  return [own, ...children.flatMap((child) => asList(child, source, path))];
}

/** What of a document can be folded away. */
export async function foldingRanges(index: ProjectIndex, path: string): Promise<FoldingRange[]> {
  const source = await index.source(path);
  const file = source === null ? null : await index.markup(path);
  if (source === null) return [];
  const spans = file === null ? spansOf(await entriesOf(index, path, source)) : foldedSpans(file);
  return spans.flatMap((span) => {
    const { start, end } = rangeOf(source, span);
    // The line of the end tag stays, so that it is seen what is folded.
    const last = file === null || end.character === 0 ? end.line : end.line - 1;
    return last > start.line ? [{ startLine: start.line, endLine: last }] : [];
  });
}

function spansOf(entries: readonly OutlineEntry[]): Span[] {
  return entries.flatMap(({ span, children }) => [span, ...spansOf(children)]);
}
