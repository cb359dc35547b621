// Starts the program from its parts. A part is read when it is first used, and with what the engine made of it the last time
// (Node's `vm.Script.cachedData`), so that nothing is compiled twice: that is most of what a short command takes.
import fs = require('node:fs');
import nodeModule = require('node:module');
import os = require('node:os');
import path = require('node:path');
import url = require('node:url');
import vm = require('node:vm');
import workerThreads = require('node:worker_threads');
import zlib = require('node:zlib');

/** A program in parts, as the build puts it together. */
interface Program {
  /** The name of the part that begins. */
  readonly entry: string;
  /** The digest of all parts: what was compiled of others is not theirs. */
  readonly digest: string;
  /** The words by which commands are told apart; each uses other parts, and other functions of them. */
  readonly commands: readonly string[];
}

interface LoadedPart {
  readonly exports: object;
  readonly script: vm.Script;
}

/** How long the compiled code of a program that is no longer used is kept, in ms. */
const KEPT_FOR = 30 * 24 * 60 * 60_000;

/** Where compiled code may begin, in bytes: it is summed up, and taken by the engine, in words of so many. */
const ALIGNMENT = 8;

/** What a part is a function of, on its first line, where it moves no place of it. */
const head = '(function(exports,require,module,__filename,__dirname,partAddress){';

/**
 * Starts a program.
 * @param folder where its folder of parts is
 */
function start(folder: string, { entry, digest, commands }: Program): void {
  const parts = path.join(folder, 'parts');
  const file = compiledFile(entry, digest, commands);
  // What the program keeps besides lies there, too.
  Object.assign(globalThis, { [Symbol.for('inscriba.kept')]: file === null ? null : path.dirname(file) });
  const known = file === null ? nothingKnown : readCompiled(file);
  if (file !== null && known === nothingKnown) makeFolder(path.dirname(file));
  const loaded = new Map<string, LoadedPart>();
  const ofPackages = nodeModule.createRequire(path.join(parts, entry));
  let isMissing = false;

  const load = (id: string): unknown => {
    if (!id.startsWith('./')) return ofPackages(id);
    const name = path.posix.basename(id);
    const before = loaded.get(name);
    if (before !== undefined) return before.exports;
    const partFile = path.join(parts, name);
    const cachedData = known(name);
    const script = new vm.Script(`${head}${fs.readFileSync(partFile, 'utf8')}\n})`, {
      filename: partFile,
      columnOffset: -head.length,
      ...(cachedData === undefined ? {} : { cachedData }),
    });
    if (cachedData === undefined || script.cachedDataRejected === true) isMissing = true;
    const module = { exports: {} };
    // What parts ask of each other in a circle they find as far as it is.
    loaded.set(name, { exports: module.exports, script });
    const run = script.runInThisContext() as (...values: unknown[]) => void;
    run(module.exports, load, module, partFile, parts, url.pathToFileURL(partFile).href);
    return module.exports;
  };

  if (file !== null)
    process.on('exit', (code) => {
      if (isMissing && code <= 1) keepCompiled(file, loaded);
    });
  load(`./${entry}`);
}

/** Where the compiled code of what runs is kept between runs; null where none is, as Node's own variable for it says. */
function compiledFile(entry: string, digest: string, commands: readonly string[]): string | null {
  const { env, platform, version, arch, argv } = process;
  if (env['NODE_DISABLE_COMPILE_CACHE'] !== undefined) return null;
  const command = argv.find((word, index) => index > 1 && commands.includes(word)) ?? 'help';
  const name = workerThreads.isMainThread ? command : entry.replace(/-[^-]*$/, '');
  try {
    const home = os.homedir();
    const ofSystem =
      platform === 'win32'
        ? env['LOCALAPPDATA']
        : platform === 'darwin'
          ? path.join(home, 'Library/Caches')
          : undefined;
    const caches = env['NODE_COMPILE_CACHE'] ?? (env['XDG_CACHE_HOME'] || ofSystem) ?? path.join(home, '.cache');
    return path.join(caches, 'inscriba', `${version}-${arch}-${digest}`, name);
  } catch {
    // Who has no home has no place for it.
    return null;
  }
}

