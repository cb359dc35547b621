import { existsSync } from 'node:fs';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import { exitCodeOf, isError, type Finding, type Place } from '../../core/findings/finding.js';
import { proofPages, type ProofPages } from '../../core/message/proof-pages.js';
import { textWidth } from '../../core/text/text-width.js';
import type { Difference, PageComparison, PagePair } from '../../browser/compare-pages.js';
import { loadConfig } from '../../project/config/config.js';
import { writeWhole } from '../../project/files/write-file.js';
import { visitMessages, type EditionTask } from '../../project/visit/visit-messages.js';
import type { PreparedEdition } from '../../project/visit/prepared-edition.js';
import type { Target } from '../../project/visit/target.js';
import type { Io } from '../io/io.js';
import { printFindings } from '../output/print-findings.js';
import { command, flag, text, wholeOr, words, type CommonOptions, type Told } from '../io/command.js';

const options = {
  browser: text('--browser <path>', 'the browser to show the pages in (default: the one that is installed)'),
  shots: text('--shots <folder>', 'write source, compiled and what differs side by side, a PNG for each width'),
  tolerance: wholeOr(1, [0, 100], '--tolerance <px>', 'how far something may lie from where it belongs'),
  json: flag('--json', 'as JSON'),
};

type ProveOptions = Told<typeof options> & CommonOptions & { readonly messages: readonly string[] };

/** `prove`. */
export const prove = command({
  name: 'prove',
  description:
    'Shows each message as you wrote it and as it is compiled in a browser, at all widths at which its layout changes, and compares every word, picture and link, and the pixels: light and dark, with and without the head.',
  arguments: { messages: words('[message...]', 'names of messages, or of editions (default: all messages)') },
  options,
  examples: ['inscriba prove', 'inscriba prove may-newsletter --shots shots'],
  run,
});

/** How a message was found to be, and where it differs from its source. */
interface Proved {
  readonly findings: readonly Finding[];
  readonly name: string;
  readonly widths: readonly number[];
  readonly schemes: readonly string[];
  readonly differences: readonly PlacedDifference[];
}

interface PlacedDifference extends Difference {
  readonly scheme: string;
  readonly place: Place | null;
}

/** What the messages on the way share. */
interface Bench {
  readonly pages: PagePair;
  readonly folder: string;
  readonly options: ProveOptions;
  readonly io: Io;
}

async function run(options: ProveOptions, io: Io): Promise<number> {
  const findings: Finding[] = [];
  const { config, findings: problems } = await loadConfig(io.folder);
  findings.push(...problems);
  const browser =
    config === null
      ? null
      : await (
          await import('../../browser/open-browser.js')
        ).openBrowser(options.browser, (item) => findings.push(item));
  if (config === null || browser === null) {
    printFindings(findings, io, options.color);
    return exitCodeOf(findings);
  }
  const folder = await mkdtemp(join(tmpdir(), 'inscriba-prove-'));
  try {
    const { openPages } = await import('../../browser/browser.js');
    const bench: Bench = { pages: await openPages(browser), folder, options, io };
    // Remote pictures are the same on both pages; nothing is fetched for them.
    for (const page of bench.pages) await page.route(/^https?:/, (route) => route.abort());
    const request = { config, messages: options.messages, destinations: [] };
    const { outcomes, findings: found } = await visitMessages<Proved>(request, {
      takesEditions: true,
      targets: (targets) => targets.slice(0, 1),
      failed: (name) => ({ findings: [], name, widths: [], schemes: [], differences: [] }),
      visit: async (task, ready, target) => proveEdition(task, ready, target, bench),
    });
    findings.push(...found.filter((item) => isError(item)));
    printFindings(findings, io, options.color);
    const shown = outcomes.filter(({ widths }) => widths.length > 0);
    io.out(
      options.json ? `${JSON.stringify({ messages: shown.map(asJson) }, null, 2)}\n` : shown.map(describe).join(''),
    );
    return Math.max(exitCodeOf(findings), shown.some(({ differences }) => differences.length > 0) ? 1 : 0);
  } finally {
    await browser.close();
    await rm(folder, { recursive: true, force: true });
  }
}

