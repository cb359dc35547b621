import { randomBytes } from 'node:crypto';
import type { RequestBody } from '../core/delivery/fill-request.js';
import type { SentFile } from '../core/delivery/values.js';

/** The bytes of a request's content, and what says of which kind they are. */
export interface EncodedBody {
  readonly bytes: Uint8Array | null;
  readonly headers: Readonly<Record<string, string>>;
}

/** Content as it goes over the wire: JSON (RFC 8259), a form as in a URL, parts (RFC 7578), or the bytes of a file. */
export function encodedBody(body: RequestBody): EncodedBody {
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

/**
 * The parts of a form (RFC 7578). The forms of browsers write every line end anew; here what is sent is what was built, to the
 * byte.
 */
function parts(
  fields: readonly (readonly [string, string])[],
  files: readonly (readonly [string, SentFile])[],
): EncodedBody {
  const boundary = `form-${randomBytes(16).toString('hex')}`;
  const part = (name: string, more: string, content: Uint8Array | string): Buffer =>
    Buffer.concat([
      Buffer.from(`--${boundary}\r\ncontent-disposition: form-data; name="${quoted(name)}"${more}\r\n\r\n`),
      Buffer.from(content),
      Buffer.from('\r\n'),
    ]);
  const bytes = Buffer.concat([
    ...fields.map(([name, value]) => part(name, '', value)),
    ...files.map(([name, file]) =>
      part(name, `; filename="${quoted(file.name)}"\r\ncontent-type: ${file.type}`, file.bytes),
    ),
    Buffer.from(`--${boundary}--\r\n`),
  ]);
  return { bytes, headers: { 'content-type': `multipart/form-data; boundary=${boundary}` } };
}

/** A name within quotes: what would end it is percent-encoded, as browsers do (HTML, 4.10.21.8). */
function quoted(name: string): string {
  return name.replace(/["\r\n]/g, (character) => encodeURIComponent(character));
}
