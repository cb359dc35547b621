import type { Pixels, Region } from '../core/slices/pixels.js';

/** Wider than this an overview is of no more use. */
const MOST_WIDTH = 1200;

/** Digits as lines on a field of 10 by 16: no font has to be installed. */
const digits: readonly string[] = [
  'M2 2H8V14H2Z',
  'M3 4L5 2V14',
  'M2 2H8V8H2V14H8',
  'M2 2H8V14H2M3 8H8',
  'M2 2V8H8M8 2V14',
  'M8 2H2V8H8V14H2',
  'M8 2H2V14H8V8H2',
  'M2 2H8L5 14',
  'M2 2H8V14H2ZM2 8H8',
  'M8 14V2H2V8H8',
];

/** A picture with its cuts drawn on it, and a number on each slice, in their order, as PNG. */
export async function drawOverview(pixels: Pixels, slices: readonly Region[]): Promise<Uint8Array> {
  const { default: sharp } = await import('sharp');
  const factor = Math.min(1, MOST_WIDTH / pixels.width);
  const [width, height] = [Math.round(pixels.width * factor), Math.max(1, Math.round(pixels.height * factor))];
  const image = sharp(pixels.data, { raw: { width: pixels.width, height: pixels.height, channels: 4 } })
    .flatten({ background: '#ffffff' })
    .resize({ width, height, fit: 'fill' });
  const lines = slices.map((region) => frame(region, factor)).join('');
  const numbers = slices.map((region, index) => badge(region, factor, index + 1)).join('');
  const drawing = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">${lines}${numbers}</svg>`;
  return image
    .composite([{ input: Buffer.from(drawing) }])
    .png({ compressionLevel: 9 })
    .toBuffer();
}

/** Two colours, so that the line shows on any ground. */
function frame({ left, top, right, bottom }: Region, factor: number): string {
  const [x, y, width, height] = [left, top, right - left, bottom - top].map((length) => length * factor);
  const box = `x="${(x ?? 0) + 0.5}" y="${(y ?? 0) + 0.5}" width="${Math.max(1, (width ?? 0) - 1)}" height="${Math.max(1, (height ?? 0) - 1)}" fill="none"`;
  return `<rect ${box} stroke="#ffffff"/><rect ${box} stroke="#d6006c" stroke-dasharray="6 4"/>`;
}

function badge({ left, top }: Region, factor: number, number: number): string {
  const figures = [...String(number)].map((digit, index) => {
    const path = digits[Number(digit)] ?? '';
    return `<path transform="translate(${5 + index * 11} 3)" d="${path}" fill="none" stroke="#ffffff" stroke-width="2"/>`;
  });
  const width = figures.length * 11 + 9;
  const place = `translate(${left * factor + 3} ${top * factor + 3})`;
  return `<g transform="${place}"><rect width="${width}" height="22" rx="4" fill="#d6006c" stroke="#ffffff"/>${figures.join('')}</g>`;
}
