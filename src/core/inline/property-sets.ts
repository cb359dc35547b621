import { holdsTag } from '../html/tags.js';

/**
 * Which properties share effects. A property *sets* longhands for certain and may *touch* more: `margin-inline-start`
 * touches every physical margin, as the writing direction decides which it is.
 */
interface PropertySet {
  readonly sets: ReadonlySet<string>;
  readonly touches: ReadonlySet<string>;
  /** What has to be done over for nothing of it to be left. */
  readonly leaves: ReadonlySet<string>;
}

const sides = ['top', 'right', 'bottom', 'left'];
const corners = ['top-left', 'top-right', 'bottom-right', 'bottom-left'];
const cornerShapes = corners.map((corner) => `corner-${corner}-shape`);
const borderParts = ['width', 'style', 'color'];
const each = (pattern: string, values: readonly string[]): string[] =>
  values.map((value) => pattern.replace('*', value));
const words = (text: string): string[] => text.split(' ');

const borderSides = sides.flatMap((side) => each(`border-${side}-*`, borderParts));
const borderImage = each('border-image-*', words('source slice width outset repeat'));
const fontVariants = each('font-variant-*', words('ligatures caps alternates numeric east-asian position emoji'));

/** Shorthands and what they set, reset longhands included. */
const shorthands: ReadonlyMap<string, readonly string[]> = new Map(
  Object.entries({
    animation: each(
      'animation-*',
      words(
        'name duration timing-function delay iteration-count direction fill-mode play-state timeline range-start range-end',
      ),
    ),
    'animation-range': words('animation-range-start animation-range-end'),
    background: each('background-*', words('color image position-x position-y size repeat attachment origin clip')),
    'background-position': each('background-position-*', words('x y')),
    border: [...borderSides, ...borderImage],
    ...Object.fromEntries(sides.map((side) => [`border-${side}`, each(`border-${side}-*`, borderParts)])),
    ...Object.fromEntries(borderParts.map((part) => [`border-${part}`, each(`border-*-${part}`, sides)])),
    'border-image': borderImage,
    'border-radius': each('border-*-radius', corners),
    'contain-intrinsic-size': words('contain-intrinsic-width contain-intrinsic-height'),
    'corner-shape': cornerShapes,
    ...Object.fromEntries(
      sides.map((side) => [`corner-${side}-shape`, cornerShapes.filter((name) => name.includes(side))]),
    ),
    'column-rule': each('column-rule-*', borderParts),
    columns: words('column-width column-count column-height column-wrap'),
    container: words('container-name container-type'),
    flex: words('flex-grow flex-shrink flex-basis'),
    'flex-flow': words('flex-direction flex-wrap'),
    font: [
      ...words('font-style font-weight font-stretch font-size line-height font-family font-size-adjust font-kerning'),
      ...words('font-feature-settings font-language-override font-optical-sizing font-variation-settings font-palette'),
      ...fontVariants,
    ],
    'font-variant': fontVariants,
    'font-synthesis': each('font-synthesis-*', words('weight style small-caps')),
    gap: words('row-gap column-gap'),
    grid: each('grid-*', words('template-rows template-columns template-areas auto-rows auto-columns auto-flow')),
    'grid-area': each('grid-*', words('row-start column-start row-end column-end')),
    'grid-column': words('grid-column-start grid-column-end'),
    'grid-row': words('grid-row-start grid-row-end'),
    'grid-template': each('grid-template-*', words('rows columns areas')),
    inset: sides,
    'interest-delay': words('interest-delay-start interest-delay-end'),
    'list-style': each('list-style-*', words('type position image')),
    margin: each('margin-*', sides),
    marker: words('marker-start marker-mid marker-end'),
    'mask-position': words('mask-position-x mask-position-y'),
    mask: each('mask-*', words('image position-x position-y size repeat origin clip composite mode border-source')),
    offset: each('offset-*', words('position path distance rotate anchor')),
    outline: each('outline-*', words('color style width')),
    overflow: words('overflow-x overflow-y'),
    'overscroll-behavior': words('overscroll-behavior-x overscroll-behavior-y'),
    padding: each('padding-*', sides),
    'place-content': words('align-content justify-content'),
    'place-items': words('align-items justify-items'),
    'place-self': words('align-self justify-self'),
    'position-try': words('position-try-order position-try-fallbacks'),
    'scroll-timeline': words('scroll-timeline-name scroll-timeline-axis'),
    'timeline-trigger': each('timeline-trigger-*', words('name source range range-start range-end')),
    'view-timeline': words('view-timeline-name view-timeline-axis view-timeline-inset'),
    'column-break-after': ['break-after'],
    'column-break-before': ['break-before'],
    'column-break-inside': ['break-inside'],
    'scroll-margin': each('scroll-margin-*', sides),
    'scroll-padding': each('scroll-padding-*', sides),
    'text-decoration': each('text-decoration-*', words('line style color thickness')),
    'text-emphasis': words('text-emphasis-style text-emphasis-color'),
    'text-wrap': words('text-wrap-mode text-wrap-style'),
    transition: each('transition-*', words('property duration timing-function delay behavior')),
    'white-space': words('white-space-collapse text-wrap-mode'),
    'text-box': words('text-box-trim text-box-edge'),
    'text-stroke': words('text-stroke-width text-stroke-color'),
    'page-break-after': ['break-after'],
    'page-break-before': ['break-before'],
    'page-break-inside': ['break-inside'],
    'word-wrap': ['overflow-wrap'],
    'grid-gap': words('row-gap column-gap'),
    'grid-row-gap': ['row-gap'],
    'grid-column-gap': ['column-gap'],
  }),
);

