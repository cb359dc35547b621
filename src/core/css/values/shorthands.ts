import { isMath } from './math.js';
import { corners, properties, sides } from './properties.js';
import { readQuantity, splitValue } from './value.js';

/** A longhand with its value. */
export type Longhand = readonly [property: string, value: string];

/** Keywords that every property takes (CSS Cascading Level 5, 7.3). */
export const wideKeywords: ReadonlySet<string> = new Set(['initial', 'inherit', 'unset', 'revert', 'revert-layer']);

type Expander = (value: string) => Longhand[];

/** The longhands that a shorthand sets; a longhand is returned as it is. */
export function expandShorthand(property: string, value: string): Longhand[] {
  const expand = expanders.get(property);
  if (expand === undefined) return [[property, value]];
  const keyword = value.toLowerCase();
  if (wideKeywords.has(keyword)) return longhandsOf(property).map((longhand) => [longhand, keyword]);
  return expand(value);
}

/** The names of the longhands that a property sets: itself, if it is one. */
export function longhandsOf(property: string): readonly string[] {
  return shorthandLonghands.get(property) ?? [property];
}

const lineStyles = new Set([
  'none',
  'hidden',
  'dotted',
  'dashed',
  'solid',
  'double',
  'groove',
  'ridge',
  'inset',
  'outset',
]);
const lineWidths = new Set(['thin', 'medium', 'thick']);

/** A number, a length or a share, be it worked out. */
const isMeasured = (part: string): boolean => readQuantity(part) !== null || isMath(part);

function fourSides(pattern: string): Expander {
  return (value) => {
    const [top = '0', right = top, bottom = top, left = right] = splitValue(value);
    return [top, right, bottom, left].map((part, index): Longhand => [pattern.replace('*', sides[index] ?? ''), part]);
  };
}

function pair(first: string, second: string): Expander {
  return (value) => {
    const [start = '0', end = start] = splitValue(value);
    return [
      [first, start],
      [second, end],
    ];
  };
}

function border(names: readonly string[]): Expander {
  return (value) => {
    let [width, style, color] = ['medium', 'none', 'currentcolor'];
    for (const part of splitValue(value)) {
      const lower = part.toLowerCase();
      if (lineStyles.has(lower)) style = lower;
      else if (lineWidths.has(lower) || isMeasured(part)) width = lower;
      else color = part;
    }
    return names.flatMap((side): Longhand[] => [
      [`border-${side}-width`, width],
      [`border-${side}-style`, style],
      [`border-${side}-color`, color],
    ]);
  };
}

function borderRadius(value: string): Longhand[] {
  const [horizontal = '', vertical] = splitValue(value, '/');
  const first = cornerValues(horizontal || value);
  const second = vertical === undefined ? null : cornerValues(vertical);
  return corners.map((corner, index): Longhand => {
    const radius = first[index] ?? '0';
    return [`border-${corner}-radius`, second === null ? radius : `${radius} ${second[index] ?? '0'}`];
  });
}

function cornerValues(value: string): string[] {
  const [first = '0', second = first, third = first, fourth = second] = splitValue(value);
  return [first, second, third, fourth];
}

function background(value: string): Longhand[] {
  const result = new Map<string, string>(
    backgroundLonghands.map((name) => [name, properties.get(name)?.initial ?? '']),
  );
  const position: string[] = [];
  let size: string[] | null = null;
  for (const part of splitValue(
    value.replace(/\([^)]*\)|\s*\/\s*/g, (part) => (part.startsWith('(') ? part : ' / ')),
  )) {
    const lower = part.toLowerCase();
    if (part === '/') size = [];
    else if (/^(?:url|[a-z-]*gradient|image-set)\(/i.test(part)) result.set('background-image', part);
    else if (/^(?:no-repeat|repeat|repeat-x|repeat-y|space|round)$/.test(lower)) result.set('background-repeat', lower);
    else if (size !== null && (/^(?:cover|contain|auto)$/.test(lower) || isMeasured(part))) size.push(lower);
    else if (/^(?:left|right|top|bottom|center)$/.test(lower) || isMeasured(part)) position.push(lower);
    else if (lower !== 'none' && !/^(?:scroll|fixed|local|border-box|padding-box|content-box)$/.test(lower))
      result.set('background-color', part);
  }
  if (position.length > 0) result.set('background-position', position.join(' '));
  if (size !== null && size.length > 0) result.set('background-size', size.join(' '));
  return [...result];
}

/**
 * A size in `font`, with the height of lines behind it. A number is a weight there, but for 0, which no weight is (CSS Fonts
 * 4, 2.2).
 */
const fontSize =
  /^(?:[+-]?0+(?:\.0*)?|[\d.+-]+(?:[a-z]+|%)|(?:xx?-)?(?:small|large)|xxx-large|medium|smaller|larger|(?:calc|min|max|clamp)\(.*\))(?:\/.+)?$/i;

