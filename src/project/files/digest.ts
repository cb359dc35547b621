import { createHash } from 'node:crypto';

/** The SHA-256 of bytes, in hexadecimal. */
export function digestOf(bytes: Uint8Array | string): string {
  return createHash('sha256').update(bytes).digest('hex');
}
