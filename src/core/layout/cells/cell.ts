import { PLACE_MARK } from '../../html/place-marks.js';
import { finding } from '../../findings/finding.js';
import { legacyColor } from '../../css/values/color.js';
import { pixelsWithinMath, shareIn, withPixels } from '../../css/values/math.js';
import { pixelsOf } from '../../css/values/value.js';
import { boxStyle, noExtra, outerLength, turnsBorders } from '../boxes/box-style.js';
import { closedSides, collapseMargins, laysOutItems, type ClosedSides } from '../boxes/margins.js';
import {
  anyState,
  fillsFrame,
  hasAutoMargins,
  hasOwnHeight,
  isLink,
  isPainted,
  roleOf,
  type Box,
  type PictureBox,
  type TextBox,
  type GridBox,
  type RowBox,
} from '../boxes/boxes.js';
import { inState, inStates, type BoxInState } from '../boxes/box-in-state.js';
import { justifiedEnd, sharesHeight } from '../rows/column.js';
import { cellAlignment, modeIn } from '../rows/row-plan.js';
import { backgroundPath } from '../content/background-picture.js';
import { buttonIn, emitButton } from '../content/button.js';
import {
  desktopWidth,
  forStates,
  hideWithBox,
  namedAnchor,
  noSpace,
  passedAttributes,
  withParts,
  type Content,
  type CellOptions,
  type TableOptions,
  type Room,
} from '../content/room.js';
import { emitFlow } from './flow.js';
import { reportHeights } from './heights.js';
import { emitLines } from '../content/inline.js';
import { emitPicture } from '../content/picture.js';
import { spills } from '../content/spill.js';
import { emitGrid } from '../grids/grid.js';
import { emitColumns } from '../rows/row.js';
import { lineOverhang } from '../rows/row-lines.js';
import {
  pulledUp,
  asTallAs,
  element,
  filler,
  layoutTable,
  style,
  tableRow,
  toppedTable,
  wordOnly,
  wordTable,
  type OutElement,
  type OutNode,
  type Style,
} from '../print/output.js';
import { fullText, textStyleOf } from '../print/text-style.js';

/** Emits a box as one cell: padding, paint and border on the cell, the content in it. */
export function emitCell(box: Box, room: Room, options: CellOptions): OutElement {
  const states = inStates(box);
  const inner: Room = {
    ...room,
    text: null,
    widthAt: (viewport, state) => Math.max(0, room.widthAt(viewport, state) - (states[state]?.sideEdges ?? 0)),
  };
  reportHeights(box, inner);
  const emitted = emitContent(box, inner, options.isFlexItem);
  const content = options.isTable === true ? emitted : { ...emitted, nodes: linked(box, emitted.nodes) };
  const empty = content.nodes.length === 0;
  // Space below the last line that is more than the padding is taken back by the content itself.
  const after = content.after.map((space, state) =>
    options.keepsOverhang === true ? space + lineOverhang(inState(box, state)) : space,
  );
  const beyond = states.map((own, state) =>
    Math.max(0, -(own.length('padding-bottom') + (after[state] ?? 0) + (options.extra[state]?.bottom ?? 0))),
  );
  const styles = states.map((own, state): Style => {
    const extra = options.extra[state] ?? noExtra;
    const space = {
      top: (content.before[state] ?? 0) + extra.top,
      bottom: (after[state] ?? 0) + extra.bottom + (beyond[state] ?? 0),
    };
    const result = boxStyle(own, { ...extra, ...space });
    setSize(result, own, content.fillsHeight?.[state] === true);
    if (box.kind === 'text' && anyState(box, 'text-decoration', 'none'))
      result.set('text-decoration', own.style.take('text-decoration'));
    if (empty) for (const property of ['font-size', 'line-height']) result.set(property, '0');
    for (const [property, value] of content.lines?.[state] ?? []) result.set(property, value);
    if (content.text !== null)
      for (const [property, value] of fullText(content.text[state] ?? new Map())) result.set(property, value);
    return result;
  });
  const behind = backgroundPath(box, room);
  return element(
    'td',
    behind?.isDrawn === true ? { ...cellAttributes(box), background: behind.path } : cellAttributes(box),
    styles,
    withBackdrop(box, styles, room, [
      ...namedAnchor(box.element, room),
      ...(empty ? [filler] : pulledUp(content.nodes, beyond)),
    ]),
  );
}

