import type { Finding, Report } from '../findings/finding.js';
import { parseHtml } from '../html/parse.js';
import { checkStructure } from '../html/structure/structure.js';
import { buildDelimiters, neutralDelimiters } from '../html/tags.js';
import type { Doc } from '../html/tree.js';
import { MappedText } from '../text/mapped-text.js';
import { SourceText } from '../text/source-text.js';
import type { Span } from '../text/span.js';

/**
 * What is done with markup that is not closed: it is refused, or mended by leaving out the tags that do not fit, for who wants
 * to know what else is wrong.
 */
export type Unsound = 'refused' | 'mended';

/** So many times tags that do not fit are left out: without one, another may not fit. */
const MOST_MENDED = 5;

/** A source file, parsed; what is said of one that is not sound is no help. */
export interface ParsedTemplate {
  readonly doc: Doc;
  readonly isSound: boolean;
}

/** Parses a source file, with the content of its `<template>`s in the tree, and reports where it is not well formed. */
export function parseTemplate(source: SourceText, report: Report, unsound: Unsound = 'refused'): ParsedTemplate {
  let parsed = parseOnce(source);
  parsed.problems.forEach(report);
  for (let round = 0; round < MOST_MENDED && unsound === 'mended' && parsed.unfit.length > 0; round += 1)
    parsed = parseOnce(without(parsed.doc.source, parsed.unfit));
  return { doc: parsed.doc, isSound: parsed.unfit.length === 0 };
}

function parseOnce(source: SourceText): {
  readonly doc: Doc;
  readonly problems: readonly Finding[];
  readonly unfit: readonly Span[];
} {
  const { doc, errors } = parseHtml(source, [neutralDelimiters, buildDelimiters], 'within');
  const problems = checkStructure(doc, errors);
  // Markup that is not closed moves everything behind it.
  const unfit = problems.flatMap(({ code, place }) =>
    place !== null && (code === 'unclosed-tag' || code === 'stray-end-tag') ? [unfitSpan(source, place.span)] : [],
  );
  return { doc, problems, unfit };
}

/** A tag that does not fit; where what stands behind it is its text, the first line of that as well. */
function unfitSpan({ text }: SourceText, { start, end }: Span): Span {
  const isText = /^<(?:title|style|script|textarea)\b/i.test(text.slice(start, start + 10));
  const line = isText ? (/^[^\n\r<]*/.exec(text.slice(end))?.[0].length ?? 0) : 0;
  return { start, end: end + line };
}

/** A text with blanks in the place of some spans, so that offsets hold. */
function without(source: SourceText, spans: readonly Span[]): SourceText {
  let text = source.text;
  for (const { start, end } of spans)
    text = text.slice(0, start) + text.slice(start, end).replace(/[^\r\n]/g, ' ') + text.slice(end);
  if (!(source instanceof MappedText)) return new SourceText(source.name, text);
  const origin = { source, span: { start: 0, end: text.length } };
  return new MappedText(source.name, [{ text, origin, exact: true, uses: [] }]);
}
