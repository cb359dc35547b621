import type { PictureFormat } from './inspect-picture.js';

/**
 * A picture without what it says about its making: camera, place, software, comments. Its pixels stay bit for bit. What is
 * not as its format prescribes is left as it is.
 */
export function withoutMetadata(bytes: Uint8Array, format: PictureFormat): Uint8Array {
  const parts =
    format === 'png'
      ? pngParts(bytes)
      : format === 'jpeg'
        ? jpegParts(bytes)
        : format === 'gif'
          ? gifParts(bytes)
          : null;
  return parts === null ? bytes : Buffer.concat(parts);
}

/** Chunks that show: the rest is text, time, profiles that say sRGB, private data (PNG Third Edition, 11). */
const shownChunks: ReadonlySet<string> = new Set([
  'IHDR',
  'PLTE',
  'IDAT',
  'IEND',
  'tRNS',
  'gAMA',
  'cHRM',
  'sRGB',
  'bKGD',
  'acTL',
  'fcTL',
  'fdAT',
]);

function pngParts(bytes: Uint8Array): Uint8Array[] | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const parts = [bytes.subarray(0, 8)];
  for (let at = 8; at + 12 <= bytes.length;) {
    const end = at + 12 + view.getUint32(at);
    const type = latin1(bytes, at + 4, 4);
    if (end > bytes.length) return null;
    if (shownChunks.has(type)) parts.push(bytes.subarray(at, end));
    if (type === 'IEND') return parts;
    at = end;
  }
  return null;
}

/** Segments of applications and comments go, but for those that say how colours are coded (JFIF, and APP14). */
function jpegParts(bytes: Uint8Array): Uint8Array[] | null {
  const parts = [bytes.subarray(0, 2)];
  for (let at = 2; at + 4 <= bytes.length;) {
    if (bytes[at] !== 0xff) return null;
    const marker = bytes[at + 1] ?? 0;
    if (marker === 0xff) {
      at += 1;
      continue;
    }
    const end = at + 2 + (((bytes[at + 2] ?? 0) << 8) | (bytes[at + 3] ?? 0));
    if (end > bytes.length) return null;
    const isStart = marker === 0xda;
    const isApplication = marker >= 0xe0 && marker <= 0xef;
    const isKept = marker === 0xe0 || marker === 0xee;
    if ((!isApplication && marker !== 0xfe) || isKept) parts.push(bytes.subarray(at, isStart ? bytes.length : end));
    if (isStart) return parts;
    at = end;
  }
  return null;
}

/** Comments and applications' blocks go, but for the one that says how often an animation runs (GIF89a, 24 and 26). */
function gifParts(bytes: Uint8Array): Uint8Array[] | null {
  const table = (flags: number): number => (flags & 0x80 ? 3 * 2 ** ((flags & 7) + 1) : 0);
  let at = 13 + table(bytes[10] ?? 0);
  const parts = [bytes.subarray(0, at)];
  const blocksEnd = (from: number): number => {
    let end = from;
    while (end < bytes.length && bytes[end] !== 0) end += (bytes[end] ?? 0) + 1;
    return end + 1;
  };
  while (at < bytes.length) {
    const kind = bytes[at];
    if (kind === 0x3b) return [...parts, bytes.subarray(at, at + 1)];
    const label = bytes[at + 1];
    const end =
      kind === 0x21
        ? blocksEnd(at + 2)
        : kind === 0x2c
          ? blocksEnd(at + 11 + table(bytes[at + 9] ?? 0))
          : bytes.length + 1;
    if (end > bytes.length) return null;
    // Eleven characters of a name, then three bytes of which the first is 1: how often it repeats.
    const loops = bytes[at + 2] === 11 && bytes[at + 14] === 3 && bytes[at + 15] === 1;
    const isShown = kind === 0x2c || label === 0xf9 || label === 0x01 || (label === 0xff && loops);
    if (isShown) parts.push(bytes.subarray(at, end));
    at = end;
  }
  return null;
}

function latin1(bytes: Uint8Array, start: number, length: number): string {
  return String.fromCharCode(...bytes.subarray(start, start + length));
}
