import type { Exchange, PushApi, SendPattern } from '../../core/dialects/push-api.js';
import type { RequestFiles } from '../../core/delivery/fill-request.js';
import { canonicalJson } from '../../core/delivery/prove-exchanges.js';
import { filledText, namesUsed, type RequestValues, type SentFile } from '../../core/delivery/values.js';
import { regionJson, templateName, type MessageFacts } from '../../core/packages/manifest.js';
import type { PackageFile } from '../../core/packages/package-file.js';
import { packageFiles } from '../../core/packages/shapes.js';
import { splitPage } from '../../core/packages/split-page.js';
import type { TemplateContent } from '../../platforms/push-template.js';
import { digestOf } from '../files/digest.js';
import { zipFiles } from '../files/zip.js';
import type { RenderedEdition } from '../visit/render-edition.js';
import type { PushTarget } from './platform-access.js';

/** What goes with a template besides what was rendered. */
export interface ContentSurroundings {
  readonly target: PushTarget;
  /** The settings of the destination, by their names. */
  readonly settings: RequestValues;
  /** The folder that it goes into. */
  readonly folder: RequestValues;
  /** The digest of the message's file. */
  readonly source: string;
  /** What travels with it, where that goes into a zip. */
  readonly attachments: readonly PackageFile[];
}

/** A message as a platform is to have it. */
export function templateContent(
  { rendered, placed, facts }: RenderedEdition,
  { target, settings, folder, source, attachments }: ContentSurroundings,
): TemplateContent {
  const { api, dialect } = target;
  const { html, text } = rendered;
  const { css, body } = usesAny(api, ['css', 'body']) ? splitPage(html, dialect.delimiters) : { css: '', body: '' };
  const values = new Map<string, SendPattern>([
    ...messageValues(facts),
    ['html', html],
    ['text', text],
    ['css', css],
    ['body', body],
    ...folder,
  ]);
  const pictures = placed.files.map(sentPicture);
  const shape = dialect.package?.shape === 'zip' ? dialect.package : ({ shape: 'zip' } as const);
  const zip: SentFile | null = takesZip(api)
    ? {
        name: `${templateName(facts)}.zip`,
        type: 'application/zip',
        bytes: zipFiles(
          packageFiles(shape, facts, {
            html,
            text,
            carried: [...placed.files, ...attachments],
            delimiters: dialect.delimiters,
          }),
        ),
      }
    : null;
  const files: RequestFiles = { file: zip, pictures };
  const digest = contentDigest(api, values, files, settings);
  return {
    message: facts.message,
    edition: facts.edition,
    name: templateName(facts),
    values: new Map([...values, ['message.digest', digest]]),
    files,
    digest,
    source,
  };
}

/** Whether a message travels as a zip. */
export function takesZip(api: PushApi): boolean {
  return [api.create, api.update].some(({ file, body }) => file !== null || body === 'bytes');
}

/** What requests may say of a message. */
export function messageValues(facts: MessageFacts): (readonly [string, SendPattern])[] {
  const { sender } = facts;
  return [
    ['message.name', templateName(facts)],
    ['message.edition', facts.edition],
    ['message.project', facts.project],
    ['message.subject', facts.subject],
    ['message.preheader', facts.preheader],
    ['message.topic', facts.topic],
    ['message.description', facts.description],
    ['message.keywords', facts.keywords],
    ['message.links', facts.links.filter((link) => /^https?:/i.test(link))],
    ['message.regions', facts.regions.map((region) => regionJson(region) as Record<string, SendPattern>)],
    ['sender.name', sender?.name ?? null],
    ['sender.address', sender?.address ?? null],
    ['sender.reply_to', sender?.replyTo ?? null],
  ];
}

function sentPicture({ path, bytes }: PackageFile): SentFile {
  const name = path.replace(/^images\//, '');
  const ending = name.slice(name.lastIndexOf('.') + 1);
  return { name, type: `image/${ending === 'jpg' ? 'jpeg' : ending}`, bytes };
}

/** The names that the requests use by which a template is made and changed. */
function usedNames(api: PushApi): string[] {
  const used = ({ path, send, headers }: Exchange): string[] => [
    ...namesUsed(path),
    ...namesUsed(send),
    ...namesUsed(headers),
  ];
  return [...new Set([...used(api.create), ...used(api.update)])].sort();
}

function usesAny(api: PushApi, names: readonly string[]): boolean {
  return usedNames(api).some((name) => names.includes(name));
}

/**
 * The digest of all that a platform is sent of a message: what its requests use, and the files that go along. What is only
 * known there (numbers of folders and templates), and what says who sends it, does not count.
 */
function contentDigest(
  api: PushApi,
  values: RequestValues,
  { file, pictures }: RequestFiles,
  settings: RequestValues,
): string {
  const isContent = (name: string): boolean =>
    !/^(?:destination|remote|folder)\./.test(name) && name !== 'message.digest';
  const used = usedNames(api).filter(isContent);
  const folder = api.folder === null ? null : filledText(api.folder.name, new Map([...values, ...settings]));
  const isSent = api.create.pictures !== null || api.update.pictures !== null;
  return digestOf(
    canonicalJson({
      values: Object.fromEntries(used.map((name) => [name, values.get(name) ?? null])),
      folder,
      file: file === null ? null : digestOf(file.bytes),
      pictures: isSent ? pictures.map(({ name, bytes }) => [name, digestOf(bytes)]) : [],
    }),
  );
}
