import type { Random } from './random.js';

// Pieces of CSS as people write them, right and wrong, that a browser judges by itself.

const lengths = ['400px', '600px', '601px', '37.5em', '30em', '20rem', '0', '600.5px', '450pt', '5in', '10cm', '160mm'];
const odderLengths = ['-1px', '6e2px', '.5in', '600PX', 'calc(300px + 10px)', '0px', '1000px'];

/** Features that are none, or are not written as such. */
const brokenFeatures = [
  '(max-widht: 600px)',
  '(width: )',
  '(max-width 600px)',
  'max-width: 600px',
  '(600px)',
  '(min-width: red)',
  '(max-width <= 600px)',
  '(min-width = 400px)',
  '()',
  '[max-width: 600px]',
];

/** Words that stand before a condition: types, and what is none. */
const types = ['screen', 'all', 'print', 'only screen', 'not screen', 'only all', 'not print', 'SCREEN', 'tv'];
const noTypes = ['only', 'not', 'and', 'or', 'layer'];

/** A media query that asks for widths, or is wrong. */
export function mediaQuery(random: Random): string {
  if (random.chance(0.5)) return condition(random, 0);
  const type = random.pick(random.chance(0.9) ? types : noTypes);
  if (random.chance(0.2)) return type;
  return `${type} and ${random.chance(0.8) ? feature(random) : condition(random, 0)}`;
}

function length(random: Random): string {
  return random.pick(random.chance(0.7) ? lengths : odderLengths);
}

function feature(random: Random): string {
  const sign = (): string => random.pick(['<', '<=', '>', '>=']);
  switch (random.below(8)) {
    case 0:
      return `(width ${random.pick(['<', '<=', '>', '>=', '='])} ${length(random)})`;
    case 1:
      return `(${length(random)} ${sign()} width)`;
    case 2:
      return `(${length(random)} < width <= ${length(random)})`;
    case 3:
      return random.chance(0.3) ? random.pick(brokenFeatures) : `(width: ${length(random)})`;
    default:
      return `(${random.pick(['max-width', 'min-width', 'MAX-WIDTH'])}${random.pick([':', ': ', ' : '])}${length(random)})`;
  }
}

function condition(random: Random, depth: number): string {
  const term = (): string => (random.chance(0.6) || depth > 2 ? feature(random) : `(${condition(random, depth + 1)})`);
  switch (random.below(9)) {
    case 0:
    case 1:
      return `${term()} and ${term()}`;
    case 2:
      return `${term()} or ${term()}`;
    case 3:
      return `not ${term()}`;
    case 4:
      return `${term()} and ${term()} or ${term()}`;
    case 5:
      return `${feature(random)}and ${feature(random)}`;
    case 6:
      return random.pick([`${feature(random)} and${feature(random)}`, `not not ${feature(random)}`]);
    default:
      return feature(random);
  }
}

const classes = ['a', 'b', 'A', 'c-d', '1x', '_u', 'ü', 'a:b'];
const ids = ['i', 'j', '3d', 'é', 'a.b'];
const elements = ['div', 'p', 'span', 'a', 'ul', 'li', 'h1', 'section', 'font', 'b', 'x-y'];
const attributes = ['title', 'data-k', 'align', 'lang', 'href', 'hidden'];
const values = ['x', 'X', 'x y', 'one-two', 'en', 'en-GB', 'center', '', 'é', '#t'];

/** A page whose elements share few names, so that selectors meet. */
export function namedPage(random: Random): string {
  const doctype = random.chance(0.8) ? '<!doctype html>' : '';
  return `${doctype}<html lang="${random.pick(['en', 'de-AT'])}" class="a"><head><title>t</title></head><body class="b">${children(random, 0)}${children(random, 0)}</body></html>`;
}

function children(random: Random, depth: number): string {
  return Array.from({ length: random.below(4) }, () => element(random, depth)).join('');
}

