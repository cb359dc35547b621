import { CONFIG_FILE, projectFolderOf } from '../files/project-folder.js';
import { basename, join } from 'node:path';
import { ruleCodes } from '../../core/check/rule-codes.js';
import type { CheckSettings } from '../../core/check/settings.js';
import { catalogue } from '../../core/findings/catalogue.js';
import { adviceForName, finding, type Finding, type Place, type Report } from '../../core/findings/finding.js';
import { nearestName } from '../../core/text/nearest.js';
import type { WebFont } from '../../core/layout/boxes/fonts.js';
import { declaredItemShape, sampledShape } from '../../core/dialects/field-shape.js';
import type { FieldShape, MergeField, MergeFields } from '../../core/dialects/model.js';
import type { Sender } from '../../core/packages/manifest.js';
import type { MetadataDefaults } from '../../core/message/read-message.js';
import type { NamedFile } from '../../core/template/message-template.js';
import type { Template } from '../../core/template/nodes.js';
import { readLine } from '../../core/template/read-values.js';
import { SourceText } from '../../core/text/source-text.js';
import { readPictureSetting, type PictureSetting } from './config-images.js';
import { readMailSetting, type MailSetting } from './config-mail.js';
import { readPushSetting, type PushSetting } from './config-push.js';
import { readSampleFile, readSamples, type ConfigFiles, type NamedSamples } from './config-samples.js';
import type { RawConfig, RawDefaults, RawDestination } from './config-schema.js';
import { readConfig } from './read-config.js';
import type { PlaceOf } from '../../core/yaml/yaml-places.js';
import { fromDisk } from '../files/read-bytes.js';
import { readTextFile } from '../files/text-file.js';

/** A named place that finished messages go to. */
export interface Destination {
  readonly name: string;
  readonly dialect: string;
  /** Where the configuration names the dialect. */
  readonly dialectPlace: Place;
  /** What is added to every web link: names, and patterns that may hold build values. */
  readonly linkParameters: readonly { readonly name: string; readonly pattern: Template }[];
  /** How its pictures reach readers. */
  readonly images: PictureSetting;
  /** How messages are pushed there; null where they are not. */
  readonly push: PushSetting | null;
  /** What it makes of findings. */
  readonly checks: CheckSettings;
}

/** What messages say that do not say it themselves. */
export interface MessageDefaults extends MetadataDefaults {
  /** Data files whose values every message sees, with their places in the configuration. */
  readonly data: readonly NamedFile[];
}

/** A project's configuration, complete: every default is applied. */
export interface Config {
  readonly folder: string;
  readonly name: string;
  readonly sender: Sender | null;
  readonly width: number;
  readonly fields: MergeFields;
  readonly fonts: readonly WebFont[];
  readonly destinations: readonly Destination[];
  readonly defaults: MessageDefaults;
  /** The footer for finished HTML: a path from the project's folder, and where it is named. */
  readonly footer: { readonly path: string; readonly place: Place } | null;
  readonly mail: MailSetting;
  /** What the project makes of findings. */
  readonly checks: CheckSettings;
  /** Sample recipients beside the one that the samples of the fields make. */
  readonly samples: NamedSamples;
}

export type ConfigResult =
  | { readonly config: Config; readonly findings: readonly [] }
  | { readonly config: null; readonly findings: readonly Finding[] };

/**
 * Finds `inscriba.yaml` in a folder or above it, reads and validates it.
 * @param file another file beside it, in place of it
 * @param readBytes how it is read, and the files that it names
 */
