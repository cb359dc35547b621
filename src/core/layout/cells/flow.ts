import { finding } from '../../findings/finding.js';
import { layoutAdvice } from '../../findings/wording/layout.js';
import type { TreeNode } from '../../html/tree.js';
import { formatNumber } from '../../css/values/value.js';
import { fourValues, noExtra, sideEdges, turnsBorders } from '../boxes/box-style.js';
import {
  anyState,
  hasSideMargins,
  hidesAnywhere,
  isAuthored,
  isLink,
  isNamed,
  needsCell,
  roleOf,
  type Box,
  type TextBox,
} from '../boxes/boxes.js';
import { inState, inStates } from '../boxes/box-in-state.js';
import { buttonIn, emitButton } from '../content/button.js';
import {
  forStates,
  hideWithBox,
  namedAnchor,
  noSpace,
  passedAttributes,
  withParts,
  type Content,
  type Emitted,
  type EmitContext,
  type Room,
} from '../content/room.js';
import { emitLines } from '../content/inline.js';
import { emitNative } from '../content/native.js';
import { emitPicture } from '../content/picture.js';
import { spills } from '../content/spill.js';
import { emitGrid } from '../grids/grid.js';
import { emitColumns } from '../rows/row.js';
import { lineOverhang } from '../rows/row-lines.js';
import { collapseMargins, type ClosedSides, type Spacing } from '../boxes/margins.js';
import {
  element,
  layoutTable,
  pulledUp,
  style,
  tableRow,
  type OutElement,
  type OutNode,
  type Style,
} from '../print/output.js';
import { fullText, textDifference, textStyleOf, type TextStyle } from '../print/text-style.js';

/** A block that stays a block of its own; others lend their children to the sequence around them. */
export function isItem(box: Box): boolean {
  if (box.kind !== 'flow') return true;
  return (
    isLink(box) || roleOf(box) !== null || needsCell(box) || hasSideMargins(box) || isNamed(box) || hidesAnywhere(box)
  );
}

/**
 * Emits a sequence of blocks into a container. Plain text goes straight in, spaced by margins; as soon as a table, a
 * row or a picture is among the blocks, each gets a table row, spaced by padding above it.
 */
export function emitFlow(boxes: readonly Box[], container: Box, room: Room, closed: readonly ClosedSides[]): Content {
  const items = flatten(boxes);
  const spacings = inStates(container).map((own, state) =>
    collapseMargins(
      boxes.map((box) => own.of(box)),
      closed[state] ?? { top: false, bottom: false },
      isItem,
    ),
  );
  reportNegative(items, spacings, room);
  const overhang = (state: number, before: Box | null): number => overhangBefore(items, before, state);
  const above = (item: Box): number[] =>
    spacings.map((spacing, state) => Math.max(0, (spacing.above.get(item) ?? 0) - overhang(state, item)));
  const after = spacings.map((spacing, state) => Math.max(0, spacing.below) - overhang(state, null));
  const first = items.find(({ kind }) => kind !== 'comment');
  if (first === undefined)
    return {
      nodes: items.flatMap((item) => emitComments(item)),
      before: noSpace(room),
      after,
      text: null,
      lines: null,
    };
  const before = above(first);
  const spaceAbove = (item: Box): number[] => (item === first ? noSpace(room) : above(item));
  if (items.length === 1 && !hasInset(first, container)) return { ...emitAlone(first, container, room), before, after };
  if (items.every((item) => isPlain(item, room))) {
    // Beside what floats a margin at the end is no room below that as well.
    const isBesideFloat = items.some(floatsSomewhere) && items.at(-1)?.kind === 'text';
    const inner = isBesideFloat ? after : noSpace(room);
    const run = emitPlainRun(items, container, room, { above: spaceAbove, after: inner });
    return { ...run, before, after: isBesideFloat ? noSpace(room) : after };
  }
  reportFloats(items, room);
  // The space below a last line may be more than what is to stand there.
  const beyond = (item: Box): number[] =>
    spacings.map((spacing, state) => {
      const isShown = (other: Box): boolean => other.kind !== 'comment' && !inState(other, state).isHidden;
      const next = items.slice(items.indexOf(item) + 1).find(isShown);
      return next === undefined ? 0 : Math.max(0, overhang(state, next) - Math.max(0, spacing.above.get(next) ?? 0));
    });
  const space = { above: spaceAbove, beyond };
  const rows = groupRuns(items, room).map((run) => emitTableRow(run, container, room, space));
  const isFirm = items.some((item) => spills(item, room));
  const table = layoutTable(
    forStates(room, () =>
      style([
        ['width', '100%'],
        ['table-layout', isFirm ? 'fixed' : null],
      ]),
    ),
    rows,
    { width: '100%' },
  );
  return { nodes: [table], before, after, text: null, lines: null };
}

