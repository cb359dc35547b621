import type { Expression } from './expression.js';
import type { MergeFields, MergeTag } from './model.js';

/**
 * What a sample recipient would read in place of an output tag: the field's sample, or the fallback.
 * Only for lines (subject, preheader); blocks are not followed.
 */
export function sampleText(tag: MergeTag | undefined, fields: MergeFields): string {
  if (tag === undefined || tag.kind !== 'output') return tag?.kind === 'literal' ? '@{' : '';
  return textOf(valueOf(tag.value, fields));
}

function valueOf(expression: Expression, fields: MergeFields): unknown {
  switch (expression.kind) {
    case 'text':
      return expression.value;
    case 'number':
      return Number(expression.written);
    case 'flag':
      return expression.value;
    case 'path':
      return follow(fields.get(expression.segments[0] ?? '')?.sample, expression.segments.slice(1));
    case 'fallback': {
      const value = valueOf(expression.value, fields);
      return value === undefined || value === null || value === '' ? valueOf(expression.otherwise, fields) : value;
    }
    case 'filter':
      return filtered(expression.name, textOf(valueOf(expression.value, fields)));
    default:
      return '';
  }
}

function follow(value: unknown, segments: readonly string[]): unknown {
  return segments.reduce<unknown>(
    (at, segment) =>
      typeof at === 'object' && at !== null && Object.hasOwn(at, segment)
        ? (at as Record<string, unknown>)[segment]
        : undefined,
    value,
  );
}

function filtered(name: string, text: string): string {
  if (name === 'upper') return text.toUpperCase();
  if (name === 'lower') return text.toLowerCase();
  return text;
}

function textOf(value: unknown): string {
  return typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean' ? String(value) : '';
}
