import { conversionNote } from '../../findings/wording/conversions.js';
import { decodeHTML } from 'entities';
import { percentDecoded } from '../../text/percent-decoded.js';

/** A tag as it must have been meant, and the markup that had come into it. */
export interface RepairedTag {
  readonly text: string;
  readonly markup: string;
  /** What had happened to it, in words for a reader. */
  readonly damage: string;
}

/** Markup within a line of text: what an editor puts around a part of a word. */
export const MARKUP_SOURCE =
  '<!--[\\s\\S]*?-->|</?(?:a|abbr|b|big|br|code|em|font|i|ins|del|mark|s|small|span|strike|strong|sub|sup|u|wbr|o:p)(?=[\\s>/])[^<>]*>';

const MARKUP = new RegExp(MARKUP_SOURCE, 'gi');

/**
 * What a tag that cannot be read may have been, before an editor of HTML worked on it: nearest first.
 * @param inAddress whether it stands in an attribute that holds an address, where a tag may be percent-encoded
 */
export function repairsOf(written: string, inAddress: boolean): RepairedTag[] {
  const markup = (written.match(MARKUP) ?? []).join('');
  const bare = markup === '' ? written : written.replace(MARKUP, '');
  const candidates: RepairedTag[] = [
    { text: straight(written), markup: '', damage: conversionNote.writtenAsHtml },
    ...(markup === '' ? [] : [{ text: straight(bare), markup, damage: 'markup stood in it' }]),
    ...(inAddress ? [{ text: straight(percentDecoded(bare)), markup, damage: 'it was percent-encoded' }] : []),
  ];
  return candidates.filter(
    ({ text }, index) => text !== written && !candidates.slice(0, index).some((one) => one.text === text),
  );
}

/**
 * The tag with plain spaces, where others stand in it that languages may read as spaces and platforms do not. In a fallback, quoted
 * or not, they are the author's.
 */
export function withPlainSpaces(written: string): RepairedTag | null {
  if (!ODD_SPACE.test(written)) return null;
  const text = written
    .replace(/^[^|?/,"']*/, plainSpaces)
    .replace(/[\u00A0\u202F\u200B-\u200D\u2060\uFEFF\u00AD]+(?=[^\p{L}\p{N}\s]{1,2}$)/u, plainSpaces);
  return text === written ? null : { text, markup: '', damage: 'spaces stood in it that are not plain ones' };
}

const ODD_SPACE = /[\u00A0\u202F\u200B-\u200D\u2060\uFEFF\u00AD]/;

function plainSpaces(text: string): string {
  return text.replace(/[\u00A0\u202F]/g, ' ').replace(/[\u200B-\u200D\u2060\uFEFF\u00AD]/g, '');
}

/** A text with plain quotes and spaces, and without character references. */
function straight(text: string): string {
  return plainSpaces(decodeHTML(text))
    .replace(/[“”„«»]/g, '"')
    .replace(/[‘’‚]/g, "'");
}

const ADDRESS =
  /<[a-z][^<>]*\s(?:href|src|action|background|poster|cite|data|formaction)\s*=\s*(?:"[^"]*|'[^']*|[^\s"'>]*)$/i;

/** Whether a place in HTML is in the value of an attribute that holds an address. */
export function standsInAddress(html: string, offset: number): boolean {
  return ADDRESS.test(html.slice(Math.max(0, offset - 2000), offset));
}
