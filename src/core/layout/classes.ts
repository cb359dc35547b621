import type { Style } from './output.js';
import type { WidthState } from './states.js';

/** What undoes a declaration that a narrower state does not have. */
const resets: ReadonlyMap<string, string> = new Map([
  ['padding', '0'],
  ['margin', '0'],
  ['width', 'auto'],
  ['max-width', 'none'],
  ['height', 'auto'],
  ['font-size', '0'],
  ['line-height', '0'],
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

  constructor(private readonly states: readonly WidthState[]) {
    this.#rules = states.map(() => []);
  }

  /** The class for an element's styles; null where all states agree. */
  classFor(styles: readonly Style[]): string | null {
    const deltas = styles.map((style, state) =>
      state === 0 ? '' : declarations(difference(styles[state - 1] ?? new Map(), style)),
    );
    if (deltas.every((delta) => delta === '')) return null;
    const key = JSON.stringify(deltas);
    const known = this.#names.get(key);
    if (known !== undefined) return known;
    const name = `i${this.#names.size + 1}`;
    this.#names.set(key, name);
    deltas.forEach((delta, state) => {
      if (delta !== '') this.#rules[state]?.push(`.${name}{${delta}}`);
    });
    return name;
  }

  /** The style sheet for the head; empty where no state differs. */
  styleSheet(): string {
    return this.states
      .flatMap(({ maxWidth }, state) => {
        const rules = this.#rules[state] ?? [];
        return rules.length === 0 || maxWidth === null ? [] : [`@media (max-width:${maxWidth}px){${rules.join('')}}`];
      })
      .join('\n');
  }
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
  const value = resets.get(property);
  if (value === undefined) throw new Error(`No value undoes "${property}"; each state has to say it.`);
  return value;
}

function declarations(entries: readonly (readonly [string, string])[]): string {
  return entries.map(([property, value]) => `${property}:${value}!important`).join(';');
}
