import { join } from 'node:path';
import { textWidth } from '../../core/text/text-width.js';
import type { Report } from '../../core/findings/finding.js';
import type { MessageFacts } from '../../core/packages/manifest.js';
import type { Metadata } from '../../core/message/read-message.js';
import { renderMessage, type RenderedMessage, type RenderInput } from '../../core/message/render-message.js';
import type { Config } from '../config/config.js';
import type { PlacedPictures } from './place-pictures.js';
import type { PreparedEdition } from './prepared-edition.js';
import type { EditionTask } from './visit-messages.js';
import type { Target } from './target.js';
import { outputFolder } from './output-folder.js';
import { OUT_FOLDER } from '../files/project-folder.js';

/** Columns of text versions. */
const TEXT_WIDTH = 72;

/** A message, written for a destination. */
export interface RenderedEdition {
  readonly rendered: RenderedMessage;
  readonly placed: PlacedPictures;
  readonly facts: MessageFacts;
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
  const rendered = renderMessage(ready.versions, renderInput(task, ready, target, placed.address, report), report);
  return { rendered, placed, facts: factsOf(task, ready, target, { rendered, placed }) };
}

/** Where the pictures of a build lie, for those who make something else of a message and have to tell of them. */
export function builtPictures({ config, message }: EditionTask, { edition }: PreparedEdition, target: Target): string {
  const place = { outFolder: join(config.folder, OUT_FOLDER), destination: target.destination.name, message };
  return join(outputFolder({ ...place, edition: edition.name }), 'images');
}

/** What a destination decides of a message. */
export function renderInput(
  { config, preparer }: EditionTask,
  { edition }: PreparedEdition,
  { destination, dialect }: Target,
  picturePath: RenderInput['picturePath'],
  report: Report,
): RenderInput {
  return {
    dialect,
    fields: config.fields,
    recipient: preparer.recipient(new Date().getFullYear(), null),
    picturePath,
    text: { width: TEXT_WIDTH, links: 'notes', measure: textWidth },
    linkParameters: preparer.linkParameters(destination, edition, report),
  };
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
