import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { finding, type Finding } from '../core/findings/finding.js';
import { countPictures } from './count-pictures.js';
import { retryAfter } from '../web/retry-after.js';
import { callWeb, type Answer, type Call, type CallResult } from '../web/web-client.js';

/** A picture that is to have an address on the web. */
export interface HostedFile {
  /** Its path below the address that all pictures have: `<message>/<name>-<digest>.<kind>`. */
  readonly path: string;
  readonly bytes: Uint8Array;
  readonly type: string;
}

/** How a server lets pictures in. */
export interface Login {
  readonly user: string | null;
  readonly password: string | null;
  readonly token: string | null;
}

/** Where pictures are put. */
export type Upload =
  | { readonly kind: 'folder'; readonly folder: string }
  | {
      readonly kind: 'webdav' | 'put';
      /** With a slash at its end. */
      readonly url: string;
      readonly login: Login;
      /** What one request may take. */
      readonly milliseconds: number;
      /** How a user allows more time, in words. */
      readonly how: string;
    };

/** Where pictures show, and how they get there; `upload` is null where the user sees to that. */
export interface Hosting {
  /** With a slash at its end. */
  readonly baseUrl: string;
  readonly upload: Upload | null;
}

type WebUpload = Exclude<Upload, { kind: 'folder' }>;

/** What has been uploaded: the addresses that pictures have, by their digests. */
export interface UploadMemory {
  readonly find: (baseUrl: string, digest: string) => string | null;
  /** Is told of each picture as soon as its address is verified. */
  readonly add: (baseUrl: string, digest: string, url: string) => Promise<Finding | null>;
}

/** What the work needs of its surroundings. */
export interface HostTools {
  readonly memory: UploadMemory;
  /** The SHA-256 of bytes, in hexadecimal. */
  readonly digest: (bytes: Uint8Array) => string;
  /** Writes a file whole or not at all. */
  readonly write: (path: string, bytes: Uint8Array) => Promise<Finding | null>;
  /** Is told of each picture that is done. */
  readonly done: HostListener;
}

export interface HostResult {
  /** The addresses of pictures by their paths; those that failed are not among them. */
  readonly urls: ReadonlyMap<string, string>;
  readonly findings: readonly Finding[];
  readonly uploaded: number;
}

/** One picture, done. */
export type HostListener = (path: string, url: string, how: 'uploaded' | 'there already') => void;

/** So often a request is tried again where the server stumbles. */
const RETRIES = 2;
const FIRST_PAUSE = 300;

/**
 * Gives pictures addresses on the web. What the memory or the server has is not sent again; an address counts once the
 * server shows a picture of the right size there. The first failure ends the work: a second run goes on from there.
 */
export async function hostPictures(
  files: readonly HostedFile[],
  hosting: Hosting,
  tools: HostTools,
): Promise<HostResult> {
  const { upload } = hosting;
  if (upload === null || upload.kind === 'folder') return intoFolder(files, hosting, tools);
  return new Uploader(upload, hosting.baseUrl, tools).run(files);
}

async function intoFolder(
  files: readonly HostedFile[],
  { baseUrl, upload }: Hosting,
  { write, done }: HostTools,
): Promise<HostResult> {
  const urls = new Map<string, string>();
  for (const file of files) {
    if (upload?.kind === 'folder') {
      const problem = await write(join(upload.folder, file.path), file.bytes);
      if (problem !== null) return { urls, findings: [problem], uploaded: urls.size };
    }
    urls.set(file.path, addressOf(baseUrl, file.path));
    done(file.path, addressOf(baseUrl, file.path), 'uploaded');
  }
  const count = countPictures(files.length);
  const findings =
    upload?.kind === 'folder' && files.length > 0
      ? [finding('host-sync', null, { count, folder: upload.folder, url: baseUrl })]
      : [];
  return { urls, findings, uploaded: upload === null ? 0 : files.length };
}

class Uploader {
  readonly #folders = new Set<string>();
  readonly #urls = new Map<string, string>();
  readonly #findings: Finding[] = [];
  #uploaded = 0;

  constructor(
    private readonly upload: WebUpload,
    private readonly baseUrl: string,
    private readonly tools: HostTools,
  ) {}

