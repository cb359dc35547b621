import { layoutAdvice } from '../../findings/wording/layout.js';
import type { IndexedElement } from '../../css/selectors/element-index.js';
import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import { properties, sides, textProperties, type Side } from '../../css/values/properties.js';
import { isTagAlone } from '../../html/tags.js';
import type { TreeNode } from '../../html/tree.js';
import { boxStyle, fewestValues, shortPixels } from '../boxes/box-style.js';
import { isConditionalComment } from '../../html/conditional-comment.js';
import { isAuthored, type NativeBox, type Styled } from '../boxes/boxes.js';
import { inStates, type BoxInState } from '../boxes/box-in-state.js';
import { forStates, withParts, passedAttributes, type EmitContext, type Room } from './room.js';
import { emitPicture, pictureRole } from './picture.js';
import { reportProblems } from './problems.js';
import { element, type OutElement, type OutNode, type Style } from '../print/output.js';
import { fullText, textDifference, textStyleOf, type TextStyle } from '../print/text-style.js';

/**
 * Emits an element as the author wrote it, with every style resolved onto it: lists, hand-written tables,
 * preformatted text. Margins within it collapse by themselves, as nothing is put between its elements.
 * @param above the space above in each state, which replaces the margin
 */
export function emitNative(box: NativeBox, room: Room, above: readonly number[]): OutElement {
  const margins = inStates(box).map((own, state) => marginOf(own, { top: above[state] ?? 0, bottom: 0 }));
  return emitNativeElement(box.element, room, margins);
}

/** The margin of an element in a state, of which some sides may be given. */
function marginOf(box: BoxInState<Styled>, given: Partial<Record<Side, number>> = {}): string {
  const values = sides.map((side) => {
    const pixels = given[side];
    if (pixels !== undefined) return shortPixels(pixels);
    const name = `margin-${side}`;
    return box.style.take(name) === 'auto' ? 'auto' : shortPixels(box.takeLength(name));
  });
  return fewestValues(values);
}

/** @param margins the margin that the element gets in each state */
function emitNativeElement(indexed: IndexedElement, room: Room, margins: readonly string[]): OutElement {
  const styles = room.styles(indexed);
  const text = styles.map(textStyleOf);
  const isRaw = standsInRaw(indexed);
  const children = emitNativeNodes(indexed.node.children, { ...room, text }, styles[0]?.take('white-space') ?? '');
  const tag = isRaw ? indexed.node.tag : tableTag(indexed, room);
  const isMade = tag !== indexed.node.tag && tag !== 'div';
  const own = nativeStyles(indexed, text, room, margins);
  const linked = isMade && indexed.node.tag === 'a';
  const emitted = element(
    // The document has a body already.
    tag === 'body' ? 'div' : tag,
    isMade && tag === 'table'
      ? madeTableAttributes(indexed)
      : linked
        ? {}
        : isRaw
          ? ownAttributes(indexed)
          : nativeAttributes(indexed, styles),
    own.map((said, state) => {
      if (isRaw) return new Map([...said, ...rawStyle(indexed, state, room)]);
      if (!isMade) return said;
      const style = new Map([...plainTable(tag, styles[state]), ...said]);
      return linked ? style.set('padding', '0') : style;
    }),
    isMade && tag === 'table'
      ? inRows(children, styles)
      : linked
        ? [linkInCell(indexed, own, children, room)]
        : children,
  );
  const isCentred = ['margin-left', 'margin-right'].every((side) => styles[0]?.take(side) === 'auto');
  if (emitted.tag === 'table' && isCentred && !isRaw && !emitted.attributes.has('align'))
    emitted.attributes.set('align', 'center');
  return withParts(emitted, indexed, room);
}

const tableTags: ReadonlyMap<string, string> = new Map([
  ['table', 'table'],
  ['table-row-group', 'tbody'],
  ['table-header-group', 'thead'],
  ['table-footer-group', 'tfoot'],
  ['table-row', 'tr'],
  ['table-cell', 'td'],
  ['table-caption', 'caption'],
]);

