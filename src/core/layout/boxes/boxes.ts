import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import { corners, sides } from '../../css/values/properties.js';
import type { IndexedElement } from '../../css/selectors/element-index.js';
import type { TreeNode } from '../../html/tree.js';

interface BoxBase {
  /** Null for a box without an element: a run of text beside blocks. */
  readonly element: IndexedElement | null;
  /** Its computed style in each state. */
  readonly styles: readonly ComputedStyle[];
}

/** A block around blocks. */
export interface FlowBox extends BoxBase {
  readonly kind: 'flow';
  readonly children: readonly Box[];
  /** True for a box that was put around an item of a row: its padding is the item's margin. */
  readonly isFrame?: boolean;
}

/** A flex container: a row in the desktop state, or a column. */
export interface RowBox extends BoxBase {
  readonly kind: 'row';
  readonly children: readonly Box[];
}

/** A grid container: cells in lines. */
export interface GridBox extends BoxBase {
  readonly kind: 'grid';
  readonly children: readonly Box[];
}

/** The margins that stick out of something at its two ends, in each state, in px. */
export interface BlockEnds {
  readonly top: readonly number[];
  readonly bottom: readonly number[];
}

/** A block that holds a line of text: text, links, inline pictures. */
export interface TextBox extends BoxBase {
  readonly kind: 'text';
  readonly content: readonly TreeNode[];
  /** The styles of a phrase that is all it holds and that fills it, as a link that is a block does. */
  readonly phrase?: readonly ComputedStyle[];
  /** In which states it holds nothing but pictures that float: it takes no room among the blocks then. */
  readonly floats?: readonly boolean[];
  /** The margins that stick out of what it holds, in the states in which that is a block. */
  readonly ends?: BlockEnds;
}

/** A picture that is a block of its own. */
export interface PictureBox extends BoxBase {
  readonly kind: 'picture';
  readonly element: IndexedElement;
}

/** Lists, hand-written tables, preformatted text: emitted as they are, with their styles resolved. */
export interface NativeBox extends BoxBase {
  readonly kind: 'native';
  readonly element: IndexedElement;
  /** The margins of its first and last items, which collapse with its own, in each state. */
  readonly ends?: BlockEnds;
}

/** Conditional comments between blocks: markup for the `word` engine, and nothing for all others. */
export interface CommentBox extends BoxBase {
  readonly kind: 'comment';
  readonly content: readonly TreeNode[];
}

export type Box = FlowBox | RowBox | GridBox | TextBox | PictureBox | NativeBox | CommentBox;

/** What the tree's elements look like. */
export interface BoxReader {
  /** The computed styles of an element, one for each state. */
  readonly styles: (element: IndexedElement) => readonly ComputedStyle[];
  /** Gives an element other styles: a box around it has some of what it says. */
  readonly restyle: (element: IndexedElement, styles: readonly ComputedStyle[]) => void;
  /** The indexed element of a node. */
  readonly lookup: (node: TreeNode) => IndexedElement | null;
  /** Reports something that an element says and that tables cannot do. */
  readonly refuse: (element: IndexedElement, property: string, advice: string) => void;
  /** How an element displays where it does, in any state and variant; null where it never shows. */
  readonly shownDisplay: (element: IndexedElement) => string | null;
}

/** The boxes in a box; none in one that holds text, a picture or markup. */
export function childrenOf(box: Styled): readonly Box[] {
  return 'children' in box ? (box as FlowBox).children : [];
}

/** What stands in an item whose margins became a box around it; any other item is that itself. */
export function withoutFrame(item: Box): Box | undefined {
  return item.kind === 'flow' && item.isFrame === true ? item.children[0] : item;
}

/** Whether what stands in a frame is seen to be as high as that: it has paint, or is a table, whose cells share its height. */
export function fillsFrame(item: Box): boolean {
  const isSeen = (box: Box): boolean => isPainted(box) || (box.kind === 'native' && box.element.node.tag === 'table');
  return item.kind === 'flow' && item.isFrame === true && item.children.some(isSeen);
}

/** What a box that is no list any more is to those who are read a message: its meaning is said. */
export function roleOf({ kind, element }: Box): 'list' | 'listitem' | null {
  if (element === null || kind === 'native') return null;
  if (/^(?:ul|ol|menu)$/.test(element.node.tag)) return 'list';
  return element.node.tag === 'li' ? 'listitem' : null;
}

/** Whether a box is a link: what it holds stands in one. */
export function isLink(box: Box): boolean {
  return (
    box.element?.node.tag === 'a' &&
    box.element.node.attributes.has('href') &&
    box.kind !== 'text' &&
    box.kind !== 'native'
  );
}

