import { join, relative, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { exitCodeOf } from '../core/finding.js';
import { buildMessages } from '../project/build.js';
import { loadConfig } from '../project/config.js';
import { describeOutcomes } from './build.js';
import type { Io } from './io.js';
import { printFindings } from './print-findings.js';
import type { CommonOptions } from './run.js';

export interface DemoOptions extends CommonOptions {
  readonly out: string;
}

const demoFolder = fileURLToPath(new URL('../../demo', import.meta.url));

/** `demo`: the whole way on the sample project. */
export async function demoCommand(options: DemoOptions, io: Io): Promise<number> {
  const { config, findings: problems } = await loadConfig(demoFolder);
  if (config === null) {
    printFindings(problems, io, options.color);
    return exitCodeOf(problems);
  }
  const outFolder = resolve(io.folder, options.out);
  const say = (line: string): void => {
    if (!options.quiet) io.err(`${line}\n`);
  };
  const near = relative(io.folder, demoFolder);
  say(`${config.name}: the sample project in ${near.startsWith('..') ? demoFolder : near}`);
  const request = { config, messages: [], destinations: [], outFolder };
  const built = await buildMessages(
    { ...request, pack: null },
    {
      done: (outcomes) => describeOutcomes(outcomes, io.folder).forEach((line) => say(`  built   ${line}`)),
    },
  );
  const packed = await buildMessages(
    { ...request, pack: { shape: null } },
    {
      done: (outcomes) => describeOutcomes(outcomes, io.folder).forEach((line) => say(`  packed  ${line}`)),
    },
  );
  const findings = [...built.findings, ...packed.findings];
  printFindings(findings, io, options.color);
  const first = packed.outcomes.find(({ message, written }) => message === 'may-newsletter' && written !== null);
  if (first?.written) {
    const folder = relative(io.folder, join(outFolder, first.destination, first.message));
    say('');
    say('Look at');
    say(`  ${join(folder, 'index.html')}  in a browser; make the window narrow`);
    say(`  ${join(folder, 'index.txt')}  its plain-text version`);
    say(
      `  ${relative(io.folder, first.written.package ?? '')}  what the platform imports; import-card.txt in it says how`,
    );
  }
  return exitCodeOf(findings);
}
