import { unzipSync } from 'fflate';

/** A file that came with a form. */
export interface ReceivedFile {
  readonly name: string;
  readonly type: string;
  readonly bytes: Uint8Array;
}

/** The content of a request, read in the way that it says it is of. What is not of that way is read as null. */
export interface ReceivedBody {
  readonly type: string;
  readonly bytes: Uint8Array;
  /** A group of JSON. */
  readonly json: Readonly<Record<string, unknown>> | null;
  /** The fields of a form, the last of each name. */
  readonly fields: ReadonlyMap<string, readonly string[]>;
  readonly files: ReadonlyMap<string, readonly ReceivedFile[]>;
}

/** Reads the content of a request: JSON, a form as in a URL, a form of parts, or plain bytes. */
export async function receivedBody(bytes: Uint8Array, contentType: string): Promise<ReceivedBody> {
  const type = contentType.replace(/;.*$/, '').trim().toLowerCase();
  const base: ReceivedBody = { type, bytes, json: null, fields: new Map(), files: new Map() };
  if (type === 'application/json') return { ...base, json: readJson(bytes) };
  if (type === 'application/x-www-form-urlencoded')
    return { ...base, fields: grouped([...new URLSearchParams(Buffer.from(bytes).toString('utf8'))]) };
  return type === 'multipart/form-data' ? { ...base, ...(await readParts(bytes, contentType)) } : base;
}

function readJson(bytes: Uint8Array): ReceivedBody['json'] {
  try {
    const value: unknown = JSON.parse(Buffer.from(bytes).toString('utf8'));
    return typeof value === 'object' && value !== null && !Array.isArray(value)
      ? (value as Record<string, unknown>)
      : null;
  } catch {
    return null;
  }
}

async function readParts(bytes: Uint8Array, contentType: string): Promise<Pick<ReceivedBody, 'fields' | 'files'>> {
  try {
    const form = await new Response(Buffer.from(bytes), { headers: { 'content-type': contentType } }).formData();
    const fields: [string, string][] = [];
    const files: [string, ReceivedFile][] = [];
    for (const [name, value] of form)
      if (typeof value === 'string') fields.push([name, value]);
      else files.push([name, { name: value.name, type: value.type, bytes: new Uint8Array(await value.arrayBuffer()) }]);
    return { fields: grouped(fields), files: grouped(files) };
  } catch {
    return { fields: new Map(), files: new Map() };
  }
}

function grouped<T>(entries: readonly (readonly [string, T])[]): ReadonlyMap<string, readonly T[]> {
  const groups = new Map<string, T[]>();
  for (const [name, value] of entries) groups.set(name, [...(groups.get(name) ?? []), value]);
  return groups;
}

/** The one value of a field; empty where it was not sent. */
export function field({ fields }: ReceivedBody, name: string): string {
  const values = fields.get(name) ?? [];
  return values[values.length - 1] ?? '';
}

/** A text of JSON; empty where it was not sent, or is none. */
export function jsonText({ json }: ReceivedBody, name: string): string {
  const value = json?.[name];
  return typeof value === 'string' ? value : '';
}

/** No zip may unfold to more. */
const LARGEST = 30 * 1024 * 1024;

/** The files of a zip, by their paths; null where it is none, or too large. */
export function unzipped(bytes: Uint8Array): ReadonlyMap<string, Uint8Array> | null {
  let size = 0;
  try {
    const files = unzipSync(bytes, {
      filter: ({ originalSize }) => {
        size += originalSize;
        if (size > LARGEST) throw new Error('too large');
        return true;
      },
    });
    return new Map(Object.entries(files));
  } catch {
    return null;
  }
}