/** Properties that follow the writing direction, and the physical ones that they may turn out to be. */
const logical: readonly (readonly [RegExp, readonly string[]])[] = [
  [/^(margin|padding|scroll-margin|scroll-padding)-(?:inline|block)/, each('$-*', sides)],
  [/^(inset)-(?:inline|block)/, sides],
  [/^border-(?:inline|block)/, borderSides],
  [/^corner-(?:start|end|block|inline)-(?:start|end)-shape$/, cornerShapes],
  [/^border-(?:start|end)-(?:start|end)-radius$/, each('border-*-radius', corners)],
  [/^(min-|max-|)(?:inline|block)-size$/, ['$width', '$height']],
  [/^overflow-(?:inline|block)$/, words('overflow-x overflow-y')],
  [/^overscroll-behavior-(?:inline|block)$/, words('overscroll-behavior-x overscroll-behavior-y')],
  [/^contain-intrinsic-(?:inline|block)-size$/, words('contain-intrinsic-width contain-intrinsic-height')],
];

/** What `all` leaves alone (CSS Cascading Level 5, 3.2). */
const outsideAll = /^(?:direction|unicode-bidi|--.*)$/;

const known = new Map<string, PropertySet>();

function propertySet(property: string): PropertySet {
  const cached = known.get(property);
  if (cached !== undefined) return cached;
  const made = makeSet(property);
  known.set(property, made);
  return made;
}

function makeSet(property: string): PropertySet {
  if (property.startsWith('--')) return same([property]);
  const [prefix = ''] = PREFIX.exec(property) ?? [];
  const base = property.slice(prefix.length);
  const plain = makePlainSet(base);
  if (prefix === '') return plain;
  // A property with a prefix is one of its own: what knows one spelling need not know the other. It may be an alias.
  const own = (names: ReadonlySet<string>): Set<string> => new Set([...names].map((name) => prefix + name));
  const oldSide = OLD_SIDE.exec(base);
  const aliases = oldSide === null ? [] : makePlainSet(`${oldSide[1] ?? ''}-inline${oldSide[2] ?? ''}`).touches;
  return {
    sets: own(plain.sets),
    touches: new Set([...own(plain.touches), ...plain.touches, ...aliases]),
    leaves: own(plain.leaves),
  };
}

const PREFIX = /^-(?:webkit|moz|ms|o|khtml|epub|apple)-/;

/** `-webkit-margin-before` and the like: sides by their names of old. */
const OLD_SIDE = /^(margin|padding|border)-(?:before|after|start|end)(-\w+)?$/;

function makePlainSet(base: string): PropertySet {
  const list = shorthands.get(base) ?? [base];
  const match = logical
    .map(([pattern, physical]) => ({ found: pattern.exec(base), physical }))
    .find(({ found }) => found !== null);
  if (match === undefined) return same(list);
  const touched = match.physical.map((name) => name.replace('$', match.found?.[1] ?? ''));
  return { sets: new Set([base]), touches: new Set([base, ...touched]), leaves: new Set(touched) };
}

function same(names: readonly string[]): PropertySet {
  const set = new Set(names);
  return { sets: set, touches: set, leaves: set };
}

/** Whether two properties may have an effect in common. */
export function overlaps(a: string, b: string): boolean {
  if (a === b || isOpen(a) || isOpen(b)) return true;
  if (a === 'all' || b === 'all') return !outsideAll.test(a === 'all' ? b : a);
  const first = propertySet(a).touches;
  for (const name of propertySet(b).touches) if (first.has(name)) return true;
  return false;
}

/** Whether a template tag takes part in a property's name: it may be any. */
function isOpen(property: string): boolean {
  return property === '' || holdsTag(property);
}

/** Whether whatever `inner` does is done over by a later declaration of `outer`. */
export function covers(outer: string, inner: string): boolean {
  if (isOpen(outer) || isOpen(inner)) return false;
  if (outer === inner) return true;
  if (outer === 'all') return !outsideAll.test(inner);
  if (inner === 'all') return false;
  const { sets } = propertySet(outer);
  for (const name of propertySet(inner).leaves) if (!sets.has(name)) return false;
  return true;
}

/** Items by the properties they are about, so that each meets only those it may share an effect with. */
export class PropertyIndex<T> {
  readonly #byName = new Map<string, T[]>();
  /** Those that may share an effect with any. */
  readonly #wide: T[] = [];
  readonly #all: T[] = [];

  constructor(
    items: readonly T[],
    private readonly propertyOf: (item: T) => string,
  ) {
    for (const item of items) this.add(item);
  }

  add(item: T): void {
    const property = this.propertyOf(item);
    this.#all.push(item);
    if (property === 'all' || isOpen(property)) this.#wide.push(item);
    else for (const name of propertySet(property).touches) pushTo(this.#byName, name, item);
  }

  /** The items that overlap a property. */
  overlapping(property: string): T[] {
    if (property === 'all' || isOpen(property))
      return this.#all.filter((item) => overlaps(this.propertyOf(item), property));
    const found = new Set(this.#wide.filter((item) => overlaps(this.propertyOf(item), property)));
    for (const name of propertySet(property).touches) for (const item of this.#byName.get(name) ?? []) found.add(item);
    return [...found];
  }

  /** An item that covers a property; undefined where none does. */
  covering(property: string): T | undefined {
    const isCovering = (item: T): boolean => covers(this.propertyOf(item), property);
    if (property === 'all' || isOpen(property)) return this.#wide.find(isCovering);
    const [name = ''] = propertySet(property).leaves;
    return this.#byName.get(name)?.find(isCovering) ?? this.#wide.find(isCovering);
  }
}

function pushTo<T>(lists: Map<string, T[]>, name: string, item: T): void {
  const list = lists.get(name);
  if (list === undefined) lists.set(name, [item]);
  else list.push(item);
}