/** The tag of an element: what is displayed as a part of a table becomes one, since not all engines know the display. */
function tableTag({ node }: IndexedElement, context: EmitContext): string {
  const element = context.lookup(node);
  const display = element === null ? null : context.shownDisplay(element);
  const tag = tableTags.get(display ?? '') ?? node.tag;
  return /^(?:table|tbody|thead|tfoot|tr|td|th|caption)$/.test(node.tag) ? node.tag : tag;
}

function madeTableAttributes(indexed: IndexedElement): Record<string, string> {
  return { role: 'presentation', border: '0', cellpadding: '0', cellspacing: '0', ...passedAttributes(indexed) };
}

/** A link that is a cell stands in one, and fills it. */
function linkInCell(indexed: IndexedElement, cell: readonly Style[], children: OutNode[], room: Room): OutElement {
  const styles = room.styles(indexed).map((style, state) => {
    const text = ['color', 'text-decoration'].map((property): [string, string] => [property, style.take(property)]);
    return new Map([['display', 'block'], ['padding', cell[state]?.get('padding') ?? '0'], ...text]);
  });
  return element('a', passedAttributes(indexed), styles, children);
}

/** The cells of a table that is only displayed as one, in the rows that browsers make of them (CSS 2.2, 17.2.1). */
function inRows(children: readonly OutNode[], table: readonly ComputedStyle[]): OutNode[] {
  const stacks = table.some((style) => style.get('display') !== 'table');
  const shown = (as: string): Style[] =>
    table.map((style, state) =>
      stacks && state > 0
        ? new Map([['display', style.get('display') === 'table' ? as : 'block']])
        : new Map<string, string>(),
    );
  const rows: OutNode[] = [];
  let open: OutNode[] | null = null;
  // Template tags stand in the row of the cells that they are about.
  let tags: OutNode[] = [];
  for (const child of children) {
    if (child.kind === 'text' && child.value.trim() === '') continue;
    if (child.kind === 'text' && isTagAlone(child.value)) {
      tags.push(child);
      continue;
    }
    const isCell = child.kind === 'element' && child.tag === 'td';
    if (isCell && open === null) {
      open = [];
      const row = element('tr', {}, shown('table-row'), open);
      // A browser would put the row into a group that no class reaches.
      rows.push(stacks ? element('tbody', {}, shown('table-row-group'), [row]) : row);
    }
    if (!isCell) open = null;
    (open ?? rows).push(...tags, child);
    tags = [];
  }
  (open ?? rows).push(...tags);
  return rows;
}

function edgeOf(style: ComputedStyle, side: Side): number {
  return (style.pixels(`padding-${side}`) ?? 0) + (style.pixels(`border-${side}-width`) ?? 0);
}

/** What browsers do to tables by their tags, undone: boxes that are only displayed as tables have none of it. */
function plainTable(tag: string, style: ComputedStyle | undefined): Style {
  if (tag === 'td')
    return new Map([
      ['padding', '0'],
      ['vertical-align', style?.take('vertical-align') ?? 'baseline'],
    ]);
  if (tag !== 'table') return new Map();
  return new Map([
    ['border-collapse', style?.take('border-collapse') ?? 'separate'],
    // A table that says its width holds its padding, unless told otherwise.
    ...(style !== undefined && sides.some((side) => edgeOf(style, side) > 0)
      ? [['box-sizing', style.take('box-sizing')] as const]
      : []),
  ]);
}

/**
 * An element within a piece in which layout is switched off: what its author says of it, and nothing else. What browsers and
 * old attributes say stays said by its name and its attributes.
 */
function emitRawElement(
  indexed: IndexedElement,
  context: EmitContext,
  emitNodes: (nodes: readonly TreeNode[], whiteSpace: string) => OutNode[],
): OutElement {
  const [desktop] = context.styles(indexed);
  const children = emitNodes(indexed.node.children, desktop?.take('white-space') ?? '');
  const styles = forStates(
    context,
    (state) => new Map([...saidStyle(indexed, state, context), ...rawStyle(indexed, state, context)]),
  );
  return element(indexed.node.tag, ownAttributes(indexed), styles, children);
}

/** The properties that the author's rules and the style attribute set on an element. */
function saidStyle(indexed: IndexedElement, state: number, context: EmitContext): Style {
  const own = context.styles(indexed)[state];
  const result = new Map<string, string>();
  if (own === undefined) return result;
  for (const property of properties.keys()) {
    const origin = own.declaredBy(property)?.origin;
    if (origin === 'author' || origin === 'style-attribute') result.set(property, own.take(property));
  }
  return shortened(result);
}

