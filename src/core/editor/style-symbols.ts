import type { CssItem } from '../css/syntax/css-items.js';
import { parseStyleSheet } from '../css/syntax/style-sheet.js';
import type { SourceText } from '../text/source-text.js';
import { spanAt, type Span } from '../text/span.js';
import type { CodeSymbol } from './code-symbol.js';

/** The classes that the selectors of a style sheet name. */
export function styleSymbols(source: SourceText, text: string, span: Span): CodeSymbol[] {
  return classesIn(
    parseStyleSheet({ source, text, span, tags: [] }, () => undefined),
    text,
  );
}

function classesIn(items: readonly CssItem[], text: string): CodeSymbol[] {
  return items.flatMap((item): CodeSymbol[] => {
    if (item.kind === 'declaration') return [];
    const inner = classesIn(item.items ?? [], text);
    return item.kind === 'rule' ? [...classesOf(text, item.prelude), ...inner] : inner;
  });
}

/** What is no class, though it looks like one: strings, attributes, comments. */
const opaque = /\/\*[\s\S]*?\*\/|"[^"]*"|'[^']*'|\[[^\]]*\]/g;

function classesOf(text: string, { start, end }: Span): CodeSymbol[] {
  const prelude = text.slice(start, end).replace(opaque, (found) => ' '.repeat(found.length));
  return [...prelude.matchAll(/\.(-?[A-Za-z_\u0080-\ud7ff][\w\u0080-\ud7ff-]*)/g)].map(({ 1: name = '', index }) => ({
    id: `class:${name}`,
    name,
    span: spanAt(start + index + 1, name.length),
    isDefinition: true,
  }));
}
