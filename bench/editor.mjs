// How long an editor waits for the language server, on the newsletter of the sample project: from the last key to what is wrong
// with the text, and for what may be written next. Times, in ms: `node bench/editor.mjs` prints them.
import { spawn } from 'node:child_process';
import { cpSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { performance } from 'node:perf_hooks';
import { pathToFileURL } from 'node:url';
import * as protocol from 'vscode-languageserver-protocol/node';

/** So many edits are made before any is counted: nobody types their first word the moment that a file is open. */
const FIRST = 20;
const COUNTED = 40;

/** The median, in ms, from an edit to its findings, and from a request for completion right behind an edit to its answer. */
export async function editorTimes(program = resolve('dist/program/inscriba.js')) {
  const folder = mkdtempSync(join(tmpdir(), 'inscriba-editor-'));
  cpSync('demo', folder, { recursive: true, filter: (path) => !/demo\/out(?:\/|$)/.test(path) });
  const path = join(folder, 'messages/may-newsletter.html');
  const uri = pathToFileURL(path).href;
  const server = spawn(process.execPath, [program, 'language-server'], { stdio: ['pipe', 'pipe', 'inherit'] });
  const connection = protocol.createProtocolConnection(
    new protocol.StreamMessageReader(server.stdout),
    new protocol.StreamMessageWriter(server.stdin),
  );
  let told = () => undefined;
  connection.onNotification(protocol.PublishDiagnosticsNotification.type, (item) => item.uri === uri && told(item));
  connection.listen();
  await connection.sendRequest(protocol.InitializeRequest.type, {
    processId: process.pid,
    rootUri: null,
    capabilities: {},
  });
  const written = readFileSync(path, 'utf8');
  const textDocument = { uri, languageId: 'html', version: 0, text: written };
  await connection.sendNotification(protocol.DidOpenTextDocumentNotification.type, { textDocument });
  const at = written.indexOf('${tool.name}');
  const before = written.slice(0, at).split('\n');
  const position = { line: before.length - 1, character: before.at(-1).length + '${tool.'.length };
  const times = { findings: [], completion: [] };
  for (let round = 1; round <= FIRST + COUNTED; round += 1) {
    // Wrong and right in turn, so that each edit has something to tell.
    const text = round % 2 === 1 ? written.replace('${tool.name}', '${tool.nmae}') : written;
    const start = performance.now();
    const answer = new Promise((resolveTold) => (told = resolveTold));
    await connection.sendNotification(protocol.DidChangeTextDocumentNotification.type, {
      textDocument: { uri, version: round },
      contentChanges: [{ text }],
    });
    await connection.sendRequest(protocol.CompletionRequest.type, { textDocument: { uri }, position });
    const completed = performance.now() - start;
    await answer;
    if (round <= FIRST) continue;
    times.completion.push(completed);
    times.findings.push(performance.now() - start);
  }
  await connection.sendRequest(protocol.ShutdownRequest.type);
  await connection.sendNotification(protocol.ExitNotification.type);
  connection.dispose();
  rmSync(folder, { recursive: true, force: true });
  const median = (list) => list.sort((a, b) => a - b)[list.length >> 1];
  return { findings: median(times.findings), completion: median(times.completion) };
}

if (process.argv[1] === resolve('bench/editor.mjs')) {
  const { findings, completion } = await editorTimes();
  console.log(`findings after ${findings.toFixed(0)} ms, completion after ${completion.toFixed(0)} ms`);
}
