import { Option, type Command } from 'commander';
import { examples, inherit, numberBetween, type Definition } from './definition.js';

/** Pictures on the web are brought up to this size, in KB. */
const MOST_KB_FETCHED = 5120;

/** The largest numbers that options take. */
const MOST_KB = 100_000;
const MOST_SECONDS = 600;

interface FileFlags {
  readonly out?: string;
  readonly dryRun?: boolean;
}

/** `images` with its subcommands. */
export function defineImages({ program, io, common, finish }: Definition): void {
  const command = inherit(program.command('images'))
    .summary('embed, host, bring home or lighten the pictures of finished HTML')
    .description(
      'Works on the pictures of finished HTML: those of elements, backgrounds and vector shapes, in comments for one engine too. Every byte outside of their addresses stays.',
    );
  const on = (name: string, summary: string, description: string): Command =>
    inherit(command.command(name))
      .summary(summary)
      .description(description)
      .argument('<file.html...>', 'files of finished HTML; - reads standard input')
      .option('--out <path>', 'the output file, or the folder for several (default: standard output)')
      .option('--dry-run', 'say what would be done, and write nothing');
  const maxKb = (what: string): Option => new Option('--max-kb <number>', what).argParser(numberBetween(1, MOST_KB));
  const timeout = (what: string): Option =>
    new Option('--timeout <seconds>', what).default(30).argParser(numberBetween(1, MOST_SECONDS));

  on(
    'embed',
    'put pictures into the HTML itself, as data',
    'Puts the pictures that lie here into the HTML itself, as data URLs: for pages and drafts. Some mail engines show none of them.',
  )
    .addOption(maxKb('leave pictures that are heavier than this where they are'))
    .addHelpText(
      'after',
      examples(
        'inscriba images embed out/members/may-newsletter/index.html --out whole.html',
        'inscriba images embed out/members/repair-day/index.html --max-kb 40 --out whole.html',
      ),
    )
    .action(async (files: string[], options: FileFlags & { maxKb?: number }) => {
      const { embedCommand } = await import('./commands/images.js');
      finish(await embedCommand({ ...fileOptions(files, options), mostBytes: bytesOf(options.maxKb) }, io));
    });

  on(
    'host',
    'put pictures on a server, and point to them there',
    'Puts the pictures that lie here on a server and points to them there. Nothing is sent twice, and no HTML is written before the server shows every picture. uploads.json keeps what was sent.',
  )
    .option('--base-url <url>', 'the address below which the pictures show')
    .option(
      '--upload <url or folder>',
      'the address that takes the files, or a folder that something syncs; INSCRIBA_UPLOAD_USER and INSCRIBA_UPLOAD_PASSWORD, or INSCRIBA_UPLOAD_TOKEN, log in',
    )
    .addOption(
      new Option('--method <name>', 'how the address takes files').choices(['webdav', 'put']).default('webdav'),
    )
    .option('--to <destination>', 'host as this destination of inscriba.yaml does, in place of the options above')
    .addOption(timeout('how long one request may take'))
    .addHelpText(
      'after',
      examples(
        'inscriba images host out/archive/may-newsletter/index.html --to partners --out hosted.html',
        'inscriba images host export.html --base-url https://img.alderlane.example/mail/ --upload /srv/pictures --out hosted.html',
      ),
    )
    .action(async (files: string[], options: FileFlags & HostFlags) => {
      const { hostCommand } = await import('./commands/images-host.js');
      const request = {
        to: options.to ?? null,
        baseUrl: options.baseUrl ?? null,
        upload: options.upload ?? null,
        method: options.method,
        seconds: options.timeout,
      };
      finish(await hostCommand({ ...fileOptions(files, options), ...request }, io));
    });

  on(
    'fetch',
    'bring pictures from the web, and point to them here',
    'Brings the pictures that finished HTML shows from the web into a folder, and points to them there.',
  )
    .option('--folder <folder>', 'where the pictures are written (default: images beside the result)')
    .addOption(maxKb('bring no picture that is heavier than this').default(MOST_KB_FETCHED))
    .addOption(timeout('how long one picture may take'))
    .option('--allow-local', 'bring pictures from this machine and private networks too')
    .addHelpText(
      'after',
      examples(
        'inscriba images fetch exported.html --out home/exported.html',
        'inscriba images fetch exported.html --max-kb 500 --timeout 10 --dry-run',
      ),
    )
    .action(
      async (
        files: string[],
        options: FileFlags & { folder?: string; maxKb: number; timeout: number; allowLocal?: boolean },
      ) => {
        const { fetchCommand } = await import('./commands/images-fetch.js');
        const limits = {
          mostBytes: options.maxKb * 1024,
          milliseconds: options.timeout * 1000,
          allowLocal: options.allowLocal === true,
        };
        finish(await fetchCommand({ ...fileOptions(files, options), folder: options.folder ?? null, limits }, io));
      },
    );

  on(
    'shrink',
    'make pictures lighter, and point to the lighter ones',
    'Writes lighter copies of the pictures that lie here: at most twice as wide as they are shown, without metadata, in sRGB, never heavier than before. Kinds that many engines do not show become PNG, JPEG or GIF.',
  )
    .option('--folder <folder>', 'where the lighter pictures are written (default: images beside the result)')
    .addOption(maxKb('code photographs more strongly until each has at most this'))
    .addHelpText(
      'after',
      examples(
        'inscriba images shrink exported.html --out light/exported.html',
        'inscriba images shrink exported.html --max-kb 80 --dry-run',
      ),
    )
    .action(async (files: string[], options: FileFlags & { folder?: string; maxKb?: number }) => {
      const { shrinkCommand } = await import('./commands/images.js');
      const request = { mostBytes: bytesOf(options.maxKb), folder: options.folder ?? null };
      finish(await shrinkCommand({ ...fileOptions(files, options), ...request }, io));
    });

  function fileOptions(files: string[], { out, dryRun }: FileFlags): FileRequest {
    return { files, out: out ?? null, dryRun: dryRun === true, ...common() };
  }
}

