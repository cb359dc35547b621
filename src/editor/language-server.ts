import type { Readable, Writable } from 'node:stream';
import {
  CodeActionKind,
  createConnection,
  TextDocuments,
  TextDocumentSyncKind,
  type Connection,
  type InitializeParams,
  type InitializeResult,
  type Position,
} from 'vscode-languageserver/node';
import { TextDocument } from 'vscode-languageserver-textdocument';
import { completeAt } from '../project/editor/complete-at.js';
import { abilitiesOf, noAbilities, type ClientAbilities } from './client-abilities.js';
import { codeActionsAt } from './code-actions.js';
import { completionItems } from './completion-items.js';
import { diagnosticsOf } from './diagnostics.js';
import { hoverAnswer } from './hover-answer.js';
import { definitionLocations, documentLinks, referenceLocations, renameEdit, renameRange } from './navigation.js';
import { foldingRanges, symbolTree } from './overview.js';
import { pathOf, uriOf } from './places.js';
import { Workspace, type OpenProject, type Spot } from './workspace.js';

/** Serves an editor by the Language Server Protocol (3.17). The process ends when the editor ends the conversation. */
export function serveEditor(input: Readable, output: Writable, version: string): void {
  new LanguageServer(createConnection(input, output), version).listen();
}

/** What an editor names in a request. */
interface AskedDocument {
  readonly textDocument: { readonly uri: string };
}

/** A place that an editor names in a request. */
interface AskedPlace extends AskedDocument {
  readonly position: Position;
}

class LanguageServer {
  readonly #documents = new TextDocuments(TextDocument);
  readonly #workspace: Workspace;
  #abilities: ClientAbilities = noAbilities;
  /** Events come in order, and what is asked is asked about the last of them. */
  #events: Promise<unknown> = Promise.resolve();

  constructor(
    private readonly connection: Connection,
    private readonly version: string,
  ) {
    this.#workspace = new Workspace((path, findings, folder) => {
      const uri = uriOf(path);
      const known = this.#documents.get(uri)?.version;
      const diagnostics = diagnosticsOf(findings, folder);
      void connection.sendDiagnostics({ uri, ...(known === undefined ? {} : { version: known }), diagnostics });
    });
  }

  listen(): void {
    const { connection } = this;
    connection.onInitialize((params) => this.initialize(params));
    connection.onShutdown(() => this.#workspace.end());
    this.followDocuments();
    this.answerAboutPlaces();
    this.answerAboutDocuments();
    this.#documents.listen(connection);
    connection.listen();
  }

  private initialize({ capabilities }: InitializeParams): InitializeResult {
    this.#abilities = abilitiesOf(capabilities);
    this.#workspace.prepare();
    return {
      serverInfo: { name: 'inscriba', version: this.version },
      capabilities: {
        textDocumentSync: { openClose: true, change: TextDocumentSyncKind.Incremental, save: true },
        completionProvider: { triggerCharacters: ['<', '"', "'", '{', '.', '/', '|', ' ', ':'] },
        hoverProvider: true,
        definitionProvider: true,
        referencesProvider: true,
        renameProvider: { prepareProvider: true },
        codeActionProvider: { codeActionKinds: [CodeActionKind.QuickFix] },
        documentSymbolProvider: true,
        foldingRangeProvider: true,
        documentLinkProvider: {},
      },
    };
  }

  private followDocuments(): void {
    const documents = this.#documents;
    const workspace = this.#workspace;
    const follow = ({ uri }: TextDocument, step: (path: string) => unknown): void => {
      const path = pathOf(uri);
      if (path === null) return;
      // What goes wrong with one event is told, and keeps none behind it from being heard.
      this.#events = this.#events
        .then(() => step(path))
        .catch((error: unknown) => this.connection.console.error(String(error)));
    };
    documents.onDidOpen(({ document }) => {
      const text = document.getText();
      follow(document, (path) => workspace.open(path, text));
    });
    documents.onDidChangeContent(({ document }) => {
      const text = document.getText();
      follow(document, (path) => workspace.change(path, text));
    });
    documents.onDidSave(({ document }) => follow(document, () => workspace.saved()));
    documents.onDidClose(({ document }) => follow(document, (path) => workspace.close(path)));
  }

  private answerAboutPlaces(): void {
    const { connection } = this;
    connection.onCompletion((asked) =>
      this.at(asked, async ({ project: { index }, path, offset }) => {
        const source = await index.source(path);
        const items = await completeAt(index, path, offset);
        return source === null ? [] : completionItems(items, source, this.#abilities);
      }),
    );
    connection.onHover((asked) =>
      this.at(asked, (spot) =>
        hoverAnswer(spot, this.#workspace.found(spot.path), this.#workspace.texts, this.#abilities),
      ),
    );
    connection.onDefinition((asked) => this.at(asked, definitionLocations));
    connection.onReferences((asked) =>
      this.at(asked, (spot) => referenceLocations(spot, asked.context.includeDeclaration)),
    );
    connection.onPrepareRename((asked) => this.at(asked, renameRange));
    connection.onRenameRequest((asked) => this.at(asked, (spot) => renameEdit(spot, asked.newName, this.#abilities)));
  }

  private answerAboutDocuments(): void {
    const { connection } = this;
    connection.onCodeAction((asked) =>
      this.about(asked, async ({ index, looks }, path) => {
        await looks.settled();
        return codeActionsAt(index, path, asked.range, this.#workspace.found(path));
      }),
    );
    connection.onDocumentSymbol((asked) =>
      this.about(asked, ({ index }, path) => symbolTree(index, path, this.#abilities.nestedSymbols)),
    );
    connection.onFoldingRanges((asked) => this.about(asked, ({ index }, path) => foldingRanges(index, path)));
    connection.onDocumentLinks((asked) => this.about(asked, (project, path) => documentLinks(project, path)));
  }

  /** Answers about a document of a project; about any other there is nothing to say. */
  private async about<T>(
    { textDocument: { uri } }: AskedDocument,
    answer: (project: OpenProject, path: string) => Promise<T>,
  ): Promise<T | null> {
    const path = pathOf(uri);
    await this.#events;
    const project = path === null ? null : this.#workspace.projectOf(path);
    return path === null || project === null ? null : answer(project, path);
  }

  private at<T>(asked: AskedPlace, answer: (spot: Spot) => Promise<T>): Promise<T | null> {
    return this.about(asked, async (project, path) => {
      const offset = this.#documents.get(asked.textDocument.uri)?.offsetAt(asked.position) ?? 0;
      return answer({ project, path, offset });
    });
  }
}
