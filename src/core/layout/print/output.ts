import { formatPixels } from '../../css/values/value.js';
import type { PartRule } from './parts.js';
/** Declarations of one emitted element in one state, in the order they are written. */
export type Style = ReadonlyMap<string, string>;

/** An element of the compiled document. */
export interface OutElement {
  readonly kind: 'element';
  readonly tag: string;
  readonly attributes: Map<string, string>;
  /** One style for each state; the first is written inline, the others become classes where they differ. */
  readonly styles: Style[];
  /** The same in other circumstances (a dark scheme, under the pointer), one entry for each variant of the message. */
  readonly variants: (readonly Style[])[];
  readonly children: OutNode[];
  /** What rules of the head say of parts of it: its first letter, its marker. */
  readonly parts?: readonly PartRule[];
  /** True for an element that stands in a line, whatever its tag: white space beside it shows. */
  readonly isInLine?: boolean;
}

/** Text; template tags stand in it as sentinels. */
export interface OutText {
  readonly kind: 'text';
  readonly value: string;
}

/** Markup that is written as it stands: conditional comments, character references. */
export interface OutRaw {
  readonly kind: 'raw';
  readonly html: string;
}

/** A cell for the `word` engine and its twin for all others: two opening tags, one content. */
export interface OutDualCell {
  readonly kind: 'dual-cell';
  /** The cell that engines other than `word` see, with the content. */
  readonly cell: OutElement;
  /** Its width for the `word` engine, in px. */
  readonly width: number;
}

/** A picture behind content, drawn as a shape for the `word` engine, which shows no CSS backgrounds. */
export interface OutBackdrop {
  readonly kind: 'backdrop';
  /** The picture, by the path that the source gives. */
  readonly path: string;
  readonly color: string;
  /** In px. */
  readonly width: number;
  /** Left, top, right and bottom, in px. */
  readonly inset: readonly number[];
  readonly content: OutNode[];
}

/** A link that is drawn as a rounded shape for the `word` engine, whose corners are square otherwise. */
export interface RoundShape {
  readonly color: string;
  /** In px, with padding and border. */
  readonly width: number;
  readonly height: number;
  /** The corners' share of the height, in percent. */
  readonly arc: number;
}

/** A link, and the rounded shape that takes its place for the `word` engine. */
export interface OutRoundLink {
  readonly kind: 'round-link';
  readonly link: OutElement;
  readonly shape: RoundShape;
  /** How the label looks in the shape. */
  readonly text: Style;
}

export type OutNode = OutElement | OutText | OutRaw | OutDualCell | OutBackdrop | OutRoundLink;

/** Declarations as pairs; a null value leaves the property out. */
export type StyleEntries = readonly (readonly [property: string, value: string | null])[];

/** Makes a style. */
export function style(entries: StyleEntries): Style {
  return new Map(
    entries.flatMap(([property, value]): [string, string][] => (value === null ? [] : [[property, value]])),
  );
}

/** Makes an element; `styles` gives its declarations in each state. */
export function element(
  tag: string,
  attributes: Readonly<Record<string, string>>,
  styles: Style[],
  children: OutNode[],
): OutElement {
  return { kind: 'element', tag, attributes: new Map(Object.entries(attributes)), styles, variants: [], children };
}

/** A layout table around rows. */
export function layoutTable(
  styles: Style[],
  rows: OutNode[],
  attributes: Readonly<Record<string, string>> = {},
): OutElement {
  const presentation = { role: 'presentation', border: '0', cellpadding: '0', cellspacing: '0' };
  return element('table', { ...presentation, ...attributes }, styles, rows);
}

/** A table row around cells; rows carry no style of their own. */
export function tableRow(cells: OutNode[]): OutElement {
  return element('tr', {}, [], cells);
}

const displays: ReadonlyMap<string, string> = new Map([
  ['table', 'table'],
  ['tbody', 'table-row-group'],
  ['tr', 'table-row'],
  ['td', 'table-cell'],
  ['th', 'table-cell'],
  ['li', 'list-item'],
  ...'a abbr b cite code em i img q s small span strong sub sup u'.split(' ').map((tag) => [tag, 'inline'] as const),
]);

/** How an element displays that says nothing of it. */
export function naturalDisplay(tag: string): string {
  return displays.get(tag) ?? 'block';
}

/** Markup for the `word` engine only. */
export function wordOnly(html: string): OutRaw {
  return { kind: 'raw', html: `<!--[if mso]>${html}<![endif]-->` };
}

