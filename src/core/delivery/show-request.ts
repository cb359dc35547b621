import type { FilledRequest, RequestBody } from './fill-request.js';
import type { SentFile } from './values.js';

/** More of a text than this is told by its size. */
const MOST_CHARACTERS = 120;

/**
 * A request as people read it: its line, what it says, and what it holds, with long texts and files told by their sizes.
 * @param base the address of the interface, with a slash at its end
 */
export function shownRequest({ method, path, headers, body }: FilledRequest, base: string): string {
  const lines = [
    `${method} ${path.startsWith('/') ? base.replace(/\/$/, '') : ''}${path}`,
    ...Object.entries(headers).map(([name, value]) => `  ${name}: ${value}`),
    ...shownBody(body).map((line) => `  ${line}`),
  ];
  return `${lines.join('\n')}\n`;
}

function shownBody(body: RequestBody): string[] {
  switch (body.kind) {
    case 'none':
      return [];
    case 'json':
      return [
        'content-type: application/json',
        ...JSON.stringify(body.value, (_key, value: unknown) => shortened(value), 2).split('\n'),
      ];
    case 'form':
      return ['content-type: application/x-www-form-urlencoded', ...body.fields.map(shownField)];
    case 'multipart':
      return [
        'content-type: multipart/form-data',
        ...body.fields.map(shownField),
        ...body.files.map(([name, file]) => `${name} = ${shownFile(file)}`),
      ];
    case 'bytes':
      return [`content-type: ${body.file.type}`, shownFile(body.file)];
  }
}

function shownField([name, value]: readonly [string, string]): string {
  return `${name} = ${String(shortened(value))}`;
}

function shownFile({ name, type, bytes }: SentFile): string {
  return `the file ${name} (${type}, ${size(bytes.length)})`;
}

function shortened(value: unknown): unknown {
  if (typeof value !== 'string' || value.length <= MOST_CHARACTERS) return value;
  const [first = ''] = value.slice(0, 60).split('\n');
  return `${first}… (${size(new TextEncoder().encode(value).length)})`;
}

function size(bytes: number): string {
  return bytes < 1024 ? `${bytes} bytes` : `${(bytes / 1024).toFixed(1)} KB`;
}
