import { spawnSync } from 'node:child_process';
import { cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const repository = fileURLToPath(new URL('../../..', import.meta.url));
const program = join(repository, 'dist/cli/bin.js');

/** What a run of the built program came to. */
export interface Run {
  readonly code: number | null;
  readonly out: string;
  readonly err: string;
}

let built: TestFolder | null = null;

/** A temporary folder with files in it, and the built program run there. */
export class TestFolder {
  readonly path = mkdtempSync(join(tmpdir(), 'inscriba-'));

  /** A copy of the sample project. */
  static sampleProject(): TestFolder {
    const folder = new TestFolder();
    cpSync(join(repository, 'demo'), folder.path, { recursive: true });
    return folder;
  }

  /** A copy of the sample project with its outputs; it is built once for all tests of a file. */
  static builtProject(): TestFolder {
    if (built === null) {
      built = TestFolder.sampleProject();
      built.run(['build']);
    }
    const folder = new TestFolder();
    cpSync(built.path, folder.path, { recursive: true });
    return folder;
  }

  write(files: Readonly<Record<string, string | Uint8Array>>): this {
    for (const [name, content] of Object.entries(files)) {
      mkdirSync(dirname(join(this.path, name)), { recursive: true });
      writeFileSync(join(this.path, name), content);
    }
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

  run(
    words: readonly string[],
    options: { input?: string | Uint8Array; folder?: string; env?: Record<string, string> } = {},
  ): Run {
    const { status, stdout, stderr } = spawnSync(process.execPath, [program, ...words], {
      cwd: join(this.path, options.folder ?? '.'),
      input: options.input ?? '',
      encoding: 'utf8',
      env: { ...process.env, NO_COLOR: '1', ...options.env },
    });
    return { code: status, out: stdout, err: stderr };
  }

  remove(): void {
    rmSync(this.path, { recursive: true, force: true });
  }
}
