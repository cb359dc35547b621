import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import type { IndexedElement } from '../../css/selectors/element-index.js';
import { layoutAdvice } from '../../findings/wording/layout.js';
import { isConditionalComment } from '../../html/conditional-comment.js';
import type { TreeNode } from '../../html/tree.js';
import { phrasingTags, nativeTags, isVisibleNode } from './element-kinds.js';
import type { Box, BoxReader, TextBox } from './boxes.js';
import { lineEnds, nativeEnds } from './block-ends.js';
import { asItem, evenlyFramed, framed, phraseItem } from './flex-items.js';
import { floatRow, keepsBeside, reportFloatingItems } from './floats.js';
import { withReversedStates } from './reversed.js';
import { isFloat } from './levels.js';
import { holdsBlocks, isBlockLevel } from './levels.js';

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
    return phraseAsBlock(element, own, reader);
  if (element.node.tag === 'table' && /flex|grid/.test(display))
    reader.refuse(element, 'display', layoutAdvice.tableAsRow);
  const isNative = (nativeTags.has(element.node.tag) && !isListOfRows(element, reader)) || display === 'table';
  if (isNative && !/flex|grid/.test(display)) {
    reportFloatingItems(element, reader);
    return { kind: 'native', element, styles: own, ends: nativeEnds(element, reader) };
  }
  const content = visibleContent(element.node.children, reader);
  if (isGrid(own) || isFlex(own)) refuseLines(element, content, reader);
  if (isGrid(own) || display === 'grid')
    return { kind: 'grid', element, styles: own, children: flexItems(content, own, reader) };
  if (isFlex(own) || display === 'flex')
    return withReversedStates({ kind: 'row', element, styles: own, children: flexItems(content, own, reader) });
  const hasBlocks = content.some((node) => isBlockLevel(node, reader));
  const showsText = content.some((node) => node.kind !== 'comment' && isVisibleNode(node));
  if (!hasBlocks && (showsText || display === 'inline')) return textBox(element, own, content, reader);
  return { kind: 'flow', element, styles: own, children: blockChildren(element, content, reader) };
}

function textBox(
  element: IndexedElement | null,
  styles: readonly ComputedStyle[],
  content: readonly TreeNode[],
  reader: BoxReader,
): TextBox {
  const ends = lineEnds(content, styles, reader);
  return { kind: 'text', element, styles, content, ...(ends === undefined ? {} : { ends }) };
}

