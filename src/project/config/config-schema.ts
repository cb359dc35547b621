import Joi from 'joi';
import type { WebFont } from '../../core/layout/boxes/fonts.js';
import type { DeclaredItems } from '../../core/dialects/field-shape.js';
import type { FieldType } from '../../core/dialects/model.js';

/** A merge field as `inscriba.yaml` has it. */
export interface RawField {
  readonly type?: FieldType;
  readonly sample?: unknown;
  readonly fallback?: string;
  readonly list?: DeclaredItems;
}

/** A destination as `inscriba.yaml` has it. */
export interface RawDestination {
  readonly dialect: string;
  readonly link_parameters?: Readonly<Record<string, string | number>>;
  readonly images?: RawImages;
}

/** How pictures reach readers, as `inscriba.yaml` has it. */
export interface RawImages {
  readonly mode: 'package' | 'host' | 'attach' | 'embed' | 'library';
  readonly base_url?: string;
  readonly upload?: {
    readonly kind: 'webdav' | 'put' | 'folder';
    readonly url?: string;
    readonly folder?: string;
    readonly user?: string;
    readonly password?: string;
    readonly token?: string;
    readonly timeout?: number;
  };
}

/** A mail server, as `inscriba.yaml` has it. */
export interface RawServer {
  readonly host: string;
  readonly port?: number | string;
  readonly security?: 'tls' | 'starttls' | 'none';
  readonly user?: string;
  readonly password?: string;
  readonly timeout?: number;
}

/** How mails are sent and drafts kept, as `inscriba.yaml` has it. */
export interface RawMail {
  readonly smtp?: RawServer & { readonly per_minute?: number };
  readonly imap?: RawServer & { readonly drafts?: string };
  readonly readers?: readonly string[];
}

/** What messages say that do not say it themselves, as `inscriba.yaml` has it. */
export interface RawDefaults {
  readonly preheader?: string;
  readonly topic?: string;
  readonly description?: string;
  readonly keywords?: readonly string[];
  readonly from?: string;
  readonly reply_to?: string;
  readonly data?: readonly string[];
}

/** `inscriba.yaml` as it stands, with defaults applied. */
export interface RawConfig {
  readonly name?: string;
  readonly sender?: {
    readonly name: string;
    readonly address: string;
    readonly reply_to?: string;
    readonly company?: string;
    readonly postal_address?: string;
    readonly website?: string;
    readonly unsubscribe?: string | readonly string[];
  };
  readonly width: number;
  readonly fields: Readonly<Record<string, RawField>>;
  readonly fonts: readonly WebFont[];
  readonly destinations: Readonly<Record<string, RawDestination>>;
  readonly defaults: RawDefaults;
  readonly footer?: string;
  readonly mail?: RawMail;
  readonly samples?: string | Readonly<Record<string, unknown>>;
}

const name = Joi.string().pattern(/^[\p{L}\d][\p{L}\d_-]*$/u);
/** A mail address. Servers that take other characters than those of ASCII in one are rare, and mail to it is lost elsewhere. */
export const mailAddress = Joi.string().email({ tlds: false, allowUnicode: false });
const fieldName = /^[A-Za-z_]\w*$/;
const itemTypes = ['text', 'number', 'flag', 'date'];

const leaving = Joi.string().uri({ scheme: ['https', 'mailto'] });

const sender = Joi.object({
  name: Joi.string().required().description('The name that readers see as the sender'),
  address: mailAddress.required().description('The address that messages come from'),
  reply_to: mailAddress.description('The address that answers go to'),
  company: Joi.string().description('The company behind the messages, for their footers'),
  postal_address: Joi.string().description('Its postal address, for their footers'),
  website: Joi.string()
    .uri({ scheme: ['http', 'https'] })
    .description('Its page on the web'),
  unsubscribe: Joi.alternatives(leaving, Joi.array().items(leaving).min(1)).description(
    'Addresses by which readers leave (https or mailto); for mails that no platform sends',
  ),
});

/** What a list holds: one kind of datum, or fields, of which each may again be a list. */
function listItems(depth: number): Joi.AlternativesSchema {
  const kind = Joi.string().valid(...itemTypes);
  const inner = depth === 0 ? kind : Joi.alternatives(kind, Joi.object({ list: listItems(depth - 1).required() }));
  return Joi.alternatives(kind, Joi.object().pattern(fieldName, inner));
}

/** Lists within lists: more than these no message loops over. */
const DEEPEST_LIST = 5;

const field = Joi.object({
  type: Joi.string()
    .valid(...itemTypes, 'list')
    .description('The kind of datum; without it that of the sample counts'),
  sample: Joi.any().description('A value for previews and proofs; for a list also the path of a YAML file'),
  fallback: Joi.string().description('What stands in for an empty value where a tag says nothing else'),
  list: listItems(DEEPEST_LIST).description(
    'What the items of a list are: a kind of datum, or fields with the kind of each',
  ),
});

