import { attribute, elementsOf, writtenValue, type ElementNode } from '../../html/tree.js';
import { holdsTag, replaceSentinels, splitAtSentinels } from '../../html/tags.js';
import type { StyledPage } from './styled-page.js';
import { shownWords } from './words.js';

/** A link of a page. */
export interface Link {
  readonly element: ElementNode;
  /** Its address as it is written, template tags and all, without space around it; null for an anchor without one. */
  readonly href: string | null;
  /** The same with an x for each template tag. */
  readonly masked: string;
  /** Whether a template tag stands in its address, and whether the address begins with one. */
  readonly hasTag: boolean;
  readonly beginsWithTag: boolean;
  /** Whether it is the way to get no more of such mails. */
  readonly isUnsubscribe: boolean;
  /** What it says, with single spaces; template tags stand in it as sentinels. */
  readonly words: string;
  /** The pictures in it. */
  readonly pictures: readonly ElementNode[];
}

export function linksOf(page: StyledPage): Link[] {
  return page.withTag('a', 'area').map((element) => {
    const value = attribute(element, 'href');
    const inside = [...elementsOf(element)];
    const words = wordsIn(element);
    const pictures = inside.filter(({ tag }) => tag === 'img');
    const href = value === null ? null : writtenValue(page.doc, value).trim();
    const [first] = splitAtSentinels((value ?? '').trim());
    return {
      element,
      href,
      masked: replaceSentinels(value ?? '', () => 'x').trim(),
      hasTag: value !== null && holdsTag(value),
      beginsWithTag: typeof first === 'number' || (first === '' && holdsTag(value ?? '')),
      isUnsubscribe:
        leaves.test(words) ||
        (pictures.length > 0 && pictures.some((picture) => leaves.test(attribute(picture, 'alt') ?? ''))),
      words,
      pictures,
    };
  });
}

/** The text in an element, with single spaces. */
export function wordsIn(element: ElementNode): string {
  const pieces: string[] = [];
  for (const inner of elementsOf(element))
    if (!/^(?:style|script|title)$/.test(inner.tag))
      for (const child of inner.children) if (child.kind === 'text') pieces.push(child.value);
  return shownWords(pieces.join(' '));
}

/** What a link says to who hears it: its words, or else what stands for its pictures. */
export function nameOf({ words, pictures, element }: Link): string {
  const label = attribute(element, 'aria-label')?.trim() ?? '';
  if (label !== '') return label;
  const alts = pictures.map((picture) => attribute(picture, 'alt')?.trim() ?? '');
  return [words, ...alts].filter((text) => text !== '').join(' ');
}

/** The scheme of an address, in lower case; null where it has none. */
export function schemeOf(address: string): string | null {
  return /^([a-z][a-z\d+.-]*):/i.exec(address)?.[1]?.toLowerCase() ?? null;
}

/** Words of links by which readers leave. */
const leaves =
  /\b(?:unsubscribe|opt[ -]?out|leave (?:this|the|our) list|stop (?:these|such|receiving)|abmelden|austragen|abbestellen|désabonner|désinscri\w+|darse de baja)\b/i;

/** The schemes that links in mails have. */
export const knownSchemes: readonly string[] = [
  'http',
  'https',
  'mailto',
  'tel',
  'sms',
  'cid',
  'data',
  'ftp',
  'geo',
  'webcal',
  'facetime',
  'file',
];

export const scriptSchemes: readonly string[] = ['javascript', 'vbscript'];

/** Whether an address was put in while a page is made, to be replaced. */
export function isPlaceholder(address: string): boolean {
  return /^(?:#|#!|\?|https?:\/{0,2}|about:blank|x{3,}|todo|tbd|url|link|address|https?:\/\/(?:x{3,}|todo|tbd|url|link)\/?)$/i.test(
    address,
  );
}

/** Whether an address begins with the name of a host: `www.alderlane.example`. */
export function looksLikeHost(address: string): boolean {
  if (/^www\d?\./i.test(address)) return true;
  const host = /^((?:[a-z\d-]+\.)+[a-z]{2,})(?=[/?#]|$)/i.exec(address)?.[1];
  return (
    host !== undefined && !/\.(?:html?|php|aspx?|jsp|pdf|png|jpe?g|gif|webp|svg|txt|ics|zip|docx?|xlsx?)$/i.test(host)
  );
}

/** Whether an address counts from a folder, or names a file of somebody's machine. */
export function isRelative(address: string): boolean {
  if (address === '' || /^[#“”„«‘’]/.test(address) || isPlaceholder(address) || looksLikeHost(address)) return false;
  const scheme = schemeOf(address);
  return scheme === null || scheme === 'file' || scheme.length === 1;
}

/** The host of a web address, in lower case; null for anything else. */
export function hostOf(address: string): string | null {
  return /^https?:\/\/(?:[^/?#@]*@)?([^/?#:\s]+)/i.exec(address)?.[1]?.toLowerCase() ?? null;
}
