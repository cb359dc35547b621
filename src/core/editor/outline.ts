import { attribute, textContent, type ElementNode } from '../html/tree.js';
import { regionAttributes } from '../html/regions.js';
import { isPartTag } from '../template/read-template.js';
import type { SourceText } from '../text/source-text.js';
import { spanAt, type Span } from '../text/span.js';
import type { CssItem } from '../css/syntax/css-items.js';
import type { YamlNode } from '../yaml/yaml-tree.js';
import type { MarkupFile } from './markup-file.js';

/** Something that a file is made of, for an overview of it. */
export interface OutlineEntry {
  readonly name: string;
  readonly detail: string;
  readonly kind: 'part' | 'heading' | 'region' | 'template' | 'slot' | 'rule' | 'key' | 'value';
  readonly span: Span;
  /** What is shown of it when it is gone to. */
  readonly selection: Span;
  readonly children: readonly OutlineEntry[];
}

/** The parts, headings, regions and loops of a file, as they stand within each other. */
export function markupOutline(file: MarkupFile): OutlineEntry[] {
  return [...frontOutline(file), ...entriesIn([file.doc.root])];
}

function frontOutline({ front }: MarkupFile): OutlineEntry[] {
  return front?.tree?.kind === 'map' ? yamlOutline(front.tree) : [];
}

/** Depth belongs to the input; deeper than this nothing is listed. */
const DEEPEST = 60;

function entriesIn(elements: readonly ElementNode[], depth = 0): OutlineEntry[] {
  return elements.flatMap((element): OutlineEntry[] => {
    const inner = element.children.filter((child) => child.kind === 'element');
    const children = depth > DEEPEST ? [] : entriesIn(inner, depth + 1);
    const own = entryOf(element);
    return own === null ? children : [{ ...own, children }];
  });
}

function entryOf(element: ElementNode): Omit<OutlineEntry, 'children'> | null {
  const { tag, span, startTag } = element;
  if (span === null || startTag === null) return null;
  const entry = (name: string, kind: OutlineEntry['kind'], detail = ''): Omit<OutlineEntry, 'children'> => ({
    name: name === '' ? tag : name,
    detail,
    kind,
    span,
    selection: startTag,
  });
  const region = attribute(element, 'region');
  if (isPartTag(tag)) return entry(tag, 'part', withoutSentinels(firstValue(element)));
  if (/^h[1-6]$/.test(tag)) return entry(withoutSentinels(textContent(element)), 'heading', tag);
  if (tag === 'template') {
    const [name, value] = [...element.attributes.values()].map((item) => [item.name, item.value] as const)[0] ?? [
      '',
      '',
    ];
    return entry(`${name} ${withoutSentinels(value)}`.trim(), 'template', 'template');
  }
  if (tag === 'slot') return entry(`slot ${attribute(element, 'name') ?? ''}`.trim(), 'slot');
  return region === null ? null : entry(region, 'region', tag);
}

function firstValue({ attributes }: ElementNode): string {
  return [...attributes.values()].find(({ name }) => !regionAttributes.has(name))?.value ?? '';
}

function withoutSentinels(text: string): string {
  return text
    .replace(/\uFDD0\d+\uFDD1/g, '…')
    .replace(/\s+/g, ' ')
    .trim();
}

/** The keys of a YAML file, as they stand within each other. */
export function yamlOutline(node: YamlNode | null): OutlineEntry[] {
  if (node?.kind !== 'map') return [];
  return node.entries.map(({ key, keySpan, value }) => ({
    name: key,
    detail: value?.kind === 'scalar' && value.value !== null ? String(value.value).slice(0, 60) : '',
    kind: value?.kind === 'map' || value?.kind === 'list' ? ('key' as const) : ('value' as const),
    span: { start: keySpan.start, end: Math.max(keySpan.end, value?.span.end ?? 0) },
    selection: keySpan,
    children: yamlOutline(value),
  }));
}

/** The rules of a style sheet, as they stand within each other. */
export function styleOutline(items: readonly CssItem[], source: SourceText): OutlineEntry[] {
  return items.flatMap((item): OutlineEntry[] => {
    if (item.kind === 'declaration') return [];
    const name = item.kind === 'rule' ? source.slice(item.prelude) : `@${item.name} ${source.slice(item.prelude)}`;
    const { span } = item.place;
    const selection = item.prelude.end > item.prelude.start ? item.prelude : spanAt(span.start, 0);
    const shown = name.replace(/\s+/g, ' ').trim();
    return [
      {
        name: shown === '' ? '@' : shown,
        detail: '',
        kind: 'rule',
        span,
        selection,
        children: styleOutline(item.items ?? [], source),
      },
    ];
  });
}

/** Stretches that can be folded away: elements and groups over more than one line. */
export function foldedSpans(file: MarkupFile): Span[] {
  const spans = file.elements.flatMap(({ span, startTag }) => (span === null || startTag === null ? [] : [span]));
  return file.front === null ? spans : [file.front.span, ...spans];
}
