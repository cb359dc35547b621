import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { freePort } from './free-port.js';

const program = '/usr/sbin/apache2';
const modules = '/usr/lib/apache2/modules';

/**
 * The WebDAV module of Debian's Apache, on loopback: `/mail/` shows its files to everybody; `/upload/` is the same folder for
 * those who log in as `desk` with `hammer`, `/open/` for everybody; `/sealed/` takes no file from anybody.
 */
export class WebDavServer {
  readonly files: string;
  readonly #folder: string;
  readonly #process: ChildProcess;

  private constructor(
    folder: string,
    readonly port: number,
    child: ChildProcess,
  ) {
    this.#folder = folder;
    this.files = join(folder, 'files');
    this.#process = child;
  }

  static async start(): Promise<WebDavServer> {
    const folder = mkdtempSync(join(tmpdir(), 'inscriba-dav-'));
    spawnSync('chmod', ['755', folder]);
    mkdirSync(join(folder, 'files'));
    const port = await freePort();
    const user = spawnSync('id', ['-un'], { encoding: 'utf8' }).stdout.trim();
    const asRoot = user === 'root';
    if (asRoot) spawnSync('chown', ['www-data', folder, join(folder, 'files')]);
    const hash = spawnSync('openssl', ['passwd', '-apr1', 'hammer'], { encoding: 'utf8' }).stdout.trim();
    writeFileSync(join(folder, 'users'), `desk:${hash}\n`);
    const dav = (name: string, rules: string): string =>
      `Alias /${name} ${folder}/files\n<Location /${name}>\n  Dav On\n  ${rules}\n</Location>`;
    writeFileSync(
      join(folder, 'server.conf'),
      [
        ...[
          'mpm_event',
          'authn_core',
          'authn_file',
          'authz_core',
          'authz_user',
          'auth_basic',
          'alias',
          'mime',
          'dav',
          'dav_fs',
        ].map((name) => `LoadModule ${name}_module ${modules}/mod_${name}.so`),
        `ServerName 127.0.0.1`,
        `Listen 127.0.0.1:${port}`,
        `PidFile ${folder}/pid`,
        `ErrorLog ${folder}/errors`,
        `DavLockDB ${folder}/locks`,
        'TypesConfig /dev/null',
        'AddType image/png .png',
        'AddType image/jpeg .jpg',
        'AddType image/gif .gif',
        `DocumentRoot ${folder}/files`,
        ...(asRoot ? ['User www-data', 'Group www-data'] : []),
        `<Directory ${folder}/files>\n  Require all granted\n</Directory>`,
        `Alias /mail ${folder}/files`,
        dav('upload', `AuthType Basic\n  AuthName files\n  AuthUserFile ${folder}/users\n  Require valid-user`),
        dav('open', 'Require all granted'),
        dav('sealed', 'Require all denied'),
      ].join('\n'),
    );
    const child = spawn(program, ['-f', join(folder, 'server.conf'), '-X'], { stdio: 'ignore' });
    const server = new WebDavServer(folder, port, child);
    await server.ready();
    return server;
  }

  /** An address on the server. */
  url(path: string): string {
    return `http://127.0.0.1:${this.port}/${path}`;
  }

  /** The files that it holds, by their paths. */
  list(): string[] {
    return (
      readdirSync(this.files, { recursive: true, withFileTypes: true }) as {
        isFile(): boolean;
        parentPath: string;
        name: string;
      }[]
    )
      .filter((entry) => entry.isFile())
      .map((entry) => join(entry.parentPath, entry.name).slice(this.files.length + 1))
      .sort();
  }

  bytes(path: string): Buffer {
    return readFileSync(join(this.files, path));
  }

  async stop(): Promise<void> {
    const ended = new Promise((resolve) => this.#process.once('exit', resolve));
    this.#process.kill('SIGTERM');
    await ended;
    rmSync(this.#folder, { recursive: true, force: true });
  }

  private async ready(): Promise<void> {
    for (let attempt = 0; attempt < 100; attempt += 1) {
      const answers = await fetch(this.url('mail/'), { method: 'HEAD', headers: { connection: 'close' } }).then(
        () => true,
        () => false,
      );
      if (answers) return;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    throw new Error(`The WebDAV server did not start:\n${readFileSync(join(this.#folder, 'errors'), 'utf8')}`);
  }
}
