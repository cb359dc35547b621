import type { ComputedStyle, NewValues } from '../../css/cascade/computed-style.js';
import type { IndexedElement } from '../../css/selectors/element-index.js';
import { sides } from '../../css/values/properties.js';
import type { TreeNode } from '../../html/tree.js';
import { isPainted } from '../boxes/boxes.js';
import { isVisibleNode, phrasingTags } from '../boxes/element-kinds.js';
import { lineHeightPixels } from './inline-rows.js';

type StyleOf = (element: IndexedElement) => ComputedStyle | undefined;

/** What is asked about the elements around a row. */
interface Surroundings {
  readonly styleOf: StyleOf;
  readonly lookup: (node: TreeNode) => IndexedElement | undefined;
}

/** A row within a line of text, as a block of that line: what changes for it and for each of its items. */
export interface RowInLine {
  readonly own: NewValues;
  readonly items: ReadonlyMap<IndexedElement, NewValues>;
}

/** How far the middle of a line stands above its baseline, in font sizes: that of common fonts, as nothing is measured here. */
const MIDDLE = 0.35;

/** The line height that no style says, in font sizes: that of common fonts. */
const NORMAL_LINE = 1.15;

/** Rows that are wider than this, by an upper estimate, could fill the line of a phone, where their items would shrink. In px. */
const WIDEST = 280;

/** The width of a character, in font sizes: an upper bound for the mean of common fonts. */
const CHARACTER_WIDTH = 0.62;

/**
 * Reads a row that stands in a line of text (`display: inline-flex`, `inline-grid`) as a block in the line: its items stand
 * in the line of that, moved up or down as they are aligned. Null for what has no equal there.
 * @param style the row's style, with lengths that are resolved
 * @param around the computed style of an element in the state, and the element of a node
 */
export function rowInLine(element: IndexedElement, style: ComputedStyle, around: Surroundings): RowInLine | null {
  if (!/^inline-(?:flex|grid)$/.test(style.get('display'))) return null;
  const hasElements = element.node.children.some((node) => node.kind === 'element');
  return hasElements ? itemsInRow(element, style, around) : textInRow(element, style);
}

/** A row of nothing but text: a block in the line, in which the text stands where the row puts it. */
function textInRow(element: IndexedElement, style: ComputedStyle): RowInLine | null {
  const changes = new Map<string, string | number>([['display', 'inline-block']]);
  const [width, height] = ['width', 'height'].map((side) => innerLength(style, side));
  const isGrid = style.get('display') === 'inline-grid';
  const across = isGrid ? style.take('justify-items') : style.take('justify-content');
  const shared = style.take('justify-content');
  const side = /center|space-(?:around|evenly)/.test(`${across} ${isGrid ? shared : ''}`) ? 'center' : endOf(across);
  if (style.get('width') !== 'auto' && side !== null) changes.set('text-align', side);
  if (height === null || height === undefined) {
    const isSized = style.get('height') !== 'auto' || !/^(?:auto|0px)$/.test(style.get('min-height'));
    return isSized ? null : { own: changes, items: new Map() };
  }
  const align = style.take('align-items').replace(/^(?:flex|self)-/, '');
  if (/^(?:end|baseline|last)/.test(align)) return null;
  if (align === 'center') {
    const isOneLine = width === null || width === undefined || ownLetters(element, style) <= width;
    if (!isOneLine) return null;
    changes.set('line-height', height);
  }
  return { own: changes, items: new Map() };
}

function ownLetters({ node }: IndexedElement, style: ComputedStyle): number {
  return node.children.reduce((sum, child) => sum + (child.kind === 'text' ? lettersWidth(child.value, style) : 0), 0);
}

function endOf(value: string): 'right' | null {
  return /^(?:flex-end|end|right)$/.test(value) ? 'right' : null;
}

/** The inner size that a box says, in px; null where it says none. */
function innerLength(style: ComputedStyle, property: string): number | null {
  const own = style.pixels(property);
  if (own === null || style.get('box-sizing') !== 'border-box') return own;
  const ends = property === 'width' ? ['left', 'right'] : ['top', 'bottom'];
  return own - ends.reduce((sum, side) => sum + edgeOf(style, side), 0);
}