/** A background picture is drawn for the `word` engine as a shape around the content, which then takes over the padding. */
function withBackdrop(box: Box, styles: Style[], room: Room, content: OutNode[]): OutNode[] {
  const desktop = inState(box, 0);
  const { style: own } = desktop;
  const path = backgroundPath(box, room)?.path;
  if (path === undefined || box.element === null) return content;
  const color = legacyColor(own.take('background-color'));
  const declared = own.declaredBy('background-image');
  if (color === null) room.report(finding('background-without-color', declared?.declaration.place ?? null, { path }));
  const [first] = styles;
  if (first !== undefined) styles[0] = new Map([...first, ['mso-padding-alt', '0']]);
  const inset = (['left', 'top', 'right', 'bottom'] as const).map((side) => desktop.edge(side));
  return [{ kind: 'backdrop', path, color: color ?? '#ffffff', width: desktopWidth(room), inset, content }];
}

function emitContent(box: Box, room: Room, isFlexItem: boolean | readonly boolean[]): Content {
  const isItem = (state: number): boolean => isItemIn(isFlexItem, state);
  const closed = inStates(box).map((own) => (isItem(own.state) ? allClosed : closedSides(own)));
  const bare = { before: noSpace(room), after: noSpace(room), lines: null };
  const lined = pictureInLine(box, isItem);
  if (lined !== null)
    return {
      ...bare,
      text: lined.picture.styles.map(textStyleOf),
      nodes: [emitPicture(lined.picture, room, 'block', lined.inLine)],
    };
  switch (box.kind) {
    case 'flow': {
      const content = emitFlow(box.children, box, room, closed);
      if (!fillsFrame(box)) return content;
      const always = forStates(room, () => true);
      const isMarkup = box.children.some(({ kind }) => kind === 'native');
      const tall = content.nodes.map((node) => asTallAs(node, always));
      return { ...content, nodes: isMarkup ? tall : tall.map(toppedTable) };
    }
    case 'row': {
      const ends = blockEnds(box, closed);
      const after = ends.after.map((space, state) => space - lineOverhang(inState(box, state)));
      return filledHeight(box, { ...bare, text: null, ...emitColumns(box, room), ...ends, after });
    }
    case 'grid':
      return filledHeight(box, {
        ...{ ...bare, text: null, lines: null, nodes: emitGrid(box, room) },
        ...blockEnds(box, closed),
      });
    case 'picture':
      return { ...bare, text: null, nodes: [emitPicture(box, room, 'block')] };
    case 'native':
    case 'comment':
      return emitFlow([box], box, room, []);
    case 'text': {
      const text = box.styles.map(textStyleOf);
      const kept = { ...bare, ...keptEnds(box, closed) };
      const link = buttonIn(box, room);
      if (link !== null) return { ...kept, text: null, nodes: [emitButton(box, link, room)] };
      const lines = emitLines(box, { ...room, text });
      // A first letter of a cell is none to all engines: that of a block in it is.
      const hasParts = box.element !== null && room.partsOf(box.element).length > 0;
      const inline = hasParts ? [withParts(element('div', {}, [], lines), box.element, room)] : lines;
      const tag = box.element?.node.tag ?? 'div';
      if (!/^(?:p|h[1-6])$/.test(tag)) return { ...kept, text, nodes: inline };
      // A padded heading stays a heading: only its box becomes a cell.
      return {
        ...kept,
        text,
        nodes: [
          element(
            tag,
            {},
            forStates(room, (state) => headingStyle(text[state] ?? new Map())),
            inline,
          ),
        ],
      };
    }
  }
}

function isItemIn(isFlexItem: boolean | readonly boolean[], state: number): boolean {
  return typeof isFlexItem === 'boolean' ? isFlexItem : isFlexItem[state] === true;
}

/** A picture that is an item in some states, and stands in a line of its own where its row is a plain block; null for any other box. */
function pictureInLine(
  box: Box,
  isItem: (state: number) => boolean,
): { readonly picture: PictureBox; readonly inLine: readonly boolean[] } | null {
  const [only] = box.kind === 'flow' && box.isFrame === true ? box.children : [box];
  if (only?.kind !== 'picture') return null;
  const inLine = only.styles.map((style, state) => !isItem(state) && /^inline/.test(style.get('display')));
  return inLine.includes(true) && inLine.includes(false) ? { picture: only, inLine } : null;
}

/** The margins of blocks in lines that stay in the cell around them. */
function keptEnds(box: TextBox, closed: readonly ClosedSides[]): Pick<Content, 'before' | 'after'> {
  const kept = (side: 'top' | 'bottom'): number[] =>
    closed.map((sides, state) => (sides[side] ? (box.ends?.[side][state] ?? 0) : 0));
  return { before: kept('top'), after: kept('bottom') };
}

