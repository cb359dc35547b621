import { relative } from 'node:path';
import { identityOf, isError } from '../../../core/findings/finding.js';
import { buildMessages, type BuildResult } from '../../../project/build/build.js';
import type { BuildRequest } from '../../../project/build/outcome.js';
import { loadConfig } from '../../../project/config/config.js';
import { refreshEditorFiles } from '../../../project/new/editor-files.js';
import { messageFiles } from '../../../project/load/message-names.js';
import { messageNameOf } from '../../../project/visit/choose-messages.js';
import type { MessageInputs } from '../../../project/visit/visit-messages.js';
import { concernsAll, watchProject } from '../../../project/watch/watch-project.js';
import { describeFailures } from '../../output/outcomes.js';
import type { Io } from '../../io/io.js';
import { countFindings, printFindings } from '../../output/print-findings.js';
import type { CommonOptions } from '../../io/command.js';

/**
 * `build --watch`, after the first build: rebuilds what a change touches, until the process is stopped. A broken state on
 * the way is told, and the next change is awaited.
 */
export async function watchCommand(
  request: BuildRequest,
  first: BuildResult,
  options: CommonOptions,
  io: Io,
): Promise<number> {
  const rebuilder = new Rebuilder(request, first, options, io);
  const { folder } = request.config;
  const watching = await watchProject(folder, request.outFolder, (paths) => rebuilder.change(paths));
  io.err(`Watching ${relative(io.folder, folder) || '.'}; Ctrl-C stops.\n`);
  await io.stopped();
  await watching.close();
  io.err('Stopped.\n');
  return 130;
}

class Rebuilder {
  #request: BuildRequest;
  #known: readonly string[] = [];
  readonly #inputs = new Map<string, MessageInputs>();
  readonly #told: Set<string>;

  constructor(
    request: BuildRequest,
    first: BuildResult,
    private readonly options: CommonOptions,
    private readonly io: Io,
  ) {
    this.#request = { ...request, isFresh: false };
    this.learn(first);
    this.#told = new Set(first.findings.map(identityOf));
    this.#known = [...first.inputs.keys()];
  }

  async change(paths: readonly string[]): Promise<void> {
    const started = performance.now();
    const { config } = this.#request;
    const all = paths.some((path) => concernsAll(path, config.folder));
    if (all && !(await this.reload())) return;
    const files = await messageFiles(config.folder);
    const names = files.map(({ name }) => name).filter((name) => this.isWanted(name));
    const added = names.filter((name) => !this.#known.includes(name));
    this.#known = names;
    const touched = names.filter(
      (name) => all || added.includes(name) || paths.some((path) => this.#inputs.get(name)?.has(path) === true),
    );
    if (paths.some((path) => path.includes('/parts/'))) await refreshEditorFiles(config.folder);
    if (touched.length === 0) return;
    const result = await buildMessages({ ...this.#request, messages: touched });
    this.learn(result);
    // A file that was saved as it was changes nothing.
    if (result.outcomes.length > 0 && result.outcomes.every(({ isUnchanged }) => isUnchanged)) return;
    const causes = paths.filter((path) => all || files.some((file) => file.path === path) || this.isRead(path));
    this.tell(result, touched, causes, performance.now() - started);
  }

  private isRead(path: string): boolean {
    return [...this.#inputs.values()].some((inputs) => inputs.has(path));
  }

  private isWanted(name: string): boolean {
    return this.#request.messages.length === 0 || this.#request.messages.map(messageNameOf).includes(name);
  }

  private async reload(): Promise<boolean> {
    const { config, findings } = await loadConfig(this.#request.config.folder);
    printFindings(findings, this.io, this.options.color);
    if (config === null) {
      this.io.err('Not rebuilt: inscriba.yaml has errors; earlier output stays as it was.\n');
      return false;
    }
    this.#request = { ...this.#request, config };
    return true;
  }

  private learn({ inputs }: BuildResult): void {
    for (const [name, files] of inputs) this.#inputs.set(name, files);
  }

  private tell(
    { outcomes, findings }: BuildResult,
    touched: readonly string[],
    paths: readonly string[],
    time: number,
  ): void {
    // What is no error was told when it came up; it would only hide what is new.
    const telling = findings.filter((item) => isError(item) || !this.#told.has(identityOf(item)));
    for (const item of findings) this.#told.add(identityOf(item));
    printFindings(telling, this.io, this.options.color);
    const shown = paths.map((path) => relative(this.#request.config.folder, path));
    const because =
      shown.length > 3 ? `${shown.slice(0, 3).join(', ')} and ${shown.length - 3} more` : shown.join(', ');
    const failures = outcomes.filter(({ written }) => written === null);
    const what =
      findings.some(isError) && failures.length > 0
        ? `not rebuilt: ${describeFailures(failures)} (${countFindings(findings)})`
        : `rebuilt ${touched.join(', ')}`;
    this.io.err(`${what}, as ${because} changed, in ${Math.round(time)} ms\n`);
  }
}
