import { finding, type Report } from '../finding.js';
import type { SourceText } from '../text/source-text.js';
import { spanAt, type Span } from '../text/span.js';
import { neutralFieldName, type Dialect, type TagConstruct } from './dialect.js';
import type { ComparisonOperator, Expression } from './expression.js';
import type { MergeTag } from './model.js';
import { patternReader, type Filling, type PatternReader } from './pattern.js';

type Fillings = ReadonlyMap<string, Filling>;

/**
 * Reads the tags of a text that is written in a dialect. A tag that the dialect's delimiters mark and its patterns do not
 * know is reported, as a recipient would read it; it is `broken` in the list.
 * @param spans of the tags, as `findTags` finds them by the dialect's delimiters
 */
export function readDialectTags(
  source: SourceText,
  spans: readonly Span[],
  dialect: Dialect,
  report: Report,
): MergeTag[] {
  const reader = new DialectReader(dialect);
  return spans.map((span) => {
    const tag = reader.read(source, span);
    if (tag !== null) return tag;
    const place = { source, span };
    report(finding('tag-unknown', place, { tag: source.slice(span), dialect: dialect.title }));
    return { kind: 'broken', place };
  });
}

const NAME = '[\\p{L}_][\\p{L}\\d_-]*';

const comparisons: readonly (readonly [string, ComparisonOperator])[] = [
  ['unequal', '!='],
  ['at_most', '<='],
  ['at_least', '>='],
  ['equal', '=='],
  ['less', '<'],
  ['more', '>'],
];

class DialectReader {
  readonly #readers = new Map<string, PatternReader>();
  /** The items of the loops around, the innermost last, and for each open block whether it is a loop. */
  readonly #items: string[] = [];
  readonly #blocks: boolean[] = [];

  constructor(private readonly dialect: Dialect) {}