/** The margins of first and last children that stay in a row or a grid in the states in which it is a plain block. */
function blockEnds(box: RowBox | GridBox, closed: readonly ClosedSides[]): Pick<Content, 'before' | 'after'> {
  const spacings = inStates(box).map((own, state) => {
    if (laysOutItems(own)) return { before: 0, after: 0 };
    const { above, below } = collapseMargins(own.children, closed[state] ?? allOpen, () => true);
    const first = box.children.find((child) => above.has(child));
    return { before: first === undefined ? 0 : (above.get(first) ?? 0), after: below };
  });
  return { before: spacings.map(({ before }) => before), after: spacings.map(({ after }) => after) };
}

/** Columns that stretch, and rows between which space is shared out, take all of a height that their box has. */
function filledHeight(box: RowBox | GridBox, content: Content): Content {
  const fills = inStates(box).map((own) => {
    if (own.isHidden) return false;
    if (box.kind === 'row' && modeIn(own) === 'stacked') return sharesHeight(own);
    return hasOwnHeight(own.style) && (box.kind === 'grid' || stretchesItems(own));
  });
  if (!fills.includes(true)) return content;
  return { ...content, nodes: content.nodes.map((node) => asTallAs(node, fills)), fillsHeight: fills };
}

function stretchesItems(box: BoxInState<RowBox | GridBox>): boolean {
  return /^(?:normal|stretch)$/.test(box.style.take('align-items')) && box.itself.children.some(isPainted);
}

function headingStyle(text: ReadonlyMap<string, string>): Style {
  const restated = ['font-size', 'font-weight', 'line-height'].map((property): [string, string] => [
    property,
    text.get(property) ?? '',
  ]);
  return new Map([['margin', '0'], ...restated]);
}

/** Where the content of a box that is taller stands in it: a flex container decides, in any other box it is the top. */
function verticalAlign(box: BoxInState): string {
  if (box.itself.kind !== 'row') return 'top';
  const own = box.style;
  if (own.take('display') !== 'flex') return 'top';
  if (modeIn(box) === 'stacked') return justifiedEnd(own.take('justify-content'));
  const first = box.children.find((item) => !item.isHidden);
  return first === undefined ? 'top' : cellAlignment(box.itself, first).replace('baseline', 'top');
}

const allClosed: ClosedSides = { top: true, bottom: true };
const allOpen: ClosedSides = { top: false, bottom: false };

function setSize(result: Map<string, string>, box: BoxInState, isFilled: boolean): void {
  const own = box.style;
  const height = own.takePixels('height') ?? own.takePixels('min-height') ?? 0;
  const borderBox = own.take('box-sizing') === 'border-box';
  const outer = height + (borderBox ? 0 : box.edge('top') + box.edge('bottom'));
  if (height > 0) {
    result.set('height', `${outer}px`);
    result.set('box-sizing', 'border-box');
    result.set('vertical-align', isFilled ? 'top' : verticalAlign(box));
  }
  if (own.take('overflow') === 'hidden') result.set('overflow', 'hidden');
}

function cellAttributes(box: Box): Record<string, string> {
  const role = roleOf(box);
  const passed = { ...(role === null ? {} : { role }), ...passedAttributes(box.element) };
  return Object.fromEntries(
    Object.entries(passed).filter(
      ([name]) => name === PLACE_MARK || /^(?:id|lang|dir|title|role|aria-.*|region(?:-.*)?)$/.test(name),
    ),
  );
}

/** Emits a box as a table of one cell, as wide as the box says. */
export function emitBoxTable(box: Box, room: Room, options: TableOptions = {}): OutNode[] {
  const inner: Room = {
    ...room,
    widthAt: (viewport, state) => {
      const available = room.widthAt(viewport, state);
      return options.fills?.[state] === true ? available : outerWidth(inState(box, state), available);
    },
  };
  const cell = emitCell(box, inner, { extra: [], isFlexItem: options.isFlexItem ?? false, isTable: true });
  const isFirm = (options.shrink ?? null) === null && spills(box, inner);
  // A line is as wide as what is around it.
  const lined = pictureInLine(box, (state) => isItemIn(options.isFlexItem ?? false, state))?.inLine ?? [];
  const styles = inStates(box).map((own, state) => {
    const sized = filled(tableStyle(own), options.fills?.[state] === true || lined[state] === true);
    return firm(isFirm, shrunk(own, sized, options));
  });
  const desktop = inState(box, 0);
  const centred = isAuto(box, 'margin-left') && isAuto(box, 'margin-right');
  const shrunkTo = options.shrink?.[0] ?? 'stretch';
  const align = centred || shrunkTo === 'center' ? 'center' : '';
  const fixed = pixelsOf(styles[0]?.get('width') ?? '');
  const attributes: Record<string, string> = {
    ...(shrunkTo === 'stretch' ? { width: fixed === null ? '100%' : String(Math.round(fixed)) } : {}),
    ...(align === '' ? {} : { align }),
    ...(turnsBorders(box) ? { dir: desktop.style.take('direction') } : {}),
  };
  const table = hideWithBox(layoutTable(styles, [tableRow([cell])], attributes), box);
  const width = outerWidth(desktop, desktopWidth(room));
  const bounded =
    desktop.style.take('max-width') !== 'none' && width < desktopWidth(room) && options.fills?.[0] !== true;
  const nodes = linked(box, [table], styles);
  if (!bounded) return nodes;
  return [wordOnly(`${wordTable(width, align)}<td>`), ...nodes, wordOnly('</td></tr></table>')];
}

