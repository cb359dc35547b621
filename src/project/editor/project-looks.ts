import { isAbsolute, join } from 'node:path';
import { identityOf, type Finding } from '../../core/findings/finding.js';
import { htmlNames, messageFiles } from '../load/message-names.js';
import { concernsAll } from '../watch/watch-project.js';
import { fileKind } from './file-kind.js';
import type { Looked, WorkerDesk } from './worker-desk.js';

/** Is told what is wrong with a file, whenever that is another than before. */
export type TellFindings = (path: string, findings: readonly Finding[]) => void;

/** A message, and what is known of it. */
interface MessageState {
  /** Null as long as nobody has looked at it. */
  inputs: ReadonlySet<string> | null;
  findings: readonly Finding[];
  isStale: boolean;
  /** The files that have changed since somebody looked: what was found in them stands elsewhere by now. */
  readonly dirty: Set<string>;
}

/** What is wrong with the open files of a project: looked at again whenever something changes, what is typed last first. */
export class ProjectLooks {
  readonly #messages = new Map<string, MessageState>();
  /** Open files by themselves, null until they are looked at. */
  readonly #alone = new Map<string, readonly Finding[] | null>();
  /** What each message read when it was looked at last, also of those that nobody wants any more. */
  readonly #uses = new Map<string, ReadonlySet<string>>();
  readonly #told = new Map<string, string>();
  readonly #open = new Set<string>();
  /** What has changed since the look that is under way was begun. */
  #changed = new Set<string>();
  #state = 0;
  #latest = '';
  #running: Promise<void> | null = null;
  #isClosed = false;
  #hasNews = false;
  /** The names of parts and frames, as they were read last. */
  #names: string | null = null;
  #mayHaveNews = true;

  constructor(
    readonly folder: string,
    private readonly texts: ReadonlyMap<string, string>,
    private readonly desk: WorkerDesk,
    private readonly tell: TellFindings,
  ) {}

  /** A file of the project is opened in the editor. */
  opened(path: string): void {
    this.#open.add(path);
    this.change([path]);
  }

  /** A file of the project is closed there. */
  closed(path: string): void {
    this.#open.delete(path);
    this.change([path]);
  }

  hasOpen(): boolean {
    return this.#open.size > 0;
  }

