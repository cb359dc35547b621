import { matchesGrammar } from '../syntax/css-dictionary.js';

/** Whether a browser keeps a declaration: `unsure` where our dictionary may be older than the browser. */
export type Validity = 'valid' | 'invalid' | 'unsure';

/**
 * Properties that browsers have read alike for many years. Of all others the dictionary knows more, or less, than some
 * browser does.
 */
const settled: ReadonlySet<string> = new Set(
  (
    'color background-color background-image background-repeat background-attachment background-position background-size ' +
    'background border border-width border-style border-color border-top border-right border-bottom border-left ' +
    'border-top-width border-right-width border-bottom-width border-left-width border-top-style border-right-style ' +
    'border-bottom-style border-left-style border-top-color border-right-color border-bottom-color border-left-color ' +
    'border-radius border-top-left-radius border-top-right-radius border-bottom-right-radius border-bottom-left-radius ' +
    'border-collapse border-spacing margin margin-top margin-right margin-bottom margin-left padding padding-top ' +
    'padding-right padding-bottom padding-left width height min-width min-height max-width max-height font font-family ' +
    'font-size font-style font-weight font-variant line-height letter-spacing word-spacing text-align text-decoration ' +
    'text-indent text-transform text-shadow box-shadow white-space vertical-align display float clear position top right ' +
    'bottom left z-index overflow visibility opacity list-style list-style-type list-style-position list-style-image ' +
    'table-layout caption-side empty-cells direction flex flex-grow flex-shrink flex-basis flex-direction flex-wrap ' +
    'flex-flow justify-content align-items align-self align-content order box-sizing cursor outline outline-width ' +
    'outline-style all'
  ).split(' '),
);

/** Keywords that came later than their property. */
const recent =
  /(?<![\w-])(?:last|first|anchor-center|match-parent|full-width|full-size-kana|math-auto|preserve-spaces|break-spaces|intrinsic|min-intrinsic|stretch|contain|(?:min|max|fit)-content|safe|unsafe|run-in|ruby[\w-]*|math|flow|flow-root|contents|content|clip|generic|verso|recto|legacy|symbols|inverse|blink|spelling-error|grammar-error|from-font|hand|text|border-area|no-clip|system-ui|ui-[\w-]+|emoji|fangsong|kai|khmer-mul|nastaliq)(?![\w-])/i;

const mayBeNegative =
  /^(?:margin|letter-spacing|word-spacing|text-indent|z-index|order|top|right|bottom|left|background|vertical-align|text-shadow|box-shadow)/;

/** A value of words, numbers and strings, and of the functions that every browser knows. */
const plainValue = /^(?:[^()]|(?:url|rgba?|hsla?)\([^()]*\))*$/i;

/**
 * Judges a declaration as the cascade needs it, on the safe side: `valid` only where no browser in use fails to take it, so
 * that nothing weaker can come up, and `invalid` only where none takes it.
 */
export function judgeForCascade(property: string, value: string, holdsTag = false): Validity {
  const validity = judgeValue(property, value, holdsTag);
  if (holdsTag || property.startsWith('--') || property.startsWith('mso-')) return validity;
  if (!settled.has(property)) return 'unsure';
  if (validity !== 'valid') return validity;
  const isPlain = plainValue.test(value) && !/(?:^|[\s,])-[a-z]/i.test(value) && !recent.test(value);
  const isNegative = /(?:^|[\s,(])-[\d.]/.test(value) && !mayBeNegative.test(property);
  return isPlain && !isNegative ? 'valid' : 'unsure';
}

/** Verdicts are kept, as the same few declarations stand on many elements; a bound keeps memory bounded. */
const MOST_KEPT = 20_000;
const judged = new Map<string, Validity>();

/**
 * Judges a declaration's value by the property's grammar. Custom properties, unknown ones that the `word` engine reads, and
 * values that hold a template tag count as valid; a value with a function that the dictionary does not know is unsure.
 */
export function judgeValue(property: string, value: string, holdsTag = false): Validity {
  if (holdsTag || property.startsWith('--') || property.startsWith('mso-')) return 'valid';
  const key = `${property}:${value}`;
  const known = judged.get(key);
  if (known !== undefined) return known;
  const validity = judge(property, value);
  if (judged.size > MOST_KEPT) judged.clear();
  judged.set(key, validity);
  return validity;
}

/** The dictionary takes any `calc()`; colours and words do not calculate. */
function hasBrokenCalc(value: string): boolean {
  return [...value.matchAll(/(?<![\w-])calc\(([^()]*)\)/gi)].some(([, inner]) =>
    /#|(?:^|[\s*/(])(?!pi\b|e\b|infinity\b|nan\b)[a-z]/i.test(inner ?? ''),
  );
}

/** The system colours of CSS 2, which browsers still know and the dictionary does not (CSS Color 4, appendix A). */
const oldSystemColors = new RegExp(
  `(?<![\\w-])(?:${(
    'ActiveBorder ActiveCaption AppWorkspace Background ButtonHighlight ButtonShadow CaptionText InactiveBorder ' +
    'InactiveCaption InactiveCaptionText InfoBackground InfoText Menu MenuText Scrollbar ThreeDDarkShadow ThreeDFace ' +
    'ThreeDHighlight ThreeDLightShadow ThreeDShadow Window WindowFrame WindowText'
  )
    .split(' ')
    .join('|')})(?![\\w(-])`,
  'gi',
);

const sides = '(?:-(?:top|right|bottom|left))?';

/** What most declarations are: they are told without the dictionary, as to take it in takes longer than a short command may. */
const plainly: readonly (readonly [property: RegExp, value: RegExp])[] = [
  [new RegExp(`^(?:color|background|background-color|border${sides}-color)$`), /^#(?:[\da-f]{3}|[\da-f]{6})$/i],
  [
    new RegExp(
      `^(?:(?:max-|min-)?(?:width|height)|(?:padding|margin)${sides}|border${sides}-width|font-size|line-height)$`,
    ),
    /^(?:0|\d+(?:\.\d+)?(?:px|em))$/,
  ],
];

/** The dictionary's matcher tries every reading; it gives up on longer values, and says so on the console. */
const LONGEST_JUDGED = 1000;

function judge(property: string, value: string): Validity {
  if (plainly.some(([properties, values]) => properties.test(property) && values.test(value))) return 'valid';
  if (hasBrokenCalc(value)) return 'invalid';
  // What align and center stand for in browsers, which take it from authors as well.
  if (property === 'text-align' && /^-webkit-(?:left|center|right)$/i.test(value)) return 'valid';
  if (value.length > LONGEST_JUDGED) return 'unsure';
  const fits = matchesGrammar(property, value.replace(oldSystemColors, 'Canvas'));
  if (fits === null) return 'unsure';
  if (fits) return 'valid';
  return value.includes('(') ? 'unsure' : 'invalid';
}
