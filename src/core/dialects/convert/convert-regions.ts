import { conversionNote } from '../../findings/wording/conversions.js';
import type { TagDelimiters } from '../../html/tags.js';
import { escapeHtml } from '../../html/escape.js';
import type { Dialect, RegionPattern } from '../dialect.js';
import { writePattern } from '../pattern.js';
import type { SourceEdit } from './source-edit.js';
import type { SourceText } from '../../text/source-text.js';
import { type Span, spanAt } from '../../text/span.js';
import type { RegionMark } from '../../html/regions.js';
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
    const span = region.marks[0] ?? spanAt(0, 0);
    const { mark, losses: lost } = regionMark(region, to);
    losses.push(...lost.map((what) => ({ span, name: region.name, what })));
    if (mark === null) {
      const message = conversionNote.regionUnmarked(region.name);
      edits.push(
        ...region.marks.map(
          (own) => ({ span: own, text: '', entry: { kind: 'region', verdict: 'removed', message } }) as const,
        ),
      );
    } else edits.push(...marked(region, mark));
  }
  return { edits, losses };
}

/** What decides how a region is marked. */
export type RegionFacts = Pick<MarkedRegion, 'name' | 'kind' | 'repeat' | 'choice' | 'label'>;

/** How a dialect marks a region, and what of it has no mark there. */
export function regionMark(
  region: RegionFacts,
  to: Dialect,
): { readonly mark: RegionMark | null; readonly losses: readonly string[] } {
  const pattern = patternFor(region, to);
  if (pattern === null) return { mark: null, losses: ['regions of this kind'] };
  if (to.verbatim) return { mark: pattern, losses: [] };
  const losses = [
    ...(region.repeat && to.regions['repeat'] === undefined ? ['regions that users may repeat'] : []),
    ...(region.choice !== null && to.regions['choice'] === undefined ? ['alternatives to choose from'] : []),
  ];
  const holes = { name: escapeHtml(region.name) };
  const mark =
    'attribute' in pattern
      ? { attribute: writePattern(pattern.attribute, holes) }
      : { open: writePattern(pattern.open, holes), close: writePattern(pattern.close, holes) };
  return { mark, losses };
}

/** How the target marks a region; another kind stands in where it has none of this one. Null where it has none at all. */
function patternFor({ name, kind, repeat, choice, label }: RegionFacts, to: Dialect): RegionPattern | null {
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

function marked({ name, host, marks }: MarkedRegion, mark: RegionMark): SourceEdit[] {
  const entry = { kind: 'region', verdict: 'exact', message: conversionNote.region(name) } as const;
  const removed = (span: Span): SourceEdit => ({ span, text: '', entry: null });
  const at = (offset: number, text: string, own: SourceEdit['entry']): SourceEdit => ({
    span: { start: offset, end: offset },
    text,
    entry: own,
  });
  const [open, close] = marks;
  if ('attribute' in mark) {
    const start = host?.startTag ?? null;
    if (host !== null && start !== null) {
      // Behind the name of the element: there no slash and no unquoted value can be in the way.
      return [at(start.start + 1 + host.tag.length, ` ${mark.attribute}`, entry), ...marks.map(removed)];
    }
    if (open === undefined || close === undefined) return [];
    return [
      { span: open, text: `<div ${mark.attribute}>`, entry },
      { span: close, text: '</div>', entry: null },
    ];
  }
  const { open: before, close: after } = mark;
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
