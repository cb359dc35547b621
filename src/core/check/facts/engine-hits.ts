import { enginesWithout, type Feature, type FeatureKind } from '../../engines/engine.js';
import type { Place } from '../../findings/finding.js';
import type { Hit } from './rule.js';
import { says, usedFeatures } from './features.js';
import type { Page } from './page.js';

/**
 * What a page relies on and engines do not show. What only looks plainer is told where engines are asked for by name.
 * @param except features that others tell of
 */
export function engineHits(
  page: Page,
  kind: FeatureKind,
  except: { readonly has: (name: string) => boolean } = new Set<string>(),
): Hit[] {
  const { engines } = page.input;
  const { compiled } = page;
  return usedFeatures(compiled, kind).flatMap(({ feature, place, count }) => {
    const without = enginesWithout(feature, engines ?? undefined);
    if (without.length === 0 || except.has(feature.name) || (feature.harm === 'look' && engines === null)) return [];
    const { happens, instead } = feature;
    const times = count > 1 ? ` (${count} times here)` : '';
    const data = { feature: feature.name, engines: listed(without), happens: `${lowered(happens)}${times}`, instead };
    return [{ place: compiled === page ? place : authorsPlace(page, feature), data }];
  });
}

/** Where an author says what came out as a feature; null where nothing of it stands in what he wrote. */
function authorsPlace(page: Page, { kind, name }: Feature): Place | null {
  if (kind === 'elements') return page.withTag(name).map((element) => page.placeOf(element))[0] ?? null;
  if (kind !== 'properties') return null;
  const said = page.declared.flat().find(({ declaration }) => says(declaration.property, declaration.value, name));
  return said?.declaration.place ?? null;
}

function lowered(sentence: string): string {
  return `${sentence.slice(0, 1).toLowerCase()}${sentence.slice(1)}`;
}

function listed(names: readonly string[]): string {
  return names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names[names.length - 1] ?? ''}`;
}
