import { adviceForName, finding, type Place, type Report } from '../findings/finding.js';
import { attribute, elementsOf, type Doc, type ElementNode } from './tree.js';
import { inlineElements } from './vocabulary.js';
import { nearestName } from '../text/nearest.js';
import { spanAt } from '../text/span.js';

/** The attributes that make an element a region. */
export const regionAttributes: ReadonlySet<string> = new Set([
  'region',
  'region-kind',
  'region-repeat',
  'region-choice',
  'region-label',
]);

export type RegionKind = 'text' | 'rich' | 'image' | 'link' | 'block';

/** The kinds of regions. */
export const regionKinds: readonly RegionKind[] = ['text', 'rich', 'image', 'link', 'block'];

/** A piece of a message that a platform's users may edit. */
export interface Region {
  /** Unique within the message. */
  readonly name: string;
  readonly kind: RegionKind;
  /** Whether users may duplicate it. */
  readonly repeat: boolean;
  /** Regions of the same choice are alternatives of which users pick one. */
  readonly choice: string | null;
  readonly label: string | null;
  readonly place: Place;
}

/** How a dialect marks a region: by an attribute, or by something before and behind what its users edit. */
export type RegionMark = { readonly attribute: string } | { readonly open: string; readonly close: string };

/** The regions of a message, in order; what is wrong with their attributes is reported. */
export function readRegions(doc: Doc, report: Report): Region[] {
  const regions: Region[] = [];
  const names = new Map<string, Region>();
  for (const element of elementsOf(doc.root)) {
    if (![...element.attributes.keys()].some((name) => name.startsWith('region'))) continue;
    const region = readRegion(doc, element, report);
    if (region === null) continue;
    const twin = names.get(region.name);
    if (twin !== undefined) report(finding('region-duplicate', region.place, { name: region.name }));
    else names.set(region.name, region);
    regions.push(region);
  }
  return regions;
}

function readRegion(doc: Doc, element: ElementNode, report: Report): Region | null {
  const placeOf = (name: string): Place => ({
    source: doc.source,
    span: element.attributes.get(name)?.span ?? element.startTag ?? spanAt(0, 0),
  });
  for (const name of element.attributes.keys()) {
    if (!name.startsWith('region') || regionAttributes.has(name)) continue;
    const known = [...regionAttributes];
    const advice = adviceForName(nearestName(name, known), known, '');
    report(finding('region-attribute-unknown', placeOf(name), { name, advice }));
  }
  const name = attribute(element, 'region');
  if (name === null) {
    const extra = [...element.attributes.keys()].find((key) => regionAttributes.has(key));
    if (extra !== undefined) report(finding('region-unnamed', placeOf(extra), { name: extra }));
    return null;
  }
  if (!/^[\p{L}\d][\p{L}\d_-]*$/u.test(name)) {
    report(finding('region-name', placeOf('region'), { name }));
    return null;
  }
  return {
    name,
    kind: readKind(element, placeOf('region-kind'), report),
    repeat: element.attributes.has('region-repeat'),
    choice: attribute(element, 'region-choice'),
    label: attribute(element, 'region-label'),
    place: placeOf('region'),
  };
}

function readKind(element: ElementNode, place: Place, report: Report): RegionKind {
  const written = attribute(element, 'region-kind');
  if (written === null) return defaultKind(element);
  const kind = regionKinds.find((known) => known === written.trim().toLowerCase());
  if (kind === undefined) {
    const advice = adviceForName(nearestName(written, regionKinds), regionKinds, '');
    report(finding('region-kind-unknown', place, { name: written, advice }));
  }
  return kind ?? defaultKind(element);
}

/** What users edit in an element that does not say so: a picture, a link, a line, a text, or everything in it. */
function defaultKind(element: ElementNode): RegionKind {
  if (element.tag === 'img') return 'image';
  if (element.tag === 'a') return 'link';
  if (/^(?:h[1-6]|span|strong|em|b|i|small)$/.test(element.tag)) return 'text';
  if (/^(?:p|ul|ol|blockquote)$/.test(element.tag)) return 'rich';
  const blocks = element.children.some((child) => child.kind === 'element' && !inlineElements.has(child.tag));
  return blocks ? 'block' : 'rich';
}
