import { finding, type Report } from '../finding.js';
import { platformFieldName, type Dialect, type TagConstruct } from './dialect.js';
import type { Expression } from './expression.js';
import { systemValues, type MergeTag } from './model.js';
import { writePattern as fill } from './pattern.js';

/** How well a tag could be said: as it is, in other words, or not. */
export type TagVerdict = 'exact' | 'rewritten' | 'loss';

/** Where in the HTML a tag is written; quotes must not end an attribute. */
export type TagContext = 'text' | 'attribute';

/** Merge tags, ready to be written in one dialect. */
export interface TagTexts {
  /** The text of the tag with this number. */
  readonly write: (index: number, context: TagContext) => string;
  readonly verdict: (index: number) => TagVerdict;
}

/**
 * Writes neutral tags in a dialect. What the dialect cannot say is reported, once for each tag, and is written as
 * nothing: never as a tag that a reader would see.
 */
export function tagsInDialect(tags: readonly MergeTag[], dialect: Dialect, report: Report): TagTexts {
  const closers = closingConstructs(tags);
  const items = itemsAround(tags);
  const openings = openingsOf(tags);
  const verdicts: TagVerdict[] = [];
  const texts = tags.map((tag, index) => {
    // What belongs to a block that cannot be said is lost with its opening, which has been reported.
    if (verdicts[openings[index] ?? -1] === 'loss') {
      verdicts.push('loss');
      return '';
    }
    const writer = new TagWriter(dialect, tag, items[index] ?? [], report);
    const text = writer.write(closers.get(index) ?? 'end_if');
    verdicts.push(writer.verdict);
    return text;
  });
  return {
    write: (index, context) => inContext(texts[index] ?? '', context),
    verdict: (index) => verdicts[index] ?? 'exact',
  };
}

/** In an attribute (which we write in double quotes) a tag's own quotes become single ones. */
function inContext(text: string, context: TagContext): string {
  return context === 'text' ? text : withinQuotes(text, '"');
}

/** A tag for the value of an attribute: its own quotes do not end the value. */
export function withinQuotes(text: string, quote: string): string {
  if (quote === '' || !text.includes(quote)) return text;
  const other = quote === '"' ? "'" : '"';
  return text.replaceAll(quote, text.includes(other) ? `&#${quote.charCodeAt(0)};` : other);
}

/** For each `end` which construct it closes. */
function closingConstructs(tags: readonly MergeTag[]): Map<number, TagConstruct> {
  const closers = new Map<number, TagConstruct>();
  const open: TagConstruct[] = [];
  tags.forEach((tag, index) => {
    if (tag.kind === 'if') open.push('end_if');
    if (tag.kind === 'each') open.push('end_each');
    if (tag.kind === 'end') closers.set(index, open.pop() ?? 'end_if');
  });
  return closers;
}

/** For each tag that divides or ends a block the number of the tag that opens it; null for all others. */
function openingsOf(tags: readonly MergeTag[]): (number | null)[] {
  const open: number[] = [];
  return tags.map((tag, index) => {
    if (tag.kind === 'else' || tag.kind === 'else-if') return open[open.length - 1] ?? null;
    if (tag.kind === 'end') return open.pop() ?? null;
    if (tag.kind === 'if' || tag.kind === 'each') open.push(index);
    return null;
  });
}

/** For each tag the items of the loops around it. */
function itemsAround(tags: readonly MergeTag[]): (readonly string[])[] {
  const blocks: (string | null)[] = [];
  return tags.map((tag) => {
    const items = blocks.filter((item) => item !== null);
    if (tag.kind === 'if') blocks.push(null);
    if (tag.kind === 'each') blocks.push(tag.item);
    if (tag.kind === 'end') blocks.pop();
    return items;
  });
}

/** A construct that a dialect lacks. */
class Loss extends Error {
  constructor(
    readonly what: string,
    readonly advice: string,
  ) {
    super(what);
  }
}

class TagWriter {
  verdict: TagVerdict = 'exact';

  constructor(
    private readonly dialect: Dialect,
    private readonly tag: MergeTag,
    private readonly items: readonly string[],
    private readonly report: Report,
  ) {}

