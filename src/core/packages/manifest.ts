import type { PackageFile } from './package-file.js';

/** Who sends: what the project says. */
export interface Sender {
  readonly name: string;
  readonly address: string;
  readonly replyTo: string | null;
  readonly company: string | null;
  readonly postalAddress: string | null;
  readonly website: string | null;
  /** Addresses by which readers leave, https or mailto; for mails that no platform sends. */
  readonly unsubscribe: readonly string[];
}

/** What a platform's form asks about a message, in its dialect. */
export interface MessageFacts {
  readonly message: string;
  /** The name of the edition; null for a message without editions. */
  readonly edition: string | null;
  readonly project: string;
  readonly destination: string;
  readonly dialect: string;
  readonly subject: string;
  /** The subject as a sample recipient reads it. */
  readonly subjectSample: string;
  readonly preheader: string | null;
  readonly topic: string | null;
  readonly description: string | null;
  readonly keywords: readonly string[];
  readonly sender: Sender | null;
  readonly links: readonly string[];
  /** What users of the platform may edit. */
  readonly regions: readonly Region[];
  /** Whether anything in it is filled in for each recipient. */
  readonly hasTags: boolean;
  /** The names of the files that travel with it. */
  readonly attachments: readonly string[];
  /** What the dialect asks for beside the rest. */
  readonly extras: Readonly<Record<string, string>>;
  readonly pictures: {
    /** How they travel. */
    readonly mode: string;
    readonly list: readonly PictureFacts[];
  };
}

/** A picture of a message. */
export interface PictureFacts {
  /** Its path in the package, or its address on the web; null for one that stands in the HTML itself. */
  readonly address: string | null;
  /** Its name as a part of a mail (RFC 2392), where it is one. */
  readonly contentId: string | null;
  readonly width: number;
  readonly height: number;
  readonly bytes: number;
  /** What its file in the project has. */
  readonly bytesBefore: number;
}

/** An editable piece of a message. */
export interface Region {
  readonly name: string;
  readonly kind: string;
  readonly repeat: boolean;
  readonly choice: string | null;
  readonly label: string | null;
}

/**
 * The manifest of a package: what it is and what it holds, as JSON. It holds no time, so that the same input
 * makes the same bytes.
 * `schemas/manifest.schema.json` says what it may hold.
 * @param shape the shape of the package; null for a message that is built and not packed
 * @param digest the SHA-256 of bytes, in hexadecimal
 */
export function manifestJson(
  facts: MessageFacts,
  shape: string | null,
  files: readonly PackageFile[],
  digest: (bytes: Uint8Array) => string,
): string {
  const manifest = {
    format: 1,
    ...(shape === null ? {} : { shape }),
    message: facts.message,
    ...(facts.edition === null ? {} : { edition: facts.edition }),
    project: facts.project,
    destination: facts.destination,
    dialect: facts.dialect,
    subject: facts.subject,
    preheader: facts.preheader,
    topic: facts.topic,
    description: facts.description,
    keywords: facts.keywords,
    sender:
      facts.sender === null
        ? null
        : { name: facts.sender.name, address: facts.sender.address, reply_to: facts.sender.replyTo },
    links: facts.links,
    ...(facts.regions.length === 0 ? {} : { regions: facts.regions.map(regionJson) }),
    ...(facts.attachments.length === 0 ? {} : { attachments: facts.attachments }),
    ...(Object.keys(facts.extras).length === 0 ? {} : { extras: facts.extras }),
    ...(facts.pictures.list.length === 0
      ? {}
      : { picture_mode: facts.pictures.mode, pictures: facts.pictures.list.map(pictureJson) }),
    files: files.map(({ path, bytes }) => ({ path, bytes: bytes.length, sha256: digest(bytes) })),
  };
  return `${JSON.stringify(manifest, null, 2)}\n`;
}

function pictureJson({ address, contentId, width, height, bytes, bytesBefore }: PictureFacts): object {
  return {
    ...(address === null ? {} : { address }),
    ...(contentId === null ? {} : { content_id: contentId }),
    width,
    height,
    bytes,
    bytes_before: bytesBefore,
  };
}

/** A region as JSON has it. */
export function regionJson({ name, kind, repeat, choice, label }: Region): object {
  return {
    name,
    kind,
    ...(repeat ? { repeat } : {}),
    ...(choice === null ? {} : { choice }),
    ...(label === null ? {} : { label }),
  };
}

/** What a platform is to call a message, or an edition of one. */
export function templateName({ message, edition }: Pick<MessageFacts, 'message' | 'edition'>): string {
  return edition === null ? message : edition.startsWith(message) ? edition : `${message}-${edition}`;
}
