import { attribute, type ElementNode } from '../../html/tree.js';

type Hint = readonly [property: string, value: string];

/** What the old attributes of an element say as declarations (HTML standard, 15.3 and 15.4), weakest first. */
export function hintsOf(node: ElementNode): Hint[] {
  const given = (name: string): string => attribute(node, name)?.trim() ?? '';
  return [...alignmentHints(node.tag, given('align').toLowerCase()), ...(hintsByTag[node.tag]?.(given, node) ?? [])];
}

type Given = (name: string) => string;

const hintsByTag: Readonly<Record<string, (given: Given, node: ElementNode) => Hint[]>> = {
  img: (given) => [...sizeHints(given, ['width', 'height']), ...spaceHints(given), ...borderHints(given)],
  table: (given) => [...sizeHints(given, ['width', 'height']).filter(isNotZero), ...colorHints(given)],
  tr: (given) => [...sizeHints(given, ['height']).filter(isNotZero), ...colorHints(given), ...verticalHints(given)],
  td: cellHints,
  th: cellHints,
  body: colorHints,
  font: fontHints,
};

function cellHints(given: Given, node: ElementNode): Hint[] {
  const padding = length(attribute(tableAround(node) ?? node, 'cellpadding')?.trim() ?? '');
  return [
    ...(padding === null ? [] : [['padding', padding] as const]),
    ...(node.attributes.has('nowrap') ? [['white-space', 'nowrap'] as const] : []),
    ...sizeHints(given, ['width', 'height']).filter(isNotZero),
    ...colorHints(given),
    ...verticalHints(given),
  ];
}

/** A colour as attributes write it, the `#` of which may be missing. */
function colorHints(given: Given): Hint[] {
  const color = given('bgcolor');
  if (color === '') return [];
  return [['background-color', /^[0-9a-f]{6}$/i.test(color) ? `#${color}` : color]];
}

function verticalHints(given: Given): Hint[] {
  const align = given('valign').toLowerCase();
  return /^(?:top|middle|bottom|baseline)$/.test(align) ? [['vertical-align', align]] : [];
}

function borderHints(given: Given): Hint[] {
  const width = length(given('border'));
  return width === null || Number.parseFloat(width) === 0 ? [] : [['border', `${width} solid`]];
}

/** Elements whose `align` aligns the blocks in them with their text, and those of which it aligns the text alone. */
const alignsBlocks = /^(?:p|div|td|th|tr|tbody|thead|tfoot)$/;
const alignsText = /^h[1-6]$/;

function alignmentHints(tag: string, align: string): Hint[] {
  if (tag === 'img' || tag === 'table') {
    if (align === 'left' || align === 'right') return [['float', align]];
    if (tag === 'table' && align === 'center')
      return [
        ['margin-left', 'auto'],
        ['margin-right', 'auto'],
      ];
    return [];
  }
  if (!/^(?:left|right|center|justify)$/.test(align)) return [];
  if (alignsText.test(tag) || (alignsBlocks.test(tag) && align === 'justify')) return [['text-align', align]];
  return alignsBlocks.test(tag) ? [['text-align', `-webkit-${align}`]] : [];
}

function sizeHints(given: Given, names: readonly string[]): Hint[] {
  return names.flatMap((name): Hint[] => {
    const size = length(given(name));
    return size === null ? [] : [[name, size]];
  });
}

/** Tables and their parts take no size of zero (HTML standard, 2.4.4.5). */
function isNotZero([, size]: Hint): boolean {
  return Number.parseFloat(size) > 0;
}

/** `hspace` and `vspace`: margins at the sides, and above and below. */
function spaceHints(given: Given): Hint[] {
  const [across, down] = [length(given('hspace')), length(given('vspace'))];
  return [
    ...['left', 'right'].flatMap((side): Hint[] => (across === null ? [] : [[`margin-${side}`, across]])),
    ...['top', 'bottom'].flatMap((side): Hint[] => (down === null ? [] : [[`margin-${side}`, down]])),
  ];
}

/** A length as attributes write it: px without a unit, or a percentage. */
function length(value: string): string | null {
  if (!/^\d+(?:\.\d+)?(?:%|px)?$/.test(value)) return null;
  return /[%x]$/.test(value) ? value : `${value}px`;
}

const fontSizes = ['x-small', 'small', 'medium', 'large', 'x-large', 'xx-large', 'xxx-large'];

/** The size that text has by itself, among the seven of `font`. */
const USUAL_FONT_SIZE = 3;

function fontHints(given: Given): Hint[] {
  const written = given('size');
  // With a sign it is counted from the size that is usual.
  const step = Number.parseInt(written, 10) + (/^[+-]/.test(written) ? USUAL_FONT_SIZE : 0);
  const size = Number.isNaN(step) ? undefined : fontSizes[Math.min(7, Math.max(1, step)) - 1];
  return [
    ...(given('color') === '' ? [] : [['color', given('color')] as const]),
    ...(given('face') === '' ? [] : [['font-family', given('face')] as const]),
    ...(size === undefined ? [] : [['font-size', size] as const]),
  ];
}

/** The table of a cell. */
function tableAround(cell: ElementNode): ElementNode | null {
  for (let at = cell.parent; at !== null; at = at.parent) if (at.tag === 'table') return at;
  return null;
}
