import { Option } from 'commander';
import { defineImages, defineSlice } from './definitions-images.js';
import { defineCopy, defineDraft, defineProof, defineStandin } from './definitions-mail.js';
import { examples, inherit, numberBetween, type Definition } from './definition.js';
import { packageShapes, type ShapeName } from '../core/packages/shape-names.js';
import type { FooterMode } from '../core/dialects/convert/footer.js';
/** Every command, in the order of the help. What a command does is loaded when it runs. */
export const definitions: readonly ((definition: Definition) => void)[] = [
  defineNew,
  defineList,
  defineBuild,
  definePack,
  defineInline,
  defineText,
  defineConvert,
  defineImages,
  defineSlice,
  defineAdopt,
  defineProof,
  defineDraft,
  defineCopy,
  defineDialect,
  defineStandin,
  defineDemo,
];

function defineNew({ program, io, common, finish }: Definition): void {
  const command = inherit(program.command('new'))
    .summary('begin a project, a message or a part')
    .description('Begins a project, a message or a part. Nothing that is there is written over.');
  const starter = new Option('--starter <name>', 'what to begin from').choices([
    'newsletter',
    'notice',
    'receipt',
    'blank',
  ]);
  inherit(command.command('project'))
    .summary('a project that builds at once')
    .description('Makes a project that builds at once: configuration, styles, parts, and a first message.')
    .argument('<folder>', 'the folder to make; its name becomes that of the project')
    .addOption(starter.default('newsletter'))
    .option('--force', 'write over files that are there')
    .addHelpText(
      'after',
      examples('inscriba new project tool-library', 'inscriba new project tool-library --starter notice'),
    )
    .action(async (name: string, options: { starter: string; force?: boolean }) => {
      const { newProjectCommand } = await import('./commands/new.js');
      finish(await newProjectCommand({ name, ...options, force: options.force === true, ...common() }, io));
    });
  inherit(command.command('message'))
    .summary('a message, from a starter or like another')
    .description('Makes a message in the project, from a starter or like a message that is there.')
    .argument('<name>', 'its name, which is that of its file')
    .addOption(
      new Option('--starter <name>', 'what to begin from')
        .choices(['newsletter', 'notice', 'receipt', 'blank'])
        .default('blank'),
    )
    .option('--like <message>', 'begin as this message does')
    .option('--force', 'write over a message that is there')
    .addHelpText(
      'after',
      examples(
        'inscriba new message june-newsletter --like may-newsletter',
        'inscriba new message closing-early --starter notice',
      ),
    )
    .action(async (name: string, options: { starter: string; like?: string; force?: boolean }) => {
      const { newMessageCommand } = await import('./commands/new.js');
      const request = { name, starter: options.starter, like: options.like ?? null, force: options.force === true };
      finish(await newMessageCommand({ ...request, ...common() }, io));
    });
  inherit(command.command('part'))
    .summary('a part, to use in messages')
    .description('Makes a part in the project: a fragment that messages use by its name.')
    .argument('<name>', 'its name, with a hyphen: it becomes an element')
    .option('--force', 'write over a part that is there')
    .addHelpText('after', examples('inscriba new part tool-card', 'inscriba new part opening-hours --force'))
    .action(async (name: string, options: { force?: boolean }) => {
      const { newPartCommand } = await import('./commands/new.js');
      finish(await newPartCommand({ name, force: options.force === true, ...common() }, io));
    });
}

function defineList({ program, io, common, finish }: Definition): void {
  inherit(program.command('list'))
    .summary('the messages of the project, and whether they are built')
    .description(
      'Lists the messages of the project: subject, topic, keywords, editions, and for each destination whether it is built, or has changed since.',
    )
    .option('--topic <name>', 'only messages of this topic')
    .option('--keyword <word>', 'only messages with this keyword')
    .option('--json', 'as JSON')
    .addHelpText('after', examples('inscriba list', 'inscriba list --topic monthly-news --json'))
    .action(async (options: { topic?: string; keyword?: string; json?: boolean }) => {
      const { listCommand } = await import('./commands/list.js');
      const request = { topic: options.topic ?? null, keyword: options.keyword ?? null, json: options.json === true };
      finish(await listCommand({ ...request, ...common() }, io));
    });
}

