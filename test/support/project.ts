import { spawn, spawnSync, type ChildProcessWithoutNullStreams } from 'node:child_process';
import { cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** The folder of the package. */
export const repository = fileURLToPath(new URL('../../..', import.meta.url));
/** The program as it ships. */
export const programFile = join(repository, 'dist/program/inscriba.js');

/** What a run of the program came to. */
export interface Run {
  readonly code: number | null;
  readonly out: string;
  readonly err: string;
}

/** How a command is run. */
interface RunOptions {
  readonly input?: string | Uint8Array;
  readonly folder?: string;
  readonly env?: Readonly<Record<string, string>>;
}

type Told = Required<RunOptions> & { readonly words: readonly string[] };

/** The commands of the program in a thread beside the tests. */
declare const program: {
  readonly runWaiting: (told: Told) => Run;
  readonly runBeside: (told: Told) => Promise<Run>;
};

/** What Node reads when it starts, and not again. */
function isReadAtStart(env: RunOptions['env'] = {}): boolean {
  return 'TZ' in env || 'NODE_EXTRA_CA_CERTS' in env;
}

const built = new Map<string, TestFolder>();

/** A temporary folder with files in it, and the commands of the program run there. */
export class TestFolder {
  readonly path = mkdtempSync(join(tmpdir(), 'inscriba-'));

  /** A project with one message, the newsletter written out, and the styles and pictures of the sample project. */
  static sampleProject(): TestFolder {
    const folder = new TestFolder();
    cpSync(join(repository, 'test/fixtures/newsletter'), folder.path, { recursive: true });
    for (const name of ['styles', 'images'])
      cpSync(join(repository, 'demo', name), join(folder.path, name), { recursive: true });
    return folder;
  }

  /** A copy of the sample project that ships. */
  static demoProject(): TestFolder {
    const folder = new TestFolder();
    cpSync(join(repository, 'demo'), folder.path, { recursive: true });
    return folder;
  }

  /** A copy of the sample project with its outputs; it is built once for all tests of a file. */
  static builtProject(): TestFolder {
    return TestFolder.built('sample', () => TestFolder.sampleProject());
  }

  /** A copy of the project that ships with its outputs. */
  static builtDemo(): TestFolder {
    return TestFolder.built('demo', () => TestFolder.demoProject());
  }

  private static built(name: string, make: () => TestFolder): TestFolder {
    const model = built.get(name) ?? make();
    if (!built.has(name)) model.run(['build']);
    built.set(name, model);
    const folder = new TestFolder();
    cpSync(model.path, folder.path, { recursive: true });
    return folder;
  }

  write(files: Readonly<Record<string, string | Uint8Array>>): this {
    for (const [name, content] of Object.entries(files)) {
      mkdirSync(dirname(join(this.path, name)), { recursive: true });
      writeFileSync(join(this.path, name), content);
    }
    return this;
  }

  delete(name: string): this {
    rmSync(join(this.path, name));
    return this;
  }

  read(name: string): string {
    return readFileSync(join(this.path, name), 'utf8');
  }

  bytes(name: string): Buffer {
    return readFileSync(join(this.path, name));
  }

  /** Replaces a text in a file; it has to be there. */
  change(name: string, from: string, to: string): this {
    const text = this.read(name);
    if (!text.includes(from)) throw new Error(`${name} does not hold ${from}`);
    return this.write({ [name]: text.replace(from, to) });
  }

  /** Runs a command here, without starting the program. */
  run(words: readonly string[], options: RunOptions = {}): Run {
    return isReadAtStart(options.env) ? this.runProgram(words, options) : program.runWaiting(this.told(words, options));
  }

  /** Runs a command beside the test, which can answer it meanwhile. */
  runBeside(words: readonly string[], env: Readonly<Record<string, string>> = {}): Promise<Run> {
    return isReadAtStart(env) ? this.runProgramBeside(words, env) : program.runBeside(this.told(words, { env }));
  }

  private async runProgramBeside(words: readonly string[], env: Readonly<Record<string, string>>): Promise<Run> {
    const child = spawn(process.execPath, [programFile, ...words], {
      cwd: this.path,
      env: { ...process.env, NO_COLOR: '1', ...env },
    });
    const said = { out: '', err: '' };
    child.stdout.on('data', (chunk: Buffer) => (said.out += chunk.toString()));
    child.stderr.on('data', (chunk: Buffer) => (said.err += chunk.toString()));
    const code = await new Promise<number | null>((resolve) => child.once('close', resolve));
    return { code, ...said };
  }

  private told(words: readonly string[], { input = '', folder = '.', env = {} }: RunOptions): Told {
    return { words, folder: join(this.path, folder), input, env };
  }

  /** Starts the built program, as a user does, and waits for its end. */
  runProgram(words: readonly string[], { input = '', folder = '.', env = {} }: RunOptions = {}): Run {
    const { status, stdout, stderr } = spawnSync(process.execPath, [programFile, ...words], {
      cwd: join(this.path, folder),
      input,
      encoding: 'utf8',
      env: { ...process.env, NO_COLOR: '1', ...env },
    });
    return { code: status, out: stdout, err: stderr };
  }

  /** Starts the built program here, to run until it is stopped. */
  start(words: readonly string[]): RunningProgram {
    return new RunningProgram(
      spawn(process.execPath, [programFile, ...words], { cwd: this.path, env: { ...process.env, NO_COLOR: '1' } }),
    );
  }

  remove(): void {
    rmSync(this.path, { recursive: true, force: true });
  }
}

/** How long a running program may take to say what is waited for, in milliseconds. */
const PATIENCE = 15_000;

/** A program that runs beside the test. */
export class RunningProgram {
  err = '';
  #from = 0;
  readonly #ended: Promise<number | null>;

  constructor(private readonly child: ChildProcessWithoutNullStreams) {
    child.stderr.on('data', (chunk: Buffer) => (this.err += chunk.toString()));
    this.#ended = new Promise((resolve) => child.once('exit', (code) => resolve(code)));
  }

  /** Waits until it says something, after what was waited for before. */
  async says(pattern: RegExp): Promise<void> {
    const until = Date.now() + PATIENCE;
    for (;;) {
      const match = pattern.exec(this.err.slice(this.#from));
      if (match !== null) {
        this.#from += match.index + match[0].length - 1;
        return;
      }
      if (Date.now() > until) {
        this.child.kill('SIGKILL');
        throw new Error(`${String(pattern)} was not said:\n${this.err}`);
      }
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
  }

  /** Stops it as Ctrl-C does; gives its exit code. */
  async stop(): Promise<number | null> {
    this.child.kill('SIGINT');
    return this.#ended;
  }
}
