import { PLACE_MARK } from '../../html/place-marks.js';
import { layoutAdvice } from '../../findings/wording/layout.js';
import type { IndexedElement } from '../../css/selectors/element-index.js';
import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import { corners, sides } from '../../css/values/properties.js';
import type { TreeNode } from '../../html/tree.js';
import { isConditionalComment } from '../../html/conditional-comment.js';
import { isAuthored, type Box, type TextBox, type Styled } from '../boxes/boxes.js';
import { inStates, type BoxInState } from '../boxes/box-in-state.js';
import { isNativeTag, isPhrase, isVisibleNode } from '../boxes/element-kinds.js';
import { boxStyle, shortPixels } from '../boxes/box-style.js';
import { forStates, passedAttributes, type EmitContext, type Room } from './room.js';
import { bearsMargin, emitNativeNodes } from './native.js';
import { emitPicture, pictureRole } from './picture.js';
import { element, type OutElement, type OutNode, type Style } from '../print/output.js';
import { reportProblems } from './problems.js';
import { roundShapeOf, withRoundShape } from '../print/round-link.js';
import { textDifference, textStyleOf, type TextStyle } from '../print/text-style.js';

/** Emits what stands in lines: text, links, emphasis, inline pictures. White space collapses as it would when shown. */
export function emitInline(nodes: readonly TreeNode[], room: Room): OutNode[] {
  const emitted = emitNodes(nodes, room);
  return keepsLines(room) ? emitted : trimLines(emitted);
}

/** What stands in the lines of a box. What floats has text beside it: alone, it would hang into what follows. */
export function emitLines(box: TextBox, room: Room): OutNode[] {
  const shown = box.content.filter((node) => node.kind !== 'comment' && isVisibleNode(node));
  const [only] = shown.length === 1 ? shown : [];
  const lone = only === undefined ? null : room.lookup(only);
  const floats = lone !== null && room.styles(lone).some((own) => own.get('float') !== 'none');
  if (lone !== null && floats && lone.node.tag !== 'img') room.refuse(lone, 'float', layoutAdvice.floatAlone);
  return emitInline(box.content, room);
}

/** Whether white space shows as it is written: `white-space: pre-line` and the like. */
function keepsLines({ text }: Room): boolean {
  return text?.some((style) => /^pre/.test(style.get('white-space') ?? '')) === true;
}

function emitNodes(nodes: readonly TreeNode[], room: Room): OutNode[] {
  return nodes.flatMap((node): OutNode[] => {
    if (node.kind === 'text')
      return [{ kind: 'text', value: keepsLines(room) ? node.value : node.value.replace(/[ \t\n\f\r]+/g, ' ') }];
    if (node.kind === 'comment')
      return isConditionalComment(node.value) ? [{ kind: 'raw', html: `<!--${node.value}-->` }] : [];
    const indexed = room.lookup(node);
    return indexed === null ? [] : emitPhrase(indexed, room);
  });
}

/** Emits an element that stands in a line. */
export function emitPhrase(indexed: IndexedElement, room: Room): OutNode[] {
  const { node } = indexed;
  const styles = room.styles(indexed);
  if (room.shownDisplay(indexed) === null) return [];
  if (node.tag === 'br' || node.tag === 'wbr') return [lineBreak(indexed, styles, room)];
  if (node.tag === 'img')
    return [emitPicture({ kind: 'picture', element: indexed, styles }, room, pictureRole(styles[0]))];
  if (isNativeTag(node.tag) || styles.some((style) => /^(?:table|list-item)/.test(style.take('display'))))
    return emitNativeNodes([node], room, 'normal');
  reportUnsupportedDisplay(indexed, styles, room);
  const text = styles.map(textStyleOf);
  const discards = discardsSpaces(indexed, styles, room);
  const content = discards
    ? node.children.filter((child) => child.kind !== 'text' || isVisibleNode(child))
    : node.children;
  const inner = emitNodes(content, { ...room, text });
  const children = discards ? inner.map(trimmedText) : inner;
  const own = inlineStyles(indexed, styles, text, room);
  const attributes = passedAttributes(indexed);
  const shape = roundShapeOf(node.tag, styles);
  if (shape !== null) return withRoundShape(element(node.tag, attributes, own, children), shape, styles);
  const says = own.some((style) => style.size > 0) || Object.keys(attributes).some((name) => name !== PLACE_MARK);
  return says || node.tag !== 'span' ? [{ ...element(node.tag, attributes, own, children), isInLine: true }] : children;
}

/** Whether an element is a row in its line, between whose items white space shows nothing: in all states in which it shows. */
function discardsSpaces(indexed: IndexedElement, styles: readonly ComputedStyle[], room: Room): boolean {
  const shown = styles.filter((style) => style.get('display') !== 'none');
  const rows = shown.filter((style) => style.get('white-space-trim') === 'discard-inner');
  if (rows.length > 0 && rows.length < shown.length) room.refuse(indexed, 'display', layoutAdvice.withinLine);
  return rows.length > 0;
}