function defineBuild({ program, io, common, finish }: Definition): void {
  inherit(program.command('build'))
    .summary('compile messages to finished HTML, text and pictures')
    .description(
      'Compiles messages of the project to table-based HTML with inlined styles, its plain-text version, pictures and a manifest.',
    )
    .argument('[message...]', 'names of messages; all where none is given')
    .option('--to <destination...>', 'only for these destinations of inscriba.yaml')
    .option('--out <folder>', 'the folder that outputs go below (default: out in the project)')
    .option('--watch', 'stay, and rebuild what a change touches')
    .addHelpText('after', examples('inscriba build', 'inscriba build may-newsletter --to members --watch'))
    .action(async (messages: string[], options: { to?: string[]; out?: string; watch?: boolean }) => {
      const { buildCommand } = await import('./commands/build.js');
      const request = { messages, to: options.to ?? [], out: options.out ?? null, watch: options.watch === true };
      finish(await buildCommand({ ...request, pack: null, ...common() }, io));
    });
}

function definePack({ program, io, common, finish }: Definition): void {
  inherit(program.command('pack'))
    .summary('build, and make the package that the platform imports')
    .description(
      'Builds messages and packs each for import: HTML, text, pictures, manifest, and a card that says what to paste where.',
    )
    .argument('[message...]', 'names of messages; all where none is given')
    .option('--to <destination...>', 'only for these destinations of inscriba.yaml')
    .addOption(
      new Option(
        '--shape <shape>',
        'how it is packed: a zip, a folder, style sheet and body apart, one file of HTML, or a mail (default: as the dialect says)',
      ).choices(packageShapes),
    )
    .option('--out <folder>', 'the folder that outputs go below (default: out in the project)')
    .addHelpText(
      'after',
      examples('inscriba pack may-newsletter --to members', 'inscriba pack repair-day --to archive --shape eml'),
    )
    .action(async (messages: string[], options: { to?: string[]; shape?: ShapeName; out?: string }) => {
      const { buildCommand } = await import('./commands/build.js');
      const request = { messages, to: options.to ?? [], out: options.out ?? null, watch: false };
      finish(await buildCommand({ ...request, pack: { shape: options.shape ?? null }, ...common() }, io));
    });
}

function defineInline({ program, io, common, finish }: Definition): void {
  inherit(program.command('inline'))
    .summary('move styles from style sheets into style attributes')
    .description(
      'Moves what style sheets say into style attributes, in any HTML file. Every byte that has no part in that stays as it is.',
    )
    .argument('<file.html...>', 'HTML files; - reads standard input')
    .option('--out <path>', 'the output file, or the folder for several (default: standard output)')
    .option('--css <file...>', 'style sheets to add before those of the document')
    .option('--keep-head', 'leave in the head what was inlined, too')
    .addOption(
      new Option(
        '--unused <what>',
        'what becomes of rules, fonts, keyframes and custom properties in the head that nothing uses',
      )
        .choices(['keep', 'drop'])
        .default('keep'),
    )
    .option('--dialect <name>', 'the dialect of the template tags in the file (default: all that are known)')
    .addHelpText(
      'after',
      examples(
        'inscriba inline messages/may-newsletter.html --out inlined.html',
        'inscriba inline exported.html --unused drop > inlined.html',
      ),
    )
    .action(
      async (
        files: string[],
        options: { out?: string; css?: string[]; keepHead?: boolean; unused: 'keep' | 'drop'; dialect?: string },
      ) => {
        const { inlineCommand } = await import('./commands/inline.js');
        const request = {
          files,
          out: options.out ?? null,
          css: options.css ?? [],
          keepHead: options.keepHead === true,
          dropUnused: options.unused === 'drop',
          dialect: options.dialect ?? null,
        };
        finish(await inlineCommand({ ...request, ...common() }, io));
      },
    );
}

