import { physicalNames } from '../../css/values/logical.js';
import { properties } from '../../css/values/properties.js';
import { expandShorthand } from '../../css/values/shorthands.js';

/** What becomes of a declaration that tables cannot carry. */
export interface Unsupported {
  /** `refused`: the geometry would be wrong. `lost`: only decoration is. */
  readonly verdict: 'refused' | 'lost';
  /** What to write instead. */
  readonly advice: string;
}

interface Rule extends Unsupported {
  /** The rule for readers: properties and values in the notation of CSS. */
  readonly shown: string;
  readonly properties: RegExp;
  /** Values that the rule is about. */
  readonly values: RegExp;
  /** True where the rule is about what a value comes to, not about how it is written. */
  readonly computed?: boolean;
  /** Elements that the rule is not about. */
  readonly except?: RegExp;
}

const any = /^/;
const useFlow = 'Put the content where it belongs in the order of the text; rows, padding and gaps place it.';

const usePlace =
  'Write a badge as a line above the picture, an overlay as a block with the picture as its background, and a close button as the end of a row.';

/**
 * What has no equal in tables, and what to write instead. The first rule that fits a declaration counts.
 * The reference of layout is generated from this table.
 */
export const unsupportedRules: readonly Rule[] = [
  {
    properties: /^position$/,
    values: /^(?:absolute|fixed|sticky)$/,
    shown: 'position: absolute, fixed, sticky',
    verdict: 'refused',
    advice: usePlace,
  },
  {
    properties: /^(?:top|right|bottom|left)$/,
    values: /^(?!auto$|0px$)/,
    computed: true,
    shown: 'top, right, bottom, left of what is position: relative',
    verdict: 'refused',
    advice: useFlow,
  },
  {
    properties: /^display$/,
    values: /inline-grid|inline-flex|contents|ruby|^inline-table$/,
    computed: true,
    shown: 'display: contents, ruby; inline-flex and inline-grid of more than short text and pictures of a fixed size',
    verdict: 'refused',
    advice:
      'In a line of text write short text and pictures with a width and a height in px; else make it a row: display: flex.',
  },
  {
    properties: /^(?:transform|translate|rotate|scale|filter|clip-path|mask(?:-.*)?|mix-blend-mode)$/,
    values: /^(?!none$|normal$)/,
    shown: 'transform, filter, clip-path, mask, mix-blend-mode',
    verdict: 'refused',
    advice: 'Draw it into the picture.',
  },
  {
    properties: /^opacity$/,
    values: /^(?!1$|100%$)/,
    computed: true,
    shown: 'opacity below 1 of pictures, and of what lies over a picture',
    verdict: 'refused',
    advice: 'Use the colour that results, or draw it into the picture.',
  },
  {
    properties: /^(?:color|background-color|border-\w+-color)$/,
    values: /^(?!rgba?\(\s*[\d.])[a-z-]+\(/,
    computed: true,
    shown: 'colours that refer to others: rgb(from …), and calc() in colours',
    verdict: 'refused',
    advice: 'Write the colour that results, as in #2f5d50.',
  },
  {
    properties: /^overflow(?:-[xy])?$/,
    values: /scroll|^(?:.+ )?auto/,
    computed: true,
    shown: 'overflow: scroll, and overflow: auto beside a height',
    verdict: 'refused',
    advice: 'Mails do not scroll inside: show the content, or link to it.',
  },
  {
    properties: /^(?:text-overflow|(?:-webkit-)?line-clamp)$/,
    values: /^(?!clip$|none$)/,
    shown: 'text-overflow: ellipsis, line-clamp',
    verdict: 'refused',
    advice: 'Write a text that fits: mails do not cut it off.',
  },
  {
    properties: /^(?:columns|column-count|column-width|column-span|column-fill)$/,
    values: any,
    shown: 'columns, column-count, column-width',
    verdict: 'refused',
    advice: 'Write a row of columns: display: flex.',
  },
  {
    properties: /^(?:grid|grid-template|grid-auto-(?:rows|columns))$/,
    values: any,
    shown: 'grid, grid-template, grid-auto-rows, grid-auto-columns',
    verdict: 'refused',
    advice:
      'Write grid-template-columns, grid-template-areas and gap by themselves; rows are as high as their content.',
  },
  {
    properties: /^writing-mode$/,
    values: /^(?!horizontal-tb$)/,
    shown: 'writing-mode other than horizontal-tb',
    verdict: 'refused',
    advice: 'Draw it into a picture.',
  },
  {
    properties: /^aspect-ratio$/,
    values: /^(?!auto$)/,
    except: /^img$/,
    shown: 'aspect-ratio on anything but a picture',
    verdict: 'refused',
    advice: 'Say how high it is at least: min-height.',
  },
  {
    properties: /^container(?:-.*)?$/,
    values: any,
    shown: 'container-type, container-name',
    verdict: 'refused',
    advice: 'Write conditions on the width of the viewport: @media (max-width: 600px).',
  },
  {
    properties: /^margin/,
    values: /(?:^|\s)-\d/,
    computed: true,
    shown: 'negative margins, but for those of rows that reach no further than the padding around them',
    verdict: 'refused',
    advice: 'Use margins of 0 or more: table cells cannot overlap.',
  },
  {
    properties: /^(?:padding|margin)/,
    values: /%/,
    computed: true,
    shown: 'padding, margin in %',
    verdict: 'refused',
    advice: 'Write the space in px.',
  },
  {
    properties: /^(?:height|min-height)$/,
    values: /%/,
    computed: true,
    shown: 'height, min-height in %',
    verdict: 'refused',
    advice: 'Leave it out, or write it in px.',
  },
  {
    properties: /width|height|padding|margin|gap|flex-basis|font-size/,
    values: /\d(?:vw|vh|vmin|vmax|dvh|svh|lvh|ex|ch)\b/,
    computed: true,
    shown: 'lengths in vw, vh, ex, ch',
    verdict: 'refused',
    advice: 'Write px, em or %.',
  },
  {
    properties: /^(?:width|height|min-.*|max-.*|padding.*|margin.*|gap|row-gap|column-gap|flex-basis)$/,
    values: /(?:calc|min|max|clamp)\(/,
    computed: true,
    shown: 'calc(), min(), max(), clamp() that do not come to px or a percentage',
    verdict: 'refused',
    advice: 'Write a length in px or a plain percentage.',
  },
  {
    properties: /^max-height$/,
    values: /^(?!none$)/,
    except: /^img$/,
    shown: 'max-height on anything but a picture',
    verdict: 'refused',
    advice: 'Leave it out: a cell grows with its content.',
  },
  {
    properties: /^visibility$/,
    values: /^(?!visible$)/,
    shown: 'visibility: hidden, collapse',
    verdict: 'refused',
    advice: 'Use display: none, under a condition where it shows somewhere.',
  },
  {
    properties: /^align-content$/,
    values: /^(?!normal$|stretch$)/,
    computed: true,
    shown: 'align-content',
    verdict: 'refused',
    advice: 'Use align-items, or padding above and below.',
  },
  {
    properties: /^(?:outline(?:-.*)?|background-attachment|hyphens)$/,
    values: /^(?!none$|0$|scroll$|manual$)/,
    shown: 'outline, background-attachment, hyphens',
    verdict: 'lost',
    advice: '',
  },
  {
    properties: /^min-width$/,
    values: /^(?!0|auto)/,
    shown: 'min-width other than 0',
    verdict: 'refused',
    advice: 'Use width or max-width.',
  },
  {
    properties: /^(?:box-shadow|text-shadow)$/,
    values: /^(?!none$)/,
    shown: 'box-shadow, text-shadow',
    verdict: 'lost',
    advice: '',
  },
  {
    properties: /^(?:transition(?:-.*)?|animation-.*)$/,
    values: /^(?!none$)/,
    shown: 'transition; animation-name and the like (animation is carried)',
    verdict: 'lost',
    advice: '',
  },
];

/** Judges what a longhand of an element comes to; null where tables can have it. */
export function judgeComputed(property: string, value: string): Unsupported | null {
  return (
    unsupportedRules.find(
      (candidate) => candidate.computed === true && candidate.properties.test(property) && candidate.values.test(value),
    ) ?? null
  );
}

/** What CSS becomes, for the reference of layout: first what is written, then what it comes to. */
export const carriedCss: readonly (readonly [css: string, becomes: string])[] = [
  [
    'max-width with margin: 0 auto',
    'a centred table of that width, as wide as the window where that is narrower; for the `word` engine a table of the width in px around it',
  ],
  [
    'padding, border, border-radius, background-color, height, min-height',
    'the same on one cell; corners are square in the `word` engine',
  ],
  [
    'background-image, -size, -position, -repeat',
    'the same on the cell with the attribute `background`, and a drawn shape around the content for the `word` engine; write a background-color too',
  ],
  [
    'margin between blocks',
    'collapsed as a browser does, then written as padding above the row of the lower block, or as its own margin between paragraphs',
  ],
  [
    'display: flex (row)',
    'columns: blocks that wrap by themselves where the row stacks and its columns show no paint or are not stretched, else cells of one table; `--row: wrap` or `--row: cells` forces one of them',
  ],
  ['flex: 1, flex: 2 1 0', 'a share of what fixed columns, gaps and padding leave'],
  ['flex: 0 0 160px; flex: none with width in px or %', 'a column of that width; what is left over stays empty'],
  ['gap, row-gap, column-gap', 'cells between the columns, padding, or space between stacked blocks'],
  ['align-items, align-self', '`valign` of the cells; paint that is not stretched goes onto a table inside the cell'],
  ['flex-direction: row-reverse', 'a table written from the other side, its cells turned back'],
  ['flex-direction: column under a condition', 'stacked columns'],
  ['flex-direction: column-reverse under a condition', 'stacked columns in the opposite order, by class'],
  [
    'flex-direction: column always, with gap and align-items',
    'one row for each block; a block that does not stretch is a table as wide as its content',
  ],
  [
    'justify-content: center, flex-end (columns as wide as their content)',
    'a table as wide as its cells, at that side',
  ],
  [
    'a column that grows beside columns as wide as their content',
    'a table in which that column takes what the others leave',
  ],
  [
    'justify-content: space-between, space-around, space-evenly; margin: auto on items',
    'cells that share what the columns leave',
  ],
  [
    'margin on items of rows, columns and grids',
    'padding around them; in states in which they stand as plain blocks it collapses',
  ],
  ['negative margins of rows and blocks that reach no further than the padding around them', 'less of that padding'],
  [
    'order',
    'the order in which items are written; under a condition another one in a grid, and the opposite one in stacked columns',
  ],
  [
    'height, min-height on rows and columns',
    'the height of a cell, its content where align-items, justify-content and automatic margins put it',
  ],
  [
    'flex-wrap: wrap with items as wide as a share of the row, that grow from a width in px (the last line full, or one that fills it), that are painted, or with space between them',
    'a grid of as many columns as fit, at each width, with columns for the space that is left',
  ],
  [
    'flex-wrap: wrap with items that do not grow',
    'items in lines, parted by one space as wide as the gap; for the `word` engine a table',
  ],
  [
    'display: grid with grid-template-columns of fr, px, % and auto, minmax(), repeat(auto-fit, …), spans of columns, areas, alignment in cells',
    'one table; under a condition its cells become blocks (one column) or a grid of fewer columns',
  ],
  [
    'grid-row: span 2, areas over several rows, grid-template-rows: auto 1fr',
    'one cell beside a column of the others, which share what it is higher',
  ],
  [
    'display: inline-flex, inline-grid in a line of text',
    'a block in the line, its items moved up or down as they are aligned',
  ],
  [
    'display: none and display: block under a condition',
    'a class; what the desktop hides is hidden from the `word` engine as well',
  ],
  [
    '@media with max-width, min-width and ranges of widths',
    'the widest interval inline, the others as classes under max-width',
  ],
  ['@media (prefers-color-scheme: dark), print and other conditions; @supports', 'classes under the same condition'],
  [':hover on the element that changes', 'a class with :hover'],
  [
    'font-family, font-size, line-height, color, text-align and other text properties',
    'on every cell that holds text and on every element that differs; line heights in px',
  ],
  [
    '@font-face, fonts of inscriba.yaml',
    'loaded in the head, hidden from the `word` engine, which is told what stands in',
  ],
  [
    'a link with display: inline-block, padding and a background',
    'a table of one cell around the link where the line is not taller than the link',
  ],
  ['img with width, max-width, height', 'the same, with attributes in px of the desktop for the `word` engine'],
  [
    'object-fit: cover, contain; object-position; aspect-ratio on pictures',
    'a picture that is drawn from the other in the shape of its box',
  ],
  ['display: block on a link', 'a link shown as a block'],
  [
    'lists, hand-written tables, pre, display: table',
    'as they are written, with their styles resolved; lists of rows are tables with the role of a list',
  ],
  ['::before, ::after with text, attr(), counters, quotes', 'text in the element'],
  [
    'calc(), min(), max(), clamp(), %, vw where they come to px',
    'px; where they follow the window, those of each usual width of a phone',
  ],
  [
    'float of a picture beside text; floats that say how wide they are, and a block that keeps beside them',
    'the same on the picture; a row',
  ],
  [
    'colours of every notation, color-mix(), light-dark(), opacity',
    '#rrggbb; what is transparent is laid over the colour beneath it, and stays rgba() over pictures',
  ],
  ['a link around blocks', 'a link around their table'],
  ['margins, padding, paint of elements in a line', 'the same on them'],
  ['box-shadow, text-shadow, text-wrap', 'the same, for engines that know it'],
  [
    'direction: rtl, dir',
    'the same on the elements that have it; sides such as padding-inline-start become left or right',
  ],
];

/** Properties without meaning for a mail's layout that may stay unsaid: they change nothing that a reader sees. */
const harmless =
  /^(?:--|-(?:webkit|moz|ms)-|mso-|text-size-adjust$|cursor$|isolation$|text-rendering$|font-(?:smooth|display|kerning|feature-settings|variant-.*)$|z-index$|(?:top|right|bottom|left|inset(?:-.*)?)$)/;

/** Judges a declaration on an element; null for one that the layout carries. */
export function judgeDeclaration(property: string, value: string, tag: string): Unsupported | null {
  const lower = value.toLowerCase();
  const rule = unsupportedRules.find(
    (candidate) =>
      candidate.computed !== true &&
      candidate.properties.test(property) &&
      candidate.values.test(lower) &&
      candidate.except?.test(tag) !== true,
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
