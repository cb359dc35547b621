/** The kinds of boxes that CSS gives properties to, one by one: an element can be of several, such as a block that is a flex item. */
export const boxKinds = [
  'block',
  'text',
  'inline',
  'inline block',
  'flex container',
  'flex item',
  'grid container',
  'grid item',
  'list',
  'list item',
  'table',
  'table cell',
  'picture',
  'button link',
] as const;
export type BoxKind = (typeof boxKinds)[number];

/**
 * What becomes of a property on a kind of box: it is carried; carried or refused, as its value and what stands around ask
 * for; without effect; left out with a note; or refused.
 */
export type End = 'carried' | 'by value' | 'without effect' | 'left out' | 'refused';

const endOf: Readonly<Record<string, End>> = {
  '+': 'carried',
  '~': 'by value',
  '.': 'without effect',
  o: 'left out',
  x: 'refused',
};

/** Properties that end alike, and how they end on each kind of box. */
export interface MatrixRow {
  readonly properties: readonly string[];
  readonly ends: Readonly<Record<BoxKind, End>>;
}

/** One sign for each kind of box, in their order. */
function row(properties: string, signs: string): MatrixRow {
  const ends = boxKinds.map((kind, index) => [kind, endOf[signs[index] ?? ''] ?? 'refused'] as const);
  return { properties: properties.split(' '), ends: Object.fromEntries(ends) as Record<BoxKind, End> };
}

/** Every property that layouts know, with what becomes of it on each kind of box. */
export const matrix: readonly MatrixRow[] = [
  row('color font-family font-size font-style font-weight font-variant line-height', '++++++++++++.+'),
  row('letter-spacing word-spacing text-transform', '++++++++++++.+'),
  row('text-align text-indent', '++.+++++++++.+'),
  row('text-decoration', '++++++++++++.+'),
  row('white-space word-break overflow-wrap', '++++~~~~++++++'),
  row('direction', '++++++++++++.+'),
  row('list-style-type list-style-position list-style-image', '........++....'),
  row('border-collapse border-spacing caption-side', '..........+...'),
  row('table-layout', '..........+...'),
  row('quotes', '++++++++++++.+'),
  row('text-shadow text-wrap text-align-last', 'oooooooooooooo'),
  row('hyphens', 'oooooooooooo.o'),
  row('cursor color-scheme', 'oooooooooooooo'),
  row('visibility', 'xxxxxxxxxxxxxx'),
  row('display', '~~~~~~~~~~~~~~'),
  row('box-sizing', '++.++~+~++++++'),
  row('width max-width', '~~.+~~~~++++++'),
  row('min-width', 'xx.xxxxxxxxxxx'),
  row('height min-height', '~+.+~~~~++++++'),
  row('max-height', 'xx.xxxxxxx..+x'),
  row('margin-top margin-bottom', '~~.~~~~~~~~.~~'),
  row('margin-left margin-right', '++~+++~~+++.++'),
  row('padding-top padding-right padding-bottom padding-left', '+++++++~+++~++'),
  row(
    'border-top-width border-right-width border-bottom-width border-left-width border-top-style border-right-style border-bottom-style border-left-style border-top-color border-right-color border-bottom-color border-left-color',
    '+++++~++++++++',
  ),
  row(
    'border-top-left-radius border-top-right-radius border-bottom-right-radius border-bottom-left-radius',
    '++++++++++++++',
  ),
  row('background-color', '++++++++++++++'),
  row('background-image background-position background-size background-repeat', '++++++++++++.+'),
  row('background-attachment', 'oooooooooooooo'),
  row('flex-direction flex-wrap', '....~.........'),
  row('justify-content', '....~.~.......'),
  row('align-items', '....+.+.......'),
  row('align-content', 'xx..x.x.......'),
  row('row-gap column-gap', '....+.+.......'),
  row('flex-grow flex-shrink flex-basis', '.....~........'),
  row('align-self', '.....+.+......'),
  row('order', '.....~.~......'),
  row('justify-items', 'xx....+.......'),
  row('justify-self', 'xx..x.x+xxx.x.'),
  row('grid-template-columns grid-template-areas', '......~.......'),
  row('grid-template-rows grid-auto-flow', '......x.......'),
  row('grid-column grid-row grid-area', '.......~......'),
  row('animation', '++++++++++++++'),
  row('box-shadow', 'oooooooooooooo'),
  row('opacity', '++++++++++++~+'),
  row('vertical-align', '..++.......+++'),
  row('overflow', '+~.~+~+~+++~.~'),
  row('position', '~~~~~~~~~~~~~~'),
  row('top right bottom left', 'xxxxxxxxxxxxxx'),
  row('float', '~~~~..~.~~~.~x'),
  row('clear', '++..+.+.+++.++'),
  row('object-fit object-position', '............~.'),
  row('aspect-ratio', 'xx.xxxxxxxx.~x'),
  row('content counter-reset counter-increment counter-set', '++++++++++++.+'),
];

const endsByProperty = new Map(
  matrix.flatMap(({ properties, ends }) => properties.map((name) => [name, ends] as const)),
);

/** What becomes of a property on each kind of box; null for one that the matrix does not know. */
export function endsOf(property: string): MatrixRow['ends'] | null {
  return endsByProperty.get(property) ?? null;
}
