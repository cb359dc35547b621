import { projectFolderOf } from '../../project/files/project-folder.js';
import { readFile } from 'node:fs/promises';
import { basename, dirname, extname, join, relative, resolve } from 'node:path';
import { exitCodeOf, finding, isError, refusing, type Finding } from '../../core/findings/finding.js';
import type { Region } from '../../core/slices/pixels.js';
import { planText } from '../../core/slices/plan.js';
import { noDefaults } from '../../core/message/read-message.js';
import { drawOverview } from '../../pictures/draw-overview.js';
import { readPixels, readStillPicture } from '../../pictures/cut-picture.js';
import { noMail } from '../../project/config/config-mail.js';
import { loadConfig, type Config } from '../../project/config/config.js';
import { buildSlices, type BuiltSlices } from '../../project/build/build-slices.js';
import { boundsOf } from '../../project/load/finished-pictures.js';
import { slicesWithAlt } from '../../pictures/propose-slices.js';
import { readFailure } from '../../project/files/text-file.js';
import { writeWhole } from '../../project/files/write-file.js';
import type { Io } from '../io/io.js';
import { printFindings } from '../output/print-findings.js';
import { command, flag, text, whole, word, type CommonOptions, type Told } from '../io/command.js';
import { counted, kilobytes } from '../../core/text/amounts.js';
import { exists } from '../../project/files/exists.js';

const options = {
  plan: text('--plan <file.yaml>', 'cut as this plan says'),
  link: text('--link <url>', 'where slices lead that have no link of their own'),
  suggestAlt: flag('--suggest-alt', 'read the texts in the slices, as suggestions for their alt'),
  width: whole([20, 4000], '--width <px>', 'how wide the picture is shown (default: the width of the project, or 600)'),
  out: text('--out <folder>', 'where the slices go (default: <picture>-slices)'),
  force: flag('--force', 'propose anew, over a plan that is there'),
};

type SliceOptions = Told<typeof options> & CommonOptions & { readonly picture: string };

/** `slice`. */
export const slice = command({
  name: 'slice',
  description:
    'Proposes where to cut a drawn design: writes a plan to edit and an overview with numbers. With --plan it cuts: writes the slices and the table that shows them without a gap.',
  arguments: { picture: word('<picture>', 'the drawn design, as PNG, JPEG or WebP') },
  options,
  examples: [
    'inscriba slice images/poster.png --link https://alderlane.example/repair-day',
    'inscriba slice images/poster.png --plan images/poster.slices.yaml --out poster',
  ],
  run,
});

/** `slice`: proposes a plan, or cuts by one. */
async function run(options: SliceOptions, io: Io): Promise<number> {
  const findings: Finding[] = [];
  const path = resolve(io.folder, options.picture);
  const bytes = await readFile(path).catch((error: unknown) => {
    findings.push(readFailure(error, options.picture));
    return null;
  });
  const project = (await projectFolderOf(dirname(path))) === null ? null : await loadConfig(dirname(path));
  if (project !== null) findings.push(...project.findings);
  if (bytes !== null && !findings.some(isError)) {
    const config = project?.config ?? plainConfig(await rootOf(path, io));
    const task = { path, bytes, config, report: (item: Finding): unknown => findings.push(item) };
    await (options.plan === null ? propose(task, options, io) : cut(task, options.plan, options, io));
  }
  printFindings(findings, io, options.color);
  return exitCodeOf(findings);
}

interface SliceTask {
  readonly path: string;
  readonly bytes: Uint8Array;
  readonly config: Config;
  readonly report: (item: Finding) => unknown;
}

async function propose({ path, bytes, config, report }: SliceTask, options: SliceOptions, io: Io): Promise<void> {
  const stem = join(dirname(path), basename(path, extname(path)));
  const planFile = `${stem}.slices.yaml`;
  const shown = (file: string): string => relative(io.folder, file);
  if (!options.force && (await exists(planFile))) {
    report(finding('slice-exists', null, { path: shown(planFile) }));
    return;
  }
  const still = await readStillPicture(
    bytes,
    refusing(report, (detail) => finding('picture-unreadable', null, { path: options.picture, detail })),
  );
  if (still === null) return;
  const { facts, pixels } = still;
  const noise = facts.format === 'png' || facts.format === 'gif' ? 'none' : 'lossy';
  const bands = await slicesWithAlt(pixels, { noise, suggestAlt: options.suggestAlt }, report);
  const width = Math.min(options.width ?? config.width, pixels.width);
  const size = { width: pixels.width, height: pixels.height };
  const text = planText({ picture: basename(path), size, width, link: options.link, bands });
  const slices = bands.flat();
  const overview = await drawOverview(
    pixels,
    slices.map(({ region }) => region),
  );
  const overviewFile = `${stem}.slices.png`;
  for (const [file, content] of [
    [planFile, text],
    [overviewFile, overview],
  ] as const) {
    const problem = await writeWhole(file, content);
    if (problem !== null) return void report(problem);
  }
  if (options.quiet) return;
  io.err(`${options.picture}: ${counted(bands.length, 'band')}, ${counted(slices.length, 'slice')}\n`);
  io.err(`wrote ${shown(planFile)}\nwrote ${shown(overviewFile)}\n`);
  const open = slices.filter(({ alt }) => alt === null).length;
  io.err(
    `Look at ${shown(overviewFile)}, edit the plan${open > 0 ? ` (${open} ${open === 1 ? 'slice needs' : 'slices need'} an alt)` : ''}, then: inscriba slice ${options.picture} --plan ${shown(planFile)}\n`,
  );
}

async function cut(
  { path, bytes, config, report }: SliceTask,
  plan: string,
  options: SliceOptions,
  io: Io,
): Promise<void> {
  const stem = basename(path, extname(path));
  const folder = options.out === null ? join(io.folder, `${stem}-slices`) : resolve(io.folder, options.out);
  const built = await buildSlices({ path, plan: resolve(io.folder, plan), link: options.link, config }, report);
  if (built === null) return;
  const overviewFile = resolve(io.folder, plan).replace(/(?:\.ya?ml)?$/, '.png');
  const overview = await drawOverview(await readPixels(bytes), regionsOf(built));
  const files: [string, string | Uint8Array][] = [
    ...built.pictures.map(({ name, bytes: content }): [string, Uint8Array] => [join(folder, 'images', name), content]),
    [join(folder, 'index.html'), built.html],
    [overviewFile, overview],
  ];
  for (const [file, content] of files) {
    const problem = await writeWhole(file, content);
    if (problem !== null) return void report(problem);
  }
  if (options.quiet) return;
  const weight = built.pictures.reduce((sum, picture) => sum + picture.bytes.length, 0);
  io.err(
    `${options.picture}: ${counted(built.pictures.length, 'slice')} (${kilobytes(weight)}, the whole has ${kilobytes(bytes.length)})\n`,
  );
  io.err(`wrote ${relative(io.folder, join(folder, 'index.html'))}\nwrote ${relative(io.folder, overviewFile)}\n`);
}

function regionsOf({ plan }: BuiltSlices): Region[] {
  return plan.bands.flat().map(({ region }) => region);
}

async function rootOf(path: string, io: Io): Promise<string> {
  return (await boundsOf(path, io.folder)).root;
}

/** What counts where there is no project. */
function plainConfig(folder: string): Config {
  return {
    folder,
    name: '',
    sender: null,
    width: 600,
    fields: new Map(),
    fonts: [],
    destinations: [],
    defaults: { ...noDefaults, data: [] },
    footer: null,
    checks: {},
    mail: noMail,
    samples: new Map(),
  };
}
