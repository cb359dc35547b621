import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { expect, test } from '@jest/globals';
import { sourceStack } from '../../src/cli/io/source-stack.js';
import { repository } from '../support/project.js';

const parts = join(repository, 'dist/program/parts');
const program = join(parts, readdirSync(parts).find((name) => /^inscriba-\w+\.js$/.test(name)) ?? '');

/** Where a text begins in a file, as a stack names it. */
function placeOf(file: string, text: string): { line: number; column: number } {
  const before = readFileSync(file, 'utf8').split(text)[0] ?? '';
  const lines = before.split('\n');
  return { line: lines.length, column: (lines.at(-1) ?? '').length + 1 };
}

test.each([
  ['by its path', program],
  ['by its address', pathToFileURL(program).href],
])('the stack of a defect names the source, not the files that it was put together in: %s', (_, shown) => {
  const text = 'this is a defect of Inscriba';
  const made = placeOf(program, text);
  const stack = `Error: x\n    at run (${shown}:${made.line}:${made.column})\n    at node:internal/x:1:2`;
  const [, mapped = '', other] = sourceStack(stack).split('\n');
  const { line } = placeOf(join(repository, 'src/cli/run.ts'), text);
  const [, file, from] = /\((.*):(\d+):\d+\)/.exec(mapped) ?? [];
  expect(file).toBe('src/cli/run.ts');
  expect(Math.abs(Number(from) - line)).toBeLessThanOrEqual(1);
  expect(other).toBe('    at node:internal/x:1:2');
});

test('a file without a map stays as it is', () => {
  const stack = `Error: x\n    at f (${pathToFileURL('/nowhere/x.js').href}:1:2)`;
  expect(sourceStack(stack)).toBe(stack);
});