function floatsSomewhere(item: Box): boolean {
  return item.kind === 'text' && item.floats?.includes(true) === true;
}

/** A picture that floats beside text stands in one cell with it; beside anything else it would stand alone. */
function reportFloats(items: readonly Box[], room: Room): void {
  const floating = (node: TreeNode): boolean => {
    const element = node.kind === 'element' && node.tag === 'img' ? room.lookup(node) : null;
    return element !== null && room.styles(element).some((style) => style.get('float') !== 'none');
  };
  for (const item of items) {
    const node = item.kind === 'text' ? item.content.find(floating) : undefined;
    const element = node === undefined ? null : room.lookup(node);
    if (element !== null) room.refuse(element, 'float', layoutAdvice.floatBesideText);
  }
}

/** How far the item before another (or, for null, the last one) reaches below its box. */
function overhangBefore(items: readonly Box[], before: Box | null, state: number): number {
  const end = before === null ? items.length : items.indexOf(before);
  const previous = items.slice(0, end).findLast((item) => item.kind !== 'comment' && !inState(item, state).isHidden);
  return previous === undefined || standsAlone(previous) ? 0 : lineOverhang(inState(previous, state));
}

function flatten(boxes: readonly Box[]): Box[] {
  return boxes.flatMap((box): Box[] => (box.kind !== 'flow' || isItem(box) ? [box] : flatten(box.children)));
}

function reportNegative(items: readonly Box[], spacings: readonly Spacing[], context: EmitContext): void {
  for (const item of items) {
    const value = Math.min(...spacings.map((spacing) => spacing.above.get(item) ?? 0));
    const span = item.element?.node.startTag ?? null;
    if (value < -0.01 && span !== null)
      context.report(
        finding('margin-negative', { source: context.doc.source, span }, { value: formatNumber(value, 2) }),
      );
  }
}

/** Text that needs no cell of its own: paragraphs, headings, lists. */
function isPlain(box: Box, context: EmitContext): boolean {
  if (box.kind === 'native') return box.element.node.tag !== 'table';
  if (box.kind === 'comment') return true;
  return box.kind === 'text' && !needsCell(box) && buttonIn(box, context) === null;
}

/** Side margins that become padding of the cell around; plain text keeps them as margins. */
function hasInset(box: Box, container: Box): boolean {
  return (
    (box.kind === 'flow' || box.kind === 'row' || box.kind === 'grid' || box.kind === 'text') &&
    insetStates(box, container).some(({ left, right }) => left !== 0 || right !== 0)
  );
}

/** Of what says how wide it is the margin at the end counts for nothing (CSS 2.2, 10.3.3): it would only keep the room. */
function insetStates(box: Box, container: Box): { left: number; right: number }[] {
  return inStates(box).map((own, state) => {
    const [left, right] = [own.takeLength('margin-left'), own.takeLength('margin-right')];
    const isRightToLeft = container.styles[state]?.take('direction') === 'rtl';
    const isPushed = own.style.take(isRightToLeft ? 'margin-right' : 'margin-left') === 'auto';
    if (own.style.pixels('width') === null || isPushed) return { left, right };
    return isRightToLeft ? { left: 0, right } : { left, right: 0 };
  });
}

