import { losses } from '../../findings/wording/losses.js';
import { patternOf, type Dialect } from '../dialect.js';
import type { Expression } from '../../expressions/expression.js';
import { formatFromLdml } from '../date-format.js';
import { Loss } from './loss.js';
import { systemValues } from '../model.js';
import { writePattern } from '../pattern.js';
import type { ExpressionWriter } from './write-expression.js';
import { writePath, type WritingContext } from './write-path.js';

/** Writes the blocks that a value needs which a language can only say as a condition. */
export type BlockWords = (condition: Expression, yes: () => string, no: () => string) => string;

/** Where a printed value stands, and how it is written. */
export interface OutputSetting {
  readonly context: WritingContext;
  readonly writer: ExpressionWriter;
  readonly quote: '' | '"' | "'";
  readonly raw: boolean;
  readonly asBlocks: BlockWords;
}

/** Writes a tag that prints a value. What the dialect cannot say is thrown as a `Loss`. */
export function writeOutput(value: Expression, setting: OutputSetting): string {
  const { dialect } = setting.context;
  const system = value.kind === 'path' && !setting.raw ? systemTag(value, dialect) : null;
  if (system !== null) return system;
  if (value.kind === 'text') return textAsHtml(value.value, setting);
  if (value.kind === 'number') return value.written;
  const tag = dialect.tags[setting.raw ? 'raw' : 'field']?.[0]?.pattern;
  if (tag === undefined) throw new Loss(setting.raw ? losses.valueAsHtml : losses.fields);
  return tag.includes('{value}') ? whole(value, tag, setting) : byConstruct(value, tag, setting);
}

/** A language whose tags hold expressions; what it has no expression for becomes blocks. */
function whole(value: Expression, tag: string, setting: OutputSetting): string {
  const { dialect } = setting.context;
  const canSay = (construct: string): boolean => dialect.expressions[construct] !== undefined;
  if (value.kind === 'fallback' && !canSay('fallback')) return fallbackAsBlocks(value, setting);
  if (value.kind === 'conditional' && !canSay('choice')) return choiceAsBlocks(value, setting);
  const isBlocky = value.kind === 'fallback' || value.kind === 'conditional';
  try {
    return writePattern(tag, { value: setting.writer.value(value, isBlocky) });
  } catch (error) {
    if (!(error instanceof Loss) || !isBlocky) throw error;
  }
  // Quotes that a text has may keep it out of a tag, but not out of the HTML.
  try {
    return value.kind === 'fallback' ? fallbackAsBlocks(value, setting) : choiceAsBlocks(value, setting);
  } catch (error) {
    if (!(error instanceof Loss)) throw error;
    return writePattern(tag, { value: setting.writer.value(value) });
  }
}

/** A platform that has a tag of its own for each thing that it prints. */
function byConstruct(value: Expression, tag: string, setting: OutputSetting): string {
  const { context } = setting;
  const { dialect } = context;
  switch (value.kind) {
    case 'path':
      return writePattern(tag, { field: writePath(value, context) });
    case 'fallback': {
      const pattern = patternOf(dialect, 'fallback');
      if (setting.raw || pattern === undefined) return fallbackAsBlocks(value, setting);
      const text = fitting(plainText(value.otherwise), pattern, '{text}', dialect);
      return writePattern(pattern, { field: writePath(value.value, context), text });
    }
    case 'filter': {
      const pattern = Object.hasOwn(dialect.filters, value.name)
        ? dialect.filters[value.name]?.[0]?.pattern
        : undefined;
      if (pattern === undefined || setting.raw) throw new Loss(losses.filter(value.name));
      const written = value.parameter === null ? '' : plainText(value.parameter);
      const format = formatFromLdml(written, dialect.formats[value.name] ?? 'ldml');
      if (format === null) throw new Loss(losses.format(written));
      return writePattern(pattern, {
        field: writePath(value.value, context),
        format: fitting(format, pattern, '{format}', dialect),
      });
    }
    case 'conditional':
      return choiceAsBlocks(value, setting);
    default:
      throw new Loss(losses.expression);
  }
}

function fallbackAsBlocks(value: Expression & { kind: 'fallback' }, setting: OutputSetting): string {
  // a ?? b ?? c: one condition within the other, for which the last two belong together.
  if (value.value.kind === 'fallback') {
    const { value: first, otherwise: second, span } = value.value;
    const rest: Expression = { kind: 'fallback', value: second, otherwise: value.otherwise, span };
    return fallbackAsBlocks({ kind: 'fallback', value: first, otherwise: rest, span }, setting);
  }
  if (value.value.kind !== 'path') throw new Loss(losses.fallbackOfFiltered);
  const print = (part: Expression) => (): string => writeOutput(part, setting);
  try {
    return setting.asBlocks(value.value, print(value.value), print(value.otherwise));
  } catch (error) {
    if (!(error instanceof Loss)) throw error;
    throw new Loss(losses.fallback);
  }
}

function choiceAsBlocks(value: Expression & { kind: 'conditional' }, setting: OutputSetting): string {
  const print = (part: Expression) => (): string => writeOutput(part, setting);
  return setting.asBlocks(value.condition, print(value.yes), print(value.no));
}

function systemTag(value: Expression & { kind: 'path' }, dialect: Dialect): string | null {
  const name = value.segments.join('.');
  if (!systemValues.has(name)) return null;
  const pattern = Object.hasOwn(dialect.system, name) ? dialect.system[name] : undefined;
  if (pattern === undefined && !dialect.systemFields)
    throw new Loss(losses.systemValue(systemValues.get(name) ?? name));
  return pattern ?? null;
}

/** A text that a tag printed and that now stands in the HTML itself. */
function textAsHtml(text: string, { raw, quote }: OutputSetting): string {
  if (raw) return text;
  const escaped = text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;');
  if (quote === '') return escaped;
  return escaped.replaceAll(quote, quote === '"' ? '&quot;' : '&#39;');
}

/** A text within a tag may not end the tag, nor the quotes around it. */
function fitting(text: string, pattern: string, hole: string, dialect: Dialect): string {
  const quote = pattern[pattern.indexOf(hole) - 1] ?? '';
  const ends = dialect.delimiters.flatMap(({ open, close }) => [open.trim(), close]);
  const found = [...ends, ...(/["']/.test(quote) ? [quote] : [])].find((end) => text.includes(end));
  if (found !== undefined) throw new Loss(losses.textThatHolds(found));
  return text;
}

function plainText(expression: Expression): string {
  if (expression.kind === 'text') return expression.value;
  if (expression.kind === 'number') return expression.written;
  throw new Loss(losses.fallbackThatIsNoText);
}
