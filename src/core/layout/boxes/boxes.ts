import type { ComputedStyle } from '../../css/cascade/computed.js';
import { corners, sides } from '../../css/values/properties.js';
import { pixelsOf, readQuantity } from '../../css/values/value.js';
import type { IndexedElement } from '../../css/selectors/element-index.js';
import { layoutAdvice } from '../../findings/wording/layout.js';
import { isConditionalComment } from '../../html/conditional-comment.js';
import { splitAtSentinels } from '../../html/tags.js';
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

/** A block that holds a line of text: text, links, inline pictures. */
export interface TextBox extends BoxBase {
  readonly kind: 'text';
  readonly content: readonly TreeNode[];
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
  readonly ends?: { readonly top: readonly number[]; readonly bottom: readonly number[] };
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

const nativeTags: ReadonlySet<string> = new Set(['ul', 'ol', 'menu', 'dl', 'table', 'pre']);

/** Whether elements of a kind are emitted as they are: lists, tables, preformatted text. */
export function isNativeTag(tag: string): boolean {
  return nativeTags.has(tag);
}

/** Reads the box of an element and of all it holds. Depth is bounded by the caller (see document.ts). */
export function readBox(element: IndexedElement, reader: BoxReader): Box {
  const own = reader.styles(element);
  const display = reader.shownDisplay(element) ?? 'block';
  if (element.node.tag === 'img') return { kind: 'picture', element, styles: own };
  if (element.node.attributes.has('data-raw')) return { kind: 'native', element, styles: own };
  // A link that is a block stays a link: it is emitted whole, in a block of its own.
  if (
    phrasingTags.has(element.node.tag) &&
    display !== 'inline' &&
    !/flex|grid/.test(display) &&
    !holdsBlocks(element, reader)
  )
    return { kind: 'text', element: null, styles: own.map((style) => style.wrapper()), content: [element.node] };
  if (element.node.tag === 'table' && /flex|grid/.test(display)) reader.refuse(element, 'display', tableAsRow);
  const isNative = (nativeTags.has(element.node.tag) && !isListOfRows(element, reader)) || display === 'table';
  if (isNative && !/flex|grid/.test(display))
    return { kind: 'native', element, styles: own, ends: listEnds(element, reader) };
  const content = visibleContent(element.node.children, reader);
  if (isGrid(own) || isFlex(own)) refuseLines(element, content, reader);
  if (isGrid(own) || display === 'grid')
    return { kind: 'grid', element, styles: own, children: flexItems(content, own, reader) };
  if (isFlex(own) || display === 'flex')
    return { kind: 'row', element, styles: own, children: flexItems(content, own, reader) };
  const hasBlocks = content.some((node) => isBlockLevel(node, reader));
  const showsText = content.some((node) => node.kind !== 'comment' && isVisibleNode(node));
  if (!hasBlocks && (showsText || display === 'inline')) return { kind: 'text', element, styles: own, content };
  return { kind: 'flow', element, styles: own, children: blockChildren(element, content, reader) };
}

/**
 * The margins of a list's first and last items, and of the first and last blocks in those: they collapse with the list's own
 * (CSS 2.2, 8.3.1), so they are taken from the items and counted outside.
 */
function listEnds(element: IndexedElement, reader: BoxReader): { top: number[]; bottom: number[] } {
  const none = reader.styles(element).map(() => 0);
  if (!/^(?:ul|ol|menu|dl)$/.test(element.node.tag)) return { top: none, bottom: none };
  return { top: endMargins(element, 'top', reader), bottom: endMargins(element, 'bottom', reader) };
}

function endMargins(list: IndexedElement, side: 'top' | 'bottom', reader: BoxReader): number[] {
  const margins = reader.styles(list).map(() => 0);
  let open = reader.styles(list).map((style) => isOpen(style, side));
  for (let at = endChild(list, side, reader); at !== null && open.includes(true); at = endChild(at, side, reader)) {
    const styles = reader.styles(at);
    const taken = styles.map((style, state) =>
      open[state] === true ? (pixelsOf(style.get(`margin-${side}`)) ?? 0) : 0,
    );
    taken.forEach((margin, state) => (margins[state] = Math.max(margins[state] ?? 0, margin)));
    if (taken.some((margin) => margin > 0))
      reader.restyle(
        at,
        styles.map((style, state) =>
          (taken[state] ?? 0) > 0 ? style.with(new Map([[`margin-${side}`, '0px']])) : style,
        ),
      );
    open = open.map((is, state) => is && isOpen(styles[state], side));
  }
  return margins;
}

function isOpen(style: ComputedStyle | undefined, side: 'top' | 'bottom'): boolean {
  return (
    style !== undefined &&
    style.get(`padding-${side}`) === '0px' &&
    style.get(`border-${side}-width`) === '0px' &&
    style.get('overflow') === 'visible' &&
    (side === 'top' || style.get('height') === 'auto')
  );
}

/** The first or last child of an element, where that is a block and nothing but white space stands before or behind it. */
function endChild({ node }: IndexedElement, side: 'top' | 'bottom', reader: BoxReader): IndexedElement | null {
  const shown = node.children.filter((child) => {
    const element = reader.lookup(child);
    return (
      child.kind !== 'comment' && isVisibleNode(child) && (element === null || reader.shownDisplay(element) !== null)
    );
  });
  const end = side === 'top' ? shown[0] : shown.at(-1);
  const element = end === undefined ? null : reader.lookup(end);
  const display = element === null ? null : reader.shownDisplay(element);
  const hides = element !== null && reader.styles(element).some((style) => style.get('display') === 'none');
  return element !== null && !hides && /^(?:block|list-item)$/.test(display ?? '') && element.node.tag !== 'img'
    ? element
    : null;
}

/** Items that flow in lines once their container is a plain block are no cells then. */
function refuseLines(element: IndexedElement, content: readonly TreeNode[], reader: BoxReader): void {
  const own = reader.styles(element);
  const items = content.filter((node) => node.kind !== 'comment' && isVisibleNode(node));
  const isInLine = (node: TreeNode, state: number): boolean => {
    const item = reader.lookup(node);
    return item === null || /^inline/.test(reader.styles(item)[state]?.get('display') ?? '');
  };
  const flows = own.some(
    (style, state) =>
      !/flex|grid|none/.test(style.get('display')) && items.filter((node) => isInLine(node, state)).length > 1,
  );
  if (flows) reader.refuse(element, 'display', layoutAdvice.blocksOnceStacked);
}

/** Whether all items of a list are rows or grids, which no list of an engine can lay out. */
function isListOfRows({ node }: IndexedElement, reader: BoxReader): boolean {
  if (!/^(?:ul|ol|menu)$/.test(node.tag)) return false;
  const items = node.children.flatMap((child) => reader.lookup(child) ?? []);
  return items.length > 0 && items.every((item) => /flex|grid/.test(reader.shownDisplay(item) ?? 'flex'));
}

/** What a box that is no list any more is to those who are read a message: its meaning is said. */
export function roleOf({ kind, element }: Box): 'list' | 'listitem' | null {
  if (element === null || kind === 'native') return null;
  if (/^(?:ul|ol|menu)$/.test(element.node.tag)) return 'list';
  return element.node.tag === 'li' ? 'listitem' : null;
}

/** Whether blocks stand in a phrase that is a block itself, so that it is laid out as any block. */
function holdsBlocks({ node }: IndexedElement, reader: BoxReader): boolean {
  return node.children.some((child) => {
    const element = reader.lookup(child);
    return (
      element !== null &&
      !phrasingTags.has(element.node.tag) &&
      element.node.tag !== 'img' &&
      isBlockLevel(child, reader)
    );
  });
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

function isFlex(styles: readonly ComputedStyle[]): boolean {
  return styles.some((style) => style.get('display') === 'flex');
}

function isGrid(styles: readonly ComputedStyle[]): boolean {
  return styles.some((style) => style.get('display') === 'grid');
}

/** Elements within a line, which stay what they are when they are shown as blocks. */
const phrasingTags: ReadonlySet<string> = new Set('a abbr b cite code em i q s small span strong sub sup u'.split(' '));

/** Whether browsers show elements of a kind in a line, unless told otherwise. */
export function isPhrase(tag: string): boolean {
  return phrasingTags.has(tag) || !blockTags.has(tag);
}

const blockTags: ReadonlySet<string> = new Set(
  'address article aside blockquote center dd div dl dt fieldset figcaption figure footer form h1 h2 h3 h4 h5 h6 header hr main nav ol p pre section table ul li'.split(
    ' ',
  ),
);

/** Comments stay out, but for conditional ones; elements that are shown in no state do too. */
function visibleContent(nodes: readonly TreeNode[], reader: BoxReader): TreeNode[] {
  return nodes.filter((node) => {
    if (node.kind === 'comment') return isConditionalComment(node.value);
    const element = reader.lookup(node);
    return element === null || reader.shownDisplay(element) !== null;
  });
}

function isVisibleNode(node: TreeNode): boolean {
  return node.kind !== 'text' || splitAtSentinels(node.value).length > 1 || /[^\t\n\f\r ]/.test(node.value);
}

function isBlockLevel(node: TreeNode, reader: BoxReader): boolean {
  const element = reader.lookup(node);
  const display = element === null ? null : reader.shownDisplay(element);
  if (element !== null && display !== null && isFloat(element, reader)) return true;
  const isFloatingPicture =
    element?.node.tag === 'img' && reader.styles(element).some((style) => style.get('float') !== 'none');
  return display !== null && !isFloatingPicture && !/^(?:inline|inline-block)$/.test(display);
}

function blockChildren(element: IndexedElement, content: readonly TreeNode[], reader: BoxReader): Box[] {
  const boxes: Box[] = [];
  const parent = reader.styles(element);
  let run: TreeNode[] = [];
  let floats: IndexedElement[] = [];
  const flush = (): void => {
    const kind = run.some((node) => node.kind !== 'comment' && isVisibleNode(node)) ? 'text' : 'comment';
    if (run.some(isVisibleNode))
      boxes.push({ kind, element: null, styles: parent.map((style) => style.anonymous()), content: run });
    run = [];
  };
  const flushFloats = (next: IndexedElement | null): void => {
    if (floats.length > 0) boxes.push(floatRow(floats, element, next, reader));
    floats = [];
  };
  for (const node of content) {
    const child = reader.lookup(node);
    if (child !== null && isFloat(child, reader)) {
      flush();
      floats.push(child);
      continue;
    }
    if (floats.length > 0 && !isVisibleNode(node)) continue;
    flushFloats(child);
    if (child === null || !isBlockLevel(node, reader)) {
      run.push(node);
      continue;
    }
    flush();
    boxes.push(readBox(child, reader));
  }
  flush();
  flushFloats(null);
  return boxes;
}

/** A box that floats in any state; pictures stay in the line in which they stand. */
function isFloat(element: IndexedElement, reader: BoxReader): boolean {
  const styles = reader.styles(element);
  const isInText = phrasingTags.has(element.node.tag) && styles.every((style) => style.get('width') === 'auto');
  return element.node.tag !== 'img' && !isInText && styles.some((style) => style.get('float') !== 'none');
}

/**
 * Neighbouring floats that say how wide they are stand side by side as the items of a row do. What they cannot be a row for
 * is refused: text that flows around them, and a container that does not hold them.
 */
function floatRow(
  floats: readonly IndexedElement[],
  around: IndexedElement,
  next: IndexedElement | null,
  reader: BoxReader,
): Box {
  const parent = reader.styles(around);
  const own = floats.map((element) => reader.styles(element));
  const isCleared =
    next === null
      ? containsFloats(around, reader)
      : reader.styles(next).every((style) => style.get('clear') !== 'none');
  const modes = parent.map((_, state) => floatMode(own.map((styles) => styles[state])));
  const [first] = floats;
  if (first !== undefined && (!isCleared || modes.includes(null)))
    reader.refuse(first, 'float', isCleared ? floatAdvice.width : floatAdvice.cleared);
  const styles = parent.map((style, state) =>
    style.anonymous().with(
      new Map([
        ['display', modes[state] === 'block' ? 'block' : 'flex'],
        ['flex-direction', modes[state] === 'column' ? 'column' : 'row'],
        ['align-items', modes[state] === 'row' ? 'flex-start' : 'normal'],
      ]),
    ),
  );
  const children = floats.map((element, index): Box => {
    const isFirstRight = own[index]?.map((style, state) => {
      const isRight = style.get('float') === 'right';
      return isRight && modes[state] === 'row' && own[index - 1]?.[state]?.get('float') !== 'right';
    });
    const box = readBox(element, reader);
    const pushed = box.styles.map((style, state) =>
      isFirstRight?.[state] === true && style.get('margin-left') === '0px'
        ? style.with(new Map([['margin-left', 'auto']]))
        : style,
    );
    return framed({ ...box, styles: pushed }, styles);
  });
  return { kind: 'row', element: null, styles, children };
}

const { tableAsRow } = layoutAdvice;

const floatAdvice = {
  width: 'Make a row of it: display: flex on the element around, with a gap.',
  cleared: 'Let the element around hold it, by overflow: hidden or clear, or make a row of it: display: flex.',
};

/** How floats stand in a state: side by side, one below the other, or as blocks. Null where that is not known. */
function floatMode(styles: readonly (ComputedStyle | undefined)[]): 'row' | 'column' | 'block' | null {
  const shown = styles.filter((style) => style !== undefined).filter((style) => style.get('display') !== 'none');
  const sides = shown.map((style) => style.get('float'));
  if (sides.every((side) => side === 'none')) return 'block';
  if (shown.every((style) => style.get('width') === '100%')) return 'column';
  const lastLeft = sides.lastIndexOf('left');
  if (sides.includes('none') || sides.filter((side) => side === 'right').length > 1) return null;
  if (sides.indexOf('right') >= 0 && sides.indexOf('right') < lastLeft) return null;
  const widths = shown.map((style) => readQuantity(style.get('width')));
  if (widths.some((width) => width === null)) return null;
  const percent = widths.reduce((sum, width) => sum + (width?.unit === '%' ? width.number : 0), 0);
  return percent <= 100.02 ? 'row' : null;
}

/** Whether an element holds the floats in it: it is a context of its own, or something clears them behind its content. */
function containsFloats(element: IndexedElement, reader: BoxReader): boolean {
  const last = element.node.children.findLast((node) => node.kind === 'element');
  const indexed = last === undefined ? null : reader.lookup(last);
  const isClearing = indexed !== null && reader.styles(indexed).every((style) => style.get('clear') !== 'none');
  const own = reader.styles(element);
  return (
    isClearing ||
    own.every(
      (style) => style.get('overflow') !== 'visible' || /^(?:flow-root|inline-block)$/.test(style.get('display')),
    )
  );
}

/** Each element in a flex container is an item, whatever its display; so is each run of text. */
function flexItems(content: readonly TreeNode[], parent: readonly ComputedStyle[], reader: BoxReader): Box[] {
  const items = content.filter((node) => node.kind !== 'comment' && isVisibleNode(node));
  const boxes = items.map((node): Box => {
    const element = reader.lookup(node);
    const phrase = element === null ? null : phraseItem(element, parent, reader);
    if (phrase !== null) return phrase;
    if (element !== null) return framed(asItem(readBox(element, reader), parent), parent);
    return { kind: 'text', element: null, styles: parent.map((style) => style.anonymous()), content: [node] };
  });
  const [desktop] = parent;
  const orderOf = (box: Box): number => Number(box.styles[0]?.get('order') ?? 0);
  const isOrdered = /flex|grid/.test(desktop?.get('display') ?? '') && boxes.some((box) => orderOf(box) !== 0);
  return isOrdered ? boxes.sort((a, b) => orderOf(a) - orderOf(b)) : boxes;
}

/**
 * A link or another phrase that is an item and says how wide it is or what is around it: a box around it has that, and the
 * phrase fills the box. Null for any other element.
 */
function phraseItem(element: IndexedElement, parent: readonly ComputedStyle[], reader: BoxReader): Box | null {
  const styles = reader.styles(element);
  const display = reader.shownDisplay(element) ?? 'block';
  if (!phrasingTags.has(element.node.tag) || /flex|grid/.test(display) || holdsBlocks(element, reader)) return null;
  const says = styles.some(
    (style) =>
      sides.some((side) => style.get(`margin-${side}`) !== '0px') ||
      hasOwnWidth(style) ||
      style.get('width') === '100%',
  );
  const isClear = styles.every((style) => sides.every((side) => (pixelsOf(style.get(`margin-${side}`)) ?? 0) >= 0));
  if (!says || !isClear) return null;
  reader.restyle(
    element,
    styles.map((style) =>
      style.with(
        new Map([
          ...sides.map((side): [string, string] => [`margin-${side}`, '0px']),
          ['width', 'auto'],
          ['max-width', 'none'],
        ]),
      ),
    ),
  );
  const frames = styles.map((style) => style.frame(frameValues(style, true)));
  return asItem({ kind: 'text', element: null, styles: frames, content: [element.node] }, parent);
}

/** In a column, the basis of an item is the least height that it takes (CSS Flexible Box Layout 1, 4.5 and 7.2). */
function asItem(item: Box, parent: readonly ComputedStyle[]): Box {
  const styles = item.styles.map((style, state) => {
    const around = parent[state];
    const isColumn = around?.get('display') === 'flex' && around.get('flex-direction').startsWith('column');
    const basis = pixelsOf(style.get('flex-basis')) ?? 0;
    if (!isColumn || basis === 0 || style.get('display') === 'none') return style;
    const least = Math.max(basis, pixelsOf(style.get('min-height')) ?? 0);
    return style.with(
      new Map([
        ['min-height', `${least}px`],
        ['flex-basis', 'auto'],
      ]),
    );
  });
  return styles.every((style, state) => style === item.styles[state]) ? item : { ...item, styles };
}

/**
 * An item with margins in a box of its own, whose padding they are: margins of items do not collapse (CSS Flexible Box
 * Layout 1, 4.2), and the cells of a row are as large as the margin boxes of its items.
 */
function framed(item: Box, parent: readonly ComputedStyle[]): Box {
  const isItem = (state: number): boolean => /flex|grid/.test(parent[state]?.get('display') ?? '');
  const hasMargins = item.styles.some(
    (style, state) => isItem(state) && sides.some((side) => (pixelsOf(style.get(`margin-${side}`)) ?? 0) !== 0),
  );
  const isClear = item.styles.every((style) =>
    sides.every((side) => (pixelsOf(style.get(`margin-${side}`)) ?? 0) >= 0),
  );
  const isMeasurable = item.styles.every(
    (style) => !/%/.test(style.get('width')) || style.get('box-sizing') === 'border-box' || frameWidth(style) === 0,
  );
  if (!hasMargins || !isClear || !isMeasurable || item.kind === 'comment') return item;
  const frames = item.styles.map((style, state) => style.frame(frameValues(style, isItem(state))));
  const inner = item.styles.map((style, state) =>
    style.with(
      new Map([
        ...sides.map((side): [string, string] => [`margin-${side}`, '0px']),
        ['flex-grow', '0'],
        ['flex-basis', 'auto'],
        ['align-self', 'auto'],
        ['order', '0'],
        ...(item.kind === 'picture'
          ? []
          : ([
              ['width', 'auto'],
              ['max-width', 'none'],
            ] as const)),
        ...(item.kind === 'flow' && isItem(state) && style.get('display') !== 'none'
          ? [['display', 'flow-root'] as const]
          : []),
      ]),
    ),
  );
  return { kind: 'flow', isFrame: true, element: null, styles: frames, children: [{ ...item, styles: inner }] };
}

function frameWidth(style: ComputedStyle): number {
  return ['padding-left', 'padding-right', 'border-left-width', 'border-right-width'].reduce(
    (sum, property) => sum + (pixelsOf(style.get(property)) ?? 0),
    0,
  );
}

/** @param isItem whether the box is an item; in a plain block its margins above and below collapse as ever */
function frameValues(style: ComputedStyle, isItem: boolean): [string, string][] {
  const outer = style.get('box-sizing') === 'border-box' ? 0 : frameWidth(style);
  const grown = (property: string): [string, string] => {
    const pixels = pixelsOf(style.get(property));
    return [property, pixels === null ? style.get(property) : `${pixels + outer}px`];
  };
  return [
    ...sides.flatMap((side): [string, string][] => {
      const margin = style.get(`margin-${side}`);
      const collapses = !isItem && (side === 'top' || side === 'bottom');
      return margin === 'auto' || collapses ? [[`margin-${side}`, margin]] : [[`padding-${side}`, margin]];
    }),
    grown('width'),
    grown('max-width'),
    grown('flex-basis'),
    ['box-sizing', 'content-box'],
  ];
}

/** Whether the box shows in a state. */
export function isHidden(box: Box, state: number): boolean {
  return styleIn(box, state).get('display') === 'none';
}

/** The box's style in a state. */
export function styleIn(box: { readonly styles: readonly ComputedStyle[] }, state: number): ComputedStyle {
  const found = box.styles[state];
  if (found === undefined) throw new Error(`A box has no style for state ${state}.`);
  return found;
}

/** A length property in px; 0 where it is none (auto, a percentage). */
export function lengthIn(box: { readonly styles: readonly ComputedStyle[] }, state: number, property: string): number {
  return pixelsOf(styleIn(box, state).get(property)) ?? 0;
}

/** Padding and border of one side, in px. */
export function edgeIn(box: { readonly styles: readonly ComputedStyle[] }, state: number, side: string): number {
  return lengthIn(box, state, `padding-${side}`) + lengthIn(box, state, `border-${side}-width`);
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

/** Whether something of the box itself would be seen: a background or a border. */
export const isPainted = askedOnce((box: Styled) =>
  box.styles.some(
    (style) => hasBackground(style) || sides.some((side) => (pixelsOf(style.get(`border-${side}-width`)) ?? 0) > 0),
  ),
);

function hasBackground(style: ComputedStyle): boolean {
  return style.get('background-color') !== 'transparent' || style.get('background-image') !== 'none';
}

/** Whether the box has padding, a border, paint, rounded corners or a size of its own in any state, so that it needs a cell. */
export const needsCell = askedOnce(
  (box: Styled) =>
    isPainted(box) ||
    box.styles.some(
      (style) =>
        sides.some((side) => pixelsOf(style.get(`padding-${side}`)) !== 0) ||
        corners.some((corner) => style.get(`border-${corner}-radius`) !== '0px') ||
        style.get('overflow') !== 'visible' ||
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