function element(random: Random, depth: number): string {
  const tag = random.pick(elements);
  const own = [
    random.chance(0.4) ? ` id="${random.pick(ids)}"` : '',
    random.chance(0.6) ? ` class="${random.pick(classes)}${random.pick(['', ' b', '\n c-d', '\ta '])}"` : '',
    random.chance(0.5) ? ` ${random.pick(attributes)}="${random.pick(values)}"` : '',
  ].join('');
  const inner = depth < 4 ? children(random, depth + 1) : '';
  return `<${tag}${own}>${inner}${random.pick(['', 'text', ' ', '<!-- c -->'])}</${tag}>`;
}

/** A name as CSS writes it. */
function escaped(name: string): string {
  return [...name]
    .map((letter, at) => {
      if (/\d/.test(letter)) return at === 0 ? `\\3${letter} ` : letter;
      return /[\w\u00a0-\uffff-]/.test(letter) ? letter : `\\${letter}`;
    })
    .join('');
}

const structural = [
  ...[':first-child', ':last-child', ':only-child', ':empty', ':root', ':first-of-type', ':only-of-type', ':link'],
  ...[':nth-child(2n+1)', ':nth-child(even)', ':nth-child(-n+3)', ':nth-child( 3 )', ':nth-last-child(2)'],
  ...[':nth-of-type(2n)', ':nth-last-of-type(odd)', ':nth-child(2 of .a)', ':nth-last-child(-n+2 of p, .b)'],
  ...[':nth-child(+3n - 2)', ':nth-child(0n+1)', ':lang(en)', ':lang(de)', ':scope', ':defined', ':host', ':any-link'],
];
const oddSimple = [
  ...[
    ':nonsense',
    ':not()',
    ':is()',
    ':has(> .a)',
    ':has(+ p, ~ div)',
    '..a',
    '[=x]',
    ':nth-child(2n+)',
    ':not(::before)',
  ],
  ...[
    ':is(::before, .a)',
    '*|*',
    '[title="x" q]',
    ':has(:has(a))',
    ':has(a::before)',
    '.a*',
    ':not(:hover)',
    '::nonsense',
  ],
];

/** A selector list, mostly right. */
export function selectorList(random: Random, depth = 0): string {
  return Array.from({ length: random.chance(0.75) ? 1 : 2 }, () => complexSelector(random, depth)).join(', ');
}

function complexSelector(random: Random, depth: number): string {
  const joints = [' ', ' > ', ' + ', ' ~ ', '>', '+', '~', ' /* c */ '];
  return Array.from({ length: random.between(1, 3) }, (_, at) => (at === 0 ? '' : random.pick(joints)))
    .map((joint) => joint + compoundSelector(random, depth))
    .join('');
}

function compoundSelector(random: Random, depth: number): string {
  const type = random.chance(0.5) ? random.pick([...elements, '*', 'DIV', 'html', 'body']) : '';
  const least = type === '' ? 1 : 0;
  return type + Array.from({ length: random.between(least, 2) }, () => simpleSelector(random, depth)).join('');
}

function simpleSelector(random: Random, depth: number): string {
  const kind = random.below(20);
  if (kind < 6) return `.${escaped(random.pick(classes))}`;
  if (kind < 8) return `#${escaped(random.pick(ids))}`;
  if (kind < 12) return attributeSelector(random);
  if (kind < 16 || depth > 1) return random.pick(structural);
  if (kind < 19) return `${random.pick([':not(', ':is(', ':where(', ':has('])}${selectorList(random, depth + 1)})`;
  return random.pick(oddSimple);
}

function attributeSelector(random: Random): string {
  const name = random.pick(attributes);
  if (random.chance(0.3)) return `[${name}]`;
  return `[${name}${random.pick(['=', '~=', '|=', '^=', '$=', '*='])}"${random.pick(values)}"${random.pick(['', '', ' i'])}]`;
}

