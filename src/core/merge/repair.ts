import { decodeHTML } from 'entities';

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
    { text: straight(written), markup: '', damage: 'its characters were written as HTML' },
    ...(markup === '' ? [] : [{ text: straight(bare), markup, damage: 'markup stood in it' }]),
    ...(inAddress ? [{ text: straight(percentDecoded(bare)), markup, damage: 'it was percent-encoded' }] : []),
  ];
  return candidates.filter(
    ({ text }, index) => text !== written && !candidates.slice(0, index).some((one) => one.text === text),
  );
}

/** A text with plain quotes and blanks, and without character references. */
function straight(text: string): string {
  return decodeHTML(text)
    .replace(/[\u00A0\u202F]/g, ' ')
    .replace(/[\u200B\u200C\u200D\u2060\uFEFF\u00AD]/g, '')
    .replace(/[“”„«»]/g, '"')
    .replace(/[‘’‚]/g, "'");
}

/** A text without percent-encoding; as it stands where that is none. */
export function percentDecoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}

const ADDRESS =
  /<[a-z][^<>]*\s(?:href|src|action|background|poster|cite|data|formaction)\s*=\s*(?:"[^"]*|'[^']*|[^\s"'>]*)$/i;

/** Whether a place in HTML is in the value of an attribute that holds an address. */
export function standsInAddress(html: string, offset: number): boolean {
  return ADDRESS.test(html.slice(Math.max(0, offset - 2000), offset));
}
