/** A number as a counter style writes it (CSS Counter Styles Level 3, 6); in digits where it is none of these. */
export function counterText(style: string, number: number): string {
  switch (style) {
    case 'none':
      return '';
    case 'decimal-leading-zero':
      return number >= 0 && number < 10 ? `0${number}` : String(number);
    case 'lower-alpha':
    case 'lower-latin':
      return letters(number);
    case 'upper-alpha':
    case 'upper-latin':
      return letters(number).toUpperCase();
    case 'lower-roman':
      return roman(number);
    case 'upper-roman':
      return roman(number).toUpperCase();
    default:
      return String(number);
  }
}

/** a, b, …, z, aa, ab (CSS Counter Styles Level 3, 3.1.2). Numbers that the style cannot say are written in digits. */
function letters(number: number): string {
  if (number < 1) return String(number);
  let text = '';
  for (let rest = number; rest > 0; rest = Math.floor((rest - 1) / 26))
    text = String.fromCharCode(97 + ((rest - 1) % 26)) + text;
  return text;
}

const romanNumerals: readonly (readonly [number, string])[] = [
  [1000, 'm'],
  [900, 'cm'],
  [500, 'd'],
  [400, 'cd'],
  [100, 'c'],
  [90, 'xc'],
  [50, 'l'],
  [40, 'xl'],
  [10, 'x'],
  [9, 'ix'],
  [5, 'v'],
  [4, 'iv'],
  [1, 'i'],
];

function roman(number: number): string {
  if (number < 1 || number > 3999) return String(number);
  let rest = number;
  let text = '';
  for (const [value, numeral] of romanNumerals) for (; rest >= value; rest -= value) text += numeral;
  return text;
}