/** An opaque colour, in a notation that every browser reads. */
export function colour(random: Random, depth = 0): string {
  const part = (least: number, most: number, digits = 0): string =>
    String(Number((least + random.next() * (most - least)).toFixed(digits)));
  const unit = random.pick(['', 'deg', 'turn', 'rad', 'grad']);
  switch (random.below(depth > 0 ? 11 : 12)) {
    case 0:
      return random.pick(['red', 'RebeccaPurple', 'NAVY', 'lightgoldenrodyellow', 'grey', 'gray', 'black']);
    case 1:
      return `#${Array.from({ length: random.pick([3, 6]) }, () => random.pick([...'0123456789abcdefABCDEF'])).join('')}`;
    case 2:
      return `${random.pick(['rgb', 'RGB', 'rgba'])}(${part(-20, 300)}, ${part(0, 255)}, ${part(0, 255, 1)})`;
    case 3:
      return `rgb(${part(0, 255)} ${part(0, 255)} ${part(0, 255)}${random.pick(['', ' / 1'])})`;
    case 4:
      return `rgb(${part(0, 100)}%,${part(0, 100)}%,${part(0, 100)}%)`;
    case 5:
      return `hsl(${part(-400, 400)}${unit}, ${part(0, 100)}%, ${part(0, 100)}%)`;
    case 6:
      return `hsl(${part(0, 360)} ${part(0, 130)}% ${part(0, 100)}%)`;
    case 7:
      return `hwb(${part(0, 360)} ${part(0, 100)}% ${part(0, 100)}%)`;
    case 8:
      return `lab(${part(0, 100)}% ${part(-100, 100)} ${part(-100, 100)})`;
    case 9:
      return `oklch(${part(0, 100)}% ${part(0, 0.3, 2)} ${part(0, 360)})`;
    case 10:
      return `color(${random.pick(['srgb', 'display-p3', 'srgb-linear'])} ${part(0, 1, 2)} ${part(0, 1, 2)} ${part(0, 1, 2)})`;
    default: {
      // Where a hue counts for nothing is seen otherwise by each browser, so none is mixed here.
      const space = random.pick(['srgb', 'oklab', 'srgb-linear']);
      return `color-mix(in ${space}, ${mixable(random)} ${random.pick(['', '30%', '75%'])}, ${mixable(random)})`;
    }
  }
}

function mixable(random: Random): string {
  return random.pick(['red', '#123456', 'hsl(40 50% 50%)', 'rgb(10 200 30)', 'white', '#0e7c66']);
}

/** A math function that comes to a length, of px, shares, fonts and the window. */
export function mathLength(random: Random): string {
  return random.chance(0.8) ? `calc(${sum(random, 1)})` : choice(random, 1);
}

function sum(random: Random, depth: number): string {
  const products = Array.from({ length: random.between(1, 3) }, () => product(random, depth));
  return products.map((text, at) => (at === 0 ? text : `${random.pick([' + ', ' - '])}${text}`)).join('');
}

function product(random: Random, depth: number): string {
  const numbers = ['2', '3', '.5', '-1', '(1 + 1)', 'calc(2 * 2)', 'min(2, 3)'];
  const term = operand(random, depth);
  switch (random.below(6)) {
    case 0:
      return `${term} * ${random.pick(numbers)}`;
    case 1:
      return `${random.pick(numbers)} * ${term}`;
    case 2:
      return `${term} / ${random.pick(['2', '4', '.5'])}`;
    default:
      return term;
  }
}

function operand(random: Random, depth: number): string {
  const plain = ['10px', '2em', '1.5rem', '50%', '12pt', '1in', '10mm', '3vw', '-4px', '.5em', '7.25px', '2Q', '1pc'];
  if (depth > 3 || random.chance(0.5)) return random.pick(plain);
  return random.chance(0.4) ? `(${sum(random, depth + 1)})` : choice(random, depth + 1);
}

function choice(random: Random, depth: number): string {
  const inner = (): string => sum(random, depth + 1);
  switch (random.below(4)) {
    case 0:
      return `min(${inner()}, ${inner()})`;
    case 1:
      return `max(${inner()},${inner()}, ${inner()})`;
    case 2:
      return `clamp(${inner()}, ${inner()}, ${inner()})`;
    default:
      return `CALC(${inner()})`;
  }
}
