import { conversionNote } from '../../findings/wording/conversions.js';
import type { Span } from '../../text/span.js';
import { neutralFieldName, type Dialect } from '../dialect.js';
import type { Expression } from '../../expressions/expression.js';
import { nameSource } from '../grammar.js';
import { patternReader, type Filling, type PatternReader } from '../pattern.js';
import { itemHas, type LoopItem } from '../shapes.js';

/** A block around a place, as far as it matters to names: the item of a loop, or the text that a block makes the item. */
export type NameScope =
  { readonly kind: 'item'; readonly item: LoopItem } | { readonly kind: 'value'; readonly value: Expression };

/** What reading names needs to know. */
export interface NameContext {
  readonly dialect: Dialect;
  readonly scopes: readonly NameScope[];
  /** Whether the project declares a field of the recipient with this name. */
  readonly isField: (name: string) => boolean;
  /** Whether the text itself shows that the recipient has this field. */
  readonly isShown: (name: string) => boolean;
}

/** A path in the neutral sense: its first name is that of a field, or of the item of a loop. */
export interface ReadPath {
  readonly expression: Expression;
  /** Set where the meaning is not certain: in words for a reader. */
  readonly assumption: string | null;
}

/** Reads a path as a dialect writes it. Null where it is none. */
export function readPath(text: string, span: Span, context: NameContext): ReadPath | null {
  const reader = new PathReader(context, span);
  const counter = reader.counter(text);
  if (counter !== null) return counter;
  switch (context.dialect.paths.lookup) {
    case 'named':
      return reader.named(text);
    case 'item':
      return reader.inItem(text, context.scopes);
    case 'outward':
      return reader.outward(text);
  }
}

/** The readers of a dialect's paths, made once. */
const readers = new WeakMap<Dialect, Map<string, PatternReader>>();

class PathReader {
  readonly #name: string;
  readonly #items: readonly LoopItem[];

  constructor(
    private readonly context: NameContext,
    private readonly span: Span,
  ) {
    this.#name = nameSource(context.dialect);
    this.#items = context.scopes.flatMap((scope) => (scope.kind === 'item' ? [scope.item] : []));
  }

  /** What the innermost loop knows of its item. */
  counter(text: string): ReadPath | null {
    const item = this.#items.at(-1);
    const { counters } = this.context.dialect.paths;
    const name = Object.entries(counters).find(([, patterns]) => patterns.includes(text.trim()))?.[0];
    if (item === undefined || name === undefined) return null;
    return { expression: { kind: 'path', segments: [item.name, `#${name}`], span: this.span }, assumption: null };
  }

  /** Names mean the item of a loop by its name, and else a field. */
  named(text: string): ReadPath | null {
    return this.ofNamedItem(text) ?? this.ofRecipient(text);
  }

  /** A name alone means a field of the innermost item. */
  inItem(text: string, scopes: readonly NameScope[]): ReadPath | null {
    const { paths } = this.context.dialect;
    const outer = this.match(paths.outer, text)?.get('path');
    if (outer !== undefined) return scopes.length === 0 ? null : this.inItem(outer.text, scopes.slice(0, -1));
    const whole = this.match(paths.field_in_loop, text)?.get('name');
    if (whole !== undefined) return this.path(this.segments(whole.text), null);
    const named = this.ofNamedItem(text);
    if (named !== null) return named;
    const innermost = scopes.findLast((scope) => scope.kind === 'item')?.item;
    if (innermost === undefined) return this.ofRecipient(text);
    const alone = this.matchesAnonymous(text);
    if (alone) return this.path([innermost.name], null);
    const field = this.fieldName(text);
    return field === null ? null : this.path([innermost.name, ...field], null);
  }

