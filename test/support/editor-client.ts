import { spawn, type ChildProcessWithoutNullStreams } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import {
  CodeActionRequest,
  CompletionRequest,
  createProtocolConnection,
  DefinitionRequest,
  DidChangeTextDocumentNotification,
  DidCloseTextDocumentNotification,
  DidOpenTextDocumentNotification,
  DidSaveTextDocumentNotification,
  DocumentLinkRequest,
  DocumentSymbolRequest,
  ExitNotification,
  FoldingRangeRequest,
  HoverRequest,
  InitializedNotification,
  InitializeRequest,
  PrepareRenameRequest,
  PublishDiagnosticsNotification,
  ReferencesRequest,
  RenameRequest,
  ShutdownRequest,
  StreamMessageReader,
  StreamMessageWriter,
  type ClientCapabilities,
  type CodeAction,
  type CompletionItem,
  type Diagnostic,
  type DocumentSymbol,
  type Location,
  type Position,
  type ProtocolConnection,
  type Range,
  type TextDocumentContentChangeEvent,
  type TextEdit,
  type WorkspaceEdit,
} from 'vscode-languageserver-protocol/node';
import { TextDocument } from 'vscode-languageserver-textdocument';
import { repository } from './project.js';

/** What the editor of the tests can do. */
const usual: ClientCapabilities = {
  textDocument: {
    hover: { contentFormat: ['markdown'] },
    documentSymbol: { hierarchicalDocumentSymbolSupport: true },
    completion: { completionItem: { snippetSupport: true } },
  },
  workspace: { workspaceEdit: { resourceOperations: ['rename'], documentChanges: true } },
};

/** An editor that speaks the protocol with the program that ships, over its standard input and output. */
export class EditorClient {
  readonly #process: ChildProcessWithoutNullStreams;
  readonly #connection: ProtocolConnection;
  readonly #texts = new Map<string, string>();
  readonly #diagnostics = new Map<string, readonly Diagnostic[]>();
  readonly #exit: Promise<number | null>;
  #errors = '';
  #version = 0;