/** A line break, which a class hides where it does not show. */
function lineBreak({ node }: IndexedElement, styles: readonly ComputedStyle[], room: Room): OutElement {
  const hides = styles.some((style) => style.take('display') === 'none');
  const shown = forStates(room, (state): Style => {
    const isShown = styles[state]?.take('display') !== 'none';
    return new Map([
      ['display', isShown ? 'inline' : 'none'],
      ...(isShown || state > 0 ? [] : [['mso-hide', 'all'] as const]),
    ]);
  });
  return element(node.tag, {}, hides ? shown : [], []);
}

function reportUnsupportedDisplay(
  indexed: IndexedElement,
  styles: readonly ComputedStyle[],
  context: EmitContext,
): void {
  const style = styles.find((candidate) => !/^(?:inline|inline-block|block|none)$/.test(candidate.take('display')));
  if (style === undefined) return;
  const advice = layoutAdvice.withinLine;
  const box: Box = { kind: 'text', element: indexed, styles, content: [] };
  reportProblems([{ box, property: 'display', value: style.take('display'), advice }], context);
}

/** Every link states its colour and underline, as mail clients restyle links that do not. */
function inlineStyles(
  indexed: IndexedElement,
  styles: readonly ComputedStyle[],
  text: readonly TextStyle[],
  room: Room,
): Style[] {
  const tag = indexed.node.tag;
  const difference = textDifference(tag, text, room.text ?? styles.map(() => new Map()));
  const isBlockSomewhere = styles.some((style) => /block/.test(style.take('display')));
  return inStates({ styles }).map((box, state) => {
    const { style } = box;
    const result = new Map<string, string>();
    const display = style.take('display');
    if (isBlockSomewhere || display === 'none' || !isPhrase(tag)) result.set('display', display);
    if (/^inline-/.test(display) && isAuthored(styles, 'overflow')) result.set('overflow', style.take('overflow'));
    if (boxMatters(styles)) for (const [property, value] of boxStyle(box)) result.set(property, value);
    const margin = inlineMargin(box);
    if (lengthMatters(styles, 'margin') || bearsMargin(tag)) result.set('margin', margin);
    if (styles.some((own) => own.get('float') !== 'none')) result.set('float', style.take('float'));
    if (tag === 'q' && styles.some((own) => own.get('quotes') !== 'auto')) result.set('quotes', style.take('quotes'));
    for (const property of ['width', 'max-width', 'height', 'min-height', 'vertical-align', 'text-decoration']) {
      const value = style.take(property);
      const relevant =
        property === 'text-decoration'
          ? decorates(tag, styles)
          : isAuthored(styles, property) || (property === 'vertical-align' && isRaised(styles));
      if (relevant) result.set(property, value);
    }
    if ((result.has('width') || result.has('height')) && result.get('padding') !== '0' && boxMatters(styles))
      result.set('box-sizing', style.take('box-sizing'));
    for (const [property, value] of difference[state] ?? []) result.set(property, value);
    return result;
  });
}

/** Whether an item of a row in a line is moved up or down in it. */
function isRaised(styles: readonly ComputedStyle[]): boolean {
  return styles.some((own) => own.pixels('vertical-align') !== null);
}

function trimmedText(node: OutNode): OutNode {
  return node.kind === 'text' ? { ...node, value: node.value.trim() } : node;
}

/** The margins of an element in a line: above and below a plain one they move nothing (CSS 2.2, 8.3). */
function inlineMargin(box: BoxInState<Styled>): string {
  const style = box.style;
  const isInline = style.take('display') === 'inline';
  const values = sides.map((side) => {
    if (isInline && (side === 'top' || side === 'bottom')) return '0';
    const value = style.take(`margin-${side}`);
    return value === 'auto' ? (isInline ? '0' : 'auto') : shortPixels(box.takeLength(`margin-${side}`));
  });
  return values.join(' ');
}

function decorates(tag: string, styles: readonly ComputedStyle[]): boolean {
  if (tag === 'a') return true;
  return isAuthored(styles, 'text-decoration');
}

function boxMatters(styles: readonly ComputedStyle[]): boolean {
  const plain = (style: ComputedStyle): boolean =>
    style.get('background-color') === 'transparent' &&
    style.get('background-image') === 'none' &&
    style.get('box-shadow') === 'none' &&
    sides.every((side) => style.get(`padding-${side}`) === '0px' && style.get(`border-${side}-width`) === '0px') &&
    corners.every((corner) => style.get(`border-${corner}-radius`) === '0px');
  return !styles.every(plain);
}

function lengthMatters(styles: readonly ComputedStyle[], property: string): boolean {
  return styles.some((style) => sides.some((side) => style.get(`${property}-${side}`) !== '0px'));
}

/** Takes away the white space at the beginning and the end of a block and around line breaks. */
function trimLines(nodes: readonly OutNode[]): OutNode[] {
  const trimmed = nodes.map((node, index): OutNode => {
    if (node.kind !== 'text') return node;
    const atStart = index === 0 || isBreak(nodes[index - 1]);
    const atEnd = index === nodes.length - 1 || isBreak(nodes[index + 1]);
    const value = atStart ? node.value.replace(/^ +/, '') : node.value;
    return { kind: 'text', value: atEnd ? value.replace(/ +$/, '') : value };
  });
  return trimmed.filter((node) => node.kind !== 'text' || node.value !== '');
}

function isBreak(node: OutNode | undefined): boolean {
  return node?.kind === 'element' && node.tag === 'br';
}