  write(closer: TagConstruct): string {
    try {
      return this.text(closer);
    } catch (error) {
      if (!(error instanceof Loss)) throw error;
      this.verdict = 'loss';
      this.report(
        finding('merge-loss', this.tag.place, { dialect: this.dialect.name, what: error.what, advice: error.advice }),
      );
      return '';
    }
  }

  private text(closer: TagConstruct): string {
    const { tag } = this;
    switch (tag.kind) {
      case 'output':
        return this.output(tag.value, tag.raw);
      case 'if':
        return fill(this.pattern('if', 'conditions'), { condition: this.condition(tag.condition) });
      case 'else-if':
        return fill(this.pattern('else_if', '"else if"'), { condition: this.condition(tag.condition) });
      case 'else':
        return this.pattern('else', '"else"');
      case 'end':
        return this.pattern(closer, 'the end of a block');
      case 'each':
        return fill(this.pattern('each', 'loops'), {
          list: this.path(tag.list),
          item: platformFieldName(this.dialect, tag.item),
        });
      case 'comment':
        return this.dialect.tags.comment === undefined ? '' : fill(this.dialect.tags.comment, { text: tag.text });
      case 'literal':
        return '@{';
      case 'broken':
        return '';
    }
  }

  private pattern(construct: TagConstruct, what: string): string {
    const pattern = this.dialect.tags[construct];
    if (pattern === undefined) throw new Loss(what, 'Say it without, or send it to a destination whose dialect can.');
    return pattern;
  }

  private output(value: Expression, raw: boolean): string {
    if (raw) return fill(this.pattern('raw', 'a value as HTML (not escaped)'), { field: this.path(value) });
    switch (value.kind) {
      case 'text':
        return value.value;
      case 'number':
        return value.written;
      case 'path':
        return this.system(value) ?? fill(this.pattern('field', 'fields'), { field: this.path(value) });
      case 'fallback':
        return this.fallback(value);
      case 'filter':
        return this.filter(value);
      default:
        throw new Loss('this expression', 'Print a field, with a fallback or a filter.');
    }
  }

  /** A dialect that has no fallbacks may have conditions, which say the same. */
  private fallback({ value, otherwise }: Extract<Expression, { kind: 'fallback' }>): string {
    const { tags, conditions } = this.dialect;
    const text = this.plainText(otherwise);
    if (tags.fallback !== undefined)
      return fill(tags.fallback, { field: this.path(value), text: this.fitting(text, tags.fallback, '{text}') });
    const canChoose = tags.if !== undefined && tags.else !== undefined && tags.end_if !== undefined;
    if (!canChoose || conditions['present'] === undefined)
      throw new Loss('a fallback', 'Print the field without it, or send it to a destination whose dialect has one.');
    if (/[&<>]/.test(text)) throw new Loss('a fallback that holds &, < or >', 'Say it in other words.');
    this.verdict = 'rewritten';
    const opening = fill(tags.if ?? '', { condition: this.condition(value) });
    return `${opening}${this.output(value, false)}${tags.else ?? ''}${text}${tags.end_if ?? ''}`;
  }

  private system(value: Expression & { kind: 'path' }): string | null {
    const name = value.segments.join('.');
    if (!systemValues.has(name)) return null;
    const pattern = Object.hasOwn(this.dialect.system, name) ? this.dialect.system[name] : undefined;
    if (pattern === undefined)
      throw new Loss(systemValues.get(name) ?? name, 'Write the value itself, or leave it out.');
    return pattern;
  }

  private filter(value: Expression & { kind: 'filter' }): string {
    const pattern = Object.hasOwn(this.dialect.filters, value.name) ? this.dialect.filters[value.name] : undefined;
    if (pattern === undefined) throw new Loss(`the filter "${value.name}"`, 'Print the field without it.');
    return fill(pattern, {
      field: this.path(value.value),
      format: value.parameter === null ? '' : this.fitting(this.plainText(value.parameter), pattern, '{format}'),
    });
  }

