import {
  about,
  address,
  anyGroup,
  anyNumber,
  anything,
  either,
  group,
  list,
  mailAddress,
  named,
  needed,
  number,
  oneOf,
  text,
  usually,
  whole,
  type Held,
  type Key,
} from '../../core/yaml/keys.js';
import { fieldKinds } from '../../core/dialects/field-shape.js';
import type { DeclaredItems } from '../../core/dialects/field-shape.js';

const fieldName = /^[A-Za-z_]\w*$/;
const destinationName = /^[\p{L}\d][\p{L}\d_-]*$/u;

const leaving = address('https', 'mailto');

const sender = group({
  name: about('The name that readers see as the sender', needed(text())),
  address: about('The address that messages come from', needed(mailAddress())),
  reply_to: about('The address that answers go to', mailAddress()),
  company: about('The company behind the messages, for their footers', text()),
  postal_address: about('Its postal address, for their footers', text()),
  website: about('Its page on the web', address('http', 'https')),
  unsubscribe: about(
    'Addresses by which readers leave (https or mailto); for mails that no platform sends',
    either(leaving, list(leaving, 1)),
  ),
});

/** What a list holds: one kind of datum, or fields, of which each may again be a list. */
function listItems(depth: number): Key<DeclaredItems | undefined> {
  const kind = oneOf(...fieldKinds);
  const inner = depth === 0 ? kind : either(kind, group({ list: needed(listItems(depth - 1)) }));
  return either(kind, named(fieldName, inner)) as Key<DeclaredItems | undefined>;
}

/** Lists within lists: more than these no message loops over. */
const DEEPEST_LIST = 5;

const field = group({
  type: about('The kind of datum; without it that of the sample counts', oneOf(...fieldKinds, 'list')),
  sample: about('A value for previews and proofs; for a list also the path of a YAML file', anything()),
  fallback: about('What stands in for an empty value where a tag says nothing else', text()),
  list: about(
    'What the items of a list are: a kind of datum, or fields with the kind of each',
    listItems(DEEPEST_LIST),
  ),
});

const font = group({
  family: about('The name by which styles use the font', needed(text())),
  source: about('The address of the style sheet that loads it', needed(address('https'))),
  fallback: about('The fonts that stand in for it', needed(list(text(), 1))),
});

const upload = group({
  kind: about(
    'How pictures are uploaded: over WebDAV, by plain PUT, or into a folder that something syncs',
    needed(oneOf('webdav', 'put', 'folder')),
  ),
  url: about('The address of the folder that takes them; may hold ${env.NAME}', text()),
  folder: about('The folder that takes them, for kind: folder; from the folder of this file', text()),
  user: about('The name to log in with; may hold ${env.NAME}', text()),
  password: about('Its password: ${env.NAME}', text()),
  token: about('A bearer token in place of name and password: ${env.NAME}', text()),
  timeout: about('The seconds that one picture may take (30)', number(0.1, 600)),
});

const images = group({
  mode: about(
    'How pictures travel: in the package, on a server, as parts of the mail, within the HTML, or in the picture store of the platform',
    needed(oneOf('package', 'host', 'attach', 'embed', 'library')),
  ),
  base_url: about('The address below which the server or the store shows them; may hold ${env.NAME}', text()),
  upload: about('How they get onto the server, for mode: host', upload),
});

const checks = named(/^[a-z][a-z\d-]*$/, oneOf('error', 'warning', 'note', 'off'));

const push = named(/^[a-z][a-z\d_]*$/, either(text(), anyNumber()), {
  url: about('The address of the platform’s interface; may hold ${env.NAME}', needed(text())),
  timeout: about('The seconds that one request may take (30)', number(0.1, 600)),
  secret_command: about(
    'A command that prints the secret, in place of a variable of the environment; or one for each secret, by its name',
    either(text(), named(/^[a-z][a-z\d_]*$/, text())),
  ),
}) as Key<RawPushSetting | undefined>;