  private constructor(private readonly folder: string) {
    this.#process = spawn(process.execPath, [join(repository, 'dist/program/inscriba.js'), 'language-server'], {
      cwd: folder,
    });
    this.#process.stderr.on('data', (chunk: Buffer) => (this.#errors += chunk.toString()));
    this.#exit = new Promise((resolve) => this.#process.on('exit', resolve));
    this.#connection = createProtocolConnection(
      new StreamMessageReader(this.#process.stdout),
      new StreamMessageWriter(this.#process.stdin),
    );
    this.#connection.onNotification(PublishDiagnosticsNotification.type, ({ uri, diagnostics }) => {
      this.#diagnostics.set(uri, diagnostics);
    });
    this.#connection.listen();
  }

  static async start(folder: string, capabilities: ClientCapabilities = usual): Promise<EditorClient> {
    const client = new EditorClient(folder);
    const rootUri = client.uri('.');
    await client.#connection.sendRequest(InitializeRequest.type, { processId: process.pid, rootUri, capabilities });
    await client.#connection.sendNotification(InitializedNotification.type, {});
    return client;
  }

  /** What it wrote that is no part of the conversation. */
  get errors(): string {
    return this.#errors;
  }

  /** Ends the conversation. @returns the exit code of the program */
  async stop(): Promise<number | null> {
    await this.#connection.sendRequest(ShutdownRequest.type);
    await this.#connection.sendNotification(ExitNotification.type);
    return this.#exit;
  }

  text(name: string): string {
    return this.#texts.get(name) ?? '';
  }

  /** Opens a document as it is on the disk, or with a text that is not saved. */
  async open(name: string, text = readFileSync(join(this.folder, name), 'utf8')): Promise<void> {
    this.#texts.set(name, text);
    const textDocument = { uri: this.uri(name), languageId: '', version: 0, text };
    await this.#connection.sendNotification(DidOpenTextDocumentNotification.type, { textDocument });
  }

  async close(name: string): Promise<void> {
    this.#texts.delete(name);
    await this.#connection.sendNotification(DidCloseTextDocumentNotification.type, {
      textDocument: { uri: this.uri(name) },
    });
  }

  async saved(name: string): Promise<void> {
    await this.#connection.sendNotification(DidSaveTextDocumentNotification.type, {
      textDocument: { uri: this.uri(name) },
    });
  }

  /** Types: the whole document is another text. */
  async set(name: string, text: string): Promise<void> {
    this.#texts.set(name, text);
    await this.change(name, { text });
  }

  /** Puts a text in the place of a stretch of a document. */
  async edit(name: string, { start, end }: { start: number; end: number }, text: string): Promise<void> {
    const before = this.text(name);
    const document = documentOf(before);
    const range = { start: document.positionAt(start), end: document.positionAt(end) };
    this.#texts.set(name, TextDocument.applyEdits(document, [{ range, newText: text }]));
    await this.change(name, { range, text });
  }

  private async change(name: string, change: TextDocumentContentChangeEvent): Promise<void> {
    this.#version += 1;
    await this.#connection.sendNotification(DidChangeTextDocumentNotification.type, {
      textDocument: { uri: this.uri(name), version: this.#version },
      contentChanges: [change],
    });
  }

  /** Types a text in the place of another. */
  async replace(name: string, written: string, by: string): Promise<void> {
    const start = this.text(name).indexOf(written);
    if (start < 0) throw new Error(`There is no ${written} in ${name}.`);
    await this.edit(name, { start, end: start + written.length }, by);
  }

  /** Waits until all that is open in the project of a document has been looked at. */
  async settled(name: string): Promise<void> {
    await this.actions(name);
  }

  /** What is wrong with a document by now: `line:column-line:column severity code`, from 1. */
  async findings(name: string): Promise<string[]> {
    await this.settled(name);
    return this.told(name);
  }

  /** The same, as it was told last. */
  told(name: string): string[] {
    const found = this.diagnosticsOf(name);
    return found.map(({ range, severity, code }) => `${shownRange(range)} ${severities[severity ?? 0]} ${code}`).sort();
  }

  diagnosticsOf(name: string): readonly Diagnostic[] {
    return this.#diagnostics.get(this.uri(name)) ?? [];
  }

  /** All documents with what is wrong with them. */
  all(): Record<string, string[]> {
    const prefix = this.uri('');
    const names = [...this.#diagnostics.keys()].map((uri) => decodeURIComponent(uri.slice(prefix.length + 1))).sort();
    return Object.fromEntries(names.flatMap((name) => (this.told(name).length === 0 ? [] : [[name, this.told(name)]])));
  }

  /** Waits until nothing is told any more, or for some seconds. */
  async untilNothing(): Promise<Record<string, string[]>> {
    for (let left = 100; left > 0 && Object.keys(this.all()).length > 0; left -= 1)
      await new Promise((resolve) => setTimeout(resolve, 50));
    return this.all();
  }

  /** What may be written behind a text of a document. */
  async completions(name: string, behind: string): Promise<CompletionItem[]> {
    return this.completionsAt(name, this.behind(name, behind));
  }

  async completionsFrom(name: string, offset: number): Promise<CompletionItem[]> {
    return this.completionsAt(name, documentOf(this.text(name)).positionAt(offset));
  }

  async completionsAt(name: string, position: Position): Promise<CompletionItem[]> {
    const answer = await this.#connection.sendRequest(CompletionRequest.type, this.at(name, position));
    return Array.isArray(answer) ? answer : (answer?.items ?? []);
  }

  async hover(name: string, within: string): Promise<string | null> {
    return this.hoverAt(name, this.behind(name, within));
  }

  async hoverFrom(name: string, offset: number): Promise<string | null> {
    return this.hoverAt(name, documentOf(this.text(name)).positionAt(offset));
  }

  async hoverAt(name: string, position: Position): Promise<string | null> {
    const answer = await this.#connection.sendRequest(HoverRequest.type, this.at(name, position));
    const contents = answer?.contents;
    return contents !== undefined && typeof contents === 'object' && 'value' in contents ? contents.value : null;
  }

  /** `file:line:column` of where what stands behind a text is declared. */
  async definitions(name: string, within: string): Promise<string[]> {
    const answer = await this.#connection.sendRequest(DefinitionRequest.type, this.at(name, this.behind(name, within)));
    return this.places((Array.isArray(answer) ? answer : answer === null ? [] : [answer]) as Location[]);
  }

  async references(name: string, within: string, includeDeclaration = false): Promise<string[]> {
    const asked = { ...this.at(name, this.behind(name, within)), context: { includeDeclaration } };
    return this.places((await this.#connection.sendRequest(ReferencesRequest.type, asked)) ?? []);
  }

  private places(locations: readonly Location[]): string[] {
    return locations.map(
      ({ uri, range }) => `${this.nameOf(uri)}:${range.start.line + 1}:${range.start.character + 1}`,
    );
  }

  async renameable(name: string, within: string): Promise<string | null> {
    const answer = await this.#connection.sendRequest(
      PrepareRenameRequest.type,
      this.at(name, this.behind(name, within)),
    );
    return answer !== null && 'placeholder' in answer ? answer.placeholder : null;
  }

  /** The changes by which a name becomes another: the documents as they are then, and files with other names. */
  async rename(name: string, within: string, newName: string): Promise<Record<string, string>> {
    const asked = { ...this.at(name, this.behind(name, within)), newName };
    const edit = await this.#connection.sendRequest(RenameRequest.type, asked);
    return edit === null ? {} : this.applied(edit);
  }

  async actions(name: string): Promise<CodeAction[]> {
    const range = { start: { line: 0, character: 0 }, end: { line: 1_000_000, character: 0 } };
    const asked = { textDocument: { uri: this.uri(name) }, range, context: { diagnostics: [] } };
    return ((await this.#connection.sendRequest(CodeActionRequest.type, asked)) ?? []) as CodeAction[];
  }

  /** A document as it is when the remedy of a title is applied. */
  async remedied(name: string, title: string): Promise<string> {
    const action = (await this.actions(name)).find((candidate) => candidate.title === title);
    if (action?.edit === undefined) throw new Error(`There is no remedy "${title}".`);
    return this.applied(action.edit)[name] ?? '';
  }

  async outline(name: string): Promise<DocumentSymbol[]> {
    const asked = { textDocument: { uri: this.uri(name) } };
    return ((await this.#connection.sendRequest(DocumentSymbolRequest.type, asked)) ?? []) as DocumentSymbol[];
  }

  async folds(name: string): Promise<string[]> {
    const asked = { textDocument: { uri: this.uri(name) } };
    const ranges = (await this.#connection.sendRequest(FoldingRangeRequest.type, asked)) ?? [];
    return ranges.map(({ startLine, endLine }) => `${startLine + 1}-${endLine + 1}`);
  }

  async links(name: string): Promise<string[]> {
    const asked = { textDocument: { uri: this.uri(name) } };
    const links = (await this.#connection.sendRequest(DocumentLinkRequest.type, asked)) ?? [];
    return links.map(({ range, target = '' }) => `${shownRange(range)} ${this.nameOf(target)}`);
  }

  private applied({ changes = {}, documentChanges = [] }: WorkspaceEdit): Record<string, string> {
    const result: Record<string, string> = {};
    const put = (uri: string, edits: readonly TextEdit[]): void => {
      const name = this.nameOf(uri);
      const text = this.#texts.get(name) ?? readFileSync(join(this.folder, name), 'utf8');
      result[name] = TextDocument.applyEdits(documentOf(text), [...edits]);
    };
    for (const [uri, edits] of Object.entries(changes)) put(uri, edits);
    for (const change of documentChanges)
      if ('textDocument' in change) put(change.textDocument.uri, change.edits as TextEdit[]);
      else if (change.kind === 'rename')
        result[this.nameOf(change.oldUri)] = `renamed to ${this.nameOf(change.newUri)}`;
    return result;
  }

  private at(name: string, position: Position): { textDocument: { uri: string }; position: Position } {
    return { textDocument: { uri: this.uri(name) }, position };
  }

  /** The position behind a text that a document holds. */
  private behind(name: string, written: string): Position {
    const text = this.text(name);
    const at = text.indexOf(written);
    if (at < 0) throw new Error(`There is no ${written} in ${name}.`);
    return documentOf(text).positionAt(at + written.length);
  }

  private uri(name: string): string {
    return pathToFileURL(join(this.folder, name)).href.replace(/\/$/, '');
  }

  private nameOf(uri: string): string {
    const prefix = `${this.uri('')}/`;
    return uri.startsWith(prefix) ? decodeURIComponent(uri.slice(prefix.length)) : uri;
  }
}

const severities = ['', 'error', 'warning', 'note'];

function documentOf(text: string): TextDocument {
  return TextDocument.create('', '', 0, text);
}

function shownRange({ start, end }: Range): string {
  return `${start.line + 1}:${start.character + 1}-${end.line + 1}:${end.character + 1}`;
}
