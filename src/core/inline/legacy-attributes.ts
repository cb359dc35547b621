import { legacyColor } from '../css/values/color.js';
import { pixelsOf, readQuantity } from '../css/values/value.js';
import type { ElementNode } from '../html/tree.js';
import type { NewAttribute, WrittenEntry } from './style-attribute.js';

type Rule = readonly [attribute: string, property: string, convert: (value: string) => string | null];

const whole = (value: string): string | null => {
  const pixels = pixelsOf(value);
  return pixels !== null && pixels >= 0 && Number.isInteger(pixels) ? String(pixels) : null;
};

/** HTML takes whole pixels, and percentages above zero. */
const size = (value: string): string | null => {
  const quantity = readQuantity(value);
  if (quantity?.unit === '%') return quantity.number > 0 ? `${quantity.number}%` : null;
  return whole(value) === '0' ? null : whole(value);
};

const oneOf =
  (...words: string[]) =>
  (value: string): string | null =>
    words.includes(value.toLowerCase()) ? value.toLowerCase() : null;

const address = (value: string): string | null => /^url\(\s*(["']?)([^"')]+)\1\s*\)$/i.exec(value)?.[2] ?? null;

const cell: readonly Rule[] = [
  ['width', 'width', size],
  ['height', 'height', size],
  ['bgcolor', 'background-color', legacyColor],
  ['bgcolor', 'background', legacyColor],
  ['align', 'text-align', oneOf('left', 'center', 'right')],
  ['valign', 'vertical-align', oneOf('top', 'middle', 'bottom', 'baseline')],
  ['background', 'background-image', address],
];

/** Old attributes by element: each says what a declaration says, and a style outranks it where styles are read. */
const rules: ReadonlyMap<string, readonly Rule[]> = new Map<string, readonly Rule[]>([
  ['td', cell],
  ['th', cell],
  ['tr', cell.filter(([attribute]) => /^(?:bgcolor|align|valign)$/.test(attribute))],
  [
    'table',
    [
      ['width', 'width', size],
      ['bgcolor', 'background-color', legacyColor],
      ['bgcolor', 'background', legacyColor],
      ['background', 'background-image', address],
      ['cellspacing', 'border-spacing', whole],
    ],
  ],
  [
    'body',
    [
      ['bgcolor', 'background-color', legacyColor],
      ['bgcolor', 'background', legacyColor],
    ],
  ],
  [
    'img',
    [
      ['width', 'width', size],
      ['height', 'height', size],
    ],
  ],
]);

/**
 * Attributes for old clients that an element's inlined declarations allow: never over one that the author wrote, and
 * only where computed styles stay equal. A picture with both `width` and `height` gets an aspect ratio from them, so a
 * second one is not added.
 * @param isRead whether a selector that stays in the head reads the attribute
 */
export function legacyAttributesFor(
  element: ElementNode,
  entries: readonly WrittenEntry[],
  isRead: (attribute: string) => boolean,
): NewAttribute[] {
  const added = new Map<string, string>();
  for (const [attribute, property, convert] of rules.get(element.tag) ?? []) {
    const declared = entries.findLast((entry) => entry.property === property);
    const shadowed =
      declared !== undefined &&
      entries
        .slice(entries.indexOf(declared) + 1)
        .some((entry) => entry.property === 'all' || (entry.property === 'background' && property !== 'background'));
    const value = declared === undefined || shadowed ? null : convert(declared.value);
    if (value === null || element.attributes.has(attribute) || added.has(attribute) || isRead(attribute)) continue;
    if (element.tag === 'img' && ['width', 'height'].some((other) => element.attributes.has(other) || added.has(other)))
      continue;
    added.set(attribute, value);
  }
  return [...added].map(([name, value]) => ({ name, value }));
}

/** Attributes that browsers map to styles (HTML standard, 15.2 to 15.4). */
const presentational: ReadonlySet<string> = new Set(
  (
    'align background bgcolor border bordercolor bottommargin cellpadding cellspacing clear color compact dir face frame ' +
    'height hidden hspace lang leftmargin link marginheight marginwidth noshade nowrap rightmargin rules size text ' +
    'topmargin type valign value vlink vspace width'
  ).split(' '),
);

/** Whether attributes of an element, or of the table that it is a cell of, say something of its style. */
export function hasPresentationalHints(element: ElementNode): boolean {
  const isCell = element.tag === 'td' || element.tag === 'th';
  return (
    [...element.attributes.keys()].some((name) => presentational.has(name)) ||
    (isCell && element.parent?.parent !== null)
  );
}
