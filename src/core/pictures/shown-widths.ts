import { selectorSetting } from '../css/syntax/tagged-values.js';
import { collectRules, type StyleRule } from '../css/cascade/rules.js';
import { computeStyles } from '../css/cascade/computed.js';
import type { ComputedStyle } from '../css/cascade/computed-style.js';
import { applying } from '../css/cascade/cascade.js';
import { appliesAtWidth, declarationsOf } from '../css/cascade/document-cascade.js';
import { indexElements, type ElementIndex, type IndexedElement } from '../css/selectors/element-index.js';
import { readWidthCondition } from '../css/cascade/media.js';
import { pixelsWithin } from '../css/values/value.js';
import { attribute, type Doc } from '../html/tree.js';
import { readSheets } from '../css/cascade/sheets.js';
import { attributeOf, pictureReferences, type PictureReference } from './references.js';

/** The viewport of a desktop window in CSS px; messages are no wider than it. */
const DESKTOP = 1200;

/**
 * How wide a document shows its pictures at most, in CSS px, by the addresses that it gives: over all places that name a
 * picture and all widths of the window. A picture whose width nothing says (it shows as large as it is, or fills a
 * background) is null.
 * @param rules of its style sheets; those that it holds itself where this is not said
 */
export function shownWidths(doc: Doc, rules: readonly StyleRule[] = rulesOf(doc)): ReadonlyMap<string, number | null> {
  const references = pictureReferences(doc);
  const shown = new Map<string, number | null>();
  if (references.length === 0) return shown;
  const measure = elementMeasure(doc, rules);
  for (const reference of references) {
    const known = shown.get(reference.path);
    const width = measure(reference);
    const isUnknown = width === null || known === null;
    shown.set(reference.path, isUnknown ? null : Math.max(width, known ?? 0));
  }
  return shown;
}

const ignore = (): void => undefined;

function rulesOf(doc: Doc): StyleRule[] {
  return collectRules(
    readSheets(doc, [], () => null, ignore),
    selectorSetting(doc),
    ignore,
  );
}

function elementMeasure(doc: Doc, rules: readonly StyleRule[]): (reference: PictureReference) => number | null {
  const index = indexElements(doc);
  const byStart = new Map(index.elements.map((item) => [item.node.startTag?.start ?? -1, item]));
  const views = viewsOf(index, rules);
  return ({ path, use, tag }) => {
    if (use === 'background' || tag === null) return null;
    const element = byStart.get(tag.span.start);
    // In a comment for one engine no styles apply but those of the desktop.
    if (element === undefined) return pixelsInAttribute(attributeOf(tag, 'width', doc.source.text));
    const target = tag.tag === 'source' ? pictureOf(element) : element;
    // A drawing that only a bound holds shows as large as it says, and must not become larger as pixels.
    const isDrawing = /\.svg(?:$|[?#])/i.test(path);
    const widths = views.map((view) => shownWidth(target, view, isDrawing));
    return widths.some((width) => width === null) ? null : Math.max(...widths.map((width) => width ?? 0));
  };
}

/** The `<img>` that shows what a `<source>` beside it names. */
function pictureOf(source: IndexedElement): IndexedElement {
  return source.parent?.children.find(({ node }) => node.tag === 'img') ?? source;
}

/** The styles of all elements at one width of the window. */
interface View {
  readonly viewport: number;
  readonly styles: readonly ComputedStyle[];
  /** The widths that elements offer their content. */
  readonly rooms: readonly number[];
}

function viewsOf(index: ElementIndex, rules: readonly StyleRule[]): View[] {
  const declared = declarationsOf(index, rules, ignore);
  const thresholds = declared
    .flat()
    .flatMap(({ conditions }) => conditions.flatMap(({ text }) => readWidthCondition(text)?.thresholds ?? []));
  const viewports = [...new Set([DESKTOP, ...thresholds.filter((width) => width > 0 && width < DESKTOP)])];
  return viewports.map((viewport) => {
    const applied = applying((item) => appliesAtWidth(item, viewport));
    const { styles } = computeStyles(index, ({ order }) => applied(declared[order]));
    return { viewport, styles, rooms: contentWidths(index, viewport, styles) };
  });
}

function shownWidth(element: IndexedElement, view: View, isDrawing: boolean): number | null {
  const style = view.styles[element.order];
  if (style === undefined) return null;
  const room = element.parent === null ? view.viewport : (view.rooms[element.parent.order] ?? view.viewport);
  const bound = style.pixelsWithin('max-width', room);
  const own = style.pixelsWithin('width', room) ?? (isDrawing ? null : boundedOnly(style));
  if (own === null) return null;
  return Math.max(Math.min(own, bound ?? Infinity), style.pixelsWithin('min-width', room) ?? 0);
}

/** A picture without a width is as large as it is, up to a bound in px. */
function boundedOnly(style: ComputedStyle): number | null {
  const isBounded = style.get('width') === 'auto' && style.quantity('max-width')?.unit === 'px';
  return isBounded ? style.pixels('max-width') : null;
}

/** The widths that elements offer their content at most, by their order; parents come before their children. */
function contentWidths({ elements }: ElementIndex, viewport: number, styles: readonly ComputedStyle[]): number[] {
  const widths: number[] = [];
  for (const element of elements) {
    const outer = element.parent === null ? viewport : (widths[element.parent.order] ?? viewport);
    const style = styles[element.order];
    widths.push(style === undefined ? outer : contentWidth(element, style, outer));
  }
  return widths;
}

function contentWidth(element: IndexedElement, style: ComputedStyle, outer: number): number {
  const sides = ['padding-left', 'padding-right', 'margin-left', 'margin-right'];
  const edges = sides.reduce((sum, side) => sum + Math.max(0, style.pixels(side) ?? 0), 0);
  const isAuto = style.get('width') === 'auto';
  const width = isAuto ? pixelsWithin(ofTable(element), outer) : style.pixelsWithin('width', outer);
  const wanted = Math.min(width ?? Infinity, style.pixelsWithin('max-width', outer) ?? Infinity);
  const inBox = style.get('box-sizing') === 'border-box' ? wanted - edges : wanted;
  return Math.max(0, Math.min(outer - edges, inBox));
}

/** The width that a part of a table has by its attribute. */
function ofTable({ node }: IndexedElement): string {
  const written = /^\s*(\d+(?:\.\d+)?)(%?)/.exec(attribute(node, 'width') ?? '');
  if (written === null || !/^(?:table|td|th)$/.test(node.tag)) return 'auto';
  return `${written[1] ?? ''}${written[2] === '%' ? '%' : 'px'}`;
}

function pixelsInAttribute(value: string | null): number | null {
  const digits = /^\s*(\d+)\s*(?:px)?\s*$/.exec(value ?? '')?.[1];
  return digits === undefined ? null : Number(digits);
}
