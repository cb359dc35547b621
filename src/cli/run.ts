import { Command, CommanderError, Option } from 'commander';
import type { Io } from './io.js';
import { version } from './version.js';

/** What every command may be told. */
export interface CommonOptions {
  readonly quiet: boolean;
  readonly color: boolean;
}

/**
 * Runs Inscriba with the words after its name, and returns the exit code: 0 done, 1 done with errors found, 2 wrong usage
 * or configuration, 70 a defect of Inscriba itself.
 */
export async function run(words: readonly string[], io: Io): Promise<number> {
  let code = 0;
  const program = makeProgram(io, (result) => {
    code = result;
  });
  try {
    await program.parseAsync([...words], { from: 'user' });
    return code;
  } catch (error) {
    if (error instanceof CommanderError) return error.exitCode === 0 ? 0 : 2;
    const detail = error instanceof Error ? (error.stack ?? error.message) : String(error);
    io.err(
      `inscriba: this is a defect of Inscriba itself, not of your files.\nPlease report it with the command that you ran, the file if you may share it, and this:\n\n  inscriba ${version()}, Node ${process.version}\n  ${detail.split('\n').slice(0, 4).join('\n  ')}\n`,
    );
    return 70;
  }
}

type Finish = (code: number) => void;

function makeProgram(io: Io, finish: Finish): Command {
  const program = new Command('inscriba')
    .description('Ordinary HTML and CSS in; responsive, table-based email, ready to import, out.')
    .version(version(), '--version', 'print the version')
    .helpOption('-h, --help', 'print help')
    .option('--quiet', 'print findings only, no summaries')
    .option('--no-color', 'print without colours')
    .showHelpAfterError('Run it with --help to see what it takes.')
    .exitOverride()
    .configureOutput({ writeOut: (text) => io.out(text), writeErr: (text) => io.err(text) });
  const common = (): CommonOptions => ({
    quiet: program.opts<{ quiet?: boolean }>().quiet === true,
    color: io.color && program.opts<{ color: boolean }>().color,
  });
  addBuild(program, io, common, finish);
  addPack(program, io, common, finish);
  addInline(program, io, common, finish);
  addText(program, io, common, finish);
  addDemo(program, io, common, finish);
  return program;
}

function addBuild(program: Command, io: Io, common: () => CommonOptions, finish: Finish): void {
  inherit(program.command('build'))
    .summary('compile messages to finished HTML, text and pictures')
    .description(
      'Compiles messages of the project to table-based HTML with inlined styles, its plain-text version, pictures and a manifest.',
    )
    .argument('[message...]', 'names of messages; all where none is given')
    .option('--to <destination...>', 'only for these destinations of inscriba.yaml')
    .option('--out <folder>', 'the folder that outputs go below (default: out in the project)')
    .addHelpText('after', examples('inscriba build', 'inscriba build may-newsletter --to members'))
    .action(async (messages: string[], options: { to?: string[]; out?: string }) => {
      const { buildCommand } = await import('./build.js');
      finish(
        await buildCommand({ messages, to: options.to ?? [], out: options.out ?? null, pack: false, ...common() }, io),
      );
    });
}

function addPack(program: Command, io: Io, common: () => CommonOptions, finish: Finish): void {
  inherit(program.command('pack'))
    .summary('build, and make the package that the platform imports')
    .description(
      'Builds messages and packs each for import: HTML, text, pictures, manifest, and a card that says what to paste where.',
    )
    .argument('[message...]', 'names of messages; all where none is given')
    .option('--to <destination...>', 'only for these destinations (default: those whose platform imports an archive)')
    .option('--out <folder>', 'the folder that outputs go below (default: out in the project)')
    .addHelpText('after', examples('inscriba pack', 'inscriba pack may-newsletter --to members'))
    .action(async (messages: string[], options: { to?: string[]; out?: string }) => {
      const { buildCommand } = await import('./build.js');
      finish(
        await buildCommand({ messages, to: options.to ?? [], out: options.out ?? null, pack: true, ...common() }, io),
      );
    });
}

