import { afterAll, expect, test } from '@jest/globals';
import { spawn, type ChildProcess } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { repository, TestFolder } from '../support/project.js';

const folder = new TestFolder();
let server: ChildProcess | null = null;

afterAll(() => {
  server?.kill();
  folder.remove();
});

/** The blocks of a page: what is said of each in a comment before it, and what it holds. */
function blocksOf(page: string): { readonly said: string; readonly content: string }[] {
  return [...page.matchAll(/(?:<!-- ([^\n]+) -->\n\n)?```\w*\n([^]*?)```\n/g)].map(([, said = '', content = '']) => ({
    said,
    content,
  }));
}

function put(said: string, content: string): void {
  const [, verb, path = '', from, to] = /^(\w+): (\S+)(?: from "([^"]+)" to "([^"]+)")?$/.exec(said) ?? [];
  if (verb === 'file') folder.write({ [path]: content });
  else if (verb === 'append') folder.write({ [path]: folder.read(path) + content });
  else if (from !== undefined && to !== undefined) {
    const text = folder.read(path);
    folder.write({ [path]: text.slice(0, text.indexOf(from)) + content + text.slice(text.indexOf(to)) });
  } else throw new Error(said);
}

/** Starts the server of the page on a port that is free; gives its address. */
async function startServer(): Promise<string> {
  const child = spawn(process.execPath, [join(repository, 'docs/own-platform/server.mjs'), '0']);
  server = child;
  return new Promise((resolve) => {
    child.stdout.on('data', (chunk: Buffer) => {
      const [address] = /http:\S+/.exec(chunk.toString()) ?? [];
      if (address !== undefined) resolve(address);
    });
  });
}

/** Runs what stands behind `$`, and expects every line that the page shows after it. */
async function runConsole(content: string, env: Record<string, string>): Promise<void> {
  for (const [, line = '', shown = ''] of content.matchAll(/^\$ (.*)\n((?:(?!\$ ).*\n)*)/gm)) {
    if (line.startsWith('node ')) env['SEEDHOUSE_URL'] = await startServer();
    else if (line.startsWith('export ')) env['SEEDHOUSE_KEY'] = /SEEDHOUSE_KEY=(\S+)/.exec(line)?.[1] ?? '';
    else {
      const { code, out, err } = await folder.runBeside(line.split(' ').slice(1), env);
      const said = (out + err).replaceAll(env['SEEDHOUSE_URL'] ?? 'no address yet', 'http://127.0.0.1:4200/');
      expect([line, code, code === 0 ? '' : said]).toEqual([line, 0, '']);
      for (const wanted of shown.trim().split('\n')) expect(said).toContain(wanted);
    }
  }
}

test('the page that brings a platform of one’s own does what it says', async () => {
  folder.write({ 'exported.html': readFileSync(join(repository, 'docs/own-platform/exported.html')) });
  const env: Record<string, string> = {};
  for (const { said, content } of blocksOf(readFileSync(join(repository, 'docs/own-platform.md'), 'utf8')))
    if (said !== '') put(said, content);
    else await runConsole(content, env);
  const kept = await fetch(`${env['SEEDHOUSE_URL'] ?? ''}designs?name=seeds`, {
    headers: { 'seedhouse-key': 'seeds-and-bulbs' },
  });
  expect(await kept.json()).toMatchObject({ designs: [{ number: '1', name: 'seeds', line: 'Your seeds are here' }] });
});