export async function loadConfig(from: string, file = CONFIG_FILE, readBytes = fromDisk): Promise<ConfigResult> {
  const folder = await projectFolderOf(from);
  if (folder === null) return { config: null, findings: [finding('config-missing', null, { folder: from })] };
  const path = join(folder, file);
  const unreadable: Finding[] = [];
  const read = await readTextFile(path, path, (item) => unreadable.push(item), readBytes);
  if (read === null) return { config: null, findings: unreadable };
  const { value, findings, placeOf } = await readConfig(path, read.source);
  if (value === null) return { config: null, findings };
  const files = { folder, read: readBytes };
  const { fields, problems } = await readFields(value.fields, files, placeOf);
  const samples = await readSamples(value.samples, files, fields, placeOf, (item) => problems.push(item));
  const destinations = Object.entries(value.destinations).map(([key, raw]) => ({
    name: key,
    dialect: raw.dialect,
    dialectPlace: placeOf(['destinations', key, 'dialect']),
    linkParameters: readLinkParameters(raw, key, placeOf, (item) => problems.push(item)),
    checks: readChecks(raw.checks ?? {}, ['destinations', key, 'checks'], placeOf, (item) => problems.push(item)),
    images: readPictureSetting(raw.images, key, placeOf, (item) => problems.push(item)),
    push: readPushSetting(raw.push, key, placeOf),
  }));
  const checks = readChecks(value.checks, ['checks'], placeOf, (item) => problems.push(item));
  if (problems.length > 0) return { config: null, findings: problems };
  return {
    config: {
      folder,
      name: value.name ?? basename(folder),
      sender: senderOf(value),
      width: value.width,
      fields,
      footer: value.footer === undefined ? null : { path: value.footer, place: placeOf(['footer']) },
      fonts: value.fonts,
      destinations,
      defaults: defaultsOf(value.defaults, placeOf),
      mail: readMailSetting(value.mail, placeOf),
      checks,
      samples,
    },
    findings: [],
  };
}

function defaultsOf(raw: RawDefaults, placeOf: PlaceOf): MessageDefaults {
  return {
    preheader: raw.preheader ?? null,
    topic: raw.topic ?? null,
    description: raw.description ?? null,
    keywords: raw.keywords ?? [],
    from: raw.from ?? null,
    replyTo: raw.reply_to ?? null,
    data: (raw.data ?? []).map((path, index) => ({ path, place: placeOf(['defaults', 'data', index]) })),
  };
}

function readLinkParameters(
  { link_parameters: raw = {} }: RawDestination,
  destination: string,
  placeOf: PlaceOf,
  report: Report,
): Destination['linkParameters'] {
  return Object.entries(raw).map(([key, value]) => {
    const { source, span } = placeOf(['destinations', destination, 'link_parameters', key]);
    const text = String(value);
    const start = source.text.indexOf(text, span.start);
    if (text.includes('@{')) report(finding('link-parameter-merge', { source, span }, { name: key }));
    const isWritten = start >= 0 && start + text.length <= span.end;
    const pattern = isWritten
      ? readLine(source, { start, end: start + text.length }, report)
      : readLine(new SourceText(source.name, text), { start: 0, end: text.length }, report);
    return { name: key, pattern };
  });
}

/** What is set for findings; a code that there is not is reported. */
function readChecks(raw: CheckSettings, within: readonly string[], placeOf: PlaceOf, report: Report): CheckSettings {
  const known = [...ruleCodes, ...Object.keys(catalogue)];
  for (const code of Object.keys(raw).filter((name) => !known.includes(name))) {
    const advice = adviceForName(nearestName(code, known), [], 'docs/checks.md and docs/reference.md list them.');
    report(finding('check-code-unknown', placeOf([...within, code]), { code, advice }));
  }
  return raw;
}

function senderOf({ sender }: RawConfig): Sender | null {
  if (sender === undefined) return null;
  return {
    name: sender.name,
    address: sender.address,
    replyTo: sender.reply_to ?? null,
    company: sender.company ?? null,
    postalAddress: sender.postal_address ?? null,
    website: sender.website ?? null,
    unsubscribe: [sender.unsubscribe ?? []].flat(),
  };
}

async function readFields(
  raw: RawConfig['fields'],
  files: ConfigFiles,
  placeOf: PlaceOf,
): Promise<{ fields: MergeFields; problems: Finding[] }> {
  const fields = new Map<string, MergeField>();
  const problems: Finding[] = [];
  for (const [key, field] of Object.entries(raw)) {
    let sample = field.sample;
    if (field.list !== undefined && typeof sample === 'string')
      sample = await readSampleFile(sample, files, placeOf(['fields', key, 'sample']), (item) => problems.push(item));
    fields.set(key, {
      ...shapeOfField(field, sample),
      sample,
      fallback: field.fallback ?? null,
    });
  }
  return { fields, problems };
}

function shapeOfField({ type, list }: RawConfig['fields'][string], sample: unknown): FieldShape {
  if (list !== undefined) return { type: 'list', item: declaredItemShape(list) };
  const sampled = sampledShape(sample);
  return type === undefined || type === sampled.type ? sampled : { type };
}