const font = Joi.object({
  family: Joi.string().required().description('The name by which styles use the font'),
  source: Joi.string().uri({ scheme: 'https' }).required().description('The address of the style sheet that loads it'),
  fallback: Joi.array().items(Joi.string()).min(1).required().description('The fonts that stand in for it'),
});

const upload = Joi.object({
  kind: Joi.string()
    .valid('webdav', 'put', 'folder')
    .required()
    .description('How pictures are uploaded: over WebDAV, by plain PUT, or into a folder that something syncs'),
  url: Joi.string().description('The address of the folder that takes them; may hold ${env.NAME}'),
  folder: Joi.string().description('The folder that takes them, for kind: folder; from the folder of this file'),
  user: Joi.string().description('The name to log in with; may hold ${env.NAME}'),
  password: Joi.string().description('Its password: ${env.NAME}'),
  token: Joi.string().description('A bearer token in place of name and password: ${env.NAME}'),
  timeout: Joi.number().min(0.1).max(600).description('The seconds that one picture may take (30)'),
});

const images = Joi.object({
  mode: Joi.string()
    .valid('package', 'host', 'attach', 'embed', 'library')
    .required()
    .description(
      'How pictures travel: in the package, on a server, as parts of the mail, within the HTML, or in the picture store of the platform',
    ),
  base_url: Joi.string().description(
    'The address below which the server or the store shows them; may hold ${env.NAME}',
  ),
  upload: upload.description('How they get onto the server, for mode: host'),
});

const destination = Joi.object({
  dialect: Joi.string().required().description('The dialect of the platform: one that ships, or a file in dialects/'),
  images: images.description('How pictures reach readers'),
  link_parameters: Joi.object()
    .pattern(Joi.string(), Joi.alternatives(Joi.string(), Joi.number()))
    .description('Parameters that are added to every web link; values may hold ${message.name} and the like'),
});

const serverKeys = {
  host: Joi.string().required().description('The name of the server; may hold ${env.NAME}'),
  port: Joi.alternatives(Joi.number().integer(), Joi.string()).description(
    'Its port, where it is not the usual one; may be ${env.NAME}',
  ),
  security: Joi.string().valid('tls', 'starttls', 'none'),
  user: Joi.string().description('The name to log in with; may hold ${env.NAME}'),
  password: Joi.string().description('Its password: ${env.NAME}'),
  timeout: Joi.number().min(0.1).max(600).description('The seconds that the server may let one wait (30)'),
};

const mail = Joi.object({
  smtp: Joi.object({
    ...serverKeys,
    security: serverKeys.security.description(
      'How the connection is kept private (starttls); none only on this machine',
    ),
    per_minute: Joi.number().min(1).max(6000).description('How many mails go out in a minute, at most (60)'),
  }).description('The server that sends proofs'),
  imap: Joi.object({
    ...serverKeys,
    security: serverKeys.security.description('How the connection is kept private (tls); none only on this machine'),
    drafts: Joi.string().description('The folder that drafts go to (that which the server marks as such)'),
  }).description('The mailbox that drafts are put into'),
  readers: Joi.array().items(mailAddress).description('The addresses that proofs go to, where the command names none'),
});

const defaults = Joi.object({
  preheader: Joi.string().description('The line beside the subject in inboxes'),
  topic: Joi.string().description('The kind of mail that a reader may subscribe to'),
  description: Joi.string().description('What the message is, for people who look for it'),
  keywords: Joi.array().items(Joi.string()).description('Words to find messages by'),
  from: Joi.string().description('The name of the sender'),
  reply_to: mailAddress.description('The address that answers go to'),
  data: Joi.array().items(Joi.string()).description('Data files whose values every message sees'),
});

/** What `inscriba.yaml` may hold. */
export const configSchema: Joi.ObjectSchema<RawConfig> = Joi.object<RawConfig>({
  name: Joi.string().description('The name of the project; that of its folder where it is not said'),
  sender: sender.description('Who sends'),
  width: Joi.number()
    .integer()
    .min(200)
    .max(2000)
    .default(600)
    .description('The width in px of messages whose own styles bound none'),
  fields: Joi.object().pattern(fieldName, field).default({}).description('The merge fields: what recipients have'),
  fonts: Joi.array().items(font).default([]).description('Web fonts that messages may use'),
  destinations: Joi.object()
    .pattern(name, destination)
    .default({})
    .description('The places that finished messages go to; needed by what builds messages'),
  footer: Joi.string().description('A file of finished HTML, with neutral merge tags: the footer that convert puts in'),
  mail: mail.description('How proofs are sent and drafts kept'),
  samples: Joi.alternatives(Joi.string(), Joi.object()).description(
    'Sample recipients by their names, with the fields in which each differs; or the path of a YAML file with them',
  ),
  defaults: defaults.default({}).description('What messages say that do not say it themselves'),
});
