import type { IndexedElement } from '../../css/selectors/element-index.js';
import type { Report } from '../../findings/finding.js';
import type { Doc } from '../../html/tree.js';
import type { PictureDrawing } from '../../pictures/drawing.js';
import type { ExtraPadding } from '../boxes/box-style.js';
import { hidesAnywhere, type Box, type BoxReader } from '../boxes/boxes.js';
import { inStates } from '../boxes/box-in-state.js';
import { naturalDisplay, type OutElement, type OutNode, type Style } from '../print/output.js';
import type { WidthState } from '../boxes/states.js';
import type { PartRule } from '../print/parts.js';
import type { TextStyle } from '../print/text-style.js';

/** Natural size of a picture, in its own pixels. */
export interface PictureSize {
  readonly width: number;
  readonly height: number;
}

/** What every emitting function needs to know about the document as a whole. */
export interface EmitContext extends BoxReader {
  readonly doc: Doc;
  readonly states: readonly WidthState[];
  /** The ids that links of the message lead to. */
  readonly linkedIds: ReadonlySet<string>;
  /** In a state, what the author declares for an element that the compiler does not know. */
  readonly unknownStyle: (element: IndexedElement, state: number) => Style;
  /** What rules of the head say of parts of an element. */
  readonly partsOf: (element: IndexedElement) => readonly PartRule[];
  /** The natural size of a picture by the path that the source gives; null where it is not known. */
  readonly pictureSize: (path: string) => PictureSize | null;
  /** Told how wide each picture is shown in a state at most, in px; null where that is not known. */
  readonly pictureShown: (path: string, width: number | null) => void;
  /** Asks for a picture that is drawn from another; null where nobody draws. */
  readonly drawPicture: ((drawing: PictureDrawing) => void) | null;
  readonly report: Report;
}

/** The width of the surrounding content box for a viewport that is in a state, in px. */
export type WidthAt = (viewport: number, state: number) => number;

/** How a cell differs from the box it shows. */
export interface CellOptions {
  /** Padding beside the box's own, in each state (only for cells without paint). */
  readonly extra: readonly ExtraPadding[];
  /** Whether (or in which states) it is an item of a row, whose children's margins stay inside it (CSS Flexible Box Layout 1, 4). */
  readonly isFlexItem: boolean | readonly boolean[];
  /** True for the cell of a table that is the box: what the box is said to be is said of the table. */
  readonly isTable?: boolean;
  /** True where what stands below takes the space below the last line off its own. */
  readonly keepsOverhang?: boolean;
}

/** How a table around a box differs from the box. */
export interface TableOptions {
  readonly isFlexItem?: boolean | readonly boolean[];
  /** In which states the table fills what it stands in, whatever width the box has: that of its column is done. */
  readonly fills?: readonly boolean[];
  /** In each state, the side at which the table stands, as wide as its content; `stretch` for one as wide as the box. */
  readonly shrink?: readonly ('stretch' | 'left' | 'center' | 'right')[] | null;
}

/** What makes cells: they hold any content, rows and grids too, and those hold cells. It is handed down, so that no folder needs what stands above it. */
export interface CellMaker {
  /** A box as one cell: padding, paint and border on the cell, the content in it. */
  readonly cell: (box: Box, room: Room, options: CellOptions) => OutElement;
  /** A box as a table of one cell, as wide as the box says. */
  readonly table: (box: Box, room: Room, options: TableOptions) => OutNode[];
  /** What stands in a line of text, with what its row says of it. */
  readonly phrase: (element: IndexedElement, room: Room) => OutNode[];
}

/** What a containing block offers to what is emitted into it. */
export interface Room extends EmitContext {
  /** Text properties that emitted content gets by inheritance, in each state; null where nothing may be relied on. */
  readonly text: readonly TextStyle[] | null;
  readonly widthAt: WidthAt;
  readonly make: CellMaker;
}

/** What a container's content came to. */
export interface Content {
  readonly nodes: OutNode[];
  /** Space above and below that belongs into the container's padding, in each state. */
  readonly before: readonly number[];
  readonly after: readonly number[];
  /** The text style that the container must state, as text stands in it directly; null where none does. */
  readonly text: readonly TextStyle[] | null;
  /** In which states the content is as tall as its cell; none where this is not said. */
  readonly fillsHeight?: readonly boolean[];
  /** What the cell around must state, in each state, where columns stand in its lines; null where none do. */
  readonly lines: readonly Style[] | null;
}

/** Emitted nodes, and what the cell around them must state about its lines. */
export type Emitted = Pick<Content, 'nodes' | 'lines'>;

/** A viewport as wide as this is taken for the desktop when widths for the `word` engine are computed. */
export const DESKTOP_VIEWPORT = 1200;

/** The narrowest viewport that layouts are made for, in px. */
export const NARROWEST_VIEWPORT = 320;

/** The least width that a container offers in a state, in px. */
export function narrowestWidth(around: Room, state: number): number {
  return around.widthAt(Math.max(NARROWEST_VIEWPORT, around.states[state]?.minWidth ?? 0), state);
}

/** The width that a container offers on the desktop, in px. */
export function desktopWidth(around: Room): number {
  return around.widthAt(DESKTOP_VIEWPORT, 0);
}

/** One value for each state. */
export function forStates<T>(context: EmitContext, make: (state: number) => T): T[] {
  return context.states.map((_, state) => make(state));
}

/** Zero in each state. */
export function noSpace(context: EmitContext): number[] {
  return forStates(context, () => 0);
}

/**
 * Hides an emitted element in the states in which its box is not shown. On the desktop the `word` engine, which
 * does not know all of `display: none`, is told in its own way too.
 */
export function hideWithBox(target: OutElement, box: Box): OutElement {
  if (!hidesAnywhere(box)) return target;
  const styles = inStates(box).map((own, state): Style => {
    const shown = new Map(target.styles[state] ?? []);
    if (!own.isHidden) return shown.set('display', shown.get('display') ?? naturalDisplay(target.tag));
    shown.set('display', 'none');
    return state === 0 ? shown.set('mso-hide', 'all') : shown;
  });
  return { ...target, styles };
}

/** An anchor by name before the content of an element that links lead to: old clients know no others. */
export function namedAnchor(element: IndexedElement | null, context: EmitContext): OutNode[] {
  const id = element === null ? null : (element.node.attributes.get('id')?.value ?? null);
  if (id === null || !context.linkedIds.has(id)) return [];
  return [{ kind: 'raw', html: `<a name="${id.replace(/[&"<]/g, '')}"></a>` }];
}

const notPassed: ReadonlySet<string> = new Set([
  'class',
  'style',
  'width',
  'height',
  'align',
  'valign',
  'bgcolor',
  'background',
  'border',
]);

/** The author's attributes that an emitted element carries on: all but those that styles took over. */
export function passedAttributes(element: IndexedElement | null): Record<string, string> {
  if (element === null) return {};
  return Object.fromEntries(
    [...element.node.attributes.values()]
      .filter(({ name }) => !notPassed.has(name))
      .map(({ name, value }) => [name, value]),
  );
}

/** An emitted element with what rules of the head say of parts of the one it stands for. */
export function withParts(target: OutElement, element: IndexedElement | null, context: EmitContext): OutElement {
  const parts = element === null ? [] : context.partsOf(element);
  return parts.length === 0 ? target : { ...target, parts };
}
