import { readFile } from 'node:fs/promises';
import { relative, resolve } from 'node:path';
import {
  adviceForName,
  exitCodeOf,
  finding,
  withoutRepeats,
  type Finding,
  type Report,
} from '../../core/findings/finding.js';
import { nearestName } from '../../core/text/nearest.js';
import { readView, usualViews, viewWords, writeView, type View } from '../../core/views/view.js';
import { loadConfig } from '../../project/config/config.js';
import { checkBench, type CheckBench } from '../../project/check/check-bench.js';
import { ownFile } from '../../project/files/own-files.js';
import type { PreviewSource } from '../../project/preview/preview-source.js';
import { watchFolders, watchProject, type ProjectWatch } from '../../project/watch/watch-project.js';
import type { PageFiles, RunningPreview } from '../../preview/preview-server.js';
import { command, flagWithout, texts, text, wholeOr, words, type CommonOptions, type Told } from '../io/command.js';
import type { Io } from '../io/io.js';
import { printFindings } from '../output/print-findings.js';
import { isFinishedFile } from '../output/named-files.js';
import { OUT_FOLDER } from '../../project/files/project-folder.js';

const options = {
  to: texts('--to <destination...>', 'only for these destinations of inscriba.yaml'),
  port: wholeOr(
    4070,
    [0, 65_535],
    '--port <number>',
    'the port of the page; the next free one where it is taken, 0 for any',
  ),
  shots: text('--shots <folder>', 'write a PNG of each message in each view into this folder, and serve nothing'),
  view: texts(
    '--view <view...>',
    'what is written, or stands in a row at first, each view in words: "375 strict-webmail dark" (default: 700 webkit, 375 webkit, 375 strict-webmail)',
  ),
  browser: text(
    '--browser <path>',
    'the browser that makes the pictures, or is opened (default: the one of this machine)',
  ),
  open: flagWithout('shots', '--open', 'open the page in the browser of this machine'),
};

type PreviewOptions = Told<typeof options> & CommonOptions & { readonly what: readonly string[] };

/** `preview`. */
export const preview = command({
  name: 'preview',
  summary: 'show messages side by side, as they will look, while you type',
  description:
    'Shows messages in a browser of this machine until it is stopped: at several widths, as several engines read them, light, dark and inverted; each save shows at once. Finished HTML works without a project.',
  arguments: { what: words('[what...]', 'names of messages (default: all of them), or files of finished HTML') },
  options,
  examples: [
    'inscriba preview',
    'inscriba preview may-newsletter --open',
    'inscriba preview downloaded.html',
    'inscriba preview --shots shots --view "375 strict-webmail dark"',
  ],
  run,
});

/** Where what is shown comes from, what that is called, and how its changes are heard of. */
interface Shown {
  readonly source: PreviewSource;
  readonly title: string;
  readonly watch: (onChange: (paths: readonly string[]) => Promise<void>) => Promise<ProjectWatch>;
}

async function run(options: PreviewOptions, io: Io): Promise<number> {
  const findings: Finding[] = [];
  const report: Report = (item) => findings.push(item);
  const bench = await checkBench(null, report);
  const shown = bench === null ? null : await sourceFor(options, bench, io, report);
  const views = shown === null ? null : readViews(options.view, shown.source.samples(), report);
  if (shown !== null && views !== null && options.shots !== null)
    return shotsOf(shown.source, { ...options, shots: options.shots, views }, io, findings);
  const running =
    shown === null || views === null ? null : await start(shown.source, { port: options.port, views }, report);
  printFindings(findings, io, options.color);
  if (shown === null || running === null) return exitCodeOf(findings);
  const { source, title } = shown;
  const watching = await shown.watch((paths) => source.change(paths, running.open()));
  if (options.port !== 0 && running.port !== options.port && !options.quiet)
    io.err(`Another program listens on port ${options.port}; this preview takes ${running.port}.\n`);
  io.err(`A preview of ${title} is on ${running.address}; Ctrl-C stops.\n`);
  if (options.open) await openPage(running.address, options.browser, io);
  await io.stopped();
  await Promise.all([watching.close(), running.stop()]);
  io.err('Stopped.\n');
  return 130;
}