/** A container's only block: its content goes straight into the container. */
function emitAlone(box: Box, container: Box, room: Room): Pick<Content, 'nodes' | 'text' | 'lines'> {
  if (box.kind === 'text' && isPlain(box, room) && semanticTag(box) === 'div' && !hidesAnywhere(box)) {
    const text = box.styles.map(textStyleOf);
    if (Object.keys(passedAttributes(box.element)).length === 0)
      return { nodes: emitLines(box, { ...room, text }), text, lines: null };
  }
  if (isPlain(box, room)) return emitPlainRun([box], container, room, { above: () => noSpace(room) });
  return { ...emitItem(box, room), text: null };
}

function emitPlainRun(
  items: readonly Box[],
  container: Box,
  room: Room,
  space: { readonly above: (item: Box) => number[]; readonly after?: readonly number[] },
): { nodes: OutNode[]; text: readonly TextStyle[]; lines: null } {
  const [only] = items;
  // Where white space shows, that which stands around the block in its cell would.
  const showsSpace = only?.styles.some((style) => style.get('white-space').startsWith('pre')) === true;
  const isLone = items.length === 1 && only?.kind === 'text' && !/^h[1-6]$/.test(semanticTag(only)) && !showsSpace;
  const lone = isLone ? only : container;
  const text = lone.styles.map(textStyleOf);
  const inner = { ...room, text };
  const nodes = items.flatMap((item): OutNode[] => {
    if (item.kind === 'comment') return emitComments(item);
    const above = space.above(item);
    if (item.kind === 'native') return [hideWithBox(emitNative(item, inner, above), item)];
    const after = item === items.at(-1) ? space.after : undefined;
    return [emitTextBlock(item as TextBox, inner, { above, after: after ?? noSpace(room) })];
  });
  return { nodes, text, lines: null };
}

/** Conditional comments as they stand in the source. */
function emitComments(box: Box): OutNode[] {
  if (box.kind !== 'comment') return [];
  return box.content.flatMap((node): OutNode[] =>
    node.kind === 'comment' ? [{ kind: 'raw', html: `<!--${node.value}-->` }] : [],
  );
}

const semanticTags: ReadonlySet<string> = new Set(['p', 'h1', 'h2', 'h3', 'h4', 'h5', 'h6', 'blockquote', 'address']);

function semanticTag(box: TextBox): string {
  const tag = box.element?.node.tag ?? 'div';
  return semanticTags.has(tag) ? tag : 'div';
}

function emitTextBlock(
  box: TextBox,
  room: Room,
  { above, after }: { readonly above: readonly number[]; readonly after: readonly number[] },
): OutElement {
  const tag = semanticTag(box);
  const text = box.styles.map(textStyleOf);
  const difference = textDifference(tag, text, room.text ?? text.map(() => new Map()));
  const styles = inStates(box).map((own, state): Style => {
    const [right, left] = [own.takeLength('margin-right'), own.takeLength('margin-left')];
    const margin = fourValues([above[state] ?? 0, right, after[state] ?? 0, left]);
    const isDecorated = isAuthored(box.styles, 'text-decoration') || anyState(box, 'text-decoration', 'none');
    const decoration = isDecorated ? own.style.take('text-decoration') : null;
    return new Map([
      ...style([
        ['margin', margin],
        ['text-decoration', decoration],
      ]),
      ...(difference[state] ?? []),
    ]);
  });
  const emitted = element(tag, passedAttributes(box.element), styles, [
    ...namedAnchor(box.element, room),
    ...emitLines(box, { ...room, text }),
  ]);
  return hideWithBox(withParts(emitted, box.element, room), box);
}

/** Neighbouring plain blocks share a row. */
function groupRuns(items: readonly Box[], context: EmitContext): Box[][] {
  const runs: Box[][] = [];
  let open: Box[] | null = null;
  for (const item of items) {
    const plain = isPlain(item, context);
    if (plain && open !== null) open.push(item);
    else {
      const run = [item];
      runs.push(run);
      open = plain ? run : null;
    }
  }
  return runs;
}

