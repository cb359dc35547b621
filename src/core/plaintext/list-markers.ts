import { counterText } from '../css/values/counter-styles.js';

/** What stands before an item of a list, without the space behind it; empty for lists without marks. */
export function listMarker(style: string, number: number | null): string {
  if (style === 'none') return '';
  return number === null ? '*' : `${counterText(style, number)}.`;
}
