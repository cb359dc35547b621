import { tagReason } from '../../findings/wording/tags.js';
import { finding, type Report } from '../../findings/finding.js';
import { SourceText } from '../../text/source-text.js';
import { type Span, spanAt } from '../../text/span.js';
import { parseHtml } from '../parse.js';
import { contentSpan, type Doc, elementsOf } from '../tree.js';

/**
 * Holds the result of a change of finished HTML against what it was made from: the same template tags in the same order.
 * Those within styles may stand several times, or with another declaration; one that is gone is said.
 */
export function checkTags(before: Doc, result: string, report: Report): void {
  if (before.tags.length === 0) return;
  const { doc: after } = parseHtml(new SourceText(before.source.name, result), before.delimiters);
  const [old, now] = [taggedPlaces(before), taggedPlaces(after)];
  const changed = old.inMarkup.findIndex((tag, index) => textOf(before, tag) !== textOf(after, now.inMarkup[index]));
  const at = changed < 0 && now.inMarkup.length > old.inMarkup.length ? old.inMarkup.length : changed;
  if (at >= 0) {
    const place = { source: before.source, span: old.inMarkup[at] ?? spanAt(0, 0) };
    const tag = textOf(before, old.inMarkup[at]) || textOf(after, now.inMarkup[at]);
    report(finding('tags-changed', place, { tag }));
  }
  const written = new Set(after.tags.map((tag) => textOf(after, tag)));
  const told = new Set<string>();
  for (const tag of old.inStyles) {
    const text = textOf(before, tag);
    if (written.has(text) || told.has(text)) continue;
    told.add(text);
    const why = tagReason.noEffect;
    report(finding('tag-left-out', { source: before.source, span: tag }, { tag: text, why }));
  }
}

function textOf(doc: Doc, tag: Span | undefined): string {
  return tag === undefined ? '' : doc.source.slice(tag);
}

/** The tags of a document: those in styles, and all others, in order. */
function taggedPlaces(doc: Doc): { inMarkup: Span[]; inStyles: Span[] } {
  const ranges = styleRanges(doc);
  const places: { inMarkup: Span[]; inStyles: Span[] } = { inMarkup: [], inStyles: [] };
  let range = 0;
  for (const tag of doc.tags) {
    while ((ranges[range]?.end ?? Infinity) <= tag.start) range += 1;
    const isStyle = (ranges[range]?.start ?? Infinity) <= tag.start;
    (isStyle ? places.inStyles : places.inMarkup).push(tag);
  }
  return places;
}

/** The contents of style elements, and style attributes, in order. */
function styleRanges(doc: Doc): Span[] {
  const ranges: Span[] = [];
  for (const element of elementsOf(doc.root)) {
    const style = element.attributes.get('style');
    if (style !== undefined) ranges.push(style.span);
    const content = contentSpan(element);
    if (element.tag === 'style' && content !== null) ranges.push(content);
  }
  return ranges.sort((a, b) => a.start - b.start);
}