/** Anything with a style for each state. */
export interface Styled {
  readonly styles: readonly ComputedStyle[];
}

/**
 * A question about a box that looks at all its states, answered once for each box: it is asked again in each state, of
 * which a message with many conditions has many.
 */
function askedOnce<Asked extends Styled>(ask: (box: Asked) => boolean): (box: Asked) => boolean {
  const answers = new WeakMap<readonly ComputedStyle[], boolean>();
  return (box) => {
    const known = answers.get(box.styles);
    if (known !== undefined) return known;
    const answer = ask(box);
    answers.set(box.styles, answer);
    return answer;
  };
}

/** Whether a property has another value than a certain one in any state. */
export function anyState({ styles }: Styled, property: string, value: string): boolean {
  const answers = stateAnswers.get(styles) ?? new Map<string, boolean>();
  stateAnswers.set(styles, answers);
  const key = `${property}:${value}`;
  const answer = answers.get(key) ?? styles.some((style) => style.get(property) !== value);
  answers.set(key, answer);
  return answer;
}

const stateAnswers = new WeakMap<readonly ComputedStyle[], Map<string, boolean>>();

/** Whether an author says something of a property for the element itself, in any state. */
export function isAuthored(styles: readonly ComputedStyle[], property: string): boolean {
  const answers = authoredAnswers.get(styles) ?? new Map<string, boolean>();
  authoredAnswers.set(styles, answers);
  const answer = answers.get(property) ?? styles.some((style) => style.isAuthored(property));
  answers.set(property, answer);
  return answer;
}

const authoredAnswers = new WeakMap<readonly ComputedStyle[], Map<string, boolean>>();

/** Whether something of the box itself would be seen: a background, a border, a shadow. */
export const isPainted = askedOnce((box: Styled) =>
  box.styles.some(
    (style) =>
      hasBackground(style) ||
      style.get('box-shadow') !== 'none' ||
      sides.some((side) => (style.pixels(`border-${side}-width`) ?? 0) > 0),
  ),
);

function hasBackground(style: ComputedStyle): boolean {
  return style.get('background-color') !== 'transparent' || style.get('background-image') !== 'none';
}

/** The name under which a style says which of its sides are closed by an empty box within, which is not laid out. */
export const CLOSED_SIDES = '-closed-sides';

/** Whether a box keeps the margins of its content inside, though nothing of it is seen. */
function keepsMargins(style: ComputedStyle): boolean {
  return style.get('display') === 'flow-root' || style.get(CLOSED_SIDES) !== '';
}

/**
 * Whether the box has padding, a border, paint, rounded corners or a size of its own, or keeps margins inside, in any state,
 * so that it needs a cell.
 */
export const needsCell = askedOnce(
  (box: Styled) =>
    isPainted(box) ||
    box.styles.some(
      (style) =>
        sides.some((side) => style.pixels(`padding-${side}`) !== 0) ||
        corners.some((corner) => style.get(`border-${corner}-radius`) !== '0px') ||
        style.get('overflow') !== 'visible' ||
        keepsMargins(style) ||
        style.get('box-shadow') !== 'none' ||
        hasOwnHeight(style) ||
        hasOwnWidth(style),
    ),
);

/** Whether a side margin is automatic in any state. */
export const hasAutoMargins = askedOnce((box: Styled) =>
  box.styles.some((style) => ['margin-left', 'margin-right'].some((side) => style.get(side) === 'auto')),
);

/** Whether a box is hidden in any state. */
export const hidesAnywhere = askedOnce((box: Styled) => box.styles.some((style) => style.get('display') === 'none'));

/** Whether width or max-width say anything. */
export function hasOwnWidth(style: ComputedStyle): boolean {
  return style.get('max-width') !== 'none' || !/^(?:auto|100%)$/.test(style.get('width'));
}

/** Whether height or min-height say anything. */
export function hasOwnHeight(style: ComputedStyle): boolean {
  return style.get('height') !== 'auto' || !/^(?:auto|0px)$/.test(style.get('min-height'));
}

/** Whether the author gave the box attributes that an element must carry. */
export function isNamed(box: Box): boolean {
  return box.element !== null && ['id', 'lang', 'dir', 'region'].some((name) => box.element?.node.attributes.has(name));
}

/** Whether the box is moved sideways by margins in any state. */
export const hasSideMargins = askedOnce((box: Styled) =>
  box.styles.some((style) => ['margin-left', 'margin-right'].some((side) => style.get(side) !== '0px')),
);
