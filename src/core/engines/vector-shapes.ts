import { escapeHtml } from '../html/escape.js';

/** Vector shapes, which the `word` engine draws and no browser does: their tags, as they stand in opened comments. */
const SHAPE_TAGS = /<(\/?)(?:v|w|o):([a-z]+)((?:\s+[^\s=>/]+(?:\s*=\s*(?:"[^"]*"|'[^']*'|[^\s>]+))?)*)\s*(\/?)>/gi;

type Attributes = ReadonlyMap<string, string>;

interface ShapeTag {
  readonly name: string;
  readonly closes: boolean;
  readonly attributes: Attributes;
  readonly start: number;
  readonly end: number;
}

const shapeNames: ReadonlySet<string> = new Set(['rect', 'roundrect', 'oval', 'shape']);

/** HTML in which vector shapes are boxes of the same place and look: buttons with their corners, backgrounds with their pictures. */
export function shapesAsBoxes(html: string): string {
  const tags = [...html.matchAll(SHAPE_TAGS)].map(
    ({ 0: whole, 1: slash, 2: name = '', 3: attributes = '', index }): ShapeTag => ({
      name: name.toLowerCase(),
      closes: slash === '/',
      attributes: attributesOf(attributes),
      start: index,
      end: index + whole.length,
    }),
  );
  const pieces: string[] = [];
  let position = 0;
  for (const [at, tag] of tags.entries()) {
    pieces.push(html.slice(position, tag.start), boxTag(tag, tags.slice(at + 1)));
    position = tag.end;
  }
  return [...pieces, html.slice(position)].join('');
}

function boxTag({ name, closes, attributes }: ShapeTag, following: readonly ShapeTag[]): string {
  if (shapeNames.has(name)) {
    const element = 'div';
    if (closes) return `</${element}>`;
    return `<${element} style="${escapeHtml(shapeStyle(name, attributes, fillOf(following)))}">`;
  }
  if (name === 'textbox') return closes ? '</div>' : `<div style="${escapeHtml(insetStyle(attributes))}">`;
  if (name === 'image' && !closes)
    return `<img src="${escapeHtml(attributes.get('src') ?? '')}" style="${escapeHtml(attributes.get('style') ?? '')}">`;
  // What else there is says how a shape is filled or drawn, or is for the program alone.
  return '';
}

/** The fill of a shape stands in it, before it ends. */
function fillOf(following: readonly ShapeTag[]): Attributes {
  for (const { name, closes, attributes } of following) {
    if (shapeNames.has(name)) return new Map<string, string>();
    if (name === 'fill' && !closes) return attributes;
  }
  return new Map<string, string>();
}

function shapeStyle(name: string, attributes: Attributes, fill: Attributes): string {
  const own = attributes.get('style') ?? '';
  const isFilled = !/^(?:f|false)$/i.test(attributes.get('fill') ?? attributes.get('filled') ?? '');
  const color = fill.get('color') ?? attributes.get('fillcolor');
  const picture = fill.get('src') ?? null;
  const isStroked = !/^(?:f|false)$/i.test(attributes.get('stroke') ?? attributes.get('stroked') ?? '');
  const line = attributes.get('strokecolor') ?? '#000000';
  const width = attributes.get('strokeweight') ?? '1px';
  const height = /(?:^|;)\s*height\s*:\s*([\d.]+)px/i.exec(own)?.[1] ?? null;
  return [
    own.replace(/mso-[\w-]+\s*:[^;]*;?|v-text-anchor\s*:[^;]*;?/gi, '').replace(/;?\s*$/, ''),
    'display:inline-block;box-sizing:border-box;vertical-align:top;text-align:center',
    isFilled && color !== undefined ? `background-color:${color}` : '',
    picture === null ? '' : `background-image:url('${picture}');background-size:100% 100%`,
    isStroked ? `border:${width} solid ${line}` : '',
    `border-radius:${radiusOf(name, attributes, height)}`,
    // A label stands in the middle of its shape.
    height !== null && picture === null ? `line-height:${height}px` : '',
  ]
    .filter((part) => part !== '')
    .join(';');
}

/** `arcsize` is the corner's share of the shorter side, in percent or as a fraction. */
function radiusOf(name: string, attributes: Attributes, height: string | null): string {
  if (name === 'oval') return '50%';
  if (name !== 'roundrect') return '0';
  const written = attributes.get('arcsize') ?? '20%';
  const share = written.endsWith('%')
    ? parseFloat(written) / 100
    : written.endsWith('f')
      ? parseFloat(written) / 65_536
      : parseFloat(written);
  if (Number.isNaN(share)) return '0';
  return height === null ? `${Math.round(share * 100)}%` : `${Number((share * Number(height)).toFixed(2))}px`;
}

function insetStyle(attributes: Attributes): string {
  const [left = '0', top = '0', right = '0', bottom = '0'] = (attributes.get('inset') ?? '')
    .split(',')
    .map((side) => side.trim());
  const padded = [top, right, bottom, left].map((side) => (side === '' ? '0' : side)).join(' ');
  return `padding:${padded};text-align:left`;
}

function attributesOf(text: string): Attributes {
  const pairs = text.matchAll(/([^\s=>/]+)(?:\s*=\s*(?:"([^"]*)"|'([^']*)'|([^\s>]+)))?/g);
  return new Map(
    [...pairs].map(({ 1: name = '', 2: double, 3: single, 4: bare }): [string, string] => [
      name.toLowerCase(),
      (double ?? single ?? bare ?? '').replace(/&amp;/g, '&').replace(/&quot;/g, '"'),
    ]),
  );
}
