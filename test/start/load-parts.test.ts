import { readdirSync, readFileSync, statSync, utimesSync, writeFileSync } from 'node:fs';
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { programFile, TestFolder } from '../support/project.js';

const page = '<style>p{color:#223344}</style><p>Hello</p>';
const inlined = '<p style="color:#223344">Hello</p>';

/** A file of compiled code with another index, as long as its own. */
function withIndex(content: Buffer, index: string): Buffer {
  const start = content.readUInt32LE(0);
  return Buffer.concat([content.subarray(0, 4), Buffer.from(index.padEnd(start - 4)), content.subarray(start)]);
}

describe('the compiled code that is kept between runs', () => {
  let folder: TestFolder;

  beforeEach(() => {
    folder = new TestFolder();
  });

  afterEach(() => folder.remove());

  const inline = (env: NodeJS.ProcessEnv = {}): { code: number | null; out: string; err: string } => {
    const { status, stdout, stderr } = spawnSync(process.execPath, [programFile, 'inline', '-'], {
      cwd: folder.path,
      input: page,
      encoding: 'utf8',
      env: { PATH: process.env['PATH'], NODE_COMPILE_CACHE: folder.path, ...env },
    });
    return { code: status, out: stdout, err: stderr };
  };

  /** The file of the command; null where there is none. */
  const kept = (): string | null => {
    const [program] = readdirSync(folder.path).includes('inscriba') ? readdirSync(join(folder.path, 'inscriba')) : [];
    return program === undefined ? null : join(folder.path, 'inscriba', program, 'inline');
  };

  test('is written once, and is what the next run takes', () => {
    expect(inline()).toEqual({ code: 0, out: inlined, err: '' });
    const file = kept() ?? '';
    expect(readdirSync(join(file, '..'))).toEqual(['inline']);
    utimesSync(file, 1, 1);
    expect(inline()).toEqual({ code: 0, out: inlined, err: '' });
    expect(statSync(file).mtimeMs).toBe(1000);
  });

  test.each<[string, (content: Buffer) => Uint8Array]>([
    ['cut', (content) => content.subarray(0, content.length >> 1)],
    ['empty', () => Buffer.alloc(0)],
    ['of zeros', (content) => Buffer.alloc(content.length)],
    [
      'with other bytes in its code',
      (content) =>
        content.map((byte, index) => (index > content.length / 4 && index % 1000 === 0 ? byte ^ 0x55 : byte)),
    ],
    ['of something else', () => Buffer.from('{"a":1}')],
    ['with an index of nothing', (content) => withIndex(content, 'null')],
    ['with an index of other things', (content) => withIndex(content, '{"a":1,"b":null}')],
  ])('counts for nothing where it is %s, and is written anew', (_, damage) => {
    inline();
    const file = kept() ?? '';
    writeFileSync(file, damage(readFileSync(file)));
    utimesSync(file, 1, 1);
    expect(inline()).toEqual({ code: 0, out: inlined, err: '' });
    expect(statSync(file).mtimeMs).toBeGreaterThan(1000);
  });

  test('is not kept where Node is told to keep none, or where it cannot be written', () => {
    expect(inline({ NODE_DISABLE_COMPILE_CACHE: '1' })).toEqual({ code: 0, out: inlined, err: '' });
    expect(kept()).toBeNull();
    folder.write({ taken: 'a file' });
    expect(inline({ NODE_COMPILE_CACHE: join(folder.path, 'taken') })).toEqual({ code: 0, out: inlined, err: '' });
    expect(folder.read('taken')).toBe('a file');
  });
});
