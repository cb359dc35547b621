import type { TagDelimiters } from '../../html/tags.js';
import { escapeHtml } from '../../html/escape.js';
import type { Dialect, RegionPattern } from '../dialect.js';
import { writePattern } from '../pattern.js';
import type { SourceEdit } from './source-edit.js';
import type { SourceText } from '../../text/source-text.js';
import type { Span } from '../../text/span.js';
import { findRegions, type MarkedRegion } from './region-marks.js';

/** Something of a region that a dialect has no mark for. */
export interface RegionLoss {
  readonly span: Span;
  readonly name: string;
  readonly what: string;
}

/** The changes that carry regions to another dialect's marks, and what gets lost on the way. */
export interface RegionConversion {
  readonly edits: readonly SourceEdit[];
  readonly losses: readonly RegionLoss[];
}

/**
 * Carries the regions of finished HTML from one dialect's marks to another's.
 * @param delimiters of the merge tags in it
 */
export function convertRegions(
  source: SourceText,
  from: Dialect,
  to: Dialect,
  delimiters: readonly TagDelimiters[],
): RegionConversion {
  const edits: SourceEdit[] = [];
  const losses: RegionLoss[] = [];
  for (const region of findRegions(source, from, delimiters)) {
    const span = region.marks[0] ?? { start: 0, end: 0 };
    const lose = (what: string): void => void losses.push({ span, name: region.name, what });
    const pattern = patternFor(region, to);
    if (pattern === null) {
      lose('regions of this kind');
      const message = `the region ${region.name}, which cannot be marked`;
      edits.push(
        ...region.marks.map((mark) => ({ span: mark, text: '', entry: { verdict: 'removed', message } }) as const),
      );
      continue;
    }
    if (!to.verbatim) {
      if (region.repeat && to.regions['repeat'] === undefined) lose('regions that users may repeat');
      if (region.choice !== null && to.regions['choice'] === undefined) lose('alternatives to choose from');
    }
    edits.push(...marked(region, pattern, to));
  }
  return { edits, losses };
}

/** How the target marks a region; another kind stands in where it has none of this one. Null where it has none at all. */
function patternFor({ name, kind, repeat, choice, label }: MarkedRegion, to: Dialect): RegionPattern | null {
  if (to.verbatim) {
    const attributes = [
      `region="${escapeHtml(name)}"`,
      kind === 'rich' ? '' : `region-kind="${kind}"`,
      repeat ? 'region-repeat' : '',
      choice === null ? '' : `region-choice="${escapeHtml(choice)}"`,
      label === null ? '' : `region-label="${escapeHtml(label)}"`,
    ];
    return { attribute: attributes.filter((text) => text !== '').join(' ') };
  }
  const pattern = to.regions[kind] ?? to.regions['rich'] ?? to.regions['block'];
  const repeated = repeat ? to.regions['repeat'] : undefined;
  if (pattern === undefined) return null;
  return 'attribute' in pattern && repeated !== undefined && 'attribute' in repeated
    ? { attribute: `${pattern.attribute} ${repeated.attribute}` }
    : pattern;
}

function marked(region: MarkedRegion, pattern: RegionPattern, to: Dialect): SourceEdit[] {
  const { name, host, marks } = region;
  const entry = { verdict: 'exact', message: `the region ${name}` } as const;
  const holes = { name: escapeHtml(name) };
  const removed = (span: Span): SourceEdit => ({ span, text: '', entry: null });
  const at = (offset: number, text: string, own: SourceEdit['entry']): SourceEdit => ({
    span: { start: offset, end: offset },
    text,
    entry: own,
  });
  const [open, close] = marks;
  if ('attribute' in pattern) {
    const text = to.verbatim ? pattern.attribute : writePattern(pattern.attribute, holes);
    const start = host?.startTag ?? null;
    if (host !== null && start !== null) {
      // Behind the name of the element: there no slash and no unquoted value can be in the way.
      return [at(start.start + 1 + host.tag.length, ` ${text}`, entry), ...marks.map(removed)];
    }
    if (open === undefined || close === undefined) return [];
    return [
      { span: open, text: `<div ${text}>`, entry },
      { span: close, text: '</div>', entry: null },
    ];
  }
  const [before, after] = [writePattern(pattern.open, holes), writePattern(pattern.close, holes)];
  if (host === null) {
    if (open === undefined || close === undefined) return [];
    return [
      { span: open, text: before, entry },
      { span: close, text: after, entry: null },
    ];
  }
  const isCell = /^t[dhr]$/.test(host.tag) && host.startTag !== null && host.endTag !== null;
  const inside = isCell ? { start: host.startTag.end, end: host.endTag.start } : host.span;
  if (inside === null) return [];
  return [...marks.map(removed), at(inside.start, before, entry), at(inside.end, after, null)];
}
