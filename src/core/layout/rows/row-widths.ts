import { takeBasis } from '../used/flex-basis.js';
import { layoutAdvice } from '../../findings/wording/layout.js';
import type { LayoutProblem } from '../content/problems.js';
import { withoutFrame, type Box } from '../boxes/boxes.js';
import { inState, type BoxInState } from '../boxes/box-in-state.js';

/**
 * The outer width of a column as a line: `share` of the row's width plus `pixels`
 * (CSS Flexible Box Layout 1, 9.7, for the cases in which it comes to a line).
 */
export interface ColumnWidth {
  readonly kind: 'weight' | 'fixed' | 'percent' | 'rest';
  /** From 0 to 1. */
  readonly share: number;
  readonly pixels: number;
  /** The growth factor of a `weight`. */
  readonly weight: number;
}

/** Takes why a row cannot be a row of a table, and gives null, for its caller to return. */
type Refuse = (problem: LayoutProblem) => null;

type Basis =
  | { readonly kind: 'weight' | 'rest'; readonly grow: number }
  | { readonly kind: 'fixed'; readonly pixels: number }
  | { readonly kind: 'percent'; readonly share: number; readonly extra: number };

/**
 * The widths of a row's columns in a state; null where they cannot be known.
 * @param intrinsic the width that a column has by itself (a picture's), in px, or null
 */
export function rowWidths(
  items: readonly BoxInState[],
  gap: number,
  intrinsic: (box: Box) => number | null,
  refuse: Refuse,
): readonly ColumnWidth[] | null {
  const bases: Basis[] = [];
  for (const item of items) {
    const basis = readBasis(item, intrinsic, refuse);
    if (basis === null) return null;
    bases.push(basis);
  }
  const growers = bases.filter((basis) => basis.kind === 'weight' || basis.kind === 'rest');
  const lone = growers.length === 1;
  const unfit = bases.findIndex((basis) => basis.kind === 'rest' && !lone);
  if (unfit >= 0) return refuse(contentSized(items[unfit]?.itself, 'flex-grow'));
  return distribute(items, bases, gap);
}

/** Shares what fixed columns, gaps and the growing columns' own padding leave, by weight. */
function distribute(items: readonly BoxInState[], bases: readonly Basis[], gap: number): ColumnWidth[] {
  const growing = bases.map((basis) => (basis.kind === 'weight' || basis.kind === 'rest' ? basis.grow : 0));
  const total = growing.reduce((sum, grow) => sum + grow, 0);
  const edges = items.map((item, index) => ((growing[index] ?? 0) > 0 ? item.sideEdges + innerEdges(item) : 0));
  const taken = bases.reduce(
    (sum, basis) => sum + (basis.kind === 'fixed' ? basis.pixels : basis.kind === 'percent' ? basis.extra : 0),
    0,
  );
  const takenShare = bases.reduce((sum, basis) => sum + (basis.kind === 'percent' ? basis.share : 0), 0);
  const pixelsGone = taken + gap * (items.length - 1) + edges.reduce((sum, edge) => sum + edge, 0);
  return bases.map((basis, index): ColumnWidth => {
    if (basis.kind === 'fixed') return { kind: 'fixed', share: 0, pixels: basis.pixels, weight: 0 };
    if (basis.kind === 'percent') return { kind: 'percent', share: basis.share, pixels: basis.extra, weight: 0 };
    const part = basis.grow / total;
    return {
      kind: basis.kind,
      share: (1 - takenShare) * part,
      pixels: (edges[index] ?? 0) - pixelsGone * part,
      weight: basis.grow,
    };
  });
}

/** The property by which a column says how wide it is. */
export function widthProperty({ style }: BoxInState): 'width' | 'flex-basis' {
  return style.get('flex-basis') === 'auto' ? 'width' : 'flex-basis';
}

/** What is at the sides of the content of an item within its own: in the box that its margins are around, and in a phrase that fills it. */
export function innerEdges(box: BoxInState): number {
  const { itself } = box;
  if (itself.kind === 'text' && itself.phrase !== undefined) return box.of({ styles: itself.phrase }).sideEdges;
  const inner = withoutFrame(itself);
  if (inner === undefined || inner === itself) return 0;
  return box.of(inner).sideEdges + innerEdges(box.of(inner));
}

function readBasis(box: BoxInState, intrinsic: (box: Box) => number | null, refuse: Refuse): Basis | null {
  const style = box.style;
  const grow = Number(style.take('flex-grow'));
  const { text: basis, quantity, pixels } = takeBasis(style);
  const edges = style.take('box-sizing') === 'border-box' ? 0 : box.sideEdges;
  const most = style.take('max-width');
  if (grow > 0 && most !== 'none' && most !== '100%')
    return refuse({ box: box.itself, property: 'max-width', value: most, advice: layoutAdvice.boundOfGrowing });
  if (grow > 0 && grow < 1)
    return refuse({ box: box.itself, property: 'flex-grow', value: String(grow), advice: layoutAdvice.weights });
  if (grow > 0) {
    if (quantity !== null && quantity.number === 0) return { kind: 'weight', grow };
    if (basis === 'auto') return { kind: 'rest', grow };
    return refuse({ box: box.itself, property: 'flex-basis', value: basis, advice: layoutAdvice.growOrWidth });
  }
  if (quantity?.unit === '%') return { kind: 'percent', share: quantity.number / 100, extra: edges };
  if (pixels !== null) return { kind: 'fixed', pixels: pixels + edges };
  const own = intrinsic(box.itself);
  if (own === null) return refuse(contentSized(box.itself, widthProperty(box)));
  return { kind: 'fixed', pixels: own };
}

function contentSized(box: Box | undefined, property: string): LayoutProblem {
  if (box === undefined) throw new Error('A row without columns has no widths.');
  return {
    box,
    property,
    value: inState(box, 0).style.take(property),
    advice: layoutAdvice.widthOfText,
  };
}
