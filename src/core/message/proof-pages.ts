import { fillSample } from '../dialects/sample/fill-sample.js';
import type { Place } from '../findings/finding.js';
import { resolveOrigin } from '../text/mapped-text.js';
import { escapeAttribute } from '../html/escape.js';
import { sentinel } from '../html/tags.js';
import { elementsOf } from '../html/tree.js';
import { applyEdits, type Edit } from '../text/apply-edits.js';
import { renderSample, type SampleInput } from './render-message.js';
import type { MessageVersions } from './compile-message.js';

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
  const { doc, tags, without, pictures } = html.source;
  const base = `<base href="${input.base}">`;
  const plain: Edit[] = [
    ...without.map((span) => ({ span, text: '' })),
    ...doc.tags.map((span, index) => ({ span, text: sentinel(index) })),
    ...pictures.flatMap(({ path, place }): Edit[] => {
      const address = input.picturePath(path);
      return address === path || place.source !== doc.source ? [] : [{ span: place.span, text: address }];
    }),
  ];
  const marks = [...elementsOf(doc.root)].flatMap((element, index): Edit[] => {
    if (element.startTag === null || element.tagId !== element.startTag.start) return [];
    const at = element.startTag.start + 1 + element.tag.length;
    return [{ span: { start: at, end: at }, text: ` data-place="${index}"` }];
  });
  const spans = [...elementsOf(doc.root)].map(({ startTag }) => startTag);
  const marked = applyEdits(doc.source.text, [...plain, ...marks]).text;
  const value = (text: string): string => escapeAttribute(text, sentinel).replace(/>/g, '&gt;');
  return {
    source: withBase(fillSample(marked, tags, input.recipient, value), base),
    compiled: withBase(renderSample(versions, input).html, base),
    placeOf: (mark) => {
      const span = spans[Number(mark)] ?? null;
      return span === null ? null : resolveOrigin({ source: doc.source, span }).origin;
    },
    thresholds: html.thresholds,
    exactWidths: html.exactWidths,
    hasDarkScheme: html.hasDarkScheme,
  };
}

/** A page that names its files from a folder. */
function withBase(html: string, base: string): string {
  const head = /<head\b[^>]*>/i.exec(html);
  if (head === null) return base + html;
  const at = head.index + head[0].length;
  return html.slice(0, at) + base + html.slice(at);
}