/** Sides that are all said, said together; and no picture behind that is none. */
function shortened(style: ReadonlyMap<string, string>): Style {
  const result = new Map(style);
  for (const group of ['margin', 'padding']) {
    const values = sides.map((side) => style.get(`${group}-${side}`));
    if (values.some((value) => value === undefined)) continue;
    for (const side of sides) result.delete(`${group}-${side}`);
    result.set(group, new Set(values).size === 1 ? (values[0] ?? '0') : values.join(' '));
  }
  if (style.get('background-image') === 'none')
    for (const property of style.keys()) if (/^background-(?!color$)/.test(property)) result.delete(property);
  return result;
}

/** Whether layout is switched off for an element, by `data-raw` on it or around it. */
export function standsInRaw(indexed: IndexedElement): boolean {
  for (let at: IndexedElement | null = indexed; at !== null; at = at.parent)
    if (at.node.attributes.has('data-raw')) return true;
  return false;
}

/** What styles say about layout that is switched off: it stays as the author has it. */
function rawStyle(indexed: IndexedElement, state: number, context: EmitContext): Style {
  const own = context.styles(indexed)[state];
  const display = own?.isAuthored('display') === true ? [['display', own.take('display')] as const] : [];
  return new Map([...display, ...context.unknownStyle(indexed, state)]);
}

/** In hand-written tables the author's old attributes stand, but for those that a style or a row of floats has overruled. */
function nativeAttributes(indexed: IndexedElement, styles: readonly ComputedStyle[]): Record<string, string> {
  if (!/^(?:table|tr|td|th|thead|tbody|tfoot|col|colgroup|caption)$/.test(indexed.node.tag))
    return passedAttributes(indexed);
  const own = ownAttributes(indexed);
  const floats = indexed.node.tag === 'table' && /^(?:left|right)$/i.test(own['align'] ?? '');
  if (floats && styles.every((style) => style.get('float') === 'none')) delete own['align'];
  if (styles.every((style) => style.get('white-space') !== 'nowrap')) delete own['nowrap'];
  return own;
}

/** All attributes of an element but those that styles are read from. */
function ownAttributes({ node }: IndexedElement): Record<string, string> {
  return Object.fromEntries(
    [...node.attributes.values()]
      .filter(({ name }) => name !== 'class' && name !== 'style')
      .map(({ name, value }) => [name, value]),
  );
}

/** @param whiteSpace the `white-space` of the element that they stand in */
export function emitNativeNodes(nodes: readonly TreeNode[], room: Room, whiteSpace: string): OutNode[] {
  const preserved = whiteSpace.startsWith('pre');
  // Between items that stand in a line white space is a space, as in any text.
  const keepsSpace = preserved || nodes.some((node) => isItemInLine(node, room));
  return nodes.flatMap((node): OutNode[] => {
    if (node.kind === 'text' && !keepsSpace && holdsNoText(node.parent?.tag ?? '') && /^[ \t\n\f\r]*$/.test(node.value))
      return [];
    if (node.kind === 'text')
      return [{ kind: 'text', value: preserved ? node.value : node.value.replace(/[ \t\n\f\r]+/g, ' ') }];
    if (node.kind === 'comment')
      return isConditionalComment(node.value) ? [{ kind: 'raw', html: `<!--${node.value}-->` }] : [];
    const indexed = room.lookup(node);
    if (indexed === null) return [];
    const styles = room.styles(indexed);
    if (room.shownDisplay(indexed) === null) return [];
    if (indexed.parent !== null && standsInRaw(indexed.parent))
      return [emitRawElement(indexed, room, (nodes, whiteSpace) => emitNativeNodes(nodes, room, whiteSpace))];
    if (node.tag === 'img')
      return [emitPicture({ kind: 'picture', element: indexed, styles }, room, pictureRole(styles[0]))];
    reportFlex(indexed, room);
    if (styles.some((own) => own.get('white-space-trim') === 'discard-inner')) return room.make.phrase(indexed, room);
    const margins = inStates({ styles }).map((own) => marginOf(own));
    return [emitNativeElement(indexed, room, margins)];
  });
}

