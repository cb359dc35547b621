import { enginesWithout, type FeatureKind } from '../../engines/engine.js';
import type { Hit } from './rule.js';
import { firstPlace, usedFeatures } from './features.js';
import type { Page } from '../page/page.js';
import { listed } from '../../text/amounts.js';

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
    const where = compiled === page ? place : firstPlace(page, feature);
    // What nobody wrote is the compiler's own, which knows what it does.
    if (where === null) return [];
    const without = enginesWithout(feature, engines ?? undefined);
    if (without.length === 0 || except.has(feature.name) || (feature.harm === 'look' && engines === null)) return [];
    const { happens, instead } = feature;
    const times = count > 1 ? ` (${count} times here)` : '';
    const data = { feature: feature.name, engines: listed(without), happens: `${lowered(happens)}${times}`, instead };
    return [{ place: where, data }];
  });
}

function lowered(sentence: string): string {
  return `${sentence.slice(0, 1).toLowerCase()}${sentence.slice(1)}`;
}
