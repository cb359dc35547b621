import { physicalNames } from '../css/logical.js';
import { properties } from '../css/properties.js';
import { expandShorthand } from '../css/shorthands.js';

/** What becomes of a declaration that tables cannot carry. */
export interface Unsupported {
  /** `refused`: the geometry would be wrong. `lost`: only decoration is. */
  readonly verdict: 'refused' | 'lost';
  /** What to write instead. */
  readonly advice: string;
}

interface Rule extends Unsupported {
  readonly properties: RegExp;
  /** Values that the rule is about. */
  readonly values: RegExp;
}

const any = /^/;
const useFlow = 'Put the content where it belongs in the order of the text; rows, padding and gaps place it.';

/**
 * What has no equal in tables, and what to write instead. The first rule that fits a declaration counts.
 * The reference of layout is generated from this table.
 */
export const unsupportedRules: readonly Rule[] = [
  { properties: /^position$/, values: /^(?:absolute|fixed|sticky|relative)$/, verdict: 'refused', advice: useFlow },
  {
    properties: /^float$/,
    values: /^(?!none$)/,
    verdict: 'refused',
    advice: 'Make a row of it: display: flex on the element around, with a gap.',
  },
  {
    properties: /^display$/,
    values: /inline-grid|inline-flex|contents|ruby|^inline-table$/,
    verdict: 'refused',
    advice: 'Write a row: display: flex, with columns that grow (flex: 1).',
  },
  {
    properties: /^(?:transform|translate|rotate|scale|filter|clip-path|mask(?:-.*)?|mix-blend-mode)$/,
    values: /^(?!none$|normal$)/,
    verdict: 'refused',
    advice: 'Draw it into the picture.',
  },
  {
    properties: /^opacity$/,
    values: /^(?!1$|100%$)/,
    verdict: 'refused',
    advice: 'Use the colour that results, or draw it into the picture.',
  },
  {
    properties: /^overflow(?:-[xy])?$/,
    values: /scroll|auto/,
    verdict: 'refused',
    advice: 'Mails do not scroll inside: show the content, or link to it.',
  },
  {
    properties: /^(?:columns|column-count|column-width|column-span|column-fill)$/,
    values: any,
    verdict: 'refused',
    advice: 'Write a row of columns: display: flex.',
  },
  {
    properties: /^(?:grid|grid-template|grid-area|grid-template-areas|grid-auto-(?:rows|columns)|place-.*)$/,
    values: any,
    verdict: 'refused',
    advice: 'Write display: grid with grid-template-columns and gap; each cell takes one column and one row.',
  },
  {
    properties: /^writing-mode$/,
    values: /^(?!horizontal-tb$)/,
    verdict: 'refused',
    advice: 'Draw it into a picture.',
  },
  {
    properties: /^aspect-ratio$/,
    values: /^(?!auto$)/,
    verdict: 'refused',
    advice: 'Give the picture a width, and height: auto.',
  },
  {
    properties: /^container(?:-.*)?$/,
    values: any,
    verdict: 'refused',
    advice: 'Write conditions on the width of the viewport: @media (max-width: 600px).',
  },
  {
    properties: /^margin/,
    values: /(?:^|\s)-\d/,
    verdict: 'refused',
    advice: 'Use margins of 0 or more: table cells cannot overlap.',
  },
  { properties: /^(?:padding|margin)/, values: /%/, verdict: 'refused', advice: 'Write the space in px.' },
  {
    properties: /^(?:height|min-height)$/,
    values: /%/,
    verdict: 'refused',
    advice: 'Leave it out, or write it in px.',
  },
  {
    properties: /width|height|padding|margin|gap|flex-basis|font-size/,
    values: /\d(?:vw|vh|vmin|vmax|dvh|svh|lvh|ex|ch)\b/,
    verdict: 'refused',
    advice: 'Write px, em or %.',
  },
  {
    properties: /^(?:width|height|min-.*|max-.*|padding.*|margin.*|gap|row-gap|column-gap|flex-basis)$/,
    values: /(?:calc|min|max|clamp)\(/,
    verdict: 'refused',
    advice: 'Write a length in px or a plain percentage.',
  },
  { properties: /^min-width$/, values: /^(?!0|auto)/, verdict: 'refused', advice: 'Use width or max-width.' },
  { properties: /^(?:box-shadow|text-shadow)$/, values: /^(?!none$)/, verdict: 'lost', advice: '' },
  { properties: /^(?:transition|animation)(?:-.*)?$/, values: /^(?!none$)/, verdict: 'lost', advice: '' },
];

/** Properties without meaning for a mail's layout that may stay unsaid: they change nothing that a reader sees. */
const harmless =
  /^(?:--|-(?:webkit|moz|ms)-|mso-|color-scheme$|text-size-adjust$|cursor$|isolation$|object-(?:fit|position)$|text-rendering$|font-(?:smooth|display|kerning|feature-settings|variant-.*)$|z-index$|outline|(?:top|right|bottom|left|inset(?:-.*)?)$)/;

/** Judges a declaration; null for one that the layout carries. */
export function judgeDeclaration(property: string, value: string): Unsupported | null {
  const lower = value.toLowerCase();
  const rule = unsupportedRules.find(
    (candidate) => candidate.properties.test(property) && candidate.values.test(lower),
  );
  if (rule !== undefined) return rule;
  if (harmless.test(property)) return null;
  const names = physicalNames(property, 'ltr') ?? [property];
  const known = names.some((name) => expandShorthand(name, value).some(([longhand]) => properties.has(longhand)));
  return known || /^(?:grid|inset)/.test(property) || isDefault(lower) ? null : { verdict: 'lost', advice: '' };
}

function isDefault(value: string): boolean {
  return /^(?:none|auto|normal|initial|unset|inherit|0)$/.test(value);
}
