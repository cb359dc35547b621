import { createHash } from 'node:crypto';

/** The SHA-256 of bytes, in hexadecimal. */
export function digestOf(bytes: Uint8Array | string): string {
  return createHash('sha256').update(bytes).digest('hex');
}

/** A text of one line with its digest before it, which tells where it is damaged later. */
export function withDigest(line: string): string {
  return `${digestOf(line)}\n${line}\n`;
}

/** The line that `withDigest` wrote; null for anything else. */
export function undamagedLine(text: string): string | null {
  const [digest = '', line = ''] = text.split('\n');
  return line === '' || digestOf(line) !== digest ? null : line;
}
