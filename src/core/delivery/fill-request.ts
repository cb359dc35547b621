import type { Exchange, PushApi, RequestMethod, SendPattern, SignIn } from '../dialects/push-api.js';
import { filledText, filledValue, textOf, type RequestValues, type SentFile } from './values.js';

/** The files that a request may carry. */
export interface RequestFiles {
  /** The picture, or the zip of the message. */
  readonly file: SentFile | null;
  /** The pictures of the message. */
  readonly pictures: readonly SentFile[];
}

export const noFiles: RequestFiles = { file: null, pictures: [] };

/** The content of a request. */
export type RequestBody =
  | { readonly kind: 'none' }
  | { readonly kind: 'json'; readonly value: SendPattern }
  | { readonly kind: 'form'; readonly fields: readonly (readonly [string, string])[] }
  | {
      readonly kind: 'multipart';
      readonly fields: readonly (readonly [string, string])[];
      readonly files: readonly (readonly [string, SentFile])[];
    }
  | { readonly kind: 'bytes'; readonly file: SentFile };

/** A request, complete but for where its interface is. */
export interface FilledRequest {
  readonly method: RequestMethod;
  /** With its query, percent-encoded. */
  readonly path: string;
  readonly headers: Readonly<Record<string, string>>;
  readonly body: RequestBody;
}

/** A request of an interface with its values, and what says who asks; a bearer's token comes with the client. */
export function filledRequest(
  api: Pick<PushApi, 'headers' | 'signIn'>,
  exchange: Exchange,
  values: RequestValues,
  files: RequestFiles = noFiles,
): FilledRequest {
  const headers = { ...api.headers, ...exchange.headers };
  return {
    method: exchange.method,
    path: filledText(exchange.path, values, encodeURIComponent),
    headers: {
      ...Object.fromEntries(Object.entries(headers).map(([name, pattern]) => [name, filledText(pattern, values)])),
      ...signInHeaders(api.signIn, values),
    },
    body: filledBody(exchange, values, files),
  };
}

/** What says who asks, where that is known beforehand. */
function signInHeaders(signIn: SignIn, values: RequestValues): Record<string, string> {
  switch (signIn.kind) {
    case 'header':
      return { [signIn.name]: filledText(signIn.value, values) };
    case 'basic': {
      // RFC 7617: the two, in UTF-8.
      const bytes = new TextEncoder().encode(
        `${filledText(signIn.user, values)}:${filledText(signIn.password, values)}`,
      );
      return { authorization: `Basic ${base64(bytes)}` };
    }
    case 'bearer':
      return { authorization: `Bearer ${filledText(signIn.token, values)}` };
    default:
      return {};
  }
}

/** Bytes in base64 (RFC 4648, 4). */
export function base64(bytes: Uint8Array): string {
  let text = '';
  for (let at = 0; at < bytes.length; at += 0x8000) text += String.fromCharCode(...bytes.subarray(at, at + 0x8000));
  return btoa(text);
}

function filledBody(exchange: Exchange, values: RequestValues, { file, pictures }: RequestFiles): RequestBody {
  const { body, send } = exchange;
  switch (body) {
    case 'none':
      return { kind: 'none' };
    case 'json':
      return { kind: 'json', value: filledValue(send, values) };
    case 'form':
      return { kind: 'form', fields: fieldsOf(send, values) };
    case 'bytes':
      return file === null ? { kind: 'none' } : { kind: 'bytes', file };
    case 'multipart': {
      const files: (readonly [string, SentFile])[] = [];
      if (exchange.file !== null && file !== null) files.push([exchange.file, file]);
      if (exchange.pictures !== null) for (const picture of pictures) files.push([exchange.pictures, picture]);
      return { kind: 'multipart', fields: fieldsOf(send, values), files };
    }
  }
}

/** The fields of a form: a list gives its field once for each entry, what is null none. */
function fieldsOf(send: SendPattern, values: RequestValues): (readonly [string, string])[] {
  const filled = filledValue(send, values);
  if (typeof filled !== 'object' || filled === null) return [];
  return Object.entries(filled).flatMap(([name, value]: [string, SendPattern]) => {
    if (value === null) return [];
    const entries: readonly SendPattern[] = Array.isArray(value) ? (value as readonly SendPattern[]) : [value];
    return entries.map((entry) => [name, textOf(entry)] as const);
  });
}