/** What is under `push` of a destination: what every interface needs, and the settings that its dialect names. */
export interface RawPushSetting {
  readonly url: string;
  readonly timeout?: number;
  readonly secret_command?: string | Readonly<Record<string, string>>;
  readonly [setting: string]: string | number | Readonly<Record<string, string>> | undefined;
}

const destination = group({
  dialect: about('The dialect of the platform: one that ships, or a file in dialects/', needed(text())),
  images: about('How pictures reach readers', images),
  link_parameters: about(
    'Parameters that are added to every web link; values may hold ${message.name} and the like',
    named(null, either(text(), anyNumber())),
  ),
  push: about('Where inscriba push brings messages: url, and what the dialect asks for, such as key', push),
  checks: about('How grave findings are there, by their codes: error, warning, note or off', checks),
});

const security = oneOf('tls', 'starttls', 'none');

const serverKeys = {
  host: about('The name of the server; may hold ${env.NAME}', needed(text())),
  port: about('Its port, where it is not the usual one; may be ${env.NAME}', either(whole(), text())),
  security,
  user: about('The name to log in with; may hold ${env.NAME}', text()),
  password: about('Its password: ${env.NAME}', text()),
  timeout: about('The seconds that the server may let one wait (30)', number(0.1, 600)),
};

const mail = group({
  smtp: about(
    'The server that sends proofs',
    group({
      ...serverKeys,
      security: about('How the connection is kept private (starttls); none only on this machine', security),
      per_minute: about('How many mails go out in a minute, at most (60)', number(1, 6000)),
    }),
  ),
  imap: about(
    'The mailbox that drafts are put into',
    group({
      ...serverKeys,
      security: about('How the connection is kept private (tls); none only on this machine', security),
      drafts: about('The folder that drafts go to (that which the server marks as such)', text()),
    }),
  ),
  readers: about('The addresses that proofs go to, where the command names none', list(mailAddress())),
});

const defaults = group({
  preheader: about('The line beside the subject in inboxes', text()),
  topic: about('The kind of mail that a reader may subscribe to', text()),
  description: about('What the message is, for people who look for it', text()),
  keywords: about('Words to find messages by', list(text())),
  from: about('The name of the sender', text()),
  reply_to: about('The address that answers go to', mailAddress()),
  data: about('Data files whose values every message sees', list(text())),
});

/** What `inscriba.yaml` may hold. */
export const configSchema = needed(
  group({
    name: about('The name of the project; that of its folder where it is not said', text()),
    sender: about('Who sends', sender),
    width: about('The width in px of messages whose own styles bound none', usually(whole(200, 2000), 600)),
    fields: about('The merge fields: what recipients have', usually(named(fieldName, field), {})),
    fonts: about('Web fonts that messages may use', usually(list(font), [])),
    destinations: about(
      'The places that finished messages go to; needed by what builds messages',
      usually(named(destinationName, destination), {}),
    ),
    footer: about('A file of finished HTML, with neutral merge tags: the footer that convert puts in', text()),
    mail: about('How proofs are sent and drafts kept', mail),
    samples: about(
      'Sample recipients by their names, with the fields in which each differs; or the path of a YAML file with them',
      either(text(), anyGroup()),
    ),
    checks: about('How grave findings are, by their codes: error, warning, note or off', usually(checks, {})),
    defaults: about('What messages say that do not say it themselves', usually(defaults, {})),
  }),
);

/** `inscriba.yaml` as it stands, with defaults applied. */
export type RawConfig = Held<typeof configSchema>;
export type RawDestination = NonNullable<Held<typeof destination>>;
export type RawImages = NonNullable<Held<typeof images>>;
export type RawMail = NonNullable<Held<typeof mail>>;
export type RawServer = NonNullable<RawMail['smtp'] | RawMail['imap']>;
export type RawDefaults = RawConfig['defaults'];
