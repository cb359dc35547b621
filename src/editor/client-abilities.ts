import type { ClientCapabilities } from 'vscode-languageserver/node';

/** What an editor can do that not every one can. */
export interface ClientAbilities {
  /** Whether it puts the caret where a completion says. */
  readonly snippets: boolean;
  /** Whether it renames files as a change asks for it. */
  readonly renamesFiles: boolean;
  /** Whether it takes an outline as a tree. */
  readonly nestedSymbols: boolean;
  /** Whether it shows Markdown. */
  readonly markdown: boolean;
}

export const noAbilities: ClientAbilities = {
  snippets: false,
  renamesFiles: false,
  nestedSymbols: false,
  markdown: false,
};

/** What an editor says of itself (Language Server Protocol 3.17, "Client Capabilities"). */
export function abilitiesOf({ textDocument, workspace }: ClientCapabilities): ClientAbilities {
  return {
    snippets: textDocument?.completion?.completionItem?.snippetSupport === true,
    renamesFiles: workspace?.workspaceEdit?.resourceOperations?.includes('rename') === true,
    nestedSymbols: textDocument?.documentSymbol?.hierarchicalDocumentSymbolSupport === true,
    markdown: textDocument?.hover?.contentFormat?.includes('markdown') === true,
  };
}
