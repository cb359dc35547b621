import { physicalNames } from '../values/logical.js';
import { longhandsOf } from '../values/shorthands.js';

/** The physical longhands that a property may set, whatever its value and the direction of the text are. */
export function longhandNames(property: string): readonly string[] {
  if (/^overflow(?:-[xy])?$/.test(property)) return ['overflow'];
  const names = ['ltr', 'rtl'].flatMap((direction) => physicalNames(property, direction) ?? []);
  return (names.length === 0 ? [property] : names).flatMap(longhandsOf);
}