function defineText({ program, io, common, finish }: Definition): void {
  inherit(program.command('text'))
    .summary('write the plain-text version of an HTML file')
    .description(
      'Writes the plain-text version of any HTML file: what a reader sees, in order, with the addresses of its links.',
    )
    .argument('<file.html...>', 'HTML files; - reads standard input')
    .option('--out <path>', 'the output file, or the folder for several (default: standard output)')
    .addOption(
      new Option('--width <columns>', 'columns that a line may take').default(72).argParser(numberBetween(20, 998)),
    )
    .addOption(
      new Option('--links <how>', 'addresses of links: numbered notes, beside the text, or none')
        .choices(['notes', 'beside', 'none'])
        .default('notes'),
    )
    .addHelpText(
      'after',
      examples(
        'inscriba text out/members/may-newsletter/index.html',
        'inscriba text --links beside --width 60 exported.html',
      ),
    )
    .action(async (files: string[], options: { out?: string; width: number; links: 'notes' | 'beside' | 'none' }) => {
      const { textCommand } = await import('./commands/text.js');
      finish(
        await textCommand(
          { files, out: options.out ?? null, width: options.width, links: options.links, ...common() },
          io,
        ),
      );
    });
}

function defineConvert({ program, io, common, finish }: Definition): void {
  inherit(program.command('convert'))
    .summary('write the merge tags of finished HTML as another platform does')
    .description(
      'Converts the merge tags of finished HTML from one platform’s dialect to another’s. Every byte outside of them stays; what the other cannot say is told at its place, and then nothing is written.',
    )
    .argument('<file.html...>', 'files; - reads standard input')
    .requiredOption('--to <dialect>', 'the dialect to write')
    .option('--from <dialect>', 'the dialect to read; auto finds it by its tags', 'auto')
    .option('--out <path>', 'the output file, or the folder for several (default: standard output)')
    .option('--report <file>', 'write what became of each tag: as a page where the name ends in .html, else as JSON')
    .option(
      '--fields <file>',
      'a YAML file with the platform’s names of fields; where it is not there it is written, to be filled in',
    )
    .addOption(
      new Option(
        '--footer <mode>',
        'the footer: keep it, replace it, add it where the target asks for more, or strip it',
      )
        .choices(['keep', 'replace', 'add', 'strip'])
        .default('keep'),
    )
    .option(
      '--allow-loss',
      'write also what the other cannot say in full: the sample recipient decides what stands instead',
      false,
    )
    .addHelpText(
      'after',
      examples(
        'inscriba convert out/members/repair-day/index.html --to ferrywire --out converted.html',
        'inscriba convert exported.html --from bellmoor --to neutral --report tags.json',
      ),
    )
    .action(async (files: string[], { out, report, fields, ...options }: ConvertFlags) => {
      const { convertCommand } = await import('./commands/convert.js');
      const paths = { out: out ?? null, report: report ?? null, fields: fields ?? null };
      finish(await convertCommand({ files, ...options, ...paths, ...common() }, io));
    });
}

interface ConvertFlags {
  readonly from: string;
  readonly to: string;
  readonly out?: string;
  readonly report?: string;
  readonly fields?: string;
  readonly footer: FooterMode;
  readonly allowLoss: boolean;
}

