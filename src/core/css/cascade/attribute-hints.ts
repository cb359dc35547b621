import { attribute, type ElementNode } from '../../html/tree.js';

type Hint = readonly [property: string, value: string];

/** What the old attributes of an element say as declarations (HTML standard, 15.3 and 15.4), weakest first. */
export function hintsOf(node: ElementNode): Hint[] {
  const given = (name: string): string => attribute(node, name)?.trim() ?? '';
  return [...alignmentHints(node.tag, given('align').toLowerCase()), ...(hintsByTag[node.tag]?.(given, node) ?? [])];
}

type Given = (name: string) => string;

const cellHints = (_: Given, node: ElementNode): Hint[] => {
  const padding = length(attribute(tableAround(node) ?? node, 'cellpadding')?.trim() ?? '');
  return padding === null ? [] : [['padding', padding]];
};

const hintsByTag: Readonly<Record<string, (given: Given, node: ElementNode) => Hint[]>> = {
  img: (given) => [...sizeHints(given, ['width', 'height']), ...spaceHints(given)],
  table: (given) => sizeHints(given, ['width']),
  td: cellHints,
  th: cellHints,
  body: (given) => (given('bgcolor') === '' ? [] : [['background-color', given('bgcolor')]]),
  font: fontHints,
};

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

function fontHints(given: Given): Hint[] {
  const size = fontSizes[Number(given('size')) - 1];
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
