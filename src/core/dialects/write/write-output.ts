import { losses } from '../../findings/wording/losses.js';
import { patternOf } from '../dialect.js';
import type { Expression } from '../../expressions/expression.js';
import { formatFromLdml } from '../date-format.js';
import { systemValues } from '../model.js';
import { writePattern } from '../pattern.js';
import type { ExpressionWriter } from './write-expression.js';
import { writePath, type WritingContext } from './write-path.js';

/** Writes the blocks that a value needs which a language can only say as a condition. */
export type BlockWords = (condition: Expression, yes: Saying, no: Saying) => string | null;

/** Says a thing in a dialect; null where it cannot. */
type Saying = () => string | null;

/** Where a printed value stands, and how it is written. */
export interface OutputSetting {
  readonly context: WritingContext;
  readonly writer: ExpressionWriter;
  readonly quote: '' | '"' | "'";
  /** Whether the value is HTML already, and stands as it is. */
  readonly raw: boolean;
  readonly asBlocks: BlockWords;
}

/** Writes a tag that prints a value; null where the dialect cannot say it, with a note of why. */
export function writeOutput(value: Expression, setting: OutputSetting): string | null {
  const { context, raw } = setting;
  const { dialect } = context;
  const name = value.kind === 'path' && !raw ? value.segments.join('.') : '';
  const system = Object.hasOwn(dialect.system, name) ? dialect.system[name] : undefined;
  if (systemValues.has(name) && system !== undefined) return system;
  if (systemValues.has(name) && !dialect.systemFields)
    return context.lost.add(losses.systemValue(systemValues.get(name) ?? name));
  if (value.kind === 'text') return textAsHtml(value.value, setting);
  if (value.kind === 'number') return value.written;
  const tag = dialect.tags[raw ? 'raw' : 'field']?.[0]?.pattern;
  if (tag === undefined) return context.lost.add(raw ? losses.valueAsHtml : losses.fields);
  return tag.includes('{value}') ? whole(value, tag, setting) : byConstruct(value, tag, setting);
}

/** A language whose tags hold expressions; what it has no expression for becomes blocks. */
function whole(value: Expression, tag: string, setting: OutputSetting): string | null {
  const { lost, dialect } = setting.context;
  const canSay = (construct: string): boolean => dialect.expressions[construct] !== undefined;
  if (value.kind === 'fallback' && !canSay('fallback')) return fallbackAsBlocks(value, setting);
  if (value.kind === 'conditional' && !canSay('choice')) return choiceAsBlocks(value, setting);
  const within = (attributes: { readonly keepsAttributes: boolean }): string | null => {
    const written = setting.writer.value(value, attributes);
    return written === null ? null : writePattern(tag, { value: written });
  };
  const asIs = (): string | null => within({ keepsAttributes: false });
  if (value.kind !== 'fallback' && value.kind !== 'conditional') return asIs();
  // Quotes that a text has may keep it out of a tag, but not out of the HTML.
  const asBlocks = (): string | null =>
    value.kind === 'fallback' ? fallbackAsBlocks(value, setting) : choiceAsBlocks(value, setting);
  return lost.attempt(() => within({ keepsAttributes: true })) ?? lost.attempt(asBlocks) ?? asIs();
}

/** A platform that has a tag of its own for each thing that it prints. */
function byConstruct(value: Expression, tag: string, setting: OutputSetting): string | null {
  const { context } = setting;
  const { dialect, lost } = context;
  switch (value.kind) {
    case 'path': {
      const field = writePath(value, context);
      return field === null ? null : writePattern(tag, { field });
    }
    case 'fallback': {
      const pattern = patternOf(dialect, 'fallback');
      if (setting.raw || pattern === undefined) return fallbackAsBlocks(value, setting);
      const plain = plainText(value.otherwise, context);
      const text = plain === null ? null : fitting(plain, { pattern, hole: '{text}' }, context);
      const field = text === null ? null : writePath(value.value, context);
      return text === null || field === null ? null : writePattern(pattern, { field, text });
    }
    case 'filter': {
      const pattern = Object.hasOwn(dialect.filters, value.name)
        ? dialect.filters[value.name]?.[0]?.pattern
        : undefined;
      if (pattern === undefined || setting.raw) return lost.add(losses.filter(value.name));
      const written = value.parameter === null ? '' : plainText(value.parameter, context);
      if (written === null) return null;
      const own = formatFromLdml(written, dialect.formats[value.name] ?? 'ldml');
      if (own === null) return lost.add(losses.format(written));
      const field = writePath(value.value, context);
      const format = field === null ? null : fitting(own, { pattern, hole: '{format}' }, context);
      return field === null || format === null ? null : writePattern(pattern, { field, format });
    }
    case 'conditional':
      return choiceAsBlocks(value, setting);
    default:
      return lost.add(losses.expression);
  }
}

function fallbackAsBlocks(value: Expression & { kind: 'fallback' }, setting: OutputSetting): string | null {
  // a ?? b ?? c: one condition within the other, for which the last two belong together.
  if (value.value.kind === 'fallback') {
    const { value: first, otherwise: second, span } = value.value;
    const rest: Expression = { kind: 'fallback', value: second, otherwise: value.otherwise, span };
    return fallbackAsBlocks({ kind: 'fallback', value: first, otherwise: rest, span }, setting);
  }
  const { lost } = setting.context;
  const { value: filled, otherwise } = value;
  if (filled.kind !== 'path') return lost.add(losses.fallbackOfFiltered);
  const print = (part: Expression) => (): string | null => writeOutput(part, setting);
  return lost.attempt(() => setting.asBlocks(filled, print(filled), print(otherwise))) ?? lost.add(losses.fallback);
}

function choiceAsBlocks(value: Expression & { kind: 'conditional' }, setting: OutputSetting): string | null {
  const print = (part: Expression) => (): string | null => writeOutput(part, setting);
  return setting.asBlocks(value.condition, print(value.yes), print(value.no));
}

/** A text that a tag printed and that now stands in the HTML itself. */
function textAsHtml(text: string, { raw, quote }: OutputSetting): string {
  if (raw) return text;
  const escaped = text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;');
  if (quote === '') return escaped;
  return escaped.replaceAll(quote, quote === '"' ? '&quot;' : '&#39;');
}

/** A text within a tag may not end the tag, nor the quotes around it. */
function fitting(
  text: string,
  { pattern, hole }: { readonly pattern: string; readonly hole: string },
  { dialect, lost }: WritingContext,
): string | null {
  const quote = pattern[pattern.indexOf(hole) - 1] ?? '';
  const ends = dialect.delimiters.flatMap(({ open, close }) => [open.trim(), close]);
  const found = [...ends, ...(/["']/.test(quote) ? [quote] : [])].find((end) => text.includes(end));
  return found === undefined ? text : lost.add(losses.textThatHolds(found));
}

function plainText(expression: Expression, { lost }: WritingContext): string | null {
  if (expression.kind === 'text') return expression.value;
  if (expression.kind === 'number') return expression.written;
  return lost.add(losses.fallbackThatIsNoText);
}
