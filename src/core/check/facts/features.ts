import type { Feature, FeatureKind } from '../../engines/engine.js';
import type { CssItem } from '../../css/syntax/css-items.js';
import type { Place } from '../../findings/finding.js';
import { attribute, type ElementNode } from '../../html/tree.js';
import type { Page } from './page.js';

/** A feature that a page relies on, where it does first, and how often. */
export interface UsedFeature {
  readonly feature: Feature;
  readonly place: Place;
  readonly count: number;
}

/** The features of a kind that a page uses and nothing beside them makes up for, in the order of the table. */
export function usedFeatures(page: Page, kind: FeatureKind): UsedFeature[] {
  const features = page.input.features.filter((feature) => feature.kind === kind);
  return features.flatMap((feature) => {
    const places = placesOf(page, feature);
    const [place] = places;
    return place === undefined ? [] : [{ feature, place, count: places.length }];
  });
}

/** Where a page says a feature first, whatever makes up for it; null where it does not. */
export function firstPlace(page: Page, feature: Feature): Place | null {
  const [place] = placesOf(page, { ...feature, fallback: null });
  if (place !== undefined || feature.kind !== 'properties') return place ?? null;
  const said = page.declared
    .flat()
    .find(
      ({ declaration, origin }) => origin !== 'browser' && says(declaration.property, declaration.value, feature.name),
    );
  return said?.declaration.place ?? null;
}

function placesOf(page: Page, feature: Feature): Place[] {
  switch (feature.kind) {
    case 'properties':
      return declarationsWith(page, feature);
    case 'at-rules':
      return page.sheets.flatMap(({ items, source }) => atRulesWith(items, feature.name, source.text, 0));
    case 'selectors':
      return page.rules
        .filter(({ outer, sheet }) =>
          hasSelector(sheet.text.slice(outer.prelude.start, outer.prelude.end), feature.name),
        )
        .map(({ place }) => place);
    case 'elements':
      return page.elements.filter(({ tag }) => tag === feature.name).map((element) => page.placeOf(element));
    case 'attributes':
      return page.elements
        .filter((element) => element.attributes.has(feature.name))
        .map((element) => page.placeOfAttribute(element, feature.name));
    case 'pictures':
      return page.pictures
        .filter(({ src, file }) => isOfKind(src, file?.format ?? null, feature.name))
        .map(({ element }) => page.placeOf(element));
  }
}

/** What holds without any condition, for elements that nothing else helps. */
function declarationsWith(page: Page, { name, fallback }: Feature): Place[] {
  const places = new Map<number, Place>();
  for (const { property, value, uses } of page.authored) {
    if (!says(property, value, name)) continue;
    for (const [node, { declaration }] of uses) {
      if (fallback === 'width-attribute' && (/^\d/.test(attribute(node, 'width') ?? '') || isFramed(node))) continue;
      if (fallback === 'align-attribute' && (isAligned(node) || isFramed(node))) continue;
      const { place } = declaration;
      if (!places.has(place.span.start)) places.set(place.span.start, place);
    }
  }
  return [...places.values()].sort((a, b) => a.span.start - b.span.start);
}

function isAligned(node: ElementNode): boolean {
  return attribute(node, 'align') !== null || (node.parent !== null && attribute(node.parent, 'align') !== null);
}

/** Whether a conditional comment opens a table around an element, for the engine that reads it. */
function isFramed(node: ElementNode): boolean {
  for (let element: ElementNode | null = node; element !== null && element.tag !== 'body'; element = element.parent) {
    const siblings: readonly ElementNode['children'][number][] = element.parent?.children ?? [];
    const before = siblings.slice(0, siblings.indexOf(element)).reverse();
    const nearest = before.find((sibling) => sibling.kind !== 'text' || sibling.value.trim() !== '');
    if (nearest?.kind === 'comment' && /^\[if [^\]]*\]>[\s\S]*<t(?:able|d)\b/i.test(nearest.value)) return true;
  }
  return false;
}