function font(value: string): Longhand[] {
  const result = new Map<string, string>([
    ['font-style', 'normal'],
    ['font-variant', 'normal'],
    ['font-weight', '400'],
    ['line-height', 'normal'],
  ]);
  const parts = splitValue(value.replace(/\s*\/\s*/g, '/'));
  const sizeAt = parts.findIndex((part) => fontSize.test(part));
  if (sizeAt < 0) return [];
  for (const part of parts.slice(0, sizeAt)) {
    if (/^(?:italic|oblique)$/i.test(part)) result.set('font-style', part.toLowerCase());
    else if (/^small-caps$/i.test(part)) result.set('font-variant', 'small-caps');
    else if (/^(?:bold|bolder|lighter|\d+)$/i.test(part)) result.set('font-weight', part.toLowerCase());
  }
  const [size = '', lineHeight] = splitValue(parts[sizeAt] ?? '', '/');
  result.set('font-size', size === '' ? (parts[sizeAt] ?? '') : size);
  if (lineHeight !== undefined) result.set('line-height', lineHeight);
  result.set('font-family', parts.slice(sizeAt + 1).join(' '));
  return [...result];
}

/** CSS Flexible Box Layout 1, 7.1: `flex: 2` sets a basis of 0, not auto. */
function flex(value: string): Longhand[] {
  const parts = splitValue(value.toLowerCase());
  if (parts[0] === 'none') return flexLonghands('0', '0', 'auto');
  if (parts[0] === 'auto') return flexLonghands('1', '1', 'auto');
  const numbers = parts.filter((part) => readQuantity(part)?.unit === '');
  const basis = parts.find((part) => readQuantity(part)?.unit !== '');
  return flexLonghands(
    numbers[0] ?? '1',
    numbers[1] ?? '1',
    basis ?? (numbers.length > 2 ? (numbers[2] ?? '0px') : '0px'),
  );
}

function flexLonghands(grow: string, shrink: string, basis: string): Longhand[] {
  return [
    ['flex-grow', grow],
    ['flex-shrink', shrink],
    ['flex-basis', basis],
  ];
}

function flexFlow(value: string): Longhand[] {
  const parts = splitValue(value.toLowerCase());
  return [
    ['flex-direction', parts.find((part) => /^(?:row|column)/.test(part)) ?? 'row'],
    ['flex-wrap', parts.find((part) => /wrap/.test(part)) ?? 'nowrap'],
  ];
}

function listStyle(value: string): Longhand[] {
  const parts = splitValue(value);
  const position = parts.find((part) => /^(?:inside|outside)$/i.test(part));
  const image = parts.find((part) => /^url\(/i.test(part));
  const type = parts.find((part) => part !== position && part !== image);
  return [
    ['list-style-type', type ?? 'disc'],
    ['list-style-position', position ?? 'outside'],
    ['list-style-image', image ?? 'none'],
  ];
}

const backgroundLonghands = [
  'background-color',
  'background-image',
  'background-position',
  'background-size',
  'background-repeat',
];

const expanders: ReadonlyMap<string, Expander> = new Map<string, Expander>([
  ['margin', fourSides('margin-*')],
  ['padding', fourSides('padding-*')],
  ['border-width', fourSides('border-*-width')],
  ['border-style', fourSides('border-*-style')],
  ['border-color', fourSides('border-*-color')],
  ['border', border(sides)],
  ...sides.map((side): [string, Expander] => [`border-${side}`, border([side])]),
  ['border-radius', borderRadius],
  ['background', background],
  ['font', font],
  ['flex', flex],
  ['flex-flow', flexFlow],
  ['gap', pair('row-gap', 'column-gap')],
  ['grid-gap', pair('row-gap', 'column-gap')],
  ['place-items', pair('align-items', 'justify-items')],
  ['place-content', pair('align-content', 'justify-content')],
  ['place-self', pair('align-self', 'justify-self')],
  ['list-style', listStyle],
  ['margin-block', pair('margin-top', 'margin-bottom')],
  ['padding-block', pair('padding-top', 'padding-bottom')],
  ['margin-block-start', (value) => [['margin-top', value]]],
  ['margin-block-end', (value) => [['margin-bottom', value]]],
  ['padding-block-start', (value) => [['padding-top', value]]],
  ['padding-block-end', (value) => [['padding-bottom', value]]],
  ['text-decoration-line', (value) => [['text-decoration', value]]],
  ['word-wrap', (value) => [['overflow-wrap', value]]],
]);

/** What each shorthand sets, found by expanding a value that every shorthand takes. */
const shorthandLonghands: ReadonlyMap<string, readonly string[]> = new Map(
  [...expanders].map(([name, expand]) => [
    name,
    name === 'font' ? fontLonghands() : expand(name === 'flex-flow' ? 'row' : '0').map(([longhand]) => longhand),
  ]),
);

function fontLonghands(): string[] {
  return font('1px serif').map(([longhand]) => longhand);
}