  /** A name means a field of the innermost item that has one of the name, and else one of the recipient. */
  outward(text: string): ReadPath | null {
    const { scopes } = this.context;
    if (this.matchesAnonymous(text)) {
      const innermost = scopes[scopes.length - 1];
      if (innermost === undefined) return null;
      return innermost.kind === 'item'
        ? this.path([innermost.item.name], null)
        : { expression: innermost.value, assumption: null };
    }
    const segments = this.fieldName(text);
    const [first] = segments ?? [];
    if (segments === null || first === undefined) return null;
    const around = this.#items.toReversed();
    const owner = around.find(({ shape }) => itemHas(shape, first) !== false);
    if (owner === undefined) return this.path(segments, null);
    if (itemHas(owner.shape, first) === true) return this.path([owner.name, ...segments], null);
    if (this.context.isField(first) || this.context.isShown(first)) return this.path(segments, null);
    return this.path([owner.name, ...segments], conversionNote.takenForItemField(first, owner.list));
  }

  private ofNamedItem(text: string): ReadPath | null {
    const { paths } = this.context.dialect;
    const isItem = (filling: Filling | undefined): filling is Filling =>
      filling !== undefined && this.#items.some(({ name }) => name === this.itemName(filling.text));
    for (const pattern of paths.item) {
      const fillings = this.match([pattern], text);
      const item = fillings?.get('item');
      const name = fillings?.get('name');
      if (isItem(item) && name !== undefined)
        return this.path([this.itemName(item.text), ...this.segments(name.text)], null);
    }
    const alone = this.match(
      paths.plain_item.filter((pattern) => pattern.includes('{item}')),
      text,
    )?.get('item');
    return isItem(alone) ? this.path([this.itemName(alone.text)], null) : null;
  }

  private itemName(written: string): string {
    return neutralFieldName(this.context.dialect, written);
  }

  private ofRecipient(text: string): ReadPath | null {
    const { paths } = this.context.dialect;
    const name = this.match(paths.field_in_loop, text)?.get('name');
    const segments = name === undefined ? this.fieldName(text) : this.segments(name.text);
    return segments === null ? null : this.path(segments, null);
  }

  /** The names of a field's path; null for a word that the language means something else by. */
  private fieldName(text: string): readonly string[] | null {
    const { names, paths } = this.context.dialect;
    if (names.quoted !== null) {
      const quoted = patternReader(names.quoted, { name: '[^\\]]+?' }).read(text)?.get('name');
      if (quoted !== undefined) return [neutralFieldName(this.context.dialect, quoted.text)];
    }
    for (const pattern of paths.field) {
      const name = this.match([pattern], text)?.get('name');
      if (name === undefined) continue;
      // Only a name that stands alone can be mistaken for a word of the language.
      if (pattern === '{name}' && names.reserved.includes(name.text.split('.')[0] ?? '')) continue;
      return this.segments(name.text);
    }
    return null;
  }

  /** The neutral names of a path; a dialect file may map a name to the beginning of a path (`contact.given_name`). */
  private segments(written: string): readonly string[] {
    const parts = written.split('.');
    const { fieldNames } = this.context.dialect;
    for (let length = parts.length; length > 1; length -= 1) {
      const beginning = parts.slice(0, length).join('.');
      const mapped = Object.entries(fieldNames).find(([, name]) => name === beginning)?.[0];
      if (mapped !== undefined) return [mapped, ...parts.slice(length)];
    }
    return written.split('.').map((segment) => neutralFieldName(this.context.dialect, segment));
  }

  private path(segments: readonly string[], assumption: string | null): ReadPath | null {
    const { properties } = this.context.dialect.names;
    if (segments.slice(1).some((segment) => properties.includes(segment))) return null;
    return { expression: { kind: 'path', segments, span: this.span }, assumption };
  }

  private matchesAnonymous(text: string): boolean {
    return this.context.dialect.paths.plain_item.some((pattern) => pattern === text.trim());
  }

  private match(patterns: readonly string[], text: string): ReadonlyMap<string, Filling> | null {
    const dotted = `${this.#name}(?:\\.${this.#name})*`;
    const { dialect } = this.context;
    const known = readers.get(dialect) ?? new Map<string, PatternReader>();
    readers.set(dialect, known);
    for (const pattern of patterns) {
      const reader =
        known.get(pattern) ?? patternReader(pattern, { name: dotted, item: this.#name, path: '[\\s\\S]+' });
      known.set(pattern, reader);
      const found = reader.read(text);
      if (found !== null) return found;
    }
    return null;
  }
}