/** What a feature of the table asks for: a property, and what its value has to hold. */
interface Asked {
  readonly own: string;
  readonly wanted: string | null;
}

const asked = new Map<string, Asked>();

/** The name of a feature, read once: a page has many values, and the table many features. */
function askedBy(name: string): Asked {
  const known = asked.get(name);
  if (known !== undefined) return known;
  const [own = '', wanted = null] = name.split(': ');
  asked.set(name, { own, wanted });
  return { own, wanted };
}

/** Whether a property with a value is what a feature of the table is called: `margin: auto`, `width: calc()`, `var()`. */
export function says(property: string, value: string, name: string): boolean {
  const { own, wanted } = askedBy(name);
  if (wanted === null) {
    if (property === own) return true;
    if (own === 'var()') return /\bvar\(/i.test(value);
    if (own === 'custom properties') return property.startsWith('--');
    return own === 'background-image' && hasPicture(property, value);
  }
  const isFunction = wanted.endsWith('()');
  if (own === 'color' && isFunction) return value.includes('(') && value.toLowerCase().includes(wanted.slice(0, -1));
  const isOwn = own === 'margin' || own === 'background' ? property.startsWith(own) : property === own;
  if (!isOwn) return false;
  if (wanted === 'negative') return /(?:^|\s)-\d*\.?\d+(?!\s*\))/.test(value) && !/^-?0\D*$/.test(value);
  if (wanted === 'gradient') return /gradient\(/i.test(value);
  if (isFunction) return value.toLowerCase().includes(wanted.slice(0, -1));
  if (/^(?:vw|vh|rem)$/.test(wanted)) return new RegExp(`\\d${wanted}\\b`, 'i').test(value);
  return value.toLowerCase().split(/\s+/).includes(wanted);
}

function hasPicture(property: string, value: string): boolean {
  return /^background(?:-image)?$/.test(property) && /\burl\(/i.test(value);
}

/** Where at-rules of a kind stand; `nesting` is a rule within a rule. */
function atRulesWith(items: readonly CssItem[], name: string, text: string, depth: number): Place[] {
  return items.flatMap((item) => {
    if (item.kind === 'declaration') return [];
    const inner = atRulesWith(item.items ?? [], name, text, item.kind === 'rule' ? depth + 1 : depth);
    const isIt =
      item.kind === 'rule'
        ? name === 'nesting' && depth > 0
        : matchesAtRule(item.name, text.slice(item.prelude.start, item.prelude.end), name);
    return isIt ? [item.place, ...inner] : inner;
  });
}

function matchesAtRule(own: string, prelude: string, name: string): boolean {
  switch (name) {
    case '@media (width)':
      return own === 'media' && /\b(?:device-)?width\b/i.test(prelude);
    case '@media (prefers-color-scheme)':
      return own === 'media' && /prefers-color-scheme/i.test(prelude);
    case '@media (hover)':
      return own === 'media' && /\(\s*(?:any-)?hover/i.test(prelude);
    case '@media print':
      return own === 'media' && /^\s*(?:only\s+)?print\b/i.test(prelude);
    default:
      return `@${own}` === name;
  }
}

function hasSelector(prelude: string, name: string): boolean {
  const plain = prelude.replace(/"[^"]*"|'[^']*'/g, '""');
  switch (name) {
    case 'universal':
      return /(?:^|[\s,>+~(])\*/.test(plain);
    case 'attribute':
      return plain.includes('[');
    case 'child':
      return />/.test(plain);
    case 'sibling':
      return /[+~](?!=)/.test(plain.replace(/\([^)]*\)/g, ''));
    default:
      return name.endsWith('()') ? plain.includes(name.slice(0, -1)) : new RegExp(`${name}(?![\\w-])`).test(plain);
  }
}

function isOfKind(src: string, format: string | null, name: string): boolean {
  if (name === 'data') return /^data:/i.test(src);
  if (name === 'animated gif') return false;
  return format === null ? new RegExp(`\\.${name}f?(?:[?#]|$)`, 'i').test(src) : format === name;
}
