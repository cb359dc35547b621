import { join, resolve } from 'node:path';
import { exitCodeOf } from '../../../core/findings/finding.js';
import { buildMessages } from '../../../project/build/build.js';
import type { PackRequest } from '../../../project/build/outcome.js';
import { loadConfig } from '../../../project/config/config.js';
import { refreshEditorFiles } from '../../../project/new/editor-files.js';
import type { Io } from '../../io/io.js';
import { noProgress } from '../../io/progress.js';
import { countFindings, printFindings } from '../../output/print-findings.js';
import { describeFailures, describeOutcomes, describeUnchanged } from '../../output/outcomes.js';
import { command, flag, text, texts, words, type CommonOptions, type Told } from '../../io/command.js';
import { OUT_FOLDER } from '../../../project/files/project-folder.js';

/** What `build` and `pack` have in common. */
export const messagesArgument = words('[message...]', 'names of messages; all where none is given');
export const buildOptions = {
  to: texts('--to <destination...>', 'only for these destinations of inscriba.yaml'),
  out: text('--out <folder>', 'the folder that outputs go below (default: out in the project)'),
  fresh: flag('--fresh', 'build again what has not changed, too'),
};

interface BuildTask extends Told<typeof buildOptions>, CommonOptions {
  readonly messages: readonly string[];
  readonly pack: PackRequest | null;
  readonly watch: boolean;
}

/** `build`. */
export const build = command({
  name: 'build',
  description:
    'Compiles messages of the project to table-based HTML with inlined styles, its plain-text version, pictures and a manifest.',
  arguments: { messages: messagesArgument },
  options: { ...buildOptions, watch: flag('--watch', 'stay, and rebuild what a change touches') },
  examples: ['inscriba build', 'inscriba build may-newsletter --to members --watch'],
  run: (told, io) => buildTask({ ...told, pack: null }, io),
});

/** Builds messages, and packs them where that is asked for. */
export async function buildTask(options: BuildTask, io: Io): Promise<number> {
  const { config, findings: problems } = await loadConfig(io.folder);
  if (config === null) {
    printFindings(problems, io, options.color);
    return exitCodeOf(problems);
  }
  const outFolder = options.out === null ? join(config.folder, OUT_FOLDER) : resolve(io.folder, options.out);
  const { messages, to: destinations, pack, fresh: isFresh } = options;
  const request = { config, messages, destinations, outFolder, pack, isFresh };
  const bar = options.quiet ? noProgress : await io.progress();
  const result = await buildMessages(request, {
    progress: bar.show,
    done: (outcomes) => {
      if (options.quiet) return;
      bar.clear();
      for (const line of describeOutcomes(outcomes, io.folder)) io.err(`${line}\n`);
    },
  });
  bar.clear();
  const { outcomes } = result;
  const findings = [...result.findings, ...(await refreshEditorFiles(config.folder))];
  const unchanged = describeUnchanged(outcomes);
  if (unchanged !== null && !options.quiet) io.err(`${unchanged}\n`);
  if (findings.length > 0 && outcomes.some(({ written }) => written !== null)) io.err('\n');
  printFindings(findings, io, options.color);
  const failures = outcomes.filter(({ written }) => written === null);
  if (!options.quiet && findings.length > 0)
    io.err(
      `${countFindings(findings)}.${failures.length > 0 ? ` Not built: ${describeFailures(failures)}; earlier output stays as it was.` : ''}\n`,
    );
  if (options.watch && exitCodeOf(findings) !== 2) {
    const { watchCommand } = await import('./watch.js');
    return watchCommand(request, result, options, io);
  }
  return exitCodeOf(findings);
}
