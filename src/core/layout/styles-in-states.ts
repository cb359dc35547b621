import { layoutAdvice } from '../findings/wording/layout.js';
import { applying, type Declared } from '../css/cascade/cascade.js';
import { computeStyles, type ComputedStyles } from '../css/cascade/computed.js';
import type { ComputedStyle } from '../css/cascade/computed-style.js';
import type { ElementIndex, IndexedElement } from '../css/selectors/element-index.js';
import { invalidMedia } from '../css/cascade/media-validity.js';
import type { DeclaredByOrder } from '../css/cascade/document-cascade.js';
import type { Condition, StyleRule } from '../css/cascade/rules.js';
import { finding, type Finding, type Report } from '../findings/finding.js';
import { NARROWEST_VIEWPORT, DESKTOP_VIEWPORT } from './content/room.js';
import { reportGrowing } from './account/lengths.js';
import { withDecorations } from './used/decorations.js';
import { withFlatColors } from './used/flat-colors.js';
import type { Rgba } from '../css/values/mixed-color.js';
import { columnsKey, withSettledColumns } from './used/intrinsic.js';
import { usedStyles } from './used/used-values.js';
import type { WidthState } from './boxes/states.js';
import { appliesIn, isDark, readCondition, type Variant } from './boxes/variants.js';

/** The widths of the window at which conditions change what applies; conditions that are not compiled are reported. */
export function conditionThresholds(rules: readonly StyleRule[], report: Report): number[] {
  const thresholds: number[] = [];
  const reported = new Set<number>();
  for (const condition of rules.flatMap((rule) => rule.conditions)) {
    const problem = conditionProblem(condition);
    if (problem === null) thresholds.push(...(readCondition(condition)?.width?.thresholds ?? []));
    else if (!reported.has(condition.place.span.start)) {
      reported.add(condition.place.span.start);
      report(problem);
    }
  }
  return thresholds;
}

/** What keeps the rules under a condition from being compiled; null where nothing does. */
function conditionProblem(condition: Condition): Finding | null {
  const invalid = condition.kind === 'media' ? invalidMedia(condition.text) : null;
  if (invalid !== null) {
    const advice = invalid.nearest === null ? layoutAdvice.mediaQuery : `Write @media ${invalid.nearest}.`;
    return finding('media-query-invalid', condition.place, { query: invalid.query, detail: invalid.detail, advice });
  }
  if (readCondition(condition) !== null) return null;
  return finding('css-condition-unsupported', condition.place, { condition: `@${condition.kind} ${condition.text}` });
}

export function stylesInStates(
  index: ElementIndex,
  declared: DeclaredByOrder,
  states: readonly WidthState[],
  variant: Variant | null,
  report: Report,
): readonly (readonly ComputedStyle[])[] {
  const reported = new Set<Declared['declaration']>();
  const used = states.map((state) => {
    const viewport = state.maxWidth ?? DESKTOP_VIEWPORT;
    const { computed, applied } = computedAt(index, declared, state.maxWidth ?? state.minWidth, variant, viewport);
    for (const { declaration } of computed.unresolved) {
      if (reported.has(declaration)) continue;
      reported.add(declaration);
      const name = /var\(\s*(--[^\s,)]+)/.exec(declaration.value)?.[1] ?? declaration.value;
      report(finding('css-unknown-variable', declaration.place, { name }));
    }
    const wide = usedStyles(index, computed.styles, viewport);
    // The widest state has no end: what would grow with the window has no one value in it.
    if (state.maxWidth === null && states.length > 1) {
      const narrow = computeStyles(index, applied, { viewportWidth: state.minWidth });
      reportGrowing(index, wide.styles, usedStyles(index, narrow.styles, state.minWidth).styles, report);
    }
    const canvas = canvasOf(computed.styles[0], variant);
    return { ...wide, styles: withDecorations(index, withFlatColors(index, wide.styles, canvas)) };
  });
  return withSettledColumns(index, used);
}

/** What a page is painted on: white, and where the page asks for a dark scheme what browsers paint then. */
function canvasOf(root: ComputedStyle | undefined, variant: Variant | null): Rgba {
  const asked = root?.get('color-scheme') ?? 'normal';
  const isDarkened = /\bdark\b/.test(asked) && (isDark(variant) || !/\blight\b/.test(asked));
  return isDarkened ? { red: 18, green: 18, blue: 18, alpha: 1 } : { red: 255, green: 255, blue: 255, alpha: 1 };
}

/** The styles of all elements in a window of a width. */
function computedAt(
  index: ElementIndex,
  declared: DeclaredByOrder,
  width: number,
  variant: Variant | null,
  viewport: number,
): { computed: ComputedStyles; applied: (element: IndexedElement) => readonly Declared[] } {
  const inState = applying(appliesAt(width, variant));
  const applied = ({ order }: IndexedElement): readonly Declared[] => inState(declared[order]);
  const computed = computeStyles(index, applied, {
    viewportWidth: viewport,
    scheme: isDark(variant) ? 'dark' : 'light',
  });
  return { computed, applied };
}

/** The widths of the window at which the number of columns changes that follows from how wide their container is. */
export function columnThresholds(
  index: ElementIndex,
  declared: DeclaredByOrder,
  thresholds: readonly number[],
): number[] {
  const follows = declared
    .flat()
    .some(
      ({ declaration: { property, value } }) =>
        /^(?:grid|flex)/.test(property) && /auto-fi|minmax\(|(?<!no)wrap/i.test(value),
    );
  if (!follows) return [];
  const keyAt = (width: number): string =>
    columnsKey(index, usedStyles(index, computedAt(index, declared, width, null, width).computed.styles, width));
  const edges = [...new Set([NARROWEST_VIEWPORT, ...thresholds.flatMap((width) => [width, width + 1]), WIDEST])]
    .filter((width) => width >= NARROWEST_VIEWPORT && width <= WIDEST)
    .sort((a, b) => a - b);
  const flips: number[] = [];
  const search = (low: number, lowKey: string, high: number, highKey: string): void => {
    if (lowKey === highKey) return;
    if (high - low <= 1) return void flips.push(low);
    const middle = (low + high) >> 1;
    const key = keyAt(middle);
    search(low, lowKey, middle, key);
    search(middle, key, high, highKey);
  };
  const keys = edges.map(keyAt);
  edges.slice(1).forEach((high, at) => search(edges[at] ?? 0, keys[at] ?? '', high, keys[at + 1] ?? ''));
  return flips;
}

/** The widest window in which a layout that follows from a width is looked for, in px: that of the widest state. */
const WIDEST = DESKTOP_VIEWPORT;

/** Tells whether declarations apply at a width; those of one rule are asked once. */
function appliesAt(width: number, variant: Variant | null): (item: Declared) => boolean {
  const known = new Map<Declared['conditions'], boolean>();
  return (item) => {
    if (item.conditions.length === 0 || item.stateful) return appliesIn(item, width, variant);
    const answer = known.get(item.conditions) ?? appliesIn(item, width, variant);
    known.set(item.conditions, answer);
    return answer;
  };
}