  /** Learns that files have changed, in the editor or on the disk. */
  change(paths: readonly string[]): void {
    const kinds = paths.map((path) => fileKind(path, this.folder));
    if (kinds.some((kind) => kind === 'part' || kind === 'frame')) this.#mayHaveNews = true;
    if (paths.some((path) => concernsAll(path, this.folder))) this.forgetAll();
    for (const path of paths) this.#changed.add(path);
    for (const message of this.#messages.values()) {
      if (message.inputs !== null && !paths.some((path) => message.inputs?.has(path) === true)) continue;
      message.isStale = true;
      paths.forEach((path) => message.dirty.add(path));
    }
    for (const path of paths) if (this.#alone.has(path)) this.#alone.set(path, null);
    this.#latest = paths.find((path) => this.#open.has(path)) ?? this.#latest;
    this.run();
  }

  /** Parts and frames are known by their names: one that comes or goes concerns all messages. */
  private async readNames(): Promise<void> {
    this.#mayHaveNews = false;
    const lists = await Promise.all(['parts', 'frames'].map((folder) => htmlNames(this.folder, folder)));
    const names = JSON.stringify(lists);
    if (this.#names !== null && this.#names !== names) this.forgetAll();
    this.#names = names;
  }

  private forgetAll(): void {
    this.#state += 1;
    for (const message of this.#messages.values()) message.isStale = true;
    for (const path of this.#alone.keys()) this.#alone.set(path, null);
  }

  /** Resolves when all that is open has been looked at as it stands. */
  async settled(): Promise<void> {
    while (this.#running !== null) await this.#running;
  }

  close(): void {
    this.#isClosed = true;
  }

  private run(): void {
    this.#hasNews = true;
    this.#running ??= this.work().finally(() => {
      this.#running = null;
      // What came when all had been looked at already.
      if (this.#hasNews && !this.#isClosed) this.run();
    });
  }

  private async work(): Promise<void> {
    // Keys that come in one breath are looked at together.
    await new Promise((resolve) => setTimeout(resolve, QUIET_TIME));
    while (!this.#isClosed) {
      this.#hasNews = false;
      if (this.#mayHaveNews) await this.readNames();
      const message = await this.nextMessage();
      const file = message === null ? this.nextFile() : null;
      if (message !== null) await this.lookAtMessage(message);
      else if (file !== null) await this.lookAtFile(file);
      else if (!this.hasNews()) break;
    }
    if (this.#isClosed) return;
    this.publish();
  }

  /** Whether anything has changed meanwhile. */
  private hasNews(): boolean {
    return this.#hasNews;
  }

  private async nextMessage(): Promise<string | null> {
    const wanted = await this.wanted();
    for (const path of this.#messages.keys()) if (!wanted.includes(path)) this.#messages.delete(path);
    for (const path of wanted)
      if (!this.#messages.has(path))
        this.#messages.set(path, { inputs: null, findings: [], isStale: true, dirty: new Set() });
    const stale = wanted.filter((path) => this.#messages.get(path)?.isStale === true);
    const rank = (path: string): number => (path === this.#latest ? 0 : this.#open.has(path) ? 1 : 2);
    const [next] = stale.sort((a, b) => rank(a) - rank(b));
    return next ?? null;
  }

  /** Open messages; and where something open is shared by messages, those that use it. */
  private async wanted(): Promise<string[]> {
    const open = [...this.#open].filter((path) => fileKind(path, this.folder) === 'message');
    const shared = [...this.#open].filter((path) =>
      /^(?:part|frame|style sheet|data|text)$/.test(fileKind(path, this.folder) ?? ''),
    );
    if (shared.length === 0) return open;
    const all = (await messageFiles(this.folder)).map(({ path }) => path);
    const using = all.filter((path) => {
      const inputs = this.#uses.get(path) ?? null;
      return inputs === null || shared.some((file) => inputs.has(file));
    });
    return [...new Set([...open, ...using])];
  }

  private async lookAtMessage(path: string): Promise<void> {
    const looked = await this.look('message', path);
    const message = this.#messages.get(path);
    const { inputs, findings } = looked;
    this.#uses.set(path, inputs);
    if (message === undefined) return;
    message.inputs = inputs;
    if ([...this.#changed].some((changed) => inputs.has(changed) || concernsAll(changed, this.folder))) return;
    message.findings = findings;
    message.isStale = false;
    message.dirty.clear();
    this.publish();
  }

  /** An open file that no message has read, or that is none of theirs. */
  private nextFile(): string | null {
    for (const path of [...this.#alone.keys()]) if (!this.isAlone(path)) this.#alone.delete(path);
    for (const path of this.#open) if (this.isAlone(path) && (this.#alone.get(path) ?? null) === null) return path;
    return null;
  }

  private isAlone(path: string): boolean {
    const kind = fileKind(path, this.folder);
    if (!this.#open.has(path) || kind === null || kind === 'message') return false;
    if (kind === 'config' || kind === 'dialect') return true;
    return ![...this.#messages.values()].some(({ inputs }) => inputs?.has(path) === true);
  }

  private async lookAtFile(path: string): Promise<void> {
    const looked = await this.look('file', path);
    if ([...this.#changed].some((changed) => changed === path || concernsAll(changed, this.folder))) return;
    this.#alone.set(path, looked.findings);
  }

  private async look(kind: 'message' | 'file', path: string): Promise<Looked> {
    this.#changed = new Set();
    return this.desk.look({ kind, path, folder: this.folder, state: this.#state }, this.texts);
  }

  /** Tells what is wrong with each file, where that is another than was told before. */
  private publish(): void {
    const byFile = new Map<string, Map<string, Finding>>();
    const add = (path: string, item: Finding): void => {
      const known = byFile.get(path) ?? new Map<string, Finding>();
      byFile.set(path, known.set(identityOf(item), item));
    };
    for (const [path, { findings, dirty }] of this.#messages)
      for (const item of findings) {
        const at = item.place === null ? path : this.pathOf(item.place.source.name);
        if (!dirty.has(at)) add(at, item);
      }
    for (const [path, findings] of this.#alone)
      for (const item of findings ?? []) add(item.place === null ? path : this.pathOf(item.place.source.name), item);
    for (const path of new Set([...this.#told.keys(), ...byFile.keys()]))
      this.tellOf(path, [...(byFile.get(path)?.values() ?? [])]);
  }

  private tellOf(path: string, findings: readonly Finding[]): void {
    const told = JSON.stringify(
      findings.map((item) => [identityOf(item), item.place?.span, (item.uses ?? []).map(({ span }) => span)]),
    );
    if ((this.#told.get(path) ?? '[]') === told) return;
    if (findings.length === 0) this.#told.delete(path);
    else this.#told.set(path, told);
    this.tell(path, findings);
  }

  /** Some findings call files by their paths from the project. */
  private pathOf(name: string): string {
    return isAbsolute(name) ? name : join(this.folder, name);
  }
}

/** Keys come this fast when somebody types, in ms; what is longer is a pause. */
const QUIET_TIME = 5;