/**
 * Puts what a link holds into the link: as a block, as which it is laid out, or as wide as a table in it that shrinks to its
 * content.
 */
function linked(box: Box, nodes: OutNode[], tables: readonly Style[] = []): OutNode[] {
  if (!isLink(box)) return nodes;
  const shrinks = tables.some((own) => own.get('width') === 'auto');
  const styles = box.styles.map((own, state) => {
    const isShrunk = tables[state]?.get('width') === 'auto';
    return style([
      ['display', isShrunk ? 'table' : 'block'],
      ['margin', shrinks ? (tables[state]?.get('margin') ?? '0') : null],
      ['color', own.take('color')],
      ['text-decoration', own.take('text-decoration')],
    ]);
  });
  return [hideWithBox(element('a', passedAttributes(box.element), styles, nodes), box)];
}

/** A table that keeps to its width whatever its content measures. */
function firm(isFirm: boolean, own: Style): Style {
  return isFirm && own.get('width') !== 'auto' ? new Map([...own, ['table-layout', 'fixed'] as const]) : own;
}

function filled(own: Style, isFilled: boolean): Style {
  if (!isFilled) return own;
  return new Map([...own, ['width', '100%'], ...(own.has('max-width') ? [['max-width', 'none'] as const] : [])]);
}

function shrunk(box: BoxInState, own: Style, { shrink = null }: TableOptions): Style {
  const isFull = box.style.take('width') === '100%';
  const side = isFull ? 'stretch' : (shrink?.[box.state] ?? 'stretch');
  if (shrink === null) return own;
  const margin = side === 'center' ? '0 auto' : side === 'right' ? '0 0 0 auto' : '0';
  const width = side === 'stretch' || own.get('width') !== '100%' ? (own.get('width') ?? '100%') : 'auto';
  return new Map([...own, ['width', width], ['margin', margin]]);
}

function isAuto(box: Box, property: string): boolean {
  return box.styles[0]?.take(property) === 'auto';
}

function tableStyle(box: BoxInState): Style {
  const own = box.style;
  const width = own.take('width');
  const margins = ['margin-left', 'margin-right'].map((side) => own.take(side) === 'auto');
  const margin = margins[0] === true ? (margins[1] === true ? '0 auto' : '0 0 0 auto') : '0';
  return style([
    ['width', width === 'auto' ? '100%' : ofContainer(box, outerLength(box, width))],
    [
      'max-width',
      anyState(box.itself, 'max-width', 'none') ? ofContainer(box, outerLength(box, own.take('max-width'))) : null,
    ],
    ['margin', hasAutoMargins(box.itself) ? margin : null],
    ['border-collapse', anyState(box.itself, 'border-top-left-radius', '0px') ? 'separate' : null],
  ]);
}

/** A share of the container, said of what its own side margins leave of that. */
function ofContainer(box: BoxInState, value: string): string {
  const margins = box.length('margin-left') + box.length('margin-right');
  const share = shareIn(value);
  return margins === 0 || share === 0 ? value : withPixels(value, (share * margins) / 100);
}

function outerWidth(box: BoxInState, available: number): number {
  const own = box.style;
  const room = available - box.length('margin-left') - box.length('margin-right');
  const edges = own.take('box-sizing') === 'border-box' ? 0 : box.sideEdges;
  const most = pixelsWithinMath(own.take('max-width'), available);
  const limit = most === null ? Infinity : most + edges;
  const width = pixelsWithinMath(own.take('width'), available);
  const wanted = width === null ? room : width + edges;
  return Math.min(wanted, limit);
}
