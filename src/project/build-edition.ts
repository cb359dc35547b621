import { join } from 'node:path';
import stringWidth from 'string-width';
import { isError, type Finding } from '../core/finding.js';
import { importCard } from '../core/package/import-card.js';
import { manifestJson, type MessageFacts } from '../core/package/manifest.js';
import type { PackageFile } from '../core/package/package-file.js';
import type { Metadata } from '../core/source/read-message.js';
import { renderMessage, type RenderedMessage } from '../core/source/render-message.js';
import type { BuildOutcome, BuildRequest, Target } from './build.js';
import type { Config } from './config.js';
import { digestOf } from './digest.js';
import type { PicturePlacer } from './place-pictures.js';
import type { MessagePreparer, PreparedEdition } from './prepare-message.js';
import { outputFolder, writeOutputs } from './write-outputs.js';

const TEXT_WIDTH = 72;

/** What the editions of a message share while it is built. */
export interface EditionTask {
  readonly request: BuildRequest;
  readonly message: string;
  readonly preparer: MessagePreparer;
  readonly placer: PicturePlacer;
}

/** Writes an edition for a destination: its HTML, text, pictures and manifest. */
export async function buildEdition(
  { request, message, preparer, placer }: EditionTask,
  { edition, versions, pictures, attachments }: PreparedEdition,
  target: Target,
): Promise<BuildOutcome> {
  const { config, outFolder } = request;
  const findings: Finding[] = [];
  const report = (item: Finding): unknown => findings.push(item);
  const base = { message, edition: edition.name, destination: target.destination.name };
  const failed = (): BuildOutcome => ({ ...base, findings, written: null, pictures: null });
  const folder = outputFolder({ outFolder, ...base });
  const placed = await placer.place(pictures, message, target, join(folder, 'images'), report);
  if (placed === null) return failed();
  const rendered = renderMessage(
    versions,
    {
      dialect: target.dialect,
      fields: config.fields,
      recipient: preparer.recipient(new Date().getFullYear()),
      picturePath: placed.address,
      text: { width: TEXT_WIDTH, links: 'notes', measure: stringWidth },
      linkParameters: preparer.linkParameters(target.destination, edition, report),
    },
    report,
  );
  if (findings.some(isError)) return failed();
  const { metadata } = versions.html;
  const facts: MessageFacts = {
    ...base,
    project: config.name,
    dialect: target.dialect.name,
    subject: rendered.subject,
    subjectSample: rendered.subjectSample,
    preheader: rendered.preheader,
    topic: metadata.topic,
    description: metadata.description,
    keywords: metadata.keywords,
    sender: senderOf(config, metadata),
    links: rendered.links,
    regions: versions.html.source.regions,
    attachments: attachments.map(({ name }) => name),
    extras: Object.fromEntries(metadata.extras),
    pictures: { mode: target.destination.images.mode, list: placed.listed },
  };
  const carried = [...placed.files, ...attachments.map(({ name, bytes }) => ({ path: `attachments/${name}`, bytes }))];
  const files = filesOf(facts, rendered, carried, request.pack ? target.dialect.title : null);
  const shape = request.pack ? (target.dialect.package?.shape ?? null) : null;
  const { written, problem } = await writeOutputs({ outFolder, ...base }, files, shape);
  if (problem !== null) findings.push(problem);
  return { ...base, findings, written, pictures: written === null ? null : placed.summary };
}

function senderOf({ sender }: Config, { from, replyTo }: Metadata): MessageFacts['sender'] {
  return sender === null ? null : { ...sender, name: from ?? sender.name, replyTo: replyTo ?? sender.replyTo };
}

function filesOf(
  facts: MessageFacts,
  { html, text }: Pick<RenderedMessage, 'html' | 'text'>,
  carried: readonly PackageFile[],
  cardTitle: string | null,
): PackageFile[] {
  const encode = (content: string): Uint8Array => Buffer.from(content);
  const content: PackageFile[] = [
    ...carried,
    { path: 'index.txt', bytes: encode(text) },
    { path: 'index.html', bytes: encode(html) },
  ];
  const manifest = { path: 'manifest.json', bytes: encode(manifestJson(facts, content, digestOf)) };
  const card = cardTitle === null ? [] : [{ path: 'import-card.txt', bytes: encode(importCard(facts, cardTitle)) }];
  return [...content, manifest, ...card];
}
