import { knownLanguage } from './format-date.js';

const shape = /(#[#,]*[0,]*0|0[0,]*|#)(?:\.(0*)(#*))?/;

/**
 * Writes a number by a pattern of Unicode's number formats (UTS 35, "Number Format Patterns"): `0.00`, `#,##0`, with text
 * before and after it (`£0.00`). Separators are those of the language. Null for a pattern that holds no digit.
 */
export function formatNumber(value: number, pattern: string, language: string): string | null {
  const match = shape.exec(pattern);
  if (match === null) return null;
  const [written, whole = '', required = '', optional = ''] = match;
  const digits = new Intl.NumberFormat(knownLanguage(language), {
    minimumIntegerDigits: Math.max(1, whole.replace(/[^0]/g, '').length),
    minimumFractionDigits: required.length,
    maximumFractionDigits: required.length + optional.length,
    useGrouping: whole.includes(','),
  }).format(Math.abs(steady(value, required.length + optional.length)));
  const sign = value < 0 && /[1-9]/.test(digits) ? '-' : '';
  return sign + pattern.slice(0, match.index) + digits + pattern.slice(match.index + written.length);
}

/** Takes the noise of binary fractions away before rounding: 1.005 is meant to be 1.005. */
function steady(value: number, decimals: number): number {
  const shifted = Number(`${Number(value.toPrecision(15))}e${decimals}`);
  return Number.isFinite(shifted) ? Number(`${Math.round(Math.abs(shifted))}e-${decimals}`) * Math.sign(value) : value;
}
