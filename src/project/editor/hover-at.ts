import { attribute, contentSpan } from '../../core/html/tree.js';
import { wholeSheet } from '../../core/css/syntax/css-items.js';
import { parseDeclarationList, parseStyleSheet } from '../../core/css/syntax/style-sheet.js';
import type { Declaration } from '../../core/css/syntax/css-items.js';
import { symbolAt } from '../../core/editor/code-symbol.js';
import { declarationAt, describeDeclaration, describeUse, describeValueAt, valueAt } from '../../core/editor/hover.js';
import type { MarkupFile } from '../../core/editor/markup-file.js';
import { valueSpan } from '../../core/template/read-values.js';
import type { Span } from '../../core/text/span.js';
import { engineFeatures } from '../config/engines.js';
import { withUnsaved } from '../files/read-bytes.js';
import { readTargets, writtenTags, type WrittenTag } from './merge-texts.js';
import type { ProjectIndex } from './project-index.js';

/** What is known of a place, in Markdown. */
export interface HoverText {
  readonly text: string;
  readonly span: Span;
}

/** What is known of what stands at an offset; null where that is nothing. */
export async function hoverAt(
  index: ProjectIndex,
  path: string,
  offset: number,
  texts: ReadonlyMap<string, string>,
): Promise<HoverText | null> {
  const nameOf = (name: string): string => index.nameOf(name);
  const source = await index.source(path);
  if (source === null) return null;
  const file = await index.markup(path);
  if (file === null) {
    const items = index.kindOf(path) === 'style sheet' ? parseStyleSheet(wholeSheet(source), () => undefined) : [];
    return ofDeclaration(declarationAt(items, offset));
  }
  const declaration = declarationIn(file, offset);
  if (declaration !== null) return ofDeclaration(declaration);
  const facts = await index.facts();
  const value = valueAt(file, offset, await index.scope(path), facts);
  const tag = file.mergeTags.findIndex(({ place: { span } }) => span.start <= offset && offset <= span.end);
  if (tag >= 0) {
    const targets = await readTargets(index.folder, withUnsaved(texts));
    const written = targets === null ? [] : writtenTags(file, tag, targets);
    const about = value === null ? [] : [describeValueAt(value, nameOf), ''];
    const span = file.mergeTags[tag]?.place.span ?? { start: offset, end: offset };
    const text = [...about, ...written.map(describeWritten)].join('\n');
    return text.trim() === '' ? null : { text, span };
  }
  if (value !== null) return { text: describeValueAt(value, nameOf), span: value.span };
  const symbol = symbolAt(await index.symbols(path), offset);
  const part = symbol === null ? undefined : facts.parts.get(symbol.id.replace(/^(?:part|accepted):|\/.*$/g, ''));
  return symbol === null || part === undefined ? null : { text: describeUse(part), span: symbol.span };
}

function describeWritten({ destination, dialect, text, problem }: WrittenTag): string {
  const name = `- ${destination} (${dialect}): `;
  return text === null ? `${name}cannot be said: ${problem}` : `${name}\`${text === '' ? ' ' : text}\``;
}

async function ofDeclaration(declaration: Declaration | null): Promise<HoverText | null> {
  if (declaration === null) return null;
  const features = (await engineFeatures(() => undefined)) ?? [];
  return { text: describeDeclaration(declaration, features), span: declaration.place.span };
}

/** The declaration of a `<style>` or a style attribute that an offset stands in. */
function declarationIn({ source, doc, elements }: MarkupFile, offset: number): Declaration | null {
  const { masked: text } = doc;
  for (const element of elements) {
    const style = element.attributes.get('style');
    if (style !== undefined && attribute(element, 'style') !== '') {
      const span = valueSpan(source, style);
      const items = within(span, offset) ? parseDeclarationList({ source, text, span, tags: [] }, () => undefined) : [];
      const found = declarationAt(items, offset);
      if (found !== null) return found;
    }
    const span = contentSpan(element);
    if (element.tag === 'style' && span !== null && within(span, offset))
      return declarationAt(
        parseStyleSheet({ source, text, span, tags: [] }, () => undefined),
        offset,
      );
  }
  return null;
}

function within({ start, end }: Span, offset: number): boolean {
  return start <= offset && offset <= end;
}