function edgeOf(style: ComputedStyle, side: string): number {
  return (style.pixels(`padding-${side}`) ?? 0) + (style.pixels(`border-${side}-width`) ?? 0);
}

function marginOf(style: ComputedStyle, side: string): number {
  return style.pixels(`margin-${side}`) ?? 0;
}

/** An item in its row: how far it reaches above and below its own baseline, in px. */
interface Item {
  /** Null for a run of text. */
  readonly element: IndexedElement | null;
  readonly style: ComputedStyle;
  readonly above: number;
  readonly below: number;
  /** How wide it is at the most, in px: an upper estimate of letters. */
  readonly width: number;
}

function itemsInRow(element: IndexedElement, style: ComputedStyle, around: Surroundings): RowInLine | null {
  const isPlainRow = style.get('flex-direction') === 'row' && style.get('display') === 'inline-flex';
  const isFree = ['width', 'height'].every((property) => style.get(property) === 'auto');
  const isUnbounded = style.get('max-width') === 'none' && /^(?:auto|0px)$/.test(style.get('min-height'));
  if (!isPlainRow || !isFree || !isUnbounded) return null;
  const items = readItems(element, style, around);
  const [first] = items ?? [];
  if (items === null || first === undefined || widthOf(items, style) > WIDEST) return null;
  const baselines = baselinesOf(items, style);
  if (baselines === null) return null;
  // Text in the row itself stands on the baseline of the line; without any, the first item does.
  const textAt = items.findIndex((item) => item.element === null);
  const line = baselines.at[Math.max(0, textAt)] ?? 0;
  const own = new Map<string, string | number>([
    ['display', 'inline-block'],
    ['white-space-trim', 'discard-inner'],
  ]);
  const strut = textAt < 0 ? null : extentOfLine(style);
  if (textAt < 0) own.set('line-height', '0px');
  else if (strut === null || strut.above > line + 0.5 || strut.below > baselines.height - line + 0.5) return null;
  // A row stands on the baseline of its first item, and a block in a line on that of its text.
  const rise = line - (baselines.at[0] ?? 0);
  if (Math.abs(rise) >= 0.01 && style.get('vertical-align') !== 'baseline') return null;
  if (Math.abs(rise) >= 0.01) own.set('vertical-align', -rise);
  const rises = baselines.at.map((at) => line - at);
  return { own, items: changesOf(items, rises, style.takePixels('column-gap') ?? 0) };
}

/** How far a line of text reaches above and below its baseline, in px; where no style says it, as in common fonts. */
function extentOfLine(style: ComputedStyle): { above: number; below: number } {
  const size = style.pixels('font-size') ?? 16;
  const line = lineHeightPixels(style) ?? size * NORMAL_LINE;
  const middle = MIDDLE * size;
  return { above: line / 2 + middle, below: line / 2 - middle };
}

function readItems(element: IndexedElement, style: ComputedStyle, { styleOf, lookup }: Surroundings): Item[] | null {
  const items: Item[] = [];
  const line = extentOfLine(style);
  for (const node of element.node.children) {
    if (node.kind === 'comment' || !isVisibleNode(node)) continue;
    if (node.kind === 'text') {
      items.push({ element: null, style, width: lettersWidth(node.value, style), ...line });
      continue;
    }
    const child = lookup(node);
    const own = child === undefined ? undefined : styleOf(child);
    if (child === undefined || own === undefined) return null;
    if (own.get('display') === 'none') continue;
    const extent = extentOf(child, own);
    const isPlain = own.get('order') === '0' && own.get('flex-basis') === 'auto';
    if (extent === null || !isPlain) return null;
    const edges = ['left', 'right'].reduce((sum, side) => sum + edgeOf(own, side) + marginOf(own, side), 0);
    const letters = child.node.children.map((inner) => (inner.kind === 'text' ? lettersWidth(inner.value, own) : 0));
    const width = own.pixels('width') ?? letters.reduce((sum, one) => sum + one, 0);
    items.push({ element: child, style: own, width: width + edges, ...extent });
  }
  return items;
}

