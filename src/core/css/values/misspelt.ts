import { nearestName } from '../../text/nearest.js';
import { keywordsOf, propertyNames } from '../syntax/css-dictionary.js';

/** The property that was most likely meant by a name that no browser knows; null where it is known, or where none is near. */
export function misspeltProperty(property: string): string | null {
  if (/^(?:-|mso-)/.test(property)) return null;
  return propertyNames.has(property) ? null : nearestName(property, propertyNames);
}

/** The value with its one unknown word spelt as the property knows it; null where that is not what is wrong. */
export function nearestValue(property: string, value: string): string | null {
  const known = keywordsOf(property);
  const words = value.match(/(?<![#\w.-])[a-z][a-z-]*(?![\w(%-])/gi) ?? [];
  const unknown = words.filter((word) => !known.includes(word.toLowerCase()));
  const [word] = unknown;
  const nearest = word === undefined || unknown.length > 1 ? null : nearestName(word, known);
  return word === undefined || nearest === null ? null : value.replace(word, nearest);
}
