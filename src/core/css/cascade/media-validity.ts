import { cssDetail } from '../../findings/wording/css.js';
import { nearestName } from '../../text/nearest.js';
import { splitValue } from '../values/value.js';
import { readMediaQueries, type MediaCondition } from '../syntax/media-query.js';

/** The media features of Media Queries Level 4 and 5, without `min-` and `max-`. */
const features: ReadonlySet<string> = new Set(
  (
    'width height aspect-ratio orientation resolution scan grid update overflow-block overflow-inline color color-index ' +
    'monochrome color-gamut pointer hover any-pointer any-hover prefers-reduced-motion prefers-reduced-transparency ' +
    'prefers-contrast forced-colors prefers-color-scheme prefers-reduced-data scripting dynamic-range ' +
    'video-dynamic-range inverted-colors display-mode environment-blending nav-controls device-width device-height ' +
    'device-aspect-ratio horizontal-viewport-segments vertical-viewport-segments'
  ).split(' '),
);

const knownFeatures: readonly string[] = [
  ...features,
  ...[...features].flatMap((name) => [`min-${name}`, `max-${name}`]),
];

/** A media query that no browser takes as it is meant. */
export interface InvalidMedia {
  /** The query, of the list that it stands in. */
  readonly query: string;
  /** What is wrong with it, to stand behind "because". */
  readonly detail: string;
  /** The list with the nearest right spelling of it; null where none is near. */
  readonly nearest: string | null;
}

/**
 * The first query of a media query list that is wrong; null where all are valid. One that cannot be read, or that asks for a
 * feature that does not exist, never holds, whatever the others of its list do (Media Queries Level 4, 3.2).
 */
export function invalidMedia(list: string): InvalidMedia | null {
  if (list.trim() === '') return null;
  for (const query of splitValue(list, ',')) {
    const invalid = invalidQuery(query.trim());
    if (invalid === null) continue;
    const { nearest } = invalid;
    return { ...invalid, nearest: nearest === null ? null : list.trim().replace(query.trim(), () => nearest) };
  }
  return null;
}

function invalidQuery(query: string): InvalidMedia | null {
  const features = featuresOf(query);
  if (features === null) return { query, detail: cssDetail.unreadableQuery, nearest: repaired(query) };
  const unknown = features.find((name) => !isKnown(name));
  if (unknown === undefined) return null;
  const nearest = nearestName(unknown, knownFeatures);
  return {
    query,
    detail: cssDetail.noFeature(unknown),
    nearest: nearest === null ? null : query.replace(unknown, nearest),
  };
}

function isKnown(feature: string): boolean {
  const lower = feature.toLowerCase();
  // Features of single engines are known to those alone.
  return features.has(lower.replace(/^(?:min|max)-/, '')) || /^-[a-z]+-/.test(lower);
}

/** The list with each bare `feature: value` in parentheses, if that makes it valid. */
function repaired(text: string): string | null {
  const bare = /(?<![\w(-])((?:min-|max-)?[a-z]+(?:-[a-z]+)*)\s*(:|[<>]=?)\s*([^\s(),;{}]+)/gi;
  const attempts = [
    text.replace(bare, '($1$2 $3)'),
    text.replace(bare, '($1$2 $3)').replace(/\)\s+(?=\()/g, ') and '),
    text.replace(/([a-z])\s+(\d[\w.]*)\s*\)/gi, '$1: $2)'),
    text.replace(/\b(screen|all|print)\s*\(/gi, '$1 and ('),
    text.replace(/\)\s*(?=\()/g, ') and '),
    // Behind a type there is no `or`: a list says the same.
    text.replace(/^((?:only\s+)?(?:screen|all|print)\s+and\s+)(.*)$/i, (_, type: string, terms: string) =>
      terms
        .split(/\s+or\s+/i)
        .map((term) => type + term)
        .join(', '),
    ),
    text.replace(/\band\s*\(/gi, ' and (').replace(/\)\s*and\b/gi, ') and'),
  ];
  for (const attempt of attempts) {
    const clean = attempt.replace(/\s+/g, ' ').replace(/\(\s+/g, '(').trim();
    if (clean !== text.trim() && isValid(clean)) return clean;
  }
  return null;
}

function isValid(text: string): boolean {
  return featuresOf(text)?.every(isKnown) === true;
}

/** The names of the features that a query list asks for, in order, as written; null where something in it cannot be read. */
function featuresOf(text: string): string[] | null {
  const names: string[] = [];
  for (const query of readMediaQueries(text)) {
    const own = query === null ? null : query.condition === null ? [] : featuresIn(query.condition);
    if (own === null) return null;
    names.push(...own);
  }
  return names;
}

function featuresIn(condition: MediaCondition): string[] | null {
  switch (condition.kind) {
    case 'and':
    case 'or': {
      const terms = condition.terms.map(featuresIn);
      return terms.every((names) => names !== null) ? terms.flat() : null;
    }
    case 'not':
      return featuresIn(condition.term);
    case 'feature':
    case 'range':
      return [condition.name];
    case 'unknown':
      return null;
  }
}