function addInline(program: Command, io: Io, common: () => CommonOptions, finish: Finish): void {
  inherit(program.command('inline'))
    .summary('move styles from style sheets into style attributes')
    .description(
      'Moves what style sheets say into style attributes, in any HTML file. Every byte that has no part in that stays as it is.',
    )
    .argument('<file.html...>', 'HTML files; - reads standard input')
    .option('--out <path>', 'the output file, or the folder for several (default: standard output)')
    .option('--css <file...>', 'style sheets to add before those of the document')
    .option('--keep-head', 'leave in the head what was inlined, too')
    .option('--dialect <name>', 'the dialect of the template tags in the file (default: all that are known)')
    .addHelpText(
      'after',
      examples(
        'inscriba inline messages/may-newsletter.html --out inlined.html',
        'inscriba inline - < messages/may-newsletter.html > inlined.html',
      ),
    )
    .action(
      async (files: string[], options: { out?: string; css?: string[]; keepHead?: boolean; dialect?: string }) => {
        const { inlineCommand } = await import('./inline.js');
        const request = {
          files,
          out: options.out ?? null,
          css: options.css ?? [],
          keepHead: options.keepHead === true,
          dialect: options.dialect ?? null,
        };
        finish(await inlineCommand({ ...request, ...common() }, io));
      },
    );
}

function addText(program: Command, io: Io, common: () => CommonOptions, finish: Finish): void {
  inherit(program.command('text'))
    .summary('write the plain-text version of an HTML file')
    .description(
      'Writes the plain-text version of any HTML file: what a reader sees, in order, with the addresses of its links.',
    )
    .argument('<file.html...>', 'HTML files; - reads standard input')
    .option('--out <path>', 'the output file, or the folder for several (default: standard output)')
    .addOption(new Option('--width <columns>', 'columns that a line may take').default(72).argParser(readWidth))
    .addOption(
      new Option('--links <how>', 'addresses of links: numbered notes, beside the text, or none')
        .choices(['notes', 'beside', 'none'])
        .default('notes'),
    )
    .addHelpText(
      'after',
      examples(
        'inscriba text out/members/may-newsletter/index.html',
        'inscriba text --links beside --width 60 messages/may-newsletter.html',
      ),
    )
    .action(async (files: string[], options: { out?: string; width: number; links: 'notes' | 'beside' | 'none' }) => {
      const { textCommand } = await import('./text.js');
      finish(
        await textCommand(
          { files, out: options.out ?? null, width: options.width, links: options.links, ...common() },
          io,
        ),
      );
    });
}

function addDemo(program: Command, io: Io, common: () => CommonOptions, finish: Finish): void {
  inherit(program.command('demo'))
    .summary('build and pack the sample project')
    .description(
      'Builds and packs the sample project, the mails of the Alder Lane Tool Library, and says what to look at.',
    )
    .option('--out <folder>', 'the folder that outputs go below', 'out')
    .addHelpText('after', examples('inscriba demo', 'inscriba demo --out /tmp/alder-lane'))
    .action(async (options: { out: string }) => {
      const { demoCommand } = await import('./demo.js');
      finish(await demoCommand({ out: options.out, ...common() }, io));
    });
}

/** Subcommands print and end as the program does. */
function inherit(command: Command): Command {
  return command.helpOption('-h, --help', 'print help');
}

function examples(...lines: string[]): string {
  return `\nExamples:\n${lines.map((line) => `  ${line}`).join('\n')}`;
}

function readWidth(value: string): number {
  const width = Number(value);
  if (!Number.isInteger(width) || width < 20 || width > 998) {
    throw new CommanderError(
      2,
      'inscriba.width',
      `error: --width takes a whole number from 20 to 998, not "${value}".`,
    );
  }
  return width;
}