/** `slice`. */
export function defineSlice({ program, io, common, finish }: Definition): void {
  inherit(program.command('slice'))
    .summary('cut a drawn design into slices that are linked one by one')
    .description(
      'Proposes where to cut a drawn design: writes a plan to edit and an overview with numbers. With --plan it cuts: writes the slices and the table that shows them without a gap.',
    )
    .argument('<picture>', 'the drawn design, as PNG, JPEG or WebP')
    .option('--plan <file.yaml>', 'cut as this plan says')
    .option('--link <url>', 'where slices lead that have no link of their own')
    .option('--suggest-alt', 'read the texts in the slices, as suggestions for their alt')
    .addOption(
      new Option('--width <px>', 'how wide the picture is shown (default: the width of the project, or 600)').argParser(
        numberBetween(20, 4000),
      ),
    )
    .option('--out <folder>', 'where the slices go (default: <picture>-slices)')
    .option('--force', 'propose anew, over a plan that is there')
    .addHelpText(
      'after',
      examples(
        'inscriba slice images/poster.png --link https://alderlane.example/repair-day',
        'inscriba slice images/poster.png --plan images/poster.slices.yaml --out poster',
      ),
    )
    .action(async (picture: string, options: SliceFlags) => {
      const { sliceCommand } = await import('./commands/slice.js');
      const request = {
        picture,
        plan: options.plan ?? null,
        link: options.link ?? null,
        suggestAlt: options.suggestAlt === true,
        width: options.width ?? null,
        out: options.out ?? null,
        force: options.force === true,
      };
      finish(await sliceCommand({ ...request, ...common() }, io));
    });
}

interface SliceFlags {
  readonly plan?: string;
  readonly link?: string;
  readonly suggestAlt?: boolean;
  readonly width?: number;
  readonly out?: string;
  readonly force?: boolean;
}

type FileRequest = ReturnType<Definition['common']> & { files: string[]; out: string | null; dryRun: boolean };

interface HostFlags {
  readonly to?: string;
  readonly baseUrl?: string;
  readonly upload?: string;
  readonly method: 'webdav' | 'put';
  readonly timeout: number;
}

function bytesOf(kilobytes: number | undefined): number | null {
  return kilobytes === undefined ? null : kilobytes * 1024;
}