function emitTableRow(
  run: readonly Box[],
  container: Box,
  room: Room,
  { above, beyond }: { readonly above: (item: Box) => number[]; readonly beyond: (item: Box) => number[] },
): OutElement {
  const [first] = run;
  if (first === undefined) return tableRow([]);
  const space = above(first);
  if (isPlain(first, room)) {
    const plain = emitPlainRun(run, container, room, {
      above: (item) => (item === first ? noSpace(room) : above(item)),
    });
    const styles = forStates(
      room,
      (state): Style =>
        new Map([['padding', fourValues([space[state] ?? 0, 0, 0, 0])], ...fullText(plain.text[state] ?? new Map())]),
    );
    return tableRow([element('td', {}, styles, plain.nodes)]);
  }
  if (mayShareCell(first, space)) {
    const shared = room.make.cell(first, room, {
      ...{ extra: space.map((top) => ({ ...noExtra, top })), isFlexItem: false },
      keepsOverhang: !standsAlone(first),
    });
    return tableRow([{ ...shared, children: pulledUp(shared.children, beyond(first)) }]);
  }
  const insets = insetStates(first, container);
  const padding = forStates(room, (state) =>
    fourValues([
      space[state] ?? 0,
      keepsInset(first) ? (insets[state]?.right ?? 0) : 0,
      0,
      keepsInset(first) ? (insets[state]?.left ?? 0) : 0,
    ]),
  );
  const inner: Room = keepsInset(first)
    ? {
        ...room,
        widthAt: (viewport, state) =>
          room.widthAt(viewport, state) - (insets[state]?.left ?? 0) - (insets[state]?.right ?? 0),
      }
    : room;
  const { nodes, lines } = emitItem(first, inner);
  const cell = element(
    'td',
    {},
    padding.map((value, state) => new Map([['padding', value], ...(lines?.[state] ?? [])])),
    pulledUp(nodes, beyond(first)),
  );
  return tableRow([cell]);
}

function keepsInset(box: Box): boolean {
  return box.kind !== 'picture' && box.kind !== 'native';
}

/** A cell with paint may be the row's own cell if no space is to stay unpainted above it and it is as wide as the row. */
function mayShareCell(box: Box, space: readonly number[]): boolean {
  if (box.kind === 'picture' || box.kind === 'native' || box.kind === 'comment' || isLink(box)) return false;
  if (box.kind === 'text' && !needsCell(box)) return false;
  const plainShape = box.styles.every(
    (own) =>
      own.get('max-width') === 'none' &&
      /^(?:auto|100%)$/.test(own.get('width')) &&
      own.get('border-top-left-radius') === '0px' &&
      !(own.get('width') === '100%' && own.get('box-sizing') === 'content-box' && sideEdges(own) > 0),
  );
  const named = isNamed(box);
  const hides = hidesAnywhere(box);
  const sharesBorders = !turnsBorders(box);
  return plainShape && !named && !hides && sharesBorders && !hasSideMargins(box) && space.every((value) => value === 0);
}

/** Whether a row's own box shows, so that it needs a table around its columns. */
function standsAlone(box: Box): boolean {
  return (
    isLink(box) || roleOf(box) !== null || needsCell(box) || hasSideMargins(box) || isNamed(box) || hidesAnywhere(box)
  );
}

/** Emits a block that is no plain text. */
function emitItem(box: Box, room: Room): Emitted {
  const bare = (...nodes: OutNode[]): Emitted => ({ nodes, lines: null });
  switch (box.kind) {
    case 'picture':
      return bare(emitPicture(box, room, 'block'));
    case 'native':
      return bare(hideWithBox(emitNative(box, { ...room, text: null }, noSpace(room)), box));
    case 'row':
      return standsAlone(box) ? bare(...room.make.table(box, room, {})) : emitColumns(box, room);
    case 'grid':
      return bare(...(standsAlone(box) ? room.make.table(box, room, {}) : emitGrid(box, room)));
    case 'flow':
      return bare(...room.make.table(box, room, {}));
    case 'comment':
      return bare(...emitComments(box));
    case 'text': {
      const link = buttonIn(box, room);
      if (link === null || needsCell(box)) return bare(...room.make.table(box, room, {}));
      return bare(hideWithBox(emitButton(box, link, room), box));
    }
  }
}