function isItemInLine(node: TreeNode, room: Room): boolean {
  const item = node.kind === 'element' && node.tag === 'li' ? room.lookup(node) : null;
  return item !== null && room.styles(item).some((own) => own.get('display').startsWith('inline'));
}

function holdsNoText(tag: string): boolean {
  return /^(?:ul|ol|menu|dl|table|thead|tbody|tfoot|tr|colgroup)$/.test(tag);
}

function reportFlex(indexed: IndexedElement, context: EmitContext): void {
  if (standsInRaw(indexed)) return;
  const styles = context.styles(indexed);
  const flex = styles.find((own) => /flex|grid/.test(own.take('display')));
  if (flex === undefined) return;
  const advice = layoutAdvice.rowInNative;
  const box: NativeBox = { kind: 'native', element: indexed, styles };
  reportProblems([{ box, property: 'display', value: flex.get('display'), advice }], context);
}

/** `box-sizing` matters only beside a width or a height. */
function hasSize(styles: readonly ComputedStyle[]): boolean {
  return styles.some(
    (own) => own.get('width') !== 'auto' || own.get('height') !== 'auto' || own.get('max-width') !== 'none',
  );
}

const withMargins: ReadonlySet<string> = new Set(
  'p ul ol menu dl dd h1 h2 h3 h4 h5 h6 blockquote pre figure hr'.split(' '),
);

/** Whether browsers give elements of a kind margins of their own. */
export function bearsMargin(tag: string): boolean {
  return withMargins.has(tag);
}

const textual: ReadonlySet<string> = new Set<string>(textProperties);
/** What an item says to its row or grid, which is a table now. */
const itemProperties = /^(?:flex-(?:grow|shrink|basis)|order|align-self|justify-self|grid-(?:row|column|area))$/;
const boxProperties = /^(?:margin|padding|background)-|^border-(?!collapse$|spacing$)/;

function nativeStyles(
  indexed: IndexedElement,
  text: readonly TextStyle[],
  room: Room,
  margins: readonly string[],
): Style[] {
  const { tag } = indexed.node;
  const styles = room.styles(indexed);
  const difference = textDifference(tag, text, room.text ?? styles.map(() => new Map()));
  const authored = (pattern: RegExp): boolean =>
    [...properties.keys()].some((property) => pattern.test(property) && isAuthored(styles, property));
  const isAligned = styles.some((style) => [style.get('margin-left'), style.get('margin-right')].includes('auto'));
  const isApart = margins.some((margin) => /[1-9]/.test(margin));
  const hasMargin = bearsMargin(tag) || authored(/^margin-/) || isAligned || isApart;
  const hasBox = authored(/^(?:padding|border-(?:top|right|bottom|left)|background)-/) || /^(?:ul|ol|menu)$/.test(tag);
  const floats = styles.some((style) => style.get('float') !== 'none');
  // A table that is an item is as wide as its cell though nobody says so.
  const isFull = styles.some((style) => style.get('width') === '100%');
  const fillsItem = tag === 'table' && !indexed.node.attributes.has('width') && isFull;
  return inStates({ styles }).map((box, state) => {
    const { style: own } = box;
    const result = new Map<string, string>();
    if (hasMargin) result.set('margin', margins[state] ?? '0');
    if (hasBox) for (const [property, value] of boxStyle(box)) result.set(property, value);
    for (const property of properties.keys()) {
      if (textual.has(property) || boxProperties.test(property)) continue;
      if (itemProperties.test(property) || (property === 'float' && !floats)) {
        own.take(property);
        continue;
      }
      const isSaid = isAuthored(styles, property) || (property === 'width' && fillsItem);
      if (property !== 'box-sizing' && isSaid) result.set(property, own.take(property));
      if (property === 'box-sizing' && own.take('box-sizing') === 'border-box' && hasSize(styles))
        result.set(property, 'border-box');
    }
    const says =
      room.text === null
        ? fullText(text[state] ?? new Map<string, string>())
        : (difference[state] ?? new Map<string, string>());
    for (const [property, value] of says) result.set(property, value);
    return result;
  });
}