/** Wraps nodes so that the `word` engine does not see them. */
export function hiddenFromWord(nodes: readonly OutNode[]): OutNode[] {
  return [{ kind: 'raw', html: '<!--[if !mso]><!-->' }, ...nodes, { kind: 'raw', html: '<!--<![endif]-->' }];
}

/** What stands in a cell that must not be empty, as some engines do not draw empty cells. */
export const filler: OutRaw = { kind: 'raw', html: '&nbsp;' };

/** The opening tag of a layout table for the `word` engine. */
export function wordTable(width: number, align: string): string {
  const aligned = align === '' ? '' : ` align="${align}"`;
  return `<table role="presentation" border="0" cellpadding="0" cellspacing="0"${aligned} width="${Math.round(width)}"><tr>`;
}

/** Table parts begin a new line: white space between them shows nowhere. */
const startsLine: ReadonlySet<string> = new Set([
  'table',
  'tr',
  'td',
  'div',
  'p',
  'h1',
  'h2',
  'h3',
  'h4',
  'h5',
  'h6',
  'ul',
  'ol',
  'li',
  'img',
]);

/** What stands around nodes: blocks, each on a line of its own, or text. */
export type Around = 'block' | 'line';

/** Whether text stands among nodes, so that no white space may be added between them. */
export function isMixed(nodes: readonly OutNode[]): boolean {
  return nodes.some(
    (node) => node.kind === 'text' || (node.kind === 'element' && (!startsLine.has(node.tag) || isItemInLine(node))),
  );
}

/** An item of a list that stands in a line with others, as those of menus do: a space between them would part them. */
function isItemInLine({ tag, styles }: OutElement): boolean {
  return tag === 'li' && styles.some((own) => own.get('display')?.startsWith('inline') === true);
}

/** Whether a node begins a new line where white space may be added before it. */
export function beginsLine(node: OutNode): boolean {
  if (node.kind === 'dual-cell' || node.kind === 'backdrop') return true;
  if (node.kind === 'raw') return node.html.startsWith('<!--[if mso]>');
  return node.kind === 'element' && node.isInLine !== true && startsLine.has(node.tag);
}

/** A table, or a list, that is as tall as the cell around it in some states; anything else stays as it is. */
export function asTallAs(node: OutNode, fills: readonly boolean[]): OutNode {
  if (node.kind !== 'element' || !/^(?:table|ul|ol|menu|dl|pre)$/.test(node.tag)) return node;
  const changes = fills.includes(false);
  // Tables measure theirs with padding and borders anyway.
  const sized = node.tag === 'table' ? [] : [['box-sizing', 'border-box'] as const];
  const styles = node.styles.map((own, state) => {
    if (fills[state] === true) return new Map([...own, ['height', '100%'] as const, ...sized]);
    return changes ? new Map([...own, ['height', 'auto'] as const, ...sized]) : own;
  });
  return { ...node, styles };
}

/**
 * What begins with a table, whose first line is that of the cell around it in some states: the baseline of a row is that of the
 * cells in it that stand on one (CSS 2.2, 17.5.3).
 */
export function onBaseline(node: OutNode, states: readonly boolean[]): OutNode {
  if (node.kind !== 'element' || !/^(?:table|tbody|tr|td|div)$/.test(node.tag)) return node;
  if (node.tag === 'tr' && node.children.filter(({ kind }) => kind !== 'raw').length > 1) return node;
  const [first, ...others] = node.children;
  const children = first === undefined ? [] : [onBaseline(first, states), ...others];
  if (node.tag !== 'td') return { ...node, children };
  const styles = node.styles.map((own, state) =>
    states[state] === true && !own.has('vertical-align') ? new Map([...own, ['vertical-align', 'baseline']]) : own,
  );
  return { ...node, styles, children };
}

/** Content whose box ends some px above its own end, in each state. */
export function pulledUp(nodes: OutNode[], beyond: readonly number[]): OutNode[] {
  if (beyond.every((pixels) => pixels === 0)) return nodes;
  const styles = beyond.map((pixels) => style([['margin', pixels === 0 ? '0' : `0 0 ${formatPixels(-pixels)}`]]));
  return [element('div', {}, styles, nodes)];
}

/** A table of one cell whose content stands at the top of it, however tall it is. */
export function toppedTable(node: OutNode): OutNode {
  if (node.kind !== 'element' || !/^(?:table|tbody|tr|td)$/.test(node.tag)) return node;
  if (node.tag !== 'td') return { ...node, children: node.children.map(toppedTable) };
  return { ...node, styles: node.styles.map((own) => new Map([['vertical-align', 'top'], ...own])) };
}
