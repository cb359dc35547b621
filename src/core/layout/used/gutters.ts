import type { ComputedStyle, NewValues } from '../../css/cascade/computed-style.js';
import type { ElementIndex, IndexedElement } from '../../css/selectors/element-index.js';
import { withPixels } from '../../css/values/math.js';
import { sideEdges } from '../boxes/box-style.js';
import { isVisibleNode } from '../boxes/element-kinds.js';

/** By how much children reach out of the content of their container, in px. */
interface Gutters {
  readonly left: number;
  readonly right: number;
}

/**
 * Children whose negative margins take no more than the padding of their container stand where that padding begins: the
 * container is given less of it, and its other children a margin. So the rows of many a style sheet take back what is at the
 * outer sides of their columns (`margin: 0 -10px`).
 */
export function withGutters({ elements }: ElementIndex, styles: readonly ComputedStyle[]): readonly ComputedStyle[] {
  const negative = styles.some((style) => marginNames.some((name) => (style.pixels(name) ?? 0) < 0));
  if (!negative) return styles;
  const changed = [...styles];
  for (const container of elements) {
    const style = changed[container.order];
    const shown = container.children.filter((child) => changed[child.order]?.get('display') !== 'none');
    if (style === undefined || !/^(?:block|flow-root)$/.test(style.get('display'))) continue;
    // Text beside them would move with the padding.
    if (container.node.children.some((node) => node.kind === 'text' && isVisibleNode(node))) continue;
    const inner = shown.flatMap(({ order }) => changed[order] ?? []);
    const gutters = guttersOf(style, inner);
    if (gutters !== null) {
      shown.forEach(({ order }, index) => {
        const own = inner[index];
        if (own !== undefined) changed[order] = own.with(movedMargins(own, gutters));
      });
      changed[container.order] = style.with(lessPadding(style, gutters));
    }
    takeBackEnds(container, shown, changed);
  }
  return changed;
}

const marginNames = ['margin-left', 'margin-right', 'margin-top', 'margin-bottom'];

/** Null where nothing reaches out, or something does not follow the width of the container alone. */
function guttersOf(container: ComputedStyle, children: readonly ComputedStyle[]): Gutters | null {
  const reach = (side: string): number =>
    Math.max(0, ...children.map((child) => -(child.pixels(`margin-${side}`) ?? 0)));
  const [left, right] = [reach('left'), reach('right')];
  const fits = (side: string, size: number): boolean => (container.pixels(`padding-${side}`) ?? 0) >= size;
  if ((left === 0 && right === 0) || !fits('left', left) || !fits('right', right)) return null;
  const isPlain = children.every(
    (child) =>
      /^(?:block|flow-root|flex|grid|list-item)$/.test(child.get('display')) &&
      child.get('width') === 'auto' &&
      child.get('float') === 'none' &&
      ['margin-left', 'margin-right'].every((name) => child.pixels(name) !== null),
  );
  return isPlain ? { left, right } : null;
}

function movedMargins(style: ComputedStyle, { left, right }: Gutters): NewValues {
  return new Map([
    ['margin-left', (style.pixels('margin-left') ?? 0) + left],
    ['margin-right', (style.pixels('margin-right') ?? 0) + right],
  ]);
}

/** Less padding, in a box that stays as wide as it is. */
function lessPadding(style: ComputedStyle, { left, right }: Gutters): NewValues {
  const less = (side: string, size: number): number => (style.pixels(`padding-${side}`) ?? 0) - size;
  const edges = style.get('box-sizing') === 'border-box' ? 0 : sideEdges(style);
  return new Map<string, string | number>([
    ['padding-left', less('left', left)],
    ['padding-right', less('right', right)],
    ['box-sizing', 'border-box'],
    ['width', withPixels(style.get('width'), edges)],
    ['max-width', withPixels(style.get('max-width'), edges)],
  ]);
}

/** A row at an end of its container that reaches into the padding there. */
function takeBackEnds(container: IndexedElement, shown: readonly IndexedElement[], styles: ComputedStyle[]): void {
  for (const [end, child] of [['top', shown[0]] as const, ['bottom', shown.at(-1)] as const]) {
    const outer = styles[container.order];
    const inner = child === undefined ? undefined : styles[child.order];
    if (child === undefined || outer === undefined || inner === undefined) continue;
    const reach = -(inner.pixels(`margin-${end}`) ?? 0);
    const padding = outer.pixels(`padding-${end}`) ?? 0;
    // The margins of what a row holds do not adjoin its own.
    if (reach <= 0 || padding < reach || !/^(?:flex|grid)$/.test(inner.get('display'))) continue;
    styles[child.order] = inner.with(new Map([[`margin-${end}`, 0]]));
    styles[container.order] = outer.with(new Map([[`padding-${end}`, padding - reach]]));
  }
}
