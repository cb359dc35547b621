import type { Refuse } from '../findings/finding.js';
/** A template that a push has made, or was about to make. */
export interface Delivery {
  readonly destination: string;
  readonly message: string;
  readonly edition: string | null;
  /** What the platform calls it; null while it is not known whether it was made. */
  readonly id: string | null;
  /** Where people look at it. */
  readonly link: string | null;
  /** The digest of what was sent; null where nothing arrived yet. */
  readonly sent: string | null;
  /** The digest of what the platform gave back after that; null where it gives back nothing. */
  readonly there: string | null;
  /** The digest of what was on its way when the push ended; null where nothing was. */
  readonly pending: string | null;
  /** The digest of the message's file: by that a renamed message is known. */
  readonly source: string;
}

/** A picture in the store of a platform. */
export interface StoredPicture {
  readonly destination: string;
  /** The SHA-256 of its bytes. */
  readonly picture: string;
  /** The address by which HTML shows it; null while it is not known whether it arrived. */
  readonly address: string | null;
}

/** What pushes have made. */
export interface DeliveryRecord {
  readonly deliveries: readonly Delivery[];
  readonly pictures: readonly StoredPicture[];
}

const FORMAT = 1;

/**
 * A record as a file: JSON with one line for each template and picture, in a stable order, so that version control merges it
 * line by line. Each such line ends with a comma; the format stands last.
 */
export function printDeliveries({ deliveries, pictures }: DeliveryRecord): string {
  const lines = [
    ...deliveries.map(({ destination, message, edition, id, link, sent, there, pending, source }) =>
      JSON.stringify({
        destination,
        message,
        ...(edition === null ? {} : { edition }),
        ...(id === null ? {} : { id }),
        ...(link === null ? {} : { link }),
        ...(sent === null ? {} : { sent }),
        ...(there === null ? {} : { there }),
        ...(pending === null ? {} : { pending }),
        source,
      }),
    ),
    ...pictures.map(({ destination, picture, address }) =>
      JSON.stringify({ destination, picture, ...(address === null ? {} : { address }) }),
    ),
  ].sort();
  return `[\n${lines.map((line) => `${line},\n`).join('')}{"format":${FORMAT}}\n]\n`;
}

/** Reads a record. Null where it is none: without it templates would be made twice. */
export function readDeliveries(text: string, refuse: Refuse): DeliveryRecord | null {
  let entries: unknown;
  try {
    entries = JSON.parse(text);
  } catch (error) {
    return refuse(/^(?:<{7}|={7}|>{7})/m.test(text) ? 'it holds the marks of a merge' : (error as Error).message);
  }
  if (!Array.isArray(entries)) return refuse('it is no list');
  const deliveries = new Map<string, Delivery>();
  const pictures = new Map<string, StoredPicture>();
  let format: unknown = null;
  for (const entry of entries as unknown[]) {
    if (typeof entry !== 'object' || entry === null) return refuse(`it holds ${JSON.stringify(entry)}`);
    const read = entry as Record<string, unknown>;
    if ('format' in read) format = read['format'];
    else if (typeof read['destination'] !== 'string')
      return refuse(`an entry has no destination: ${JSON.stringify(entry)}`);
    else if (typeof read['picture'] === 'string')
      pictures.set(`${read['destination']} ${read['picture']}`, {
        destination: read['destination'],
        picture: read['picture'],
        address: textOrNull(read['address']),
      });
    else if (typeof read['message'] === 'string') {
      const delivery = toDelivery(read, read['destination'], read['message']);
      deliveries.set(keyOf(delivery), delivery);
    } else return refuse(`an entry has neither message nor picture: ${JSON.stringify(entry)}`);
  }
  if (format !== FORMAT) return refuse(`its format is ${JSON.stringify(format)}, and not ${FORMAT}`);
  return { deliveries: [...deliveries.values()], pictures: [...pictures.values()] };
}

function toDelivery(read: Readonly<Record<string, unknown>>, destination: string, message: string): Delivery {
  return {
    destination,
    message,
    edition: textOrNull(read['edition']),
    id: textOrNull(read['id']),
    link: textOrNull(read['link']),
    sent: textOrNull(read['sent']),
    there: textOrNull(read['there']),
    pending: textOrNull(read['pending']),
    source: textOrNull(read['source']) ?? '',
  };
}

function textOrNull(value: unknown): string | null {
  return typeof value === 'string' ? value : null;
}

/** What tells deliveries apart. */
export function keyOf({
  destination,
  message,
  edition,
}: Pick<Delivery, 'destination' | 'message' | 'edition'>): string {
  return JSON.stringify([destination, message, edition]);
}
