import type { Declared } from '../../css/cascade/cascade.js';
import type { CssItem } from '../../css/syntax/css-items.js';
import { expandShorthand } from '../../css/values/shorthands.js';
import { splitValue } from '../../css/values/value.js';
import { finding, type Place, type Report } from '../../findings/finding.js';

/** A font that mail clients load from the web, if they can. */
export interface WebFont {
  readonly family: string;
  /** The address of its style sheet; null for one that an `@font-face` rule of the message declares. */
  readonly source: string | null;
  /** What stands in for it, first choice first. */
  readonly fallback: readonly string[];
}

/** Families that nearly every system has, or has under that name. */
const safeFamilies: ReadonlySet<string> = new Set(
  (
    'arial|arial black|comic sans ms|courier|courier new|garamond|geneva|georgia|helvetica|helvetica neue|impact|' +
    'lucida console|lucida grande|lucida sans unicode|monaco|palatino|palatino linotype|tahoma|times|times new roman|' +
    'trebuchet ms|verdana'
  ).split('|'),
);

/** Generic families (CSS Fonts 4, 2.1.3). */
const genericFamilies: ReadonlySet<string> = new Set(
  'serif sans-serif monospace cursive fantasy system-ui ui-serif ui-sans-serif ui-monospace ui-rounded math emoji'.split(
    ' ',
  ),
);

/** The families of a `font-family` value, without quotes. */
export function familiesOf(value: string): string[] {
  return splitValue(value, ',').map(unquoted);
}

function unquoted(name: string): string {
  return name.trim().replace(/^(["'])(.*)\1$/, '$2');
}

/** A `font-family` value of families. */
function familyList(families: readonly string[]): string {
  return families.map((family) => (/[^a-z0-9-]/i.test(family) ? `'${family}'` : family)).join(',');
}

/** The fonts that `@font-face` rules declare; what stands in for them is up to the styles that use them. */
export function declaredFonts(items: readonly CssItem[]): WebFont[] {
  return fontFaceRules(items).flatMap((rule): WebFont[] => {
    const family = /font-family\s*:\s*([^;}]+)/i.exec(rule)?.[1];
    return family === undefined ? [] : [{ family: unquoted(family), source: null, fallback: [] }];
  });
}

/** The text of the `@font-face` rules of a sheet, as written, those under conditions too. */
export function fontFaceRules(items: readonly CssItem[]): string[] {
  return items.flatMap((item): string[] => {
    if (item.kind !== 'at-rule') return [];
    if (item.name === 'font-face') return [item.place.source.slice(item.place.span)];
    return item.items === null ? [] : fontFaceRules(item.items);
  });
}

/**
 * The value of `font-family` or `font`, which ends with its families, complete: a web font that stands alone gets what the
 * configuration says stands in for it.
 */
export function completeStack(property: string, value: string, fonts: readonly WebFont[]): string {
  const families = familiesIn({ property, value });
  const font = fonts.find(({ family }) => same(family, families[0] ?? ''));
  if (font === undefined || families.length > 1 || font.fallback.length === 0) return value;
  return `${value},${familyList(font.fallback)}`;
}

/** The web fonts that declarations use, in the order of the list. */
export function usedFonts(declared: readonly (readonly Declared[])[], fonts: readonly WebFont[]): WebFont[] {
  const used = new Set(
    declared.flat().flatMap(({ declaration }) => familiesIn(declaration).map((family) => family.toLowerCase())),
  );
  return fonts.filter(({ family }) => used.has(family.toLowerCase()));
}

function familiesIn({ property, value }: Pick<Declared['declaration'], 'property' | 'value'>): string[] {
  return expandShorthand(property, value).flatMap(([name, part]) => (name === 'font-family' ? familiesOf(part) : []));
}

/** Reports stacks that leave a reader's system to guess: no generic family at the end, or nothing that systems have. */
export function checkFonts(
  declared: readonly (readonly Declared[])[],
  fonts: readonly WebFont[],
  report: Report,
): void {
  const seen = new Set<Declared['declaration']>();
  for (const { declaration, origin } of declared.flat()) {
    if (origin === 'browser' || seen.has(declaration) || !/^font(?:-family)?$/.test(declaration.property)) continue;
    seen.add(declaration);
    const families = familiesIn(declaration);
    if (families.length === 0 || /var\(|^(?:inherit|initial|unset|revert)/i.test(declaration.value)) continue;
    checkStack(families, fonts, declaration.place, report);
  }
}

function checkStack(families: readonly string[], fonts: readonly WebFont[], place: Place, report: Report): void {
  const [first = ''] = families;
  const complete = familiesOf(completeStack('font-family', familyList(families), fonts));
  const isGeneric = (family: string): boolean => genericFamilies.has(family.toLowerCase());
  const isKnown = (family: string): boolean =>
    isGeneric(family) || safeFamilies.has(family.toLowerCase()) || fonts.some((font) => same(font.family, family));
  if (!isKnown(first)) report(finding('font-rare', place, { family: first }));
  if (!isGeneric(complete[complete.length - 1] ?? '')) report(finding('font-no-generic', place, { family: first }));
}

function same(a: string, b: string): boolean {
  return a.toLowerCase() === b.toLowerCase();
}

/**
 * The head's part of web fonts: how to load them, hidden from the `word` engine, and for that engine what stands in, as
 * it takes a serif font for every name that it does not know.
 * @param stacks the stacks of families in use
 */
export function fontHead(fonts: readonly WebFont[], rules: readonly string[], stacks: readonly string[]): string[] {
  if (fonts.length === 0) return [];
  const imports = fonts.flatMap(({ source }) => (source === null ? [] : [`@import url('${source}');`]));
  const loading = [...imports, ...rules].join('\n');
  const forWord = fonts.map(({ family, fallback }) => {
    const stack = stacks.map(familiesOf).find(([first]) => same(first ?? '', family)) ?? [family, ...fallback];
    const standIn = stack.slice(1).find((name) => safeFamilies.has(name.toLowerCase())) ?? 'Arial';
    return `@font-face{font-family:${familyList([family])};mso-font-alt:${familyList([standIn])}}`;
  });
  return [
    `<!--[if mso]><style>${forWord.join('')}</style><![endif]-->`,
    ...(loading === '' ? [] : [`<!--[if !mso]><!--><style>\n${loading}\n</style><!--<![endif]-->`]),
  ];
}
