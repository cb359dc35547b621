import { readdirSync, readFileSync } from 'node:fs';
import { builtinModules } from 'node:module';
import { dirname, join, posix, relative, sep } from 'node:path';
import { fileURLToPath } from 'node:url';
import ts from 'typescript';
import { floors, owners } from './house.js';

const src = fileURLToPath(new URL('../src', import.meta.url));
const builtins = new Set(builtinModules);

/** The path of a file from src/, with forward slashes; null for a file elsewhere. */
function ownPath(filename) {
  const path = relative(src, filename).split(sep).join('/');
  return path.startsWith('..') ? null : path;
}

/** Reports each import that crosses a border of the house, however it is written. */
const house = {
  meta: { type: 'problem', schema: [] },
  create(context) {
    const file = ownPath(context.filename);
    if (file === null) return {};
    const folder = posix.dirname(file);
    const check = (node) => {
      if (node.source?.type !== 'Literal' || typeof node.source.value !== 'string') return;
      const problem = problemWith(file, folder, node.source.value);
      if (problem !== null) context.report({ node: node.source, message: problem });
    };
    return {
      ImportDeclaration: check,
      ExportNamedDeclaration: check,
      ExportAllDeclaration: check,
      ImportExpression(node) {
        if (node.source.type !== 'Literal')
          context.report({ node, message: 'Name what is loaded: an import that is computed crosses every border.' });
        else check(node);
      },
      TSImportType: check,
    };
  },
};

function problemWith(file, folder, specifier) {
  if (specifier.startsWith('.')) {
    const target = posix.dirname(posix.join(folder, specifier));
    if (target === folder) return null;
    if (floors[folder] === undefined) return `src/${folder} has no place in eslint/house.js.`;
    return floors[folder].includes(target) ? null : `src/${folder} does not import from src/${target}.`;
  }
  const name = specifier.replace(/^node:/, '');
  if (specifier.startsWith('node:') || builtins.has(name))
    return file.startsWith('core/') ? 'The core is pure: no files, network, process, clock or terminal.' : null;
  const known = owners[specifier];
  if (known === undefined) return `No file owns the package ${specifier}: see eslint/house.js.`;
  return known.includes(file) ? null : `Only ${known.join(', ')} knows ${specifier}.`;
}

/** Reports an import that comes back to its own file by way of others, types too. */
const noCircle = {
  meta: { type: 'problem', schema: [] },
  create(context) {
    const file = ownPath(context.filename);
    if (file === null) return {};
    return {
      Program(node) {
        const graph = new Map(wholeGraph());
        graph.set(file, importsIn(context.sourceCode.text, file));
        const circle = circleThrough(file, graph);
        if (circle !== null) context.report({ node, message: `These import each other: ${circle.join(' → ')}.` });
      },
    };
  },
};

let known = null;

/** What each file of src/ imports, by their paths. */
export function wholeGraph() {
  known ??= new Map(
    readdirSync(src, { recursive: true, withFileTypes: true })
      .filter((entry) => entry.isFile() && entry.name.endsWith('.ts'))
      .map((entry) => join(entry.parentPath, entry.name))
      .map((path) => [ownPath(path), importsIn(readFileSync(path, 'utf8'), ownPath(path))]),
  );
  return known;
}

function importsIn(text, file) {
  return ts
    .preProcessFile(text)
    .importedFiles.map(({ fileName }) => fileName)
    .filter((name) => name.startsWith('.'))
    .map((name) => posix.join(dirname(file), name).replace(/\.js$/, '.ts'));
}

/** A way from a file back to itself; null where there is none. */
export function circleThrough(file, graph) {
  const before = new Map();
  const open = [file];
  for (let at = open.shift(); at !== undefined; at = open.shift()) {
    for (const next of graph.get(at) ?? []) {
      if (next === file) return pathTo(at, before, [file]);
      if (before.has(next)) continue;
      before.set(next, at);
      open.push(next);
    }
  }
  return null;
}

function pathTo(last, before, end) {
  const path = [...end];
  for (let at = last; at !== undefined; at = before.get(at)) {
    path.unshift(at);
    if (at === end[0]) return path;
  }
  return path;
}

export default { rules: { house, 'no-circle': noCircle } };
