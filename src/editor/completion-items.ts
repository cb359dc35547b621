import { CompletionItemKind, InsertTextFormat, type CompletionItem } from 'vscode-languageserver/node';
import type { Completion, CompletionKind } from '../core/editor/complete/completion.js';
import type { SourceText } from '../core/text/source-text.js';
import { rangeOf } from './places.js';

const kinds: Readonly<Record<CompletionKind, CompletionItemKind>> = {
  part: CompletionItemKind.Class,
  attribute: CompletionItemKind.Property,
  value: CompletionItemKind.Variable,
  field: CompletionItemKind.Field,
  filter: CompletionItemKind.Function,
  block: CompletionItemKind.Keyword,
  class: CompletionItemKind.Value,
  file: CompletionItemKind.File,
  folder: CompletionItemKind.Folder,
  key: CompletionItemKind.Property,
  word: CompletionItemKind.EnumMember,
};

/** What an editor offers; one that knows no places for the caret gets the plain text up to the first of them. */
export function completionItems(
  items: readonly Completion[],
  source: SourceText,
  { snippets }: { readonly snippets: boolean },
): CompletionItem[] {
  return items.map(({ label, kind, detail, insert, span }, index) => ({
    label,
    kind: kinds[kind],
    ...(detail === '' ? {} : { detail }),
    insertTextFormat: snippets ? InsertTextFormat.Snippet : InsertTextFormat.PlainText,
    textEdit: { range: rangeOf(source, span), newText: snippets ? insert : plainText(insert, label) },
    // In the order in which they are offered.
    sortText: String(index).padStart(5, '0'),
  }));
}

/** Without places for the caret, what comes behind the name is left to whoever types. */
function plainText(snippet: string, label: string): string {
  const hasPlaces = /(?<!\\)\$(?:\d|\{)/.test(snippet);
  return hasPlaces ? label : snippet.replace(/\\([$}\\])/g, '$1');
}
