import { pathsIn, type Expression } from '../../expressions/expression.js';
import type { MergeTag } from '../model.js';
import { expressionsOf } from '../tag-facts.js';

/**
 * A tag in the neutral notation, in its canonical spelling. Empty for a tag that cannot be read.
 * @param quote for the texts in it: of the kind that does not end the attribute that the tag stands in
 */
export function printNeutralTag(tag: MergeTag, quote: '"' | "'" = '"'): string {
  switch (tag.kind) {
    case 'output':
      return `@{${tag.raw ? '+' : ''}${unmistakable(printExpression(tag.value, quote))}}`;
    case 'if':
      return `@{if ${printExpression(tag.condition, quote)}}`;
    case 'else-if':
      return `@{else if ${printExpression(tag.condition, quote)}}`;
    case 'else':
      return '@{else}';
    case 'end':
      return '@{end}';
    case 'each':
      return `@{each ${printExpression(tag.list, quote)} as ${tag.item}}`;
    case 'comment':
      return `@{# ${tag.text} }`;
    case 'literal':
      return tag.text.replaceAll('@{', '@@{');
    case 'broken':
      return '';
  }
}

/** A field whose name is that of a block tag, in parentheses. */
function unmistakable(expression: string): string {
  return /^(?:else|end|each)\b|^(?:if|else if)\s/.test(expression) ? `(${expression})` : expression;
}

/** Words that the notation means something else by, and what its names are made of. */
const reserved: ReadonlySet<string> = new Set(['and', 'or', 'not', 'true', 'false']);
const NAME = /^[A-Za-z_][\w-]*$/;

/** The first name in a tag that cannot be a name in the neutral notation; null where all can. */
export function unsayableName(tag: MergeTag): string | null {
  const names = expressionsOf(tag)
    .flatMap(pathsIn)
    .flatMap(({ segments }) =>
      segments.filter(
        (name, index) =>
          (index === 0 && reserved.has(name)) || !(NAME.test(name) || (index > 0 && /^\d+$|^#[a-z]+\d?$/.test(name))),
      ),
    );
  const item = tag.kind === 'each' && (!/^[A-Za-z_]\w*$/.test(tag.item) || reserved.has(tag.item)) ? [tag.item] : [];
  return [...names, ...item][0] ?? null;
}

/** How tight each kind of expression binds; what binds looser than its place gets parentheses. */
const tightness: Readonly<Record<Expression['kind'], number>> = {
  conditional: 0,
  or: 1,
  and: 2,
  not: 3,
  exists: 3,
  comparison: 4,
  arithmetic: 5,
  fallback: 6,
  filter: 7,
  path: 8,
  text: 8,
  number: 8,
  flag: 8,
};

/** An expression as it is written, with as few parentheses as it needs. */
function printExpression(expression: Expression, quote: '"' | "'" = '"'): string {
  const atLeast = (needed: number, part: Expression): string => {
    const text = printExpression(part, quote);
    return tightness[part.kind] < needed ? `(${text})` : text;
  };
  const inner = (part: Expression): string => atLeast(tightness[expression.kind] + 1, part);
  // At the side to which its operator groups, an expression of the same kind needs no parentheses.
  const grouped = (part: Expression): string => atLeast(tightness[expression.kind], part);
  switch (expression.kind) {
    case 'path':
      return expression.segments.join('.');
    case 'text':
      return quote + expression.value.replace(quote === '"' ? /["\\]/g : /['\\]/g, '\\$&') + quote;
    case 'number':
      return expression.written;
    case 'flag':
      return String(expression.value);
    case 'fallback':
      return `${grouped(expression.value)} ?? ${inner(expression.otherwise)}`;
    case 'filter': {
      const parameters = [expression.parameter, expression.second].flatMap((part) => part ?? []);
      const written = parameters.map((part) => ` ${printExpression(part, quote)}`).join('');
      return `${grouped(expression.value)} | ${expression.name}${written}`;
    }
    case 'conditional':
      return `${inner(expression.condition)} ? ${inner(expression.yes)} : ${grouped(expression.no)}`;
    case 'comparison':
      return `${inner(expression.left)} ${expression.operator} ${inner(expression.right)}`;
    case 'arithmetic':
      return `${grouped(expression.left)} ${expression.operator} ${inner(expression.right)}`;
    case 'and':
      return `${grouped(expression.left)} and ${inner(expression.right)}`;
    case 'or':
      return `${grouped(expression.left)} or ${inner(expression.right)}`;
    case 'not':
      return `not ${grouped(expression.value)}`;
    case 'exists':
      return `given ${grouped(expression.value)}`;
  }
}
