import type { Declared } from './cascade.js';
import { computedValue, computedValues, initialValue, type ComputedValue } from '../values/computed-value.js';
import { properties } from '../values/properties.js';
import type { Quantity } from '../values/value.js';

/**
 * What emitters have taken of what an author says for one element in one state. A value that inherits is taken from the
 * nearest element above that says it.
 */
export class TakenValues {
  // Of most elements nobody takes anything.
  #taken: Set<string> | null = null;
  #passed: Set<string> | null = null;

  /**
   * @param above those of the parent; null at the root
   * @param authored what the author says for the element itself
   */
  constructor(
    private readonly above: TakenValues | null,
    private readonly authored: ReadonlyMap<string, Declared>,
  ) {}

  take(property: string): void {
    if (this.authored.has(property)) {
      (this.#taken ??= new Set()).add(property);
    } else if (this.#passed?.has(property) !== true && properties.get(property)?.inherited === true) {
      (this.#passed ??= new Set()).add(property);
      this.above?.take(property);
    }
  }

  has(property: string): boolean {
    return this.#taken?.has(property) === true;
  }
}

/** Values that are said anew: lengths in px as numbers, all else as text. */
export type NewValues = ReadonlyMap<string, string | number>;

/** The computed value of each longhand in `properties`; absent means initial. Lengths are in px, and read once. */
export class ComputedStyle {
  /**
   * @param own the values of the element itself
   * @param inheritedValues those that it has from above, and that its own children have from it
   * @param authored the author's declarations that its own values come from
   * @param takenValues which of them an emitter has taken
   */
  constructor(
    private readonly own: ReadonlyMap<string, ComputedValue>,
    private readonly inheritedValues: ReadonlyMap<string, ComputedValue>,
    private readonly authored: ReadonlyMap<string, Declared>,
    private readonly takenValues: TakenValues,
  ) {}

  /** The computed value of a property, to look at: to write what it does is to `take` it. */
  get(property: string): string {
    return this.value(property).text;
  }

  /** The computed value of a property with the number that it is, to look at. */
  value(property: string): ComputedValue {
    return this.own.get(property) ?? this.inheritedValues.get(property) ?? initialValue(property);
  }

  /** A number, a share or a length, to look at; null where the value is no such thing. */
  quantity(property: string): Quantity | null {
    return this.value(property).quantity;
  }

  /** A length in px, to look at; null where the value is none. */
  pixels(property: string): number | null {
    return this.value(property).pixels;
  }

  /** A length in px, where shares are of `whole`; null where the value is neither. */
  pixelsWithin(property: string, whole: number): number | null {
    const { quantity, pixels } = this.value(property);
    return quantity?.unit === '%' ? (quantity.number * whole) / 100 : pixels;
  }

  /** The computed value of a property, for an emitter that writes what it does. */
  take(property: string): string {
    this.takenValues.take(property);
    return this.get(property);
  }

  /** The same as `value`, for an emitter that writes what it does. */
  takeValue(property: string): ComputedValue {
    this.takenValues.take(property);
    return this.value(property);
  }

  /** The same as `pixels`, for an emitter that writes what it does. */
  takePixels(property: string): number | null {
    return this.takeValue(property).pixels;
  }

  /** The same as `pixelsWithin`, for an emitter that writes what it does. */
  takePixelsWithin(property: string, whole: number): number | null {
    this.takenValues.take(property);
    return this.pixelsWithin(property, whole);
  }

  /** Whether an emitter has taken what the author says of a property for this very element. */
  isTaken(property: string): boolean {
    return this.takenValues.has(property);
  }

  /** True where the author (not the browser) says something about the property for this very element. */
  isAuthored(property: string): boolean {
    return this.authored.has(property);
  }

  /** The author's declaration that a property's value comes from; null where it comes from elsewhere. */
  declaredBy(property: string): Declared | null {
    return this.authored.get(property) ?? null;
  }

  /** The same with other values of some properties, which come from the same declarations. */
  with(values: NewValues): ComputedStyle {
    return new ComputedStyle(
      new Map([...this.own, ...computedValues(values)]),
      this.inheritedValues,
      this.authored,
      this.takenValues,
    );
  }

  /** The properties that the author says something about for this very element. */
  authoredProperties(): Iterable<string> {
    return this.authored.keys();
  }

  /** The style of a box around this element's, without an element: what inherits, and what is said to its container. */
  wrapper(): ComputedStyle {
    const kept = [...this.own].filter(
      ([property, { text }]) => flexItemProperties.has(property) || (property === 'display' && text === 'none'),
    );
    return new ComputedStyle(
      new Map([...kept, ['display', computedValue(this.get('display') === 'none' ? 'none' : 'block')]]),
      this.inheritedValues,
      new Map(),
      this.takenValues,
    );
  }

  /** The same as `wrapper`, with values of its own, which come from the same declarations. */
  frame(values: readonly (readonly [property: string, value: string | number])[]): ComputedStyle {
    const around = this.wrapper();
    return new ComputedStyle(
      new Map([...around.own, ...computedValues(values)]),
      this.inheritedValues,
      this.authored,
      this.takenValues,
    );
  }

  /** The style of a box without an element inside this one: what inherits, the lines of its text, and initial values. */
  anonymous(): ComputedStyle {
    const lines = this.take('text-decoration');
    const own = computedValues([
      ['display', 'block'],
      ...(lines === 'none' ? [] : [['text-decoration', lines] as const]),
    ]);
    return new ComputedStyle(own, this.inheritedValues, new Map(), this.takenValues);
  }
}

/** What an element says to the flex or grid container around it. */
const flexItemProperties: ReadonlySet<string> = new Set([
  'flex-grow',
  'flex-shrink',
  'flex-basis',
  'align-self',
  'order',
  'grid-column',
  'grid-row',
  'grid-area',
  'justify-self',
]);
