import { join } from 'node:path';
import { finding, isError, type Finding, type Report } from '../../core/findings/finding.js';
import type { PackageShape } from '../../core/dialects/dialect.js';
import { importCard } from '../../core/packages/import-card.js';
import { manifestJson } from '../../core/packages/manifest.js';
import type { PackageFile } from '../../core/packages/package-file.js';
import { packageFiles } from '../../core/packages/shapes.js';
import { countPictures } from '../../pictures/count-pictures.js';
import { settingsFor } from '../check/check-bench.js';
import type { EditionChecker } from '../check/edition-checker.js';
import { withoutAccepted } from '../check/settle.js';
import type { BuildOutcome, BuildRequest } from './outcome.js';
import { digestOf } from '../files/digest.js';
import { packedMail } from '../visit/packed-mail.js';
import { renderEdition, type RenderedEdition } from '../visit/render-edition.js';
import type { PreparedEdition } from '../visit/prepared-edition.js';
import type { EditionTask } from '../visit/visit-messages.js';
import { shapeFor, type Target } from '../visit/target.js';
import { outputFolder } from '../visit/output-folder.js';
import { writeOutputs } from './write-outputs.js';

/** Writes an edition for a destination: its HTML, text, pictures and manifest, and its package where one is asked for. */
export async function buildEdition(
  task: EditionTask,
  ready: PreparedEdition,
  target: Target,
  { request: { outFolder, pack }, checker }: { readonly request: BuildRequest; readonly checker: EditionChecker },
): Promise<BuildOutcome> {
  const findings: Finding[] = [];
  const report = (item: Finding): unknown => findings.push(item);
  const shape = pack === null ? null : shapeFor(target, pack.shape);
  const names = { message: task.message, edition: ready.edition.name, destination: target.destination.name };
  const base = { ...names, shape: shape?.shape ?? null, isUnchanged: false };
  const place = { outFolder, ...names };
  const failed = (): BuildOutcome => ({ ...base, findings, written: null, pictures: null });
  const done = await renderEdition(task, ready, target, join(outputFolder(place), 'images'), report);
  if (done === null || findings.some(isError)) return failed();
  const checked = await checker.findingsOf(task, ready, {
    done,
    settings: settingsFor(task.config, target.destination),
  });
  findings.push(...checked);
  // A page is written with what the check finds in it; what goes out is not.
  if (pack !== null && withoutAccepted(checked, await task.sources()).standing.some(isError)) return failed();
  if (shape?.shape === 'single') reportTravellers(done, target, report);
  const page = pageFiles(done, ready);
  const asMail = shape?.shape === 'eml' ? await packedMail(task, ready, target, report) : null;
  if (findings.some((item) => isError(item) && !checked.includes(item))) return failed();
  const packed = asMail?.files ?? (shape === null ? page : packFiles(shape, done, ready, target));
  const facts = asMail === null ? done.facts : { ...done.facts, pictures: asMail.pictures };
  const manifest = file('manifest.json', manifestJson(facts, shape?.shape ?? null, packed, digestOf));
  const card =
    shape === null ? [] : [file('import-card.txt', importCard(facts, target.dialect.title, shape.shape, packed))];
  const files = { page, packed: [...packed, manifest, ...card], shape: shape?.shape ?? null };
  const written = await writeOutputs(place, files, (item) => findings.push(item));
  return { ...base, findings, written, pictures: written === null ? null : done.placed.summary };
}

/** A single file of HTML takes no pictures along. */
function reportTravellers({ placed }: RenderedEdition, { destination }: Target, report: Report): void {
  if (placed.files.length === 0 || destination.images.mode === 'host') return;
  const count = countPictures(placed.files.length);
  report(finding('package-pictures', null, { count, name: destination.name }));
}

/** What travels with the HTML. */
function carriedFiles({ placed }: RenderedEdition, { attachments }: PreparedEdition): PackageFile[] {
  return [...placed.files, ...attachments.map(({ name, bytes }) => ({ path: `attachments/${name}`, bytes }))];
}

/** The message as a page in a folder. */
function pageFiles(done: RenderedEdition, ready: PreparedEdition): PackageFile[] {
  const { html, text } = done.rendered;
  return [...carriedFiles(done, ready), file('index.txt', text), file('index.html', html)];
}

/** The files of a package of a shape. */
export function packFiles(
  shape: PackageShape,
  done: RenderedEdition,
  ready: PreparedEdition,
  { dialect: { delimiters } }: Target,
): PackageFile[] {
  const { html, text } = done.rendered;
  return packageFiles(shape, done.facts, { html, text, carried: carriedFiles(done, ready), delimiters });
}

function file(path: string, content: string): PackageFile {
  return { path, bytes: Buffer.from(content) };
}
