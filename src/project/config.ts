import { readFile } from 'node:fs/promises';
import { dirname, join, relative, resolve } from 'node:path';
import Joi from 'joi';
import { parse } from 'yaml';
import { finding, type Finding, type Place } from '../core/finding.js';
import type { WebFont } from '../core/layout/fonts.js';
import type { FieldType, MergeField, MergeFields } from '../core/merge/model.js';
import type { Sender } from '../core/package/manifest.js';
import { readTextFile } from './text-file.js';
import { readYaml } from './yaml-file.js';

export const CONFIG_FILE = 'inscriba.yaml';

/** A named place that finished messages go to. */
export interface Destination {
  readonly name: string;
  readonly dialect: string;
  /** Where the configuration names the dialect. */
  readonly dialectPlace: Place;
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
}

interface RawField {
  readonly type?: FieldType;
  readonly sample?: unknown;
  readonly fallback?: string;
  readonly list?: unknown;
}

interface RawConfig {
  readonly name: string;
  readonly sender?: {
    name: string;
    address: string;
    reply_to?: string;
    company?: string;
    postal_address?: string;
    website?: string;
  };
  readonly width: number;
  readonly fields: Readonly<Record<string, RawField>>;
  readonly fonts: readonly WebFont[];
  readonly destinations: Readonly<Record<string, { dialect: string }>>;
}

const name = Joi.string().pattern(/^[\p{L}\d][\p{L}\d_-]*$/u);
const address = Joi.string().email({ tlds: false });
const fieldName = /^[A-Za-z_]\w*$/;
const itemType = Joi.alternatives(
  Joi.string().valid('text', 'number', 'flag', 'date'),
  Joi.object().pattern(fieldName, Joi.any()),
);

const schema: Joi.ObjectSchema<RawConfig> = Joi.object<RawConfig>({
  name: Joi.string().required(),
  sender: Joi.object({
    name: Joi.string().required(),
    address: address.required(),
    reply_to: address,
    company: Joi.string(),
    postal_address: Joi.string(),
    website: Joi.string().uri({ scheme: ['http', 'https'] }),
  }),
  width: Joi.number().integer().min(200).max(2000).default(600),
  fields: Joi.object()
    .pattern(
      fieldName,
      Joi.object({
        type: Joi.string().valid('text', 'number', 'flag', 'date', 'list'),
        sample: Joi.any(),
        fallback: Joi.string(),
        list: itemType,
      }),
    )
    .default({}),
  fonts: Joi.array()
    .items(
      Joi.object({
        family: Joi.string().required(),
        source: Joi.string().uri({ scheme: 'https' }).required(),
        fallback: Joi.array().items(Joi.string()).min(1).required(),
      }),
    )
    .default([]),
  destinations: Joi.object()
    .pattern(
      name,
      Joi.object({
        dialect: Joi.string().required(),
        images: Joi.object({ mode: Joi.string().valid('package').required() }),
      }),
    )
    .min(1)
    .required(),
});

export type ConfigResult =
  | { readonly config: Config; readonly findings: readonly [] }
  | { readonly config: null; readonly findings: readonly Finding[] };

/** Finds `inscriba.yaml` in a folder or above it, reads and validates it. */
export async function loadConfig(from: string): Promise<ConfigResult> {
  const folder = await findProjectFolder(from);
  if (folder === null) return { config: null, findings: [finding('config-missing', null, { folder: from })] };
  const path = join(folder, CONFIG_FILE);
  const { file, finding: unreadable } = await readTextFile(path, relative(from, path));
  if (file === null) return { config: null, findings: [unreadable] };
  const { value, findings, placeOf } = readYaml(file.source, schema);
  if (value === null) return { config: null, findings };
  const { fields, problems } = await readFields(value.fields, folder, placeOf);
  if (problems.length > 0) return { config: null, findings: problems };
  const destinations = Object.entries(value.destinations).map(([key, { dialect }]) => ({
    name: key,
    dialect,
    dialectPlace: placeOf(['destinations', key, 'dialect']),
  }));
  return {
    config: {
      folder,
      name: value.name,
      sender: senderOf(value),
      width: value.width,
      fields,
      fonts: value.fonts,
      destinations,
    },
    findings: [],
  };
}

async function findProjectFolder(from: string): Promise<string | null> {
  for (let folder = resolve(from); ; folder = dirname(folder)) {
    try {
      await readFile(join(folder, CONFIG_FILE));
      return folder;
    } catch {
      if (dirname(folder) === folder) return null;
    }
  }
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
  };
}

async function readFields(
  raw: RawConfig['fields'],
  folder: string,
  placeOf: (path: readonly string[]) => Place,
): Promise<{ fields: MergeFields; problems: Finding[] }> {
  const fields = new Map<string, MergeField>();
  const problems: Finding[] = [];
  for (const [key, field] of Object.entries(raw)) {
    let sample = field.sample;
    if (field.list !== undefined && typeof sample === 'string') {
      const loaded = await readSample(join(folder, sample));
      if (loaded === null)
        problems.push(finding('config-missing-file', placeOf(['fields', key, 'sample']), { path: sample }));
      sample = loaded;
    }
    fields.set(key, {
      type: field.type ?? (field.list === undefined ? typeOf(sample) : 'list'),
      sample,
      fallback: field.fallback ?? null,
    });
  }
  return { fields, problems };
}

async function readSample(path: string): Promise<unknown> {
  try {
    return parse(await readFile(path, 'utf8')) as unknown;
  } catch {
    return null;
  }
}

function typeOf(sample: unknown): FieldType {
  if (typeof sample === 'number') return 'number';
  if (typeof sample === 'boolean') return 'flag';
  return Array.isArray(sample) ? 'list' : 'text';
}
