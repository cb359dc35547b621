import { fillSample } from '../dialects/sample/fill-sample.js';
import type { Place } from '../findings/finding.js';
import { resolveOrigin } from '../text/mapped-text.js';
import { printedMarks } from '../html/place-marks.js';
import { escapeHtml } from '../html/escape.js';
import { sentinel } from '../html/tags.js';
import { attribute, elementsOf, type Doc } from '../html/tree.js';
import { applyEdits, type Edit } from '../text/apply-edits.js';
import { withPicturesInCss } from '../pictures/references.js';
import type { SourceText } from '../text/source-text.js';
import { baseOf, rebaseAddresses } from '../css/values/addresses.js';
import { escapeValue, renderSample, type SampleInput } from './render-message.js';
import type { CompiledMessage, MessageVersions } from './compile-message.js';

/** A message as its author wrote it and as it is compiled, as pages that a browser can show and compare. */
export interface ProofPages {
  /** Its elements are marked by `data-place`. */
  readonly source: string;
  readonly compiled: string;
  /** Where an element of the source was written, by its mark. */
  readonly placeOf: (mark: string) => Place | null;
  /** The widths of the window at which its layout changes, in px. */
  readonly thresholds: readonly number[];
  /** Where lengths follow the window, the widths of the window at which they are exact. */
  readonly exactWidths: readonly number[];
  readonly hasDarkScheme: boolean;
}

/** What decides how the pages look. */
export interface ProofInput extends SampleInput {
  /** The address of the message's folder, from which both pages name their files. */
  readonly base: string;
}

/** Makes the pages of a message. Its merge tags are filled for one recipient, in both of them alike. */
export function proofPages(versions: MessageVersions, input: ProofInput): ProofPages {
  const { html } = versions;
  const base = `<base href="${input.base}">`;
  let known: readonly (Place | null)[] | null = null;
  const places = (): readonly (Place | null)[] => (known ??= placesOfMarks(html.source.doc));
  return {
    source: withBase(sourcePage(html, input), base),
    compiled: withBase(renderSample(versions, input).html, base),
    placeOf: (mark) => places()[Number(mark)] ?? null,
    thresholds: html.thresholds,
    exactWidths: html.exactWidths,
    hasDarkScheme: html.hasDarkScheme,
  };
}

/** What of a page as its author wrote it comes from elsewhere. */
export interface SourceInput extends Pick<SampleInput, 'recipient' | 'picturePath'> {
  /** The text of a linked style sheet by the path that the message gives, where it is to stand in the page. */
  readonly styleSheets?: ReadonlyMap<string, SourceText>;
}

/** A message as its author wrote it, its parts put in and its merge tags filled. Its elements are marked by `data-place`. */
export function sourcePage({ source: { doc, tags, without, pictures } }: CompiledMessage, input: SourceInput): string {
  const plain: Edit[] = [
    ...sheetsInPlace(doc, input),
    ...without.map((span) => ({ span, text: '' })),
    ...doc.tags.map((span, index) => ({ span, text: sentinel(index) })),
    ...pictures.flatMap(({ path, place }): Edit[] => {
      const address = input.picturePath(path);
      return address === path || place.source !== doc.source ? [] : [{ span: place.span, text: address }];
    }),
  ];
  const marked = applyEdits(doc.source.text, [...plain, ...printedMarks(doc)]).text;
  return fillSample(marked, tags, input.recipient, escapeValue);
}

/** The style sheets that a page links, as elements in their places. */
function sheetsInPlace(doc: Doc, { styleSheets = new Map(), picturePath }: SourceInput): Edit[] {
  return [...elementsOf(doc.root)].flatMap((element): Edit[] => {
    const path = element.tag === 'link' ? (attribute(element, 'href') ?? '') : '';
    const sheet = styleSheets.get(path);
    if (sheet === undefined || element.span === null) return [];
    const css = withPicturesInCss(rebaseAddresses(sheet.text, baseOf(path)), picturePath);
    const media = attribute(element, 'media');
    const condition = media === null ? '' : ` media="${escapeHtml(media)}"`;
    return [{ span: element.span, text: `<style${condition}>${css.replace(/<\/(?=style)/gi, '<\\/')}</style>` }];
  });
}

/** Where the elements of a document were written, in the order of their marks; null for those that nobody wrote. */
export function placesOfMarks(doc: Doc): (Place | null)[] {
  return [...elementsOf(doc.root)].map(({ startTag }) =>
    startTag === null ? null : resolveOrigin({ source: doc.source, span: startTag }).origin,
  );
}

/** A page that names its files from a folder. */
function withBase(html: string, base: string): string {
  const head = /<head\b[^>]*>/i.exec(html);
  if (head === null) return base + html;
  const at = head.index + head[0].length;
  return html.slice(0, at) + base + html.slice(at);
}
