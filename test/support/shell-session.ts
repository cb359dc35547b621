import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { chmodSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { programFile, repository, TestFolder } from './project.js';

/** How long a command that stays may take to say what a page shows, in milliseconds. */
const PATIENCE = 60_000;

/** Commands that stay until they are stopped. */
const stays = /^node server|^inscriba (?:standin|preview(?!.*--shots)|build.*--watch)|&$/;

let built: TestFolder | null = null;

/** The sample project with its outputs, made once. */
function builtDemo(): string {
  if (built !== null) return built.path;
  built = TestFolder.demoProject();
  for (const path of ['out', 'deliveries.json']) rmSync(join(built.path, path), { recursive: true, force: true });
  built.runProgram(['build', '--quiet']);
  return built.path;
}

/** Leaves nothing of it behind. */
export function removeBuiltDemo(): void {
  built?.remove();
  built = null;
}

/** How long a command may go on after what it says last, in ms. */
const LAST_WORDS = 300;

/** A shell in an empty folder, whose folder and environment go on from command to command, with the program on its PATH. */
export class ShellSession {
  /** The folder that it begins in. */
  readonly folder = new TestFolder();
  readonly #own = new TestFolder();
  readonly #running: ChildProcess[] = [];

  constructor() {
    const bin = join(this.#own.path, 'bin');
    mkdirSync(bin);
    this.#program('inscriba', `exec '${process.execPath}' '${programFile}' "$@"`);
    // What opens a browser on a desktop opens none here.
    this.#program('xdg-open', 'exit 0');
    this.#own.write({
      cwd: this.folder.path,
      env: `export PATH='${bin}':"$PATH" NO_COLOR=1 PACKAGE='${repository}' BUILT_DEMO='${builtDemo()}'`,
    });
  }

  #program(name: string, script: string): void {
    const file = join(this.#own.path, 'bin', name);
    writeFileSync(file, `#!/bin/sh\n${script}\n`);
    chmodSync(file, 0o755);
  }

  #script(command: string): string {
    const [cwd, env] = [join(this.#own.path, 'cwd'), join(this.#own.path, 'env')];
    return `. '${env}'; cd "$(cat '${cwd}')"; exec 2>&1\n${command}\ncode=$?; pwd > '${cwd}'; export -p > '${env}'; exit $code`;
  }

  /** The folder that it is in now. */
  get place(): string {
    return this.#own.read('cwd').trim();
  }

  /** A file of the folder that it is in. */
  read(path: string): string {
    return readFileSync(join(this.place, path), 'utf8');
  }

  /** Writes a file there, with the folders that it needs. */
  write(path: string, content: string): void {
    const file = join(this.place, path);
    mkdirSync(dirname(file), { recursive: true });
    writeFileSync(file, content);
  }

  /** Runs a command line; one that stays is left running once `isDone` holds for what it says. */
  async run(
    command: string,
    isDone: (said: string) => boolean,
  ): Promise<{ readonly code: number; readonly said: string }> {
    if (stays.test(command)) return this.#start(command, isDone);
    const { status, stdout } = spawnSync('bash', ['-c', this.#script(command)], { encoding: 'utf8' });
    return { code: status ?? -1, said: stdout };
  }

  async #start(command: string, isDone: (said: string) => boolean): Promise<{ code: number; said: string }> {
    const script = `. '${join(this.#own.path, 'env')}'; cd '${this.place}'; exec 2>&1; exec ${command.replace(/&$/, '')}`;
    const child = spawn('bash', ['-c', script], { stdio: ['ignore', 'pipe', 'ignore'] });
    this.#running.push(child);
    let said = '';
    child.stdout.on('data', (chunk: Buffer) => (said += chunk.toString()));
    const until = Date.now() + PATIENCE;
    while ((said === '' || !isDone(said)) && Date.now() < until && child.exitCode === null)
      await new Promise((resolve) => setTimeout(resolve, 20));
    // One that has ended did not stay; what it said may have been its last words.
    await new Promise((resolve) => setTimeout(resolve, LAST_WORDS));
    return { code: child.exitCode === null ? 0 : child.exitCode || -1, said };
  }

  /** Stops what still runs, and leaves nothing behind. */
  async end(): Promise<void> {
    await Promise.all(
      this.#running.map(async (child) => {
        if (child.exitCode !== null) return;
        const ended = new Promise((resolve) => child.once('exit', resolve));
        child.kill('SIGINT');
        await ended;
      }),
    );
    this.folder.remove();
    this.#own.remove();
  }
}