/** How far an item reaches with its margins; null where that is not known. */
function extentOf(item: IndexedElement, style: ComputedStyle): { above: number; below: number } | null {
  const isKnown = sides.every((side) =>
    [`margin-${side}`, `padding-${side}`].every((property) => style.pixels(property) !== null),
  );
  if (!isKnown) return null;
  const [top, bottom] = ['top', 'bottom'].map((side) => edgeOf(style, side) + marginOf(style, side));
  if (item.node.tag === 'img') {
    const height = innerLength(style, 'height');
    const isFixed = style.pixels('width') !== null && style.get('max-width') === 'none';
    return height === null || !isFixed ? null : { above: height + (top ?? 0) + (bottom ?? 0), below: 0 };
  }
  const isText = phrasingTags.has(item.node.tag) && !/flex|grid|table/.test(style.get('display'));
  const isFree = ['width', 'height', 'min-height'].every((property) => /^(?:auto|0px)$/.test(style.get(property)));
  const line = extentOfLine(style);
  if (!isText || !isFree || item.children.length > 0) return null;
  return { above: line.above + (top ?? 0), below: line.below + (bottom ?? 0) };
}

/**
 * Where the baselines of the items stand below the top of the row, in px (CSS Flexible Box Layout 1, 8.3); null for an
 * alignment that has no equal in a line.
 */
function baselinesOf(items: readonly Item[], row: ComputedStyle): { at: number[]; height: number } | null {
  const alignments = items.map(({ element, style }) => {
    const own = element === null ? 'auto' : style.take('align-self');
    return (own === 'auto' ? row.take('align-items') : own).replace(/^(?:flex|self)-/, '');
  });
  const shared = items.filter((_, at) => alignments[at] === 'baseline');
  const top = Math.max(0, ...shared.map(({ above }) => above));
  const height = Math.max(top + Math.max(0, ...shared.map(({ below }) => below)), ...items.map(heightOf));
  const at = items.map((item, index) => {
    switch (alignments[index]) {
      case 'baseline':
        return top;
      case 'start':
        return item.above;
      case 'center':
        return item.above + (height - heightOf(item)) / 2;
      case 'end':
        return height - item.below;
      case 'normal':
      case 'stretch': {
        // What shows no box may stand at the top of the one that it would fill.
        const isAsTall = height - heightOf(item) < 0.01;
        const showsBox =
          item.element !== null && (item.element.node.tag === 'img' || isPainted({ styles: [item.style] }));
        return isAsTall || !showsBox ? item.above : null;
      }
      default:
        return null;
    }
  });
  return at.some((one) => one === null) ? null : { at: at as number[], height };
}

function heightOf({ above, below }: Item): number {
  return above + below;
}

/** What changes for the items: a gap is a margin of one of the two, and nothing but the gap is between them. */
function changesOf(items: readonly Item[], rises: readonly number[], gap: number): Map<IndexedElement, NewValues> {
  const changes = new Map<IndexedElement, NewValues>();
  items.forEach(({ element, style }, at) => {
    if (element === null) return;
    const left = at > 0 ? gap : 0;
    const right = items[at + 1]?.element === null ? gap : 0;
    const rise = rises[at] ?? 0;
    changes.set(
      element,
      new Map<string, string | number>([
        ['display', 'inline-block'],
        ...(left > 0 ? [['margin-left', marginOf(style, 'left') + left] as const] : []),
        ...(right > 0 ? [['margin-right', marginOf(style, 'right') + right] as const] : []),
        ...(rise !== 0 ? [['vertical-align', rise] as const] : []),
      ]),
    );
  });
  return changes;
}

function widthOf(items: readonly Item[], row: ComputedStyle): number {
  const gaps = (row.pixels('column-gap') ?? 0) * (items.length - 1);
  return items.reduce((sum, { width }) => sum + width, gaps);
}

function lettersWidth(text: string, style: ComputedStyle): number {
  const size = style.pixels('font-size') ?? 16;
  return text.trim().replace(/\s+/g, ' ').length * size * CHARACTER_WIDTH;
}