/** A block around a phrase that is one: its margins above and below adjoin those of other blocks. */
function phraseAsBlock(element: IndexedElement, own: readonly ComputedStyle[], reader: BoxReader): Box {
  const isBlock = (style: ComputedStyle): boolean => style.get('display') === 'block';
  const ends = ['margin-top', 'margin-bottom'];
  const styles = own.map((style) =>
    isBlock(style) ? style.frame(ends.map((end) => [end, style.get(end)])) : style.wrapper(),
  );
  const none = new Map(ends.map((end) => [end, '0px']));
  reader.restyle(
    element,
    own.map((style) => (isBlock(style) ? style.with(none) : style)),
  );
  return { kind: 'text', element: null, styles, content: [element.node], phrase: reader.styles(element) };
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

function isFlex(styles: readonly ComputedStyle[]): boolean {
  return styles.some((style) => style.get('display') === 'flex');
}

function isGrid(styles: readonly ComputedStyle[]): boolean {
  return styles.some((style) => style.get('display') === 'grid');
}

/** Comments stay out, but for conditional ones; elements that are shown in no state do too. */
function visibleContent(nodes: readonly TreeNode[], reader: BoxReader): TreeNode[] {
  return nodes.filter((node) => {
    if (node.kind === 'comment') return isConditionalComment(node.value);
    const element = reader.lookup(node);
    return element === null || reader.shownDisplay(element) !== null;
  });
}

function blockChildren(element: IndexedElement, content: readonly TreeNode[], reader: BoxReader): Box[] {
  const boxes: Box[] = [];
  const parent = reader.styles(element);
  let run: TreeNode[] = [];
  let floats: IndexedElement[] = [];
  const flush = (): void => {
    const styles = parent.map((style) => style.anonymous());
    if (run.some((node) => node.kind !== 'comment' && isVisibleNode(node)))
      boxes.push({ ...textBox(null, styles, run, reader), floats: floatingStates(run, parent, reader) });
    else if (run.some(isVisibleNode)) boxes.push({ kind: 'comment', element: null, styles, content: run });
    run = [];
  };
  let beside: IndexedElement | null = null;
  const flushFloats = (next: IndexedElement | null): void => {
    const group = { floats, around: element, beside, next };
    if (floats.length > 0) boxes.push(floatRow(group, reader, (child) => readBox(child, reader)));
    floats = [];
    beside = null;
  };
  for (const node of content) {
    const child = reader.lookup(node);
    if (child !== null && isFloat(child, reader)) {
      if (beside !== null) flushFloats(child);
      flush();
      floats.push(child);
      continue;
    }
    if (floats.length > 0 && !isVisibleNode(node)) continue;
    const isBlock = child !== null && isBlockLevel(node, reader);
    if (isBlock && beside === null) {
      const pictures = floatingPictures(run, reader);
      const before = floats.length > 0 ? floats : pictures;
      if (before.length > 0 && keepsBeside(child, before, element, reader)) {
        if (floats.length === 0) run = [];
        floats = [...before];
        beside = child;
        continue;
      }
    }
    flushFloats(child);
    if (!isBlock) {
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

/** The pictures of a run that holds nothing but pictures that float; none of any other. */
function floatingPictures(run: readonly TreeNode[], reader: BoxReader): IndexedElement[] {
  const pictures = run.filter(isVisibleNode).map((node) => reader.lookup(node));
  const floats = pictures.filter(
    (element) => element?.node.tag === 'img' && reader.styles(element).some((style) => style.get('float') !== 'none'),
  );
  return floats.length < pictures.length ? [] : floats.filter((element) => element !== null);
}

/** In which states a run holds nothing but pictures that float. */
function floatingStates(run: readonly TreeNode[], parent: readonly ComputedStyle[], reader: BoxReader): boolean[] {
  const shown = run.filter((node) => node.kind !== 'comment' && isVisibleNode(node));
  return parent.map((_, state) =>
    shown.every((node) => {
      const element = reader.lookup(node);
      const style = element === null ? undefined : reader.styles(element)[state];
      return style !== undefined && style.get('float') !== 'none';
    }),
  );
}

/** Each element in a flex container is an item, whatever its display; so is each run of text. */
function flexItems(content: readonly TreeNode[], parent: readonly ComputedStyle[], reader: BoxReader): Box[] {
  const items = content.filter((node) => node.kind !== 'comment' && isVisibleNode(node));
  const read = items.map((node): Box => {
    const element = reader.lookup(node);
    if (element !== null) reportMarker(element, reader);
    const phrase = element === null ? null : phraseItem(element, parent, reader);
    if (phrase !== null) return phrase;
    if (element !== null) return framed(asItem(readBox(element, reader), parent), parent, reader);
    return { kind: 'text', element: null, styles: parent.map((style) => style.anonymous()), content: [node] };
  });
  const boxes = [...evenlyFramed(read, parent)];
  const [desktop] = parent;
  const orderOf = (box: Box): number => Number(box.styles[0]?.take('order') ?? 0);
  const isOrdered = /flex|grid/.test(desktop?.get('display') ?? '') && boxes.some((box) => orderOf(box) !== 0);
  return isOrdered ? boxes.sort((a, b) => orderOf(a) - orderOf(b)) : boxes;
}

/** An item of a list keeps its marker where the list is a row (CSS Lists 3, 3.1), and a cell has none. */
function reportMarker(element: IndexedElement, reader: BoxReader): void {
  const shows = reader
    .styles(element)
    .filter((style) => style.get('display') === 'list-item')
    .map((style) => [style.take('list-style-type'), style.take('list-style-image')])
    .some((values) => values.some((value) => value !== 'none'));
  if (shows) reader.refuse(element, 'list-style-type', layoutAdvice.markerOfItem);
}
