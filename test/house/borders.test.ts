import { join } from 'node:path';
import { describe, expect, test } from '@jest/globals';
import { ESLint } from 'eslint';
import { repository } from '../support/project.js';

interface ConfigEntry {
  readonly files?: readonly string[];
  readonly rules?: Readonly<Record<string, unknown>>;
}

const borderRules = /^(?:borders\/|no-restricted-|max-params)/;

/** The repository's own configuration, its entries as they follow each other, without the rules that need types. */
async function bordersOf(): Promise<object[]> {
  const { default: entries } = (await import(join(repository, 'eslint.config.js'))) as {
    default: readonly ConfigEntry[];
  };
  const parser = entries.find((entry) => 'languageOptions' in entry);
  return [
    {
      files: ['**/*.{ts,cts}'],
      languageOptions: { parser: (parser as { languageOptions: { parser: object } }).languageOptions.parser },
    },
    ...entries
      .filter(({ rules }) => Object.keys(rules ?? {}).some((name) => borderRules.test(name)))
      .map((entry) => ({
        ...entry,
        rules: Object.fromEntries(Object.entries(entry.rules ?? {}).filter(([name]) => borderRules.test(name))),
      })),
  ];
}

// Only the borders: rules that need types would read the planted files from the disk, where they are not.
const linter = new ESLint({
  cwd: repository,
  overrideConfigFile: true,
  overrideConfig: await bordersOf(),
});

async function problemsIn(path: string, code: string): Promise<string[]> {
  const [result] = await linter.lintText(code, { filePath: join(repository, 'src', path) });
  return (result?.messages ?? []).map(({ ruleId, message }) => `${ruleId ?? 'syntax'}: ${message}`);
}

const pure = 'borders/house: The core is pure: no files, network, process, clock or terminal.';

