import type { Place } from '../findings/finding.js';
import { pathsIn, type PathExpression } from '../expressions/expression.js';
import { expressionsOf } from '../dialects/tag-facts.js';
import { type Attribute, contentSpan, type ElementNode } from '../html/tree.js';
import { regionAttributes } from '../html/regions.js';
import { isPartTag } from '../template/read-template.js';
import { valueSpan } from '../template/read-values.js';
import { spanAt, type Span } from '../text/span.js';
import type { CodeSymbol } from './code-symbol.js';
import type { Shapes } from './data-shape.js';
import type { MarkupFile } from './markup-file.js';
import { acceptedNames, followPath, type FileScope, type ProjectFacts } from './project-facts.js';
import { buildScope, mergeScope } from './scope-at.js';
import { styleSymbols } from './style-symbols.js';

/** The names in a message, a part or a frame that mean something elsewhere. */
export function markupSymbols(file: MarkupFile, scope: FileScope, facts: ProjectFacts): CodeSymbol[] {
  return [
    ...file.elements.flatMap((element) => elementSymbols(file, element, scope)),
    ...styleElementSymbols(file),
    ...acceptedSymbols(file, scope),
    ...file.loops.map(({ item, itemSpan }) => ({
      id: `loop:${file.source.name}#${itemSpan.start}`,
      name: item,
      span: itemSpan,
      isDefinition: true,
    })),
    ...file.expressions
      .flatMap(pathsIn)
      .flatMap((path) => pathSymbols(file, path, buildScope(file, path.span.start, scope, facts))),
    ...mergeSymbols(file, facts),
    ...frontSymbols(file, scope),
    ...editionSymbols(file, scope),
  ];
}

/** The classes that the `<style>` elements of a file name. */
export function styleElementSymbols(file: MarkupFile | null): CodeSymbol[] {
  return (file?.elements ?? []).flatMap((element) => {
    const inner = contentSpan(element);
    if (element.tag !== 'style' || inner === null || file === null) return [];
    return styleSymbols(file.source, file.doc.masked, inner);
  });
}

/** The names of a path, as far as it is known where they lead. */
function pathSymbols({ source }: MarkupFile, { segments, span }: PathExpression, scope: Shapes): CodeSymbol[] {
  const found = followPath(segments, (name) => scope.get(name) ?? null);
  const written = source.slice(span);
  let at = 0;
  return found.flatMap((shape, index): CodeSymbol[] => {
    const name = segments[index] ?? '';
    const offset = written.indexOf(name, at);
    at = offset + name.length;
    return offset < 0
      ? []
      : [{ id: shape.id, name, span: spanAt(span.start + offset, name.length), isDefinition: false }];
  });
}

function mergeSymbols(file: MarkupFile, facts: ProjectFacts): CodeSymbol[] {
  return file.mergeTags.flatMap((tag, index) => {
    const scope = mergeScope(file, index, facts);
    const paths = expressionsOf(tag)
      .flatMap(pathsIn)
      .flatMap((path) => pathSymbols(file, path, scope));
    if (tag.kind !== 'each') return paths;
    const start = tag.place.span.start + file.source.slice(tag.place.span).lastIndexOf(tag.item);
    const span = spanAt(start, tag.item.length);
    return [...paths, { id: `loop:${file.source.name}#${start}`, name: tag.item, span, isDefinition: true }];
  });
}

function elementSymbols(file: MarkupFile, element: ElementNode, { part }: FileScope): CodeSymbol[] {
  const { source } = file;
  const symbols: CodeSymbol[] = [];
  const use = (id: string, name: string, span: Span): unknown => symbols.push({ id, name, span, isDefinition: false });
  if (isPartTag(element.tag)) {
    for (const [at, skip] of [
      [element.startTag, 1],
      [element.endTag, 2],
    ] as const)
      if (at !== null) use(`part:${element.tag}`, element.tag, spanAt(at.start + skip, element.tag.length));
    for (const { name, span } of element.attributes.values())
      if (name !== 'slot' && !regionAttributes.has(name))
        use(`accepted:${element.tag}/${name}`, name, spanAt(span.start, name.length));
  }
  const slotted = written(file, element.attributes.get('slot'));
  if (slotted !== null && element.parent !== null && isPartTag(element.parent.tag))
    use(`slot:${element.parent.tag}/${slotted.text}`, slotted.text, slotted.span);
  const slot = element.tag === 'slot' && part !== null ? written(file, element.attributes.get('name')) : null;
  if (slot !== null)
    symbols.push({ id: `slot:${part}/${slot.text}`, name: slot.text, span: slot.span, isDefinition: true });
  for (const name of ['region', 'region-choice']) {
    const region = written(file, element.attributes.get(name));
    if (region === null) continue;
    const id = `${name}:${source.name}/${region.text}`;
    symbols.push({ id, name: region.text, span: region.span, isDefinition: name === 'region' });
  }
  symbols.push(...classSymbols(file, element));
  return symbols;
}

function classSymbols(file: MarkupFile, element: ElementNode): CodeSymbol[] {
  const value = written(file, element.attributes.get('class'));
  if (value === null) return [];
  return [...value.text.matchAll(/[^\s]+/g)].flatMap(({ 0: name, index }): CodeSymbol[] =>
    /[@$]\{|\}/.test(name)
      ? []
      : [{ id: `class:${name}`, name, span: spanAt(value.span.start + index, name.length), isDefinition: false }],
  );
}

/** The value of an attribute as it is written; null where there is none. */
function written(
  { source }: MarkupFile,
  item: Attribute | undefined,
): { readonly text: string; readonly span: Span } | null {
  if (item === undefined) return null;
  const span = valueSpan(source, item);
  return span.end > span.start ? { text: source.slice(span), span } : null;
}

/** What a part, or a frame, says that it accepts. */
function acceptedSymbols(file: MarkupFile, { part, values }: FileScope): CodeSymbol[] {
  return acceptedNames(file).flatMap(({ name, span }): CodeSymbol[] => {
    const id = part === null ? values.get(name)?.id : `accepted:${part}/${name.toLowerCase()}`;
    return id === undefined ? [] : [{ id, name, span, isDefinition: true }];
  });
}

/** Where a message says how its editions are called. */
function editionSymbols({ source }: MarkupFile, { values }: FileScope): CodeSymbol[] {
  const name = values.get('edition')?.fields.get('name');
  const here = (name?.places ?? []).filter((place) => place.source.name === source.name);
  return here.map(({ span }) => ({ id: name?.id ?? '', name: source.slice(span), span, isDefinition: true }));
}

/** The keys of the front matter, which the text and the frame see as build values. */
function frontSymbols({ front, source }: MarkupFile, { values }: FileScope): CodeSymbol[] {
  const entries = front?.tree?.kind === 'map' ? front.tree.entries : [];
  return entries.flatMap(({ key, keySpan }): CodeSymbol[] => {
    const shape = values.get(key);
    const isHere = (place: Place): boolean => place.source.name === source.name && place.span.start === keySpan.start;
    const isOwn = shape?.places.some(isHere) === true;
    return shape === undefined ? [] : [{ id: shape.id, name: key, span: keySpan, isDefinition: isOwn }];
  });
}
