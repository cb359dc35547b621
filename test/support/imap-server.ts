import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { chmodSync, chownSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { connect } from 'node:net';
import { tmpdir, userInfo } from 'node:os';
import { join } from 'node:path';
import { makeCertificate } from './certificate.js';
import { freePort } from './free-port.js';

const programs = ['/usr/sbin/dovecot', '/usr/local/sbin/dovecot'];

/** The number of the user and the group that own nothing. */
const NOBODY = 65_534;

/** Fetches a mail with another program's IMAP client. */
const fetchScript = `
import imaplib, sys
port, user, folder, number = sys.argv[1:5]
client = imaplib.IMAP4('127.0.0.1', int(port))
client.login(user, 'secret')
client.select(folder, readonly=True)
if number == 'flags':
    sys.stdout.write(repr(client.fetch('1:*', '(FLAGS)')[1]))
else:
    sys.stdout.buffer.write(client.fetch(number, '(BODY.PEEK[])')[1][0][1])
client.logout()
`;

/** A real IMAP server on this machine, with a mailbox for whoever knows the password. */
export class ImapServer {
  private constructor(
    private readonly folder: string,
    readonly port: number,
    readonly tlsPort: number,
    readonly certificate: string,
    private readonly process: ChildProcess,
  ) {}

  /** @param draftsFolder the folder that is marked as that of drafts; null for none */
  static async start(draftsFolder: string | null): Promise<ImapServer> {
    const program = programs.find((path) => existsSync(path));
    if (program === undefined) throw new Error('No Dovecot found: npm run verify installs it.');
    const folder = mkdtempSync(join(tmpdir(), 'inscriba-imap-'));
    chmodSync(folder, 0o755);
    mkdirSync(join(folder, 'mail'));
    const { key, certificate } = makeCertificate(folder);
    const [port, tlsPort] = [await freePort(), await freePort()];
    const { uid, gid, username } = userInfo();
    const asRoot = uid === 0;
    const [user, group] = asRoot
      ? ['nobody', 'nogroup']
      : [username, spawnSync('id', ['-gn'], { encoding: 'utf8' }).stdout.trim()];
    // The server serves nobody's mail as root.
    const owner = asRoot ? [NOBODY, NOBODY] : [uid, gid];
    chownSync(join(folder, 'mail'), owner[0] ?? uid, owner[1] ?? gid);
    writeFileSync(
      join(folder, 'dovecot.conf'),
      `
base_dir = ${folder}/run
state_dir = ${folder}/state
log_path = ${folder}/log
protocols = imap
listen = 127.0.0.1
ssl = yes
ssl_cert = <${certificate}
ssl_key = <${key}
disable_plaintext_auth = no
auth_failure_delay = 0
default_login_user = ${user}
default_internal_user = ${user}
default_internal_group = ${group}
mail_location = maildir:${folder}/mail/%u/mails
first_valid_uid = 0
passdb {
  driver = static
  args = password=secret
}
userdb {
  driver = static
  args = uid=${owner[0]} gid=${owner[1]} home=${folder}/mail/%u/home
}
service imap-login {
  chroot =
  inet_listener imap {
    port = ${port}
  }
  inet_listener imaps {
    port = ${tlsPort}
    ssl = yes
  }
}
service anvil {
  chroot =
}
namespace inbox {
  inbox = yes
  separator = /
  mailbox Sent {
    auto = create
  }
  ${draftsFolder === null ? '' : `mailbox "${draftsFolder}" {\n    special_use = \\Drafts\n    auto = create\n  }`}
}
`,
    );
    const child = spawn(program, ['-F', '-c', join(folder, 'dovecot.conf')], { stdio: 'ignore' });
    const server = new ImapServer(folder, port, tlsPort, certificate, child);
    await server.ready();
    return server;
  }

  /** A mail as another client gets it from the server. */
  fetch(user: string, folder: string, number: number): Buffer {
    return this.ask(user, folder, String(number));
  }

  /** The flags of all mails of a folder, as the server says them. */
  flags(user: string, folder: string): string {
    return this.ask(user, folder, 'flags').toString();
  }

  private ask(user: string, folder: string, what: string): Buffer {
    const words = ['-c', fetchScript, String(this.port), user, `"${folder}"`, what];
    const { status, stdout, stderr } = spawnSync('python3', words, { maxBuffer: 64 * 1024 * 1024 });
    if (status !== 0) throw new Error(`${stderr.toString()}\n${readFileSync(join(this.folder, 'log'), 'utf8')}`);
    return stdout;
  }

  async stop(): Promise<void> {
    const ended = new Promise((resolve) => this.process.once('exit', resolve));
    this.process.kill('SIGTERM');
    await ended;
    rmSync(this.folder, { recursive: true, force: true });
  }

  private async ready(): Promise<void> {
    for (let attempt = 0; attempt < 100; attempt += 1) {
      const answers = await new Promise<boolean>((resolve) => {
        const socket = connect(this.port, '127.0.0.1');
        socket.once('data', () => resolve(true)).once('error', () => resolve(false));
        socket.once('data', () => socket.destroy());
      });
      if (answers) return;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    throw new Error(`The IMAP server did not start:\n${readFileSync(join(this.folder, 'log'), 'utf8')}`);
  }
}
