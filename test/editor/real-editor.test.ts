import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { repository, TestFolder } from '../support/project.js';

const newsletter = 'messages/may-newsletter.html';

/** An editor of Debian's packages, without a window, with the lines of the documentation as its settings. */
class RealEditor {
  readonly #process: ChildProcess;
  readonly #socket: string;

  constructor(
    private readonly folder: string,
    file: string,
  ) {
    this.#socket = join(folder, 'editor.sock');
    const settings = join(folder, 'settings.lua');
    const documented =
      /```lua\n([\s\S]*?)```/.exec(readFileSync(join(repository, 'docs/editors.md'), 'utf8'))?.[1] ?? '';
    const program = join(repository, 'dist/program/inscriba.js');
    writeFileSync(
      settings,
      documented.replace("'inscriba', 'language-server'", `'node', '${program}', 'language-server'`),
    );
    this.#process = spawn('nvim', ['--headless', '-n', '-u', settings, '--listen', this.#socket, file], {
      cwd: folder,
      env: { ...process.env, XDG_STATE_HOME: folder, XDG_DATA_HOME: folder },
      stdio: 'ignore',
    });
  }

  private ask(...words: readonly string[]): string {
    const { stdout, stderr } = spawnSync('nvim', ['--server', this.#socket, ...words], {
      encoding: 'utf8',
      cwd: this.folder,
    });
    return stdout + stderr;
  }

  /** Presses keys, as a person would. */
  press(keys: string): void {
    this.ask('--remote-send', keys);
  }

  /** What an expression of the editor's own language comes to. */
  value(expression: string): string {
    return this.ask('--remote-expr', expression).replace(/\n$/, '');
  }

  /** Waits until an expression comes to something. */
  async until(expression: string, wanted: RegExp): Promise<string> {
    let found = '';
    for (let left = 100; left > 0; left -= 1) {
      found = this.value(expression);
      if (wanted.test(found)) return found;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    return found;
  }

  async stop(): Promise<void> {
    const ended = new Promise((resolve) => this.#process.once('exit', resolve));
    this.press('<Esc>:qa!<CR>');
    const timer = setTimeout(() => this.#process.kill('SIGKILL'), 5000);
    await ended;
    clearTimeout(timer);
  }
}

let folder: TestFolder;
let editor: RealEditor;

beforeAll(() => {
  folder = TestFolder.demoProject();
  folder.change(newsletter, '${tool.name}', '${tool.nmae}');
  editor = new RealEditor(folder.path, newsletter);
});

afterAll(async () => {
  await editor.stop();
  folder.remove();
});

test('a real editor shows a mistake at its place, completes a part, mends the mistake, and saves what builds', async () => {
  const found = `luaeval('vim.fn.json_encode(vim.tbl_map(function(d) return { d.lnum + 1, d.col + 1, d.end_col + 1, d.code, d.severity } end, vim.diagnostic.get(0)))')`;
  expect(JSON.parse(await editor.until(found, /\[\[/))).toEqual([[46, 32, 41, 'unknown-build-value', 1]]);

  editor.press('/house-sign<CR>o<lt>house-fo<C-x><C-o>');
  expect(await editor.until('getline(18)', /></)).toBe('      <house-footer></house-footer>');
  editor.press('<Esc>u');
  expect(await editor.until('getline(18)', /^$/)).toBe('');

  editor.press('/tool.nmae<CR>');
  editor.press(':lua vim.lsp.buf.code_action()<CR>');
  // The list of remedies waits for a number.
  await new Promise((resolve) => setTimeout(resolve, 1500));
  editor.press('1<CR>');
  expect(await editor.until('getline(46)', /tool\.name/)).toContain('<tool-card name="${tool.name}"');
  expect(await editor.until(`luaeval('#vim.diagnostic.get(0)')`, /^0$/)).toBe('0');

  editor.press(':w<CR>');
  await editor.until('&modified', /^0$/);
  expect(folder.read(newsletter)).toBe(readFileSync(join(repository, 'demo', newsletter), 'utf8'));
  expect(folder.run(['build', 'may-newsletter']).code).toBe(0);
}, 120_000);