/** The compiled code of a part, by its name; undefined where there is none. */
type CompiledParts = (name: string) => Buffer | undefined;

const nothingKnown: CompiledParts = () => undefined;

/** Where the compiled code of a part stands in the file behind its index, and its sum. */
type IndexEntry = readonly [start: number, length: number, sum: number];

/** The compiled code that a file holds; none where it is not there, is damaged, or is somebody else's. */
function readCompiled(file: string): CompiledParts {
  try {
    if (process.getuid !== undefined && fs.statSync(file).uid !== process.getuid()) return nothingKnown;
    const content = fs.readFileSync(file);
    const codeStart = content.readUInt32LE(0);
    const index = JSON.parse(content.toString('utf8', 4, codeStart).trimEnd()) as Readonly<Record<string, unknown>>;
    const entries = new Map(Object.entries(index ?? {}));
    return (name) => {
      const entry = entries.get(name);
      const [start, length, sum] = Array.isArray(entry) ? (entry as unknown as IndexEntry) : [0, -1, 0];
      const code = content.subarray(codeStart + start, codeStart + start + length);
      // The engine takes what it is given: damaged code would not fail, but do something else.
      return code.length === length && zlib.crc32(code) === sum ? code : undefined;
    };
  } catch {
    return nothingKnown;
  }
}

/** Makes the folder of this program; what else is kept between runs lies in it, too. Where it cannot be made, nothing is. */
function makeFolder(folder: string): void {
  try {
    if (fs.existsSync(folder)) return;
    forgetOld(path.dirname(folder));
    fs.mkdirSync(folder, { recursive: true, mode: 0o700 });
  } catch {
    // Nothing depends on it.
  }
}

/** Keeps what was compiled. Nothing depends on it: where it cannot be written, it is not. */
function keepCompiled(file: string, loaded: ReadonlyMap<string, LoadedPart>): void {
  const pending = `${file}.${process.pid}-${workerThreads.threadId}`;
  try {
    fs.writeFileSync(pending, compiledParts(loaded), { flush: true });
    fs.renameSync(pending, file);
  } catch {
    try {
      fs.rmSync(pending, { force: true });
    } catch {
      // Where nothing can be written, nothing is to be removed either.
    }
  }
}

/** A file of compiled code: how long its beginning is, an index by the names of parts, and the code of each. */
function compiledParts(loaded: ReadonlyMap<string, LoadedPart>): Buffer {
  const index: Record<string, IndexEntry> = {};
  const codes: Buffer[] = [];
  let start = 0;
  for (const [name, { script }] of loaded) {
    const code = script.createCachedData();
    const padding = Buffer.alloc(aligned(code.length) - code.length);
    index[name] = [start, code.length, zlib.crc32(code)];
    codes.push(code, padding);
    start += code.length + padding.length;
  }
  const written = Buffer.from(JSON.stringify(index));
  const beginning = Buffer.alloc(aligned(4 + written.length), ' ');
  beginning.writeUInt32LE(beginning.length);
  written.copy(beginning, 4);
  return Buffer.concat([beginning, ...codes]);
}

const aligned = (length: number): number => Math.ceil(length / ALIGNMENT) * ALIGNMENT;

/** Removes the compiled code of programs that are no longer used. */
function forgetOld(folder: string): void {
  if (!fs.existsSync(folder)) return;
  for (const name of fs.readdirSync(folder)) {
    const entry = path.join(folder, name);
    if (Date.now() - fs.statSync(entry).mtimeMs > KEPT_FOR) fs.rmSync(entry, { recursive: true, force: true });
  }
}

export = { start };