async function proveEdition(
  { config, preparer, message }: EditionTask,
  { edition, versions, pictures }: PreparedEdition,
  { dialect }: Target,
  bench: Bench,
): Promise<Proved> {
  const name = edition.name === null ? message : `${message}/${edition.name}`;
  const home = join(config.folder, 'messages');
  // Slices are made by the build and lie in no folder.
  const made = new Map<string, string>();
  for (const [path, { bytes }] of pictures) {
    if (existsSync(resolve(home, path))) continue;
    const file = join(bench.folder, `made-${made.size}.png`);
    await writeFile(file, bytes);
    made.set(path, pathToFileURL(file).href);
  }
  const pages = proofPages(versions, {
    dialect,
    recipient: preparer.recipient(new Date().getFullYear(), null),
    picturePath: (path) => made.get(path) ?? path,
    linkParameters: [],
    text: { width: 72, links: 'none', measure: textWidth },
    base: `${pathToFileURL(home).href}/`,
  });
  const widths = widthsOf(pages);
  const schemes = pages.hasDarkScheme ? (['light', 'dark'] as const) : (['light'] as const);
  const source = join(bench.folder, 'source.html');
  const compiled = join(bench.folder, 'compiled.html');
  await writeFile(source, pages.source);
  await writeFile(compiled, pages.compiled);
  const { comparePages } = await import('../../browser/compare-pages.js');
  const differences: PlacedDifference[] = [];
  const findings: Finding[] = [];
  for (const scheme of schemes) {
    // Without its head a message looks as on the desktop, where it says so itself, and in light.
    const bareWidths = scheme === 'light' ? [Math.max(...widths)] : [];
    const comparison = { widths, bareWidths, scheme, tolerance: bench.options.tolerance };
    const compared = await comparePages(bench.pages, source, compiled, comparison);
    differences.push(...compared.differences.map((item) => placed(item, pages, scheme)));
    findings.push(...(await writeShots(compared, `${name.replace('/', '-')}-${scheme}`, bench)));
  }
  return { findings, name, widths, schemes, differences };
}

function placed(item: Difference, { placeOf }: ProofPages, scheme: string): PlacedDifference {
  return { ...item, scheme, place: item.mark === null ? null : placeOf(item.mark) };
}

/** The widths at which a layout changes, and just above them; that of a phone and that of a desktop. */
function widthsOf({ thresholds, exactWidths }: ProofPages): number[] {
  const own = thresholds.filter((width) => width >= 320 && width <= 1400).flatMap((width) => [width, width + 1]);
  return [...new Set([...own, ...exactWidths.filter((width) => width <= 600), 375, 1000])].sort((a, b) => a - b);
}

/** Writes what was photographed, side by side; gives why it cannot, where it cannot, and then writes no more. */
async function writeShots({ shots }: PageComparison, name: string, { options, io }: Bench): Promise<Finding[]> {
  if (options.shots === null) return [];
  const { sideBySide } = await import('../../browser/pixels.js');
  for (const shot of shots) {
    const file = `${name}${shot.withoutHead ? '-without-head' : ''}-${shot.width}.png`;
    const picture = await sideBySide(shot.before, shot.after);
    const path = join(options.shots, file);
    const problem = await writeWhole(resolve(io.folder, path), picture, path);
    if (problem !== null) return [problem];
  }
  return [];
}

function describe({ name, widths, schemes, differences }: Proved): string {
  const what = `${widths.length} widths, ${schemes.join(' and ')}, with and without the head`;
  if (differences.length === 0) return `${name}: same at ${what}\n`;
  const off = new Set(differences.map(({ width }) => width));
  const [first] = [...differences].sort((a, b) => rank(a) - rank(b));
  const lines = [`${name}: off at ${[...off].sort((a, b) => a - b).join(', ')} px, of ${what}`];
  if (first !== undefined) {
    const { place } = first;
    const at = place === null ? '' : `${place.source.name}:${place.source.lineColumn(place.span.start).line}: `;
    const where = `at ${first.width} px${first.scheme === 'dark' ? ', dark' : ''}${first.withoutHead ? ', without the head' : ''}`;
    const others = differences.filter(
      (item) => item !== first && item.width === first.width && item.scheme === first.scheme,
    ).length;
    const [said = ''] = first.text.split('\n');
    const by = first.by === null ? '' : ` (${Math.round(first.by * 10) / 10} px)`;
    lines.push(`  ${at}${said}${by} ${where}${others === 0 ? '' : `; ${others} more with it`}`);
  }
  return `${lines.join('\n')}\n`;
}

/** What is off by itself comes before what only shows that something is. */
function rank({ kind, withoutHead }: PlacedDifference): number {
  return ['content', 'place', 'scroll', 'pixels'].indexOf(kind) + (withoutHead ? 4 : 0);
}

function asJson({ name, widths, schemes, differences }: Proved): unknown {
  return {
    name,
    same: differences.length === 0,
    widths,
    schemes,
    differences: differences.map(({ place, width, kind, text: what, by, scheme, withoutHead }) => ({
      ...{ width, scheme, withoutHead, kind, what, by },
      file: place?.source.name ?? null,
      ...(place === null ? {} : place.source.lineColumn(place.span.start)),
    })),
  };
}