describe('what crosses a border is refused', () => {
  test.each([
    [
      'an arrow upward',
      'core/css/values/new.ts',
      `import { plainText } from '../../plaintext/plain-text.js';`,
      'borders/house: src/core/css/values does not import from src/core/plaintext.',
    ],
    [
      'a type that points upward',
      'core/html/new.ts',
      `import type { Dialect } from '../dialects/dialect.js';`,
      'borders/house: src/core/html does not import from src/core/dialects.',
    ],
    [
      'an export that passes on',
      'core/inline/new.ts',
      `export { compileLayout } from '../layout/layout.js';`,
      'borders/house: src/core/inline does not import from src/core/layout.',
    ],
    [
      'a dynamic import',
      'core/text/new.ts',
      `export const late = import('../html/parse.js');`,
      'borders/house: src/core/text does not import from src/core/html.',
    ],
    [
      'the type of an import',
      'core/text/new.ts',
      `export type Late = import('../html/parse.js').ParsedDoc;`,
      'borders/house: src/core/text does not import from src/core/html.',
    ],
    [
      'an import that is computed',
      'cli/io/new.ts',
      `const name = '../commands/build.js'; export const late = import(name);`,
      'borders/house: Name what is loaded: an import that is computed crosses every border.',
    ],
    [
      'the core and the project',
      'core/message/new.ts',
      `import { loadConfig } from '../../project/config/config.js';`,
      'borders/house: src/core/message does not import from src/project/config.',
    ],
    [
      'the project and the command line',
      'project/build/new.ts',
      `import { printFindings } from '../../cli/output/print-findings.js';`,
      'borders/house: src/project/build does not import from src/cli/output.',
    ],
    [
      'mail and the project',
      'mail/new.ts',
      `import { loadConfig } from '../project/config/config.js';`,
      'borders/house: src/mail does not import from src/project/config.',
    ],
    [
      'a folder that no plan has',
      'core/attic/new.ts',
      `import { SourceText } from '../text/source-text.js';`,
      'borders/house: src/core/attic has no place in eslint/house.js.',
    ],
    [
      'a package outside its owner',
      'core/layout/rows/new.ts',
      `import { parse } from 'css-tree';`,
      'borders/house: Only core/css/syntax/css-tree.ts, core/css/syntax/css-dictionary.ts, core/css/syntax/css-tree-parts.d.ts knows css-tree.',
    ],
    [
      'a package outside its owner, late',
      'project/build/new.ts',
      `export const late = import('sharp');`,
      'borders/house: Only pictures/cut-picture.ts, pictures/dark-drawing.ts, pictures/draw-overview.ts, pictures/draw-picture.ts, pictures/exact-png.ts, pictures/inspect-picture.ts, pictures/lighter-picture.ts, pictures/read-text.ts, browser/pixels.ts knows sharp.',
    ],
    [
      'a package that nobody owns',
      'core/html/new.ts',
      `import lodash from 'lodash';`,
      'borders/house: No file owns the package lodash: see eslint/house.js.',
    ],
    [
      'a private path of a package',
      'core/css/syntax/css-tree.ts',
      `import { parse } from 'css-tree/lib/parser';`,
      'borders/house: No file owns the package css-tree/lib/parser: see eslint/house.js.',
    ],
    ['files in the core', 'core/pictures/new.ts', `import { readFileSync } from 'node:fs';`, pure],
    ['files in the core, by the old name', 'core/pictures/new.ts', `import { readFile } from 'fs/promises';`, pure],
    ['the network in the core, late', 'core/pictures/new.ts', `export const late = import('node:http');`, pure],
    ['paths in the core', 'core/message/new.ts', `import { join } from 'node:path';`, pure],
    [
      'a circle',
      'core/text/span.ts',
      `import { SourceText } from './source-text.js'; export const x = SourceText;`,
      'borders/no-circle: These import each other: core/text/span.ts → core/text/source-text.ts → core/text/span.ts.',
    ],
    [
      'a circle of types',
      'core/text/span.ts',
      `import type { Edit } from './apply-edits.js'; export type X = Edit;`,
      'borders/no-circle: These import each other: core/text/span.ts → core/text/apply-edits.ts → core/text/span.ts.',
    ],
    [
      'the clock in the core',
      'core/message/new.ts',
      'export const now = new Date();',
      'no-restricted-syntax: The core has no clock.',
    ],
    [
      'the clock in the core, as a number',
      'core/message/new.ts',
      'export const now = Date.now();',
      'no-restricted-syntax: The core has no clock.',
    ],
    [
      'chance in the core',
      'core/message/new.ts',
      'export const x = Math.random();',
      'no-restricted-syntax: The core gives the same for the same.',
    ],
    [
      'the process in the core',
      'core/message/new.ts',
      'export const home = process.env.HOME;',
      `no-restricted-globals: Unexpected use of 'process'.`,
    ],
    [
      'the network in the core',
      'core/message/new.ts',
      `export const page = fetch('x');`,
      `no-restricted-globals: Unexpected use of 'fetch'.`,
    ],
    [
      'timers in the core',
      'core/message/new.ts',
      'setTimeout(() => undefined, 1);',
      `no-restricted-globals: Unexpected use of 'setTimeout'.`,
    ],
    [
      'the terminal in the core',
      'core/message/new.ts',
      `console.log('x');`,
      `no-restricted-globals: Unexpected use of 'console'.`,
    ],
    [
      'the folder that the user is in, in the project',
      'project/build/new.ts',
      'export const here = process.cwd();',
      'no-restricted-syntax: Only the command line knows the folder that the user is in.',
    ],
    [
      'the folder that the user is in, in mail',
      'mail/new.ts',
      'export const here = process.cwd();',
      'no-restricted-syntax: Only the command line knows the folder that the user is in.',
    ],
    ...[
      ['in the core', 'core/text/new.ts'],
      ['in the project', 'project/build/new.ts'],
      ['in the command line', 'cli/io/new.ts'],
      ['in what starts the program', 'start/new.cts'],
    ].map(([where = '', path = '']): [string, string, string, string] => [
      `what is done when a module is loaded, ${where}`,
      path,
      'const seen = new Set<string>(); seen.add("x"); export { seen };',
      'no-restricted-syntax: A module only declares: when it is loaded depends on who uses it first.',
    ]),
    [
      'six parameters',
      'core/text/new.ts',
      'export function many(a: 1, b: 1, c: 1, d: 1, e: 1, f: 1): void {}',
      `max-params: Function 'many' has too many parameters (6). Maximum allowed is 5.`,
    ],
  ])('%s', async (_, path, code, expected) => {
    expect(await problemsIn(path, `${code}\n`)).toContain(expected);
  });
});

test('what stands within its borders is not', async () => {
  expect(
    await problemsIn(
      'core/message/new.ts',
      `import { plainText } from '../plaintext/plain-text.js';\nexport const x = [plainText, new Date(0)];\n`,
    ),
  ).toEqual([]);
  expect(
    await problemsIn(
      'cli/io/new.ts',
      `import { join } from 'node:path';\nexport const here = join(process.cwd(), 'x');\n`,
    ),
  ).toEqual([]);
  expect(await problemsIn('cli/bin.ts', `process.exitCode = 1;\n`)).toEqual([]);
});

test('no file of the source imports itself by way of others', async () => {
  const { circleThrough, wholeGraph } = (await import(join(repository, 'eslint/borders.js'))) as {
    circleThrough: (file: string, graph: ReadonlyMap<string, readonly string[]>) => string[] | null;
    wholeGraph: () => ReadonlyMap<string, readonly string[]>;
  };
  const graph = wholeGraph();
  expect(graph.size).toBeGreaterThan(200);
  expect([...graph.keys()].flatMap((file) => circleThrough(file, graph) ?? [])).toEqual([]);
});
