// Puts the program together from src/ and the packages that it uses, in files that a command loads as it needs them. What has
// parts for one kind of machine stays a package beside it: pictures, the driver of a browser, the reading of texts.
import { createHash } from 'node:crypto';
import {
  chmodSync,
  existsSync,
  mkdirSync,
  readFileSync,
  readdirSync,
  renameSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { basename, join, resolve } from 'node:path';
import { transform } from '@swc/core';
import { build } from 'esbuild';

const folder = 'dist/program';

/** Packages with parts for one kind of machine. */
const machineBound = ['sharp', 'playwright-core', 'tesseract.js', '@tesseract.js-data/*'];

/** Packages of the older kind that a command loads when it comes to them: by name they have more than a default export. */
const loadedWhole = ['undici', 'ipaddr.js', 'cli-progress'];

/** Parts by themselves: they are large, or do much when they are loaded, and most commands come to the end without them. */
const apart = {
  'string-width': 'string-width',
  yaml: 'yaml',
  colors: 'culori/require',
  'css-dictionary': 'src/core/css/syntax/css-dictionary.ts',
};

/** Of packages that come in several forms that in modules, which is loaded when it is first used; the others are at once. */
const inModules = {
  name: 'in-modules',
  setup({ onResolve, onLoad }) {
    const colors = JSON.stringify(resolve('node_modules/culori/bundled/culori.mjs'));
    onResolve({ filter: /^yaml$/ }, () => ({ path: resolve('node_modules/yaml/browser/index.js') }));
    onResolve({ filter: /^culori\/require$/ }, ({ path }) => ({ path, namespace: 'whole' }));
    onLoad({ filter: /./, namespace: 'whole' }, () => ({
      contents: `import * as all from ${colors}; export default all;`,
      resolveDir: resolve('.'),
    }));
    // The CSS library reads its dictionary from files; beside them lies a module that holds it.
    onResolve({ filter: /^(?:\.{1,2}\/)+(?:data|version)\.js$/ }, ({ path, importer }) =>
      importer.includes(join('css-tree', 'lib'))
        ? { path: resolve('node_modules/css-tree/dist', basename(path)) }
        : null,
    );
  },
};

/** The page of the preview, whose script runs in a browser. */
export async function bundlePage() {
  await build({
    entryPoints: { page: 'src/preview/page/main.ts', 'page.style': 'src/preview/page/page.css' },
    outdir: 'dist/page',
    bundle: true,
    format: 'esm',
    platform: 'browser',
    target: ['chrome100', 'firefox100', 'safari16'],
    minifyWhitespace: true,
    legalComments: 'none',
    logLevel: 'warning',
  });
  renameSync('dist/page/page.style.css', 'dist/page/page.css');
}

export async function bundle() {
  rmSync(folder, { recursive: true, force: true });
  const { metafile, outputFiles } = await build({
    // Workers are programs of their own.
    entryPoints: {
      inscriba: 'src/cli/bin.ts',
      'build-worker': 'src/project/build/build-worker.ts',
      'editor-worker': 'src/project/editor/editor-worker.ts',
      ...apart,
    },
    outdir: folder,
    entryNames: 'parts/[name]-[hash]',
    chunkNames: 'parts/[name]-[hash]',
    bundle: true,
    splitting: true,
    format: 'esm',
    platform: 'node',
    target: 'node20',
    external: [...machineBound, ...loadedWhole],
    plugins: [inModules],
    define: { 'import.meta.url': 'partAddress' },
    minifyWhitespace: true,
    minifySyntax: true,
    sourcemap: 'external',
    sourcesContent: false,
    legalComments: 'none',
    metafile: true,
    write: false,
    logLevel: 'warning',
  });
  mkdirSync(join(folder, 'parts'), { recursive: true });
  const texts = new Map(outputFiles.map(({ path, text }) => [basename(path), text]));
  const names = [...texts.keys()].filter((name) => name.endsWith('.js'));
  await Promise.all(names.map((name) => writePart(name, texts.get(name), texts.get(`${name}.map`))));
  await writeStarts(names);
  writeFileSync(join(folder, 'LICENSES.txt'), licences(Object.keys(metafile.inputs)));
}

/**
 * Writes a part as a module of the older kind, which can be run with what was compiled of it the last time. What it uses of
 * other parts it asks for when it first comes to it. Modules do nothing when they are loaded: one that is only named to be
 * loaded is not.
 */
async function writePart(name, text, map) {
  const used = /\bimport(?:[^"';()]*?\bfrom)?\s*"([^"]+)"/g;
  const code = text.replace(/(?<=^|;|\n)import"\.\/[^"]+";/g, (statement) => ' '.repeat(statement.length));
  const part = await transform(code, {
    configFile: false,
    swcrc: false,
    filename: name,
    isModule: true,
    sourceMaps: true,
    inputSourceMap: map,
    jsc: { target: 'es2022', parser: { syntax: 'ecmascript' }, minify: { compress: false, mangle: false } },
    module: { type: 'commonjs', lazy: [...code.matchAll(used)].map(([, path]) => path) },
    minify: true,
  });
  writeFileSync(join(folder, 'parts', name), part.code);
  writeFileSync(join(folder, 'parts', `${name}.map`), part.map);
}

/** Writes the files that are run: each starts the program, or a worker of it, from the parts. */
async function writeStarts(names) {
  const { commands } = await import('../dist/cli/commands/commands.js');
  const digest = createHash('sha256');
  for (const name of [...names].sort()) digest.update(readFileSync(join(folder, 'parts', name)));
  const program = { digest: digest.digest('hex').slice(0, 16), commands: commands.map(({ name }) => name) };
  writeFileSync(join(folder, 'package.json'), '{"type":"commonjs"}\n');
  for (const name of ['inscriba', 'build-worker', 'editor-worker']) {
    const entry = names.find((part) => part.startsWith(`${name}-`));
    const start = `require('../start/load-parts.cjs').start(__dirname, ${JSON.stringify({ entry, ...program })});`;
    writeFileSync(join(folder, `${name}.js`), `#!/usr/bin/env node\n'use strict';\n${start}\n`);
  }
  chmodSync(join(folder, 'inscriba.js'), 0o755);
}

/** Reads the dialects that ship once and for all, for the program to have them without their grammar. */
export async function readDialects() {
  const { readDialect } = await import('../dist/core/dialects/file/read-dialect.js');
  const { SourceText } = await import('../dist/core/text/source-text.js');
  const entries = readdirSync('dialects').map((file) => {
    const text = readFileSync(join('dialects', file), 'utf8');
    const { dialect } = readDialect(new SourceText(file, text));
    // What proves a file is read from the file itself.
    const lean = dialect === null ? null : { ...dialect, exchanges: [] };
    return [file.replace(/\.yaml$/, ''), { digest: createHash('sha256').update(text).digest('hex'), dialect: lean }];
  });
  writeFileSync('dist/dialects.json', JSON.stringify(Object.fromEntries(entries)));
}

/** Reads the table of engines once and for all. */
export async function readEngineTable() {
  const { readEngines } = await import('../dist/core/engines/read-engines.js');
  const { SourceText } = await import('../dist/core/text/source-text.js');
  const text = readFileSync('data/engines.yaml', 'utf8');
  const { features, findings } = readEngines(new SourceText('engines.yaml', text));
  if (features === null) throw new Error(JSON.stringify(findings.map(({ data }) => data)));
  const digest = createHash('sha256').update(text).digest('hex');
  writeFileSync('dist/engines.json', JSON.stringify({ digest, features }));
}

/** Writes the manual page, of what the commands declare. */
export async function writeManual() {
  const { programTree } = await import('../dist/cli/run.js');
  const { manualPage } = await import('../dist/cli/output/manual-page.js');
  const { version } = JSON.parse(readFileSync('package.json', 'utf8'));
  writeFileSync('dist/inscriba.1', manualPage(await programTree(), version));
}

/** The licences of the packages that files come from. */
function licences(inputs) {
  const packages = inputs.flatMap((path) => /^.*node_modules\/(?:@[^/]+\/)?[^/]+/.exec(path)?.[0] ?? []);
  return [...new Set(packages)]
    .sort()
    .map((path) => {
      const { name, version, license } = JSON.parse(readFileSync(join(path, 'package.json'), 'utf8'));
      const file = readdirSync(path).find((entry) => /^licen[cs]e/i.test(entry));
      const text = file !== undefined && existsSync(join(path, file)) ? readFileSync(join(path, file), 'utf8') : '';
      return `${name} ${version} (${license})\n\n${text.trim()}\n`;
    })
    .join(`\n${'-'.repeat(80)}\n\n`);
}
