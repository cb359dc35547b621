import { join } from 'node:path';
import { textWidth } from './text-width.js';
import { finding, isError, type Finding, type Report } from '../../core/findings/finding.js';
import type { PackageShape } from '../../core/dialects/dialect.js';
import { importCard } from '../../core/packages/import-card.js';
import { manifestJson, type MessageFacts } from '../../core/packages/manifest.js';
import type { PackageFile } from '../../core/packages/package-file.js';
import { packageFiles } from '../../core/packages/shapes.js';
import type { Metadata } from '../../core/message/read-message.js';
import { renderMessage, type RenderedMessage, type RenderInput } from '../../core/message/render-message.js';
import { countPictures } from '../../pictures/count-pictures.js';
import type { BuildOutcome, BuildRequest } from './build.js';
import type { Config } from '../config/config.js';
import { digestOf } from '../files/digest.js';
import { packedMail } from './packed-mail.js';
import type { PlacedPictures } from './place-pictures.js';
import type { PreparedEdition } from './prepare-message.js';
import type { EditionTask, Target } from './visit-messages.js';
import { outputFolder, writeOutputs } from './write-outputs.js';

/** Columns of text versions. */
const TEXT_WIDTH = 72;

/** A message, written for a destination. */
export interface RenderedEdition {
  readonly rendered: RenderedMessage;
  readonly placed: PlacedPictures;
  readonly facts: MessageFacts;
}

/** Writes an edition for a destination: its HTML, text, pictures and manifest, and its package where one is asked for. */
export async function buildEdition(
  task: EditionTask,
  ready: PreparedEdition,
  target: Target,
  { outFolder, pack }: BuildRequest,
): Promise<BuildOutcome> {
  const findings: Finding[] = [];
  const report = (item: Finding): unknown => findings.push(item);
  const base = { message: task.message, edition: ready.edition.name, destination: target.destination.name };
  const place = { outFolder, ...base };
  const failed = (): BuildOutcome => ({ ...base, findings, written: null, pictures: null });
  const done = await renderEdition(task, ready, target, join(outputFolder(place), 'images'), report);
  if (done === null || findings.some(isError)) return failed();
  const shape = pack === null ? null : shapeFor(target, pack.shape);
  if (shape?.shape === 'single') reportTravellers(done, target, report);
  const page = pageFiles(done, ready);
  const asMail = shape?.shape === 'eml' ? await packedMail(task, ready, target, report) : null;
  if (findings.some(isError)) return failed();
  const packed = asMail?.files ?? (shape === null ? page : packFiles(shape, done, ready, target));
  const facts = asMail === null ? done.facts : { ...done.facts, pictures: asMail.pictures };
  const manifest = file('manifest.json', manifestJson(facts, shape?.shape ?? null, packed, digestOf));
  const card =
    shape === null ? [] : [file('import-card.txt', importCard(facts, target.dialect.title, shape.shape, packed))];
  const { written, problem } = await writeOutputs(place, {
    page,
    packed: [...packed, manifest, ...card],
    shape: shape?.shape ?? null,
  });
  if (problem !== null) findings.push(problem);
  return { ...base, findings, written, pictures: written === null ? null : done.placed.summary };
}

/**
 * Writes an edition for a destination. Null, with findings, where it cannot be.
 * @param folder where pictures that travel with the HTML come to lie, for those who are told
 */
export async function renderEdition(
  task: EditionTask,
  ready: PreparedEdition,
  target: Target,
  folder: string,
  report: Report,
): Promise<RenderedEdition | null> {
  const placed = await task.placer.place(ready.pictures, task.message, target, folder, report);
  if (placed === null) return null;
  const rendered = renderMessage(ready.versions, renderInput(task, ready, target, placed, report), report);
  return { rendered, placed, facts: factsOf(task, ready, target, { rendered, placed }) };
}

/** Where the pictures of a build lie, for those who make something else of a message and have to tell of them. */
export function builtPictures({ config, message }: EditionTask, { edition }: PreparedEdition, target: Target): string {
  const place = { outFolder: join(config.folder, 'out'), destination: target.destination.name, message };
  return join(outputFolder({ ...place, edition: edition.name }), 'images');
}

/** What a destination decides of a message. */
export function renderInput(
  { config, preparer }: EditionTask,
  { edition }: PreparedEdition,
  { destination, dialect }: Target,
  placed: PlacedPictures,
  report: Report,
): RenderInput {
  return {
    dialect,
    fields: config.fields,
    recipient: preparer.recipient(new Date().getFullYear(), null),
    picturePath: placed.address,
    text: { width: TEXT_WIDTH, links: 'notes', measure: textWidth },
    linkParameters: preparer.linkParameters(destination, edition, report),
  };
}

/** The shape of a package: that which is asked for, with the names that the dialect gives to such files. */
function shapeFor({ dialect }: Target, asked: PackageShape['shape'] | null): PackageShape | null {
  return asked === null || asked === dialect.package?.shape ? dialect.package : { shape: asked };
}

/** A single file of HTML takes no pictures along. */
function reportTravellers({ placed }: RenderedEdition, { destination }: Target, report: Report): void {
  if (placed.files.length === 0 || destination.images.mode === 'host') return;
  const count = countPictures(placed.files.length);
  report(finding('package-pictures', null, { count, name: destination.name }));
}

function factsOf(
  { config, message }: EditionTask,
  { edition, versions, attachments }: PreparedEdition,
  { destination, dialect }: Target,
  { rendered, placed }: Pick<RenderedEdition, 'rendered' | 'placed'>,
): MessageFacts {
  const { metadata } = versions.html;
  return {
    message,
    edition: edition.name,
    destination: destination.name,
    project: config.name,
    dialect: dialect.name,
    subject: rendered.subject,
    subjectSample: rendered.subjectSample,
    preheader: rendered.preheader,
    topic: metadata.topic,
    description: metadata.description,
    keywords: metadata.keywords,
    sender: senderOf(config, metadata),
    links: rendered.links,
    regions: versions.html.source.regions,
    hasTags: versions.html.source.tags.length > 0,
    attachments: attachments.map(({ name }) => name),
    extras: Object.fromEntries(metadata.extras),
    pictures: { mode: destination.images.mode, list: placed.listed },
  };
}

function senderOf({ sender }: Config, { from, replyTo }: Metadata): MessageFacts['sender'] {
  return sender === null ? null : { ...sender, name: from ?? sender.name, replyTo: replyTo ?? sender.replyTo };
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

function packFiles(
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