  private condition(expression: Expression): string {
    switch (expression.kind) {
      case 'path':
        return fill(this.conditionPattern('present', 'whether a field is filled'), { left: this.operand(expression) });
      case 'given':
        // No dialect tells what is there from what is filled.
        this.verdict = 'rewritten';
        return this.condition(expression.value);
      case 'not':
        return fill(this.conditionPattern('not', '"not"'), {
          left: this.conditionWithin(expression.value, ['both', 'either']),
        });
      case 'both':
      case 'either': {
        const name = expression.kind === 'both' ? 'and' : 'or';
        const looser: readonly Expression['kind'][] = expression.kind === 'both' ? ['either'] : [];
        return fill(this.conditionPattern(name, `"${name}"`), {
          left: this.conditionWithin(expression.left, looser),
          right: this.conditionWithin(expression.right, looser),
        });
      }
      case 'comparison': {
        const names = {
          '==': 'equal',
          '!=': 'unequal',
          '<': 'less',
          '<=': 'at_most',
          '>': 'more',
          '>=': 'at_least',
        } as const;
        const pattern = this.conditionPattern(names[expression.operator], `the comparison "${expression.operator}"`);
        return fill(pattern, { left: this.operand(expression.left), right: this.operand(expression.right) });
      }
      default:
        throw new Loss('this condition', 'Test a field, or compare it with a text or a number.');
    }
  }

  /** A condition within another; without parentheses, which dialects do not describe, a looser one would mean something else. */
  private conditionWithin(expression: Expression, looser: readonly Expression['kind'][]): string {
    if (looser.includes(expression.kind))
      throw new Loss('parentheses in a condition', 'Write one condition within the other, as two blocks.');
    return this.condition(expression);
  }

  private conditionPattern(name: string, what: string): string {
    const pattern = Object.hasOwn(this.dialect.conditions, name) ? this.dialect.conditions[name] : undefined;
    if (pattern === undefined) throw new Loss(what, 'Say it without, or send it to a destination whose dialect can.');
    return pattern;
  }

  private operand(expression: Expression): string {
    if (expression.kind === 'path')
      return fill(this.conditionPattern('path', 'fields in conditions'), { field: this.path(expression) });
    if (expression.kind === 'number') return expression.written;
    if (expression.kind === 'text') {
      if (expression.value.includes('"'))
        throw new Loss('a text with a double quote in a condition', 'Compare with a text without it.');
      return fill(this.conditionPattern('text', 'texts in conditions'), { text: expression.value });
    }
    throw new Loss('this condition', 'Test a field, or compare it with a text or a number.');
  }

  private path(expression: Expression): string {
    if (expression.kind !== 'path') throw new Loss('this expression', 'Print a field, with a fallback or a filter.');
    const [first = '', ...rest] = expression.segments;
    const { paths } = this.dialect;
    const names = rest.map((segment) => platformFieldName(this.dialect, segment));
    const own = platformFieldName(this.dialect, first);
    if (!this.items.includes(first)) return fill(paths.field, { name: [own, ...names].join('.') });
    return names.length === 0
      ? fill(paths.plain_item, { item: own })
      : fill(paths.item, { item: own, name: names.join('.') });
  }

  /** A text within a tag may not end the tag, nor the quotes around it. */
  private fitting(text: string, pattern: string, hole: string): string {
    const quote = pattern[pattern.indexOf(hole) - 1] ?? '';
    const ends = this.dialect.delimiters.flatMap(({ open, close }) => [open.trim(), close]);
    const found = [...ends, ...(/["']/.test(quote) ? [quote] : [])].find((end) => text.includes(end));
    if (found !== undefined) throw new Loss(`a text that holds ${found}`, 'Say it in other words.');
    return text;
  }

  private plainText(expression: Expression): string {
    if (expression.kind === 'text') return expression.value;
    if (expression.kind === 'number') return expression.written;
    throw new Loss('a fallback that is not a plain text', 'Write the text itself after ??.');
  }
}

/** Writes tags as they stand in the source: the neutral notation itself. */
export function tagsAsWritten(tags: readonly MergeTag[]): TagTexts {
  return { write: (index, context) => inContext(writtenTag(tags[index]), context), verdict: () => 'exact' };
}

function writtenTag(tag: MergeTag | undefined): string {
  return tag === undefined ? '' : tag.place.source.slice(tag.place.span);
}
