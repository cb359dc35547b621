import type { Feature, FeatureKind } from '../../engines/engine.js';
import { hasSelector, isPictureOf, matchesAtRule, says } from '../../engines/feature-match.js';
import type { CssItem } from '../../css/syntax/css-items.js';
import type { Place } from '../../findings/finding.js';
import { attribute, type ElementNode } from '../../html/tree.js';
import type { Page } from '../page/page.js';

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
        .filter(({ src, file }) => isPictureOf(src, file?.format ?? null, feature.name))
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
      if (fallback === 'width-attribute' && value.trim() === '100%' && isTableOfWidth(page, node)) continue;
      if (fallback === 'align-attribute' && (isAligned(node) || isFramed(node))) continue;
      const { place } = declaration;
      if (!places.has(place.span.start)) places.set(place.span.start, place);
    }
  }
  return [...places.values()].sort((a, b) => a.span.start - b.span.start);
}

/** Whether a table says how wide it is in px: where the whole of its container bounds it, it is that wide without the bound. */
function isTableOfWidth(page: Page, node: ElementNode): boolean {
  const isWidth = ([other]: readonly [ElementNode, unknown]): boolean => other === node;
  return (
    node.tag === 'table' &&
    page.authored.some(
      ({ property, value, uses }) => property === 'width' && /^[\d.]+px$/i.test(value.trim()) && uses.some(isWidth),
    )
  );
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