  async run(files: readonly HostedFile[]): Promise<HostResult> {
    for (const file of files) {
      const problem = await this.host(file);
      if (problem === null) continue;
      this.#findings.push(problem);
      break;
    }
    return { urls: this.#urls, findings: this.#findings, uploaded: this.#uploaded };
  }

  private async host(file: HostedFile): Promise<Finding | null> {
    const digest = this.tools.digest(file.bytes);
    const target = addressOf(this.baseUrl, file.path);
    const remembered = this.tools.memory.find(this.baseUrl, digest);
    for (const url of new Set(remembered === null ? [target] : [remembered, target])) {
      const { failure, shows } = await this.look(url, file);
      if (failure !== null) return this.failed(url, file, failure);
      if (shows === null) return this.keep(file, digest, url, 'there already');
    }
    const problem = await this.put(file);
    if (problem !== null) return problem;
    return (await this.verify(target, file)) ?? this.keep(file, digest, target, 'uploaded');
  }

  private async keep(
    file: HostedFile,
    digest: string,
    url: string,
    how: 'uploaded' | 'there already',
  ): Promise<Finding | null> {
    this.#urls.set(file.path, url);
    if (how === 'uploaded') this.#uploaded += 1;
    this.tools.done(file.path, url, how);
    return this.tools.memory.find(this.baseUrl, digest) === url
      ? null
      : this.tools.memory.add(this.baseUrl, digest, url);
  }

  private async put(file: HostedFile): Promise<Finding | null> {
    const url = addressOf(this.upload.url, file.path);
    const missing = this.upload.kind === 'webdav' ? await this.makeFolders(file) : null;
    if (missing !== null) return missing;
    const headers = { ...authorization(this.upload.login), 'content-type': file.type };
    const result = await this.call({ method: 'PUT', url, headers, body: file.bytes });
    if (result.failure !== null) return this.failed(url, file, result.failure);
    const { status } = result.answer;
    return status >= 200 && status < 300 ? null : this.refused(url, file, status);
  }

  /** Makes the folders of a picture that are not there yet, the outermost first (RFC 4918, 9.3). */
  private async makeFolders(file: HostedFile): Promise<Finding | null> {
    const steps = file.path.split('/').slice(0, -1);
    for (const depth of steps.keys()) {
      const url = addressOf(this.upload.url, `${steps.slice(0, depth + 1).join('/')}/`);
      if (this.#folders.has(url)) continue;
      const result = await this.call({ method: 'MKCOL', url, headers: authorization(this.upload.login) });
      if (result.failure !== null) return this.failed(url, file, result.failure);
      const { status } = result.answer;
      // 405: it is there already.
      if (status !== 405 && status !== 301 && (status < 200 || status >= 300)) return this.refused(url, file, status);
      this.#folders.add(url);
    }
    return null;
  }

  /** Looks whether an address shows a picture; `shows` says in words what it shows else. */
  private async look(url: string, file: HostedFile): Promise<{ failure: Failed | null; shows: string | null }> {
    const result = await this.call({ method: 'HEAD', url });
    if (result.failure !== null) return { failure: result.failure, shows: null };
    return { failure: null, shows: otherThan(file, result.answer) };
  }

  private async verify(url: string, file: HostedFile): Promise<Finding | null> {
    let shows: string | null = null;
    for (let attempt = 0; attempt <= RETRIES; attempt += 1) {
      const looked = await this.look(url, file);
      if (looked.failure !== null) return this.failed(url, file, looked.failure);
      shows = looked.shows;
      if (shows === null) return null;
      // Some servers show a file only a moment after they took it.
      await pause(FIRST_PAUSE * 2 ** attempt);
    }
    return finding('host-unverified', null, { url, detail: shows ?? '' });
  }

  private async call(call: Omit<Call, 'milliseconds'>): Promise<CallResult> {
    for (let attempt = 0; ; attempt += 1) {
      const result = await callWeb({ ...call, milliseconds: this.upload.milliseconds });
      const wait = attempt < RETRIES ? pauseBefore(result, attempt) : null;
      if (wait === null) return result;
      await pause(wait);
    }
  }

  private failed(url: string, { path }: HostedFile, failure: Failed): Finding {
    const { host } = new URL(url);
    const seconds = String(this.upload.milliseconds / 1000);
    switch (failure.kind) {
      case 'unreachable':
        return finding('host-unreachable', null, { host, detail: failure.detail });
      case 'timeout':
        return finding('host-timeout', null, { host, seconds, how: this.upload.how });
      case 'broken':
        return finding('host-broken', null, { host, what: path });
    }
  }

  private refused(url: string, { path }: HostedFile, status: number): Finding {
    const data = { host: new URL(url).host, what: path, status: `${status}` };
    const hasLogin = this.upload.login.token !== null || this.upload.login.user !== null;
    if (status === 401)
      return finding('host-login', null, {
        ...data,
        status: hasLogin ? 'it does not know this login (401)' : 'it asks for a login (401)',
        advice: hasLogin ? 'Correct the name, password or token.' : 'Say under upload how to log in.',
      });
    if (status === 403)
      return finding('host-login', null, {
        ...data,
        status: 'this login may not write there (403)',
        advice: 'Give it the right to write into this folder on the server, or choose another folder.',
      });
    if (status === 423) return finding('host-locked', null, data);
    if (status === 507 || status === 413) return finding('host-full', null, data);
    return finding('host-answer', null, data);
  }
}

type Failed = Exclude<CallResult['failure'], null>;

/** How long to wait before a request is tried again; null where that would not help. */
function pauseBefore({ answer, failure }: CallResult, attempt: number): number | null {
  const usual = FIRST_PAUSE * 2 ** attempt;
  if (failure !== null) return failure.kind === 'broken' ? usual : null;
  const { status, headers } = answer;
  if (status !== 429 && (status < 500 || status === 507 || status === 501)) return null;
  const asked = retryAfter(headers.get('retry-after'));
  return asked === null ? usual : Math.min(asked, 30_000);
}

/** What an address shows else than a picture, in words; null where it shows it. */
function otherThan({ bytes, type }: HostedFile, { status, headers }: Answer): string | null {
  if (status < 200 || status >= 300) return `the server answers ${status}`;
  const length = headers.get('content-length');
  if (length !== undefined && Number(length) !== bytes.length) return `it has ${length} bytes, not ${bytes.length}`;
  const shown = headers.get('content-type')?.replace(/;.*$/, '').trim().toLowerCase();
  if (shown !== undefined && shown !== '' && !shown.startsWith('image/') && shown !== 'application/octet-stream')
    return `it is ${shown}, not ${type}`;
  return null;
}

function authorization({ user, password, token }: Login): Record<string, string> {
  if (token !== null) return { authorization: `Bearer ${token}` };
  if (user === null) return {};
  return { authorization: `Basic ${Buffer.from(`${user}:${password ?? ''}`).toString('base64')}` };
}

function addressOf(base: string, path: string): string {
  return base + path.split('/').map(encodeURIComponent).join('/');
}