  read(source: SourceText, span: Span): MergeTag | null {
    const text = source.slice(span);
    const at = (filling: Filling): Span => spanAt(span.start + filling.start, filling.text.length);
    const place = { source, span };
    const { tags } = this.dialect;
    const match = (construct: TagConstruct): Fillings | null => {
      const pattern = tags[construct];
      return pattern === undefined ? null : this.readerOf(pattern).read(text);
    };
    if (match('else') !== null) return { kind: 'else', place };
    if (match('end_if') !== null || match('end_each') !== null) {
      if (this.#blocks.pop() === true) this.#items.pop();
      return { kind: 'end', place };
    }
    const system = Object.entries(this.dialect.system).find(
      ([, pattern]) => this.readerOf(pattern).read(text) !== null,
    );
    if (system !== undefined)
      return { kind: 'output', value: { kind: 'path', segments: system[0].split('.'), span }, raw: false, place };
    const elseIf = match('else_if')?.get('condition');
    if (elseIf !== undefined) return this.conditional('else-if', elseIf, at(elseIf), place);
    const condition = match('if')?.get('condition');
    if (condition !== undefined) {
      this.#blocks.push(false);
      return this.conditional('if', condition, at(condition), place);
    }
    return this.loop(match('each'), at, place) ?? this.commentOrValue(text, match, at, place);
  }

  private conditional(kind: 'if' | 'else-if', filling: Filling, span: Span, place: MergeTag['place']): MergeTag | null {
    const condition = this.condition(filling.text, span.start);
    return condition === null ? null : { kind, condition, place };
  }

  private loop(fillings: Fillings | null, at: (filling: Filling) => Span, place: MergeTag['place']): MergeTag | null {
    const list = fillings?.get('list');
    const item = fillings?.get('item');
    if (list === undefined || item === undefined) return null;
    const path = this.path(list.text, at(list));
    if (path === null) return null;
    const name = neutralFieldName(this.dialect, item.text);
    this.#blocks.push(true);
    this.#items.push(name);
    return { kind: 'each', list: path, item: name, place };
  }

  private commentOrValue(
    text: string,
    match: (construct: TagConstruct) => Fillings | null,
    at: (filling: Filling) => Span,
    place: MergeTag['place'],
  ): MergeTag | null {
    const comment = match('comment')?.get('text');
    if (comment !== undefined) return { kind: 'comment', text: comment.text.trim(), place };
    const raw = match('raw')?.get('field');
    const rawPath = raw === undefined ? null : this.path(raw.text, at(raw));
    if (rawPath !== null) return { kind: 'output', value: rawPath, raw: true, place };
    const value = this.filtered(text, at) ?? this.fallback(match('fallback'), at) ?? this.plain(match('field'), at);
    return value === null ? null : { kind: 'output', value, raw: false, place };
  }

  private filtered(text: string, at: (filling: Filling) => Span): Expression | null {
    for (const [name, pattern] of Object.entries(this.dialect.filters)) {
      const fillings = this.readerOf(pattern).read(text);
      const field = fillings?.get('field');
      const value = field === undefined ? null : this.path(field.text, at(field));
      if (value === null) continue;
      const format = fillings?.get('format');
      const parameter: Expression | null =
        format === undefined ? null : { kind: 'text', value: format.text, span: at(format) };
      return { kind: 'filter', value, name, parameter, span: value.span };
    }
    return null;
  }

  private fallback(fillings: Fillings | null, at: (filling: Filling) => Span): Expression | null {
    const field = fillings?.get('field');
    const text = fillings?.get('text');
    const value = field === undefined ? null : this.path(field.text, at(field));
    if (value === null || text === undefined) return null;
    const otherwise: Expression = { kind: 'text', value: text.text, span: at(text) };
    return { kind: 'fallback', value, otherwise, span: value.span };
  }

  private plain(fillings: Fillings | null, at: (filling: Filling) => Span): Expression | null {
    const field = fillings?.get('field');
    return field === undefined ? null : this.path(field.text, at(field));
  }

  private readerOf(pattern: string): PatternReader {
    const known = this.#readers.get(pattern);
    if (known !== undefined) return known;
    const { paths } = this.dialect;
    const path = [paths.field, paths.item, paths.plain_item]
      .map((one) => one.replace(/[.*+?^$()|[\]\\]/g, '\\$&').replace(/\{\w+\}/g, NAME))
      .join('|');
    const reader = patternReader(pattern, {
      field: path,
      list: path,
      item: NAME,
      text: '[\\s\\S]*?',
      format: '[\\s\\S]*?',
    });
    this.#readers.set(pattern, reader);
    return reader;
  }

  private path(text: string, span: Span): Expression | null {
    const { paths } = this.dialect;
    const neutral = (filling: Filling | undefined): string => neutralFieldName(this.dialect, filling?.text ?? '');
    const holes = { name: NAME, item: NAME };
    const ofItem = patternReader(paths.item, holes).read(text);
    if (ofItem !== null && this.#items.includes(neutral(ofItem.get('item'))))
      return { kind: 'path', segments: [neutral(ofItem.get('item')), neutral(ofItem.get('name'))], span };
    const item = patternReader(paths.plain_item, holes).read(text);
    if (item !== null && this.#items.includes(neutral(item.get('item'))))
      return { kind: 'path', segments: [neutral(item.get('item'))], span };
    const field = patternReader(paths.field, holes).read(text);
    if (field !== null) return { kind: 'path', segments: [neutral(field.get('name'))], span };
    return null;
  }

  /** A condition, loosest connection first; what stands in quotes connects nothing. */
  private condition(text: string, start: number): Expression | null {
    const span = spanAt(start, text.length);
    const parts = (name: string): readonly [Filling, Filling] | null => this.split(name, text);
    for (const [name, kind] of [
      ['or', 'either'],
      ['and', 'both'],
    ] as const) {
      const found = parts(name);
      if (found === null) continue;
      const left = this.condition(found[0].text, start + found[0].start);
      const right = this.condition(found[1].text, start + found[1].start);
      if (left !== null && right !== null) return { kind, left, right, span };
    }
    const negated = this.hole('not', text);
    if (negated !== null) {
      const value = this.condition(negated.text, start + negated.start);
      if (value !== null) return { kind: 'not', value, span };
    }
    for (const [name, operator] of comparisons) {
      const found = parts(name);
      if (found === null) continue;
      const left = this.operand(found[0], start);
      const right = this.operand(found[1], start);
      if (left !== null && right !== null) return { kind: 'comparison', operator, left, right, span };
    }
    const present = this.hole('present', text);
    return present === null ? null : this.operand(present, start);
  }

  private hole(name: string, text: string): Filling | null {
    const pattern = Object.hasOwn(this.dialect.conditions, name) ? this.dialect.conditions[name] : undefined;
    return pattern === undefined ? null : (patternReader(pattern, {}).read(text)?.get('left') ?? null);
  }

  private split(name: string, text: string): readonly [Filling, Filling] | null {
    const pattern = Object.hasOwn(this.dialect.conditions, name) ? this.dialect.conditions[name] : undefined;
    if (pattern === undefined) return null;
    const masked = text.replace(/"[^"]*"|'[^']*'/g, (quoted) => '_'.repeat(quoted.length));
    const found = patternReader(pattern, { left: '[\\s\\S]+' }).read(masked);
    const left = found?.get('left');
    const right = found?.get('right');
    if (left === undefined || right === undefined) return null;
    const whole = ({ start, text: part }: Filling): Filling => ({
      start,
      text: text.slice(start, start + part.length),
    });
    return [whole(left), whole(right)];
  }

  private operand({ text, start }: Filling, offset: number): Expression | null {
    const span = spanAt(offset + start, text.length);
    const written = text.trim();
    if (/^-?\d+(?:\.\d+)?$/.test(written)) return { kind: 'number', written, span };
    const quoted = this.dialect.conditions['text'];
    const words =
      quoted === undefined ? undefined : patternReader(quoted, { text: '[^"\']*' }).read(written)?.get('text');
    if (words !== undefined) return { kind: 'text', value: words.text, span };
    const path = this.dialect.conditions['path'] ?? '{field}';
    const field = this.readerOf(path).read(written)?.get('field');
    return field === undefined ? null : this.path(field.text, span);
  }
}
