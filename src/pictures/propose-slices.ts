import { finding, refusing, type Report } from '../core/findings/finding.js';
import { proposeSlices } from '../core/library/propose-slices.js';
import type { Noise } from '../core/slices/find-cuts.js';
import type { ProposedSlice } from '../core/slices/plan.js';
import type { Pixels, Region } from '../core/slices/pixels.js';
import { openTextReader, type TextReader } from './read-text.js';

/** A reading that is less sure than this is to be looked at, from 0 to 100. */
const SURE = 80;
/** A reading that is less sure than this is none. */
const LEAST_SURE = 30;

/**
 * Proposes the slices of a drawn design. Slices that show nothing get an empty alt; the others have none yet, unless their
 * text is to be read.
 */
export async function slicesWithAlt(
  pixels: Pixels,
  { noise, suggestAlt }: { readonly noise: Noise; readonly suggestAlt: boolean },
  report: Report,
): Promise<ProposedSlice[][]> {
  const refuse = refusing(report, (detail) => finding('alt-unread', null, { detail }));
  const reader = suggestAlt ? await openTextReader(refuse) : null;
  const proposed: ProposedSlice[][] = [];
  for (const band of proposeSlices(pixels, { noise }).value) {
    const slices: ProposedSlice[] = [];
    for (const { isBlank, ...slice } of band)
      slices.push({ ...slice, ...(isBlank ? { alt: '', remark: null } : await altOf(pixels, slice.region, reader)) });
    proposed.push(slices);
  }
  await reader?.close();
  return proposed;
}

async function altOf(
  pixels: Pixels,
  region: Region,
  reader: TextReader | null,
): Promise<Pick<ProposedSlice, 'alt' | 'remark'>> {
  if (reader === null) return { alt: null, remark: null };
  const { text: read, confidence } = await reader.read(pixels, region);
  // Lines of a frame are read as strokes beside the words.
  const text = read.replace(/^[^\p{L}\d"'(]+|[^\p{L}\d"')?!.…%]+$/gu, '');
  // What is read from a photograph or a drawing is a few letters that make no word.
  const isNoise = confidence < LEAST_SURE || (confidence < SURE && text.length < 5);
  if (isNoise || !/[\p{L}\d]{2}/u.test(text)) return { alt: null, remark: 'no text found: say what it shows' };
  const percent = `${Math.round(confidence)} %`;
  return {
    alt: text,
    remark:
      confidence < SURE ? `read from the picture, unsure (${percent}): check it` : `read from the picture (${percent})`,
  };
}
