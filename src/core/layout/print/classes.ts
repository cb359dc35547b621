import type { Style } from './output.js';
import type { PartRule } from './parts.js';
import type { WidthState } from '../boxes/states.js';
import type { Variant } from '../boxes/variants.js';

/** What undoes a declaration that a narrower state does not have, so that every client with media queries takes it. */
const resets: ReadonlyMap<string, string> = new Map([
  ['padding', '0'],
  ['margin', '0'],
  ['width', 'auto'],
  ['min-width', '0'],
  ['max-width', 'none'],
  ['height', 'auto'],
  ['font-size', '0'],
  ['line-height', '0'],
  ['background-color', 'transparent'],
  ['background-image', 'none'],
  ['border', '0'],
  ['border-top', '0'],
  ['border-right', '0'],
  ['border-bottom', '0'],
  ['border-left', '0'],
  ['border-radius', '0'],
  ['text-decoration', 'none'],
  ['overflow', 'visible'],
  ['animation', 'none'],
]);

/** Declarations that only the `word` engine reads never go into classes: it has but one state. */
const isWordOnly = (property: string): boolean => property.startsWith('mso-');

/**
 * Collects the differences between states as short classes: one class for each distinct set of differences.
 * The rules of a state are written under `max-width`, widest first, so that a narrower state only says what it changes.
 */
export class ClassBook {
  readonly #names = new Map<string, string>();
  readonly #rules: string[][];

  readonly #variantRules: string[][][];
  readonly #partRules: string[] = [];

  constructor(
    private readonly states: readonly WidthState[],
    private readonly variants: readonly Variant[] = [],
  ) {
    this.#rules = states.map(() => []);
    this.#variantRules = variants.map(() => states.map(() => []));
  }

  /**
   * The class for an element's styles; null where all states agree.
   * @param others its styles in each variant
   * @param parts what rules say of parts of it
   */
  classFor(
    styles: readonly Style[],
    others: readonly (readonly Style[])[] = [],
    parts: readonly PartRule[] = [],
  ): string | null {
    const deltas = styles.map((style, state) =>
      state === 0 ? '' : declarations(difference(styles[state - 1] ?? new Map(), style)),
    );
    const variantDeltas = others.map((other) => variantDifferences(styles, other));
    const key = JSON.stringify([deltas, variantDeltas, parts]);
    if (
      parts.length === 0 &&
      deltas.every((delta) => delta === '') &&
      variantDeltas.flat().every((delta) => delta === '')
    )
      return null;
    const known = this.#names.get(key);
    if (known !== undefined) return known;
    const name = `i${this.#names.size + 1}`;
    this.#names.set(key, name);
    deltas.forEach((delta, state) => {
      if (delta !== '') this.#rules[state]?.push(`.${name}{${delta}}`);
    });
    variantDeltas.forEach((ofStates, variant) =>
      ofStates.forEach((delta, state) => {
        const pseudoClass = this.variants[variant]?.hover === true ? ':hover' : '';
        if (delta !== '') this.#variantRules[variant]?.[state]?.push(`.${name}${pseudoClass}{${delta}}`);
      }),
    );
    for (const { part, conditions, declarations: said } of parts)
      this.#partRules.push(
        conditions.reduceRight((text, condition) => `${condition}{${text}}`, `.${name}${part}{${said}}`),
      );
    return name;
  }

  /** The style sheet for the head; empty where no state differs. */
  styleSheet(): string {
    const byWidth = this.states.flatMap(({ maxWidth }, state) => {
      const rules = this.#rules[state] ?? [];
      return rules.length === 0 || maxWidth === null ? [] : [`@media (max-width:${maxWidth}px){${rules.join('')}}`];
    });
    const byVariant = this.variants.flatMap((variant, index) =>
      this.states.flatMap(({ maxWidth }, state) => {
        const rules = this.#variantRules[index]?.[state] ?? [];
        return rules.length === 0 ? [] : [under(variant, maxWidth, rules.join(''))];
      }),
    );
    return [...this.#partRules, ...byWidth, ...byVariant].join('\n');
  }
}

/** Rules under a variant's conditions and a width, in one media query where there is one already. */
function under({ conditions }: Variant, maxWidth: number | null, rules: string): string {
  const media = conditions.filter((condition) => condition.startsWith('@media ')).map((text) => text.slice(7));
  const others = conditions.filter((condition) => !condition.startsWith('@media '));
  const width = maxWidth === null ? [] : [`(max-width:${maxWidth}px)`];
  // A list of queries takes the width in each of its members.
  const queries = media.reduce<string[]>(
    (lists, text) => lists.flatMap((list) => text.split(',').map((query) => join(list, query.trim()))),
    [''],
  );
  const whole = queries.map((query) => [query, ...width].filter((part) => part !== '').join(' and ')).join(',');
  const inner = whole === '' ? rules : `@media ${whole}{${rules}}`;
  return others.reduceRight((text, condition) => `${condition}{${text}}`, inner);
}

function join(list: string, query: string): string {
  return list === '' ? query : `${list} and ${query}`;
}

/**
 * What a variant says in each state over what holds otherwise. A property that the variant said for wider windows has to
 * be said again where it changes, as its rules come last.
 */
function variantDifferences(styles: readonly Style[], other: readonly Style[]): string[] {
  const said = new Map<string, string>();
  return other.map((wanted, state) => {
    const present = new Map([...(styles[state] ?? new Map<string, string>()), ...said]);
    const changes = difference(present, wanted);
    for (const [property, value] of changes) said.set(property, value);
    return declarations(changes);
  });
}

function difference(wider: Style, narrower: Style): [string, string][] {
  const changed = [...narrower].filter(([property, value]) => wider.get(property) !== value);
  const gone = [...wider.keys()]
    .filter((property) => !narrower.has(property))
    .map((property): [string, string] => [property, resetOf(property)]);
  return [...changed, ...gone].filter(([property]) => !isWordOnly(property));
}

function resetOf(property: string): string {
  if (isWordOnly(property)) return '';
  // What is not said has the browser's own value, or the inherited one (CSS Cascading Level 5, 7.3.4).
  return resets.get(property) ?? 'revert';
}

function declarations(entries: readonly (readonly [string, string])[]): string {
  return entries.map(([property, value]) => `${property}:${value}!important`).join(';');
}