/** Views in words; the usual ones where none is named. Null, and reported, where one says nothing. */
function readViews(written: readonly string[], samples: readonly string[], report: Report): readonly View[] | null {
  const read = written.map((text) => ({ text, ...readView(text, samples) }));
  for (const { text: view, unknown } of read)
    if (unknown !== null) {
      const known = [...viewWords, ...samples];
      const advice = adviceForName(nearestName(unknown, known), known, '');
      report(finding('unknown-view', null, { view, word: unknown, advice }));
    }
  const views = read.flatMap(({ view }) => view ?? []);
  if (views.length < read.length) return null;
  return views.length === 0 ? usualViews : views;
}

/** Writes pictures instead of serving pages: they are taken from the pages that would be served. */
async function shotsOf(
  source: PreviewSource,
  { shots, views, browser: path, color }: PreviewOptions & { readonly shots: string; readonly views: readonly View[] },
  io: Io,
  findings: Finding[],
): Promise<number> {
  const report: Report = (item) => findings.push(item);
  const [{ openBrowser }, { servePreview }, { takeShots }] = await Promise.all([
    import('../../browser/open-browser.js'),
    import('../../preview/preview-server.js'),
    import('./preview-shots.js'),
  ]);
  const browser = await openBrowser(path, report);
  if (browser === null) {
    printFindings(findings, io, color);
    return exitCodeOf(findings);
  }
  const running = await servePreview(source, { script: '', style: '', views: [] }, 0);
  try {
    const code = await takeShots(
      { source, running, views, looked: source.looked(), folder: shots },
      browser,
      io,
      report,
    );
    printFindings(withoutRepeats(findings), io, color);
    return Math.max(code, exitCodeOf(findings));
  } finally {
    await Promise.all([browser.close(), running.stop()]);
  }
}

/** Editors save in several steps; whoever looks waits for the result, in ms. */
const QUIET_TIME = 8;

async function sourceFor(
  { what, to }: PreviewOptions,
  bench: CheckBench,
  io: Io,
  report: Report,
): Promise<Shown | null> {
  const files = what.filter(isFinishedFile);
  if (files.length > 0) {
    if (files.length < what.length) {
      report(finding('preview-mixed', null, { name: what.find((word) => !files.includes(word)) ?? '' }));
      return null;
    }
    const { filePreview } = await import('../../project/preview/file-preview.js');
    const source = await filePreview(
      files.map((file) => resolve(io.folder, file)),
      io.folder,
      bench,
      report,
    );
    if (source === null) return null;
    const title = files.length === 1 ? (files[0] ?? '') : `${files.length} files`;
    const folders = await source.folders();
    return { source, title, watch: (onChange) => watchFolders(folders, onChange, QUIET_TIME) };
  }
  const { config, findings } = await loadConfig(io.folder);
  findings.forEach(report);
  if (config === null) return null;
  const { ProjectPreview } = await import('../../project/preview/project-preview.js');
  const source = await ProjectPreview.open({ config, messages: what, destinations: to }, bench, report);
  if (source === null) return null;
  const { folder } = config;
  const title = relative(io.folder, folder) || 'this folder';
  return {
    source,
    title,
    watch: (onChange) => watchProject(folder, resolve(folder, OUT_FOLDER), onChange, QUIET_TIME),
  };
}

async function start(
  source: PreviewSource,
  { port, views }: { readonly port: number; readonly views: readonly View[] },
  report: Report,
): Promise<RunningPreview | null> {
  const { servePreview } = await import('../../preview/preview-server.js');
  try {
    return await servePreview(source, await pageFiles(views), port);
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    if (code !== 'EADDRINUSE' && code !== 'EACCES') throw error;
    const detail =
      code === 'EACCES' ? 'this user may not listen there' : 'other programs listen there and on those behind it';
    report(finding('port-taken', null, { port: String(port), detail }));
    return null;
  }
}

async function pageFiles(views: readonly View[]): Promise<PageFiles> {
  const [script, style] = await Promise.all(
    ['page.js', 'page.css'].map((name) => readFile(ownFile(`dist/page/${name}`), 'utf8')),
  );
  return { script: script ?? '', style: style ?? '', views: views.map(writeView) };
}

/** Opens an address with what this system opens addresses with; where there is nothing, the line above names it. */
async function openPage(address: string, browser: string | null, io: Io): Promise<void> {
  const { openInBrowser } = await import('../io/open-in-browser.js');
  if (!(await openInBrowser(address, browser, process.platform)))
    io.err('No browser could be opened; open that address yourself.\n');
}
