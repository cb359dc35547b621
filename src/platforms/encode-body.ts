import type { RequestBody } from '../core/delivery/fill-request.js';
import type { SentFile } from '../core/delivery/values.js';

/** The bytes of a request's content, and what says of which kind they are. */
export interface EncodedBody {
  readonly bytes: Uint8Array | null;
  readonly headers: Readonly<Record<string, string>>;
}

/** Content as it goes over the wire: JSON (RFC 8259), a form as in a URL, parts (RFC 7578), or the bytes of a file. */
export async function encodedBody(body: RequestBody): Promise<EncodedBody> {
  switch (body.kind) {
    case 'none':
      return { bytes: null, headers: {} };
    case 'json':
      return { bytes: Buffer.from(JSON.stringify(body.value)), headers: { 'content-type': 'application/json' } };
    case 'form':
      return {
        bytes: Buffer.from(new URLSearchParams(body.fields.map(([name, value]) => [name, value])).toString()),
        headers: { 'content-type': 'application/x-www-form-urlencoded' },
      };
    case 'bytes':
      return { bytes: body.file.bytes, headers: { 'content-type': body.file.type } };
    case 'multipart':
      return parts(body.fields, body.files);
  }
}

async function parts(
  fields: readonly (readonly [string, string])[],
  files: readonly (readonly [string, SentFile])[],
): Promise<EncodedBody> {
  const form = new FormData();
  for (const [name, value] of fields) form.append(name, value);
  for (const [name, file] of files) form.append(name, new Blob([Buffer.from(file.bytes)], { type: file.type }), file.name);
  const encoded = new Response(form);
  return {
    bytes: new Uint8Array(await encoded.arrayBuffer()),
    headers: { 'content-type': encoded.headers.get('content-type') ?? '' },
  };
}