function defineAdopt({ program, io, common, finish }: Definition): void {
  inherit(program.command('adopt'))
    .summary('bring finished HTML from elsewhere into the project')
    .description(
      'Makes a message of the project from finished HTML: its tags become neutral, its pictures local, its editable pieces regions. It looks as it did.',
    )
    .argument('<file>', 'a file of HTML, a zip with one and its pictures, or a mail (.eml)')
    .option('--from <dialect>', 'the dialect of its tags; auto finds it by them', 'auto')
    .option('--as <name>', 'the name of the message (default: that of the file)')
    .option('--force', 'write over a message that is there')
    .addHelpText(
      'after',
      examples('inscriba adopt exported.zip', 'inscriba adopt exported.html --from oxbow --as spring-appeal'),
    )
    .action(async (file: string, options: { from: string; as?: string; force?: boolean }) => {
      const { adoptCommand } = await import('./commands/adopt.js');
      const request = { file, from: options.from, name: options.as ?? null, force: options.force === true };
      finish(await adoptCommand({ ...request, ...common() }, io));
    });
}

function defineDialect({ program, io, common, finish }: Definition): void {
  const command = inherit(program.command('dialect'))
    .summary('what platforms can say, and whether a dialect file is right')
    .description('Shows what the platforms of dialect files can say, and proves the files by their samples.');
  inherit(command.command('list'))
    .summary('the dialects at hand')
    .description('Lists the dialects that ship and those of the project.')
    .addHelpText('after', examples('inscriba dialect list', 'inscriba dialect list --no-color'))
    .action(async () => {
      const { dialectListCommand } = await import('./commands/dialect.js');
      finish(await dialectListCommand(common(), io));
    });
  inherit(command.command('show'))
    .summary('what a platform can and cannot say')
    .description('Shows each thing that a message may say, and how the dialect says it.')
    .argument('<name>', 'the name of a dialect, or its file')
    .addHelpText('after', examples('inscriba dialect show bellmoor', 'inscriba dialect show dialects/ours.yaml'))
    .action(async (name: string) => {
      const { dialectShowCommand } = await import('./commands/dialect.js');
      finish(await dialectShowCommand(name, common(), io));
    });
  inherit(command.command('learn'))
    .summary('draft a dialect file from exported HTML')
    .description(
      'Finds in files that a platform exported how it delimits its tags, which names it has and how its blocks are written, and drafts a dialect file.',
    )
    .argument('<file.html...>', 'exported files; the more, the better')
    .option('--name <name>', 'the name of the dialect (default: that of the output file)')
    .option('--out <file>', 'the dialect file to write (default: standard output)')
    .addHelpText(
      'after',
      examples(
        'inscriba dialect learn export-1.html export-2.html --out dialects/ours.yaml',
        'inscriba dialect learn exported.html --name ours',
      ),
    )
    .action(async (files: string[], options: { name?: string; out?: string }) => {
      const { dialectLearnCommand } = await import('./commands/dialect.js');
      finish(
        await dialectLearnCommand({ files, name: options.name ?? null, out: options.out ?? null, ...common() }, io),
      );
    });
  inherit(command.command('check'))
    .summary('prove dialect files by their samples')
    .description('Writes and reads the samples of dialect files, and tells which come out otherwise.')
    .argument('[name...]', 'names of dialects, or files; all where none is given')
    .addHelpText('after', examples('inscriba dialect check', 'inscriba dialect check dialects/ours.yaml'))
    .action(async (names: string[]) => {
      const { dialectCheckCommand } = await import('./commands/dialect.js');
      finish(await dialectCheckCommand(names, common(), io));
    });
}

function defineDemo({ program, io, common, finish }: Definition): void {
  inherit(program.command('demo'))
    .summary('build, pack and proof the sample project')
    .description(
      'Builds and packs the sample project, the mails of the Alder Lane Tool Library, proofs them to a simulated mailbox, and says what to look at.',
    )
    .option('--out <folder>', 'the folder that outputs go below', 'out')
    .addHelpText('after', examples('inscriba demo', 'inscriba demo --out /tmp/alder-lane'))
    .action(async (options: { out: string }) => {
      const { demoCommand } = await import('./commands/demo.js');
      finish(await demoCommand({ out: options.out, ...common() }, io));
    });
}
