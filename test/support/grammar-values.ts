import { lexer } from 'css-tree';
import type { Random } from './random.js';

/** A node of the CSS library's value definition syntax (CSS Values 4, 2), as far as values are drawn from it. */
interface Syntax {
  readonly type: string;
  readonly name?: string;
  readonly value?: string;
  readonly terms?: readonly Syntax[];
  readonly term?: Syntax;
  readonly combinator?: string;
  readonly comma?: boolean;
  readonly min?: number;
  readonly max?: number;
  readonly syntax?: Syntax;
}

interface Definition {
  readonly syntax: Syntax | null;
}

const dictionary = lexer as unknown as {
  readonly properties: Readonly<Record<string, Definition>>;
  readonly types: Readonly<Record<string, Definition>>;
};

/** Every property that the CSS library has a grammar for. */
export const grammarProperties: readonly string[] = Object.keys(dictionary.properties).filter(
  (name) => name !== '--*' && dictionary.properties[name]?.syntax,
);

export const wideKeywords = ['inherit', 'initial', 'unset', 'revert', 'revert-layer'];

/** System colours of CSS Color 4 and those of CSS 2. */
export const systemColors = (
  'AccentColor ActiveText ButtonBorder ButtonFace ButtonText Canvas CanvasText Field FieldText GrayText Highlight ' +
  'HighlightText LinkText Mark MarkText VisitedText ActiveBorder Background InfoText Menu Scrollbar ThreeDFace Window ' +
  'WindowFrame WindowText'
).split(' ');

/** Values of the types that the grammar takes from its tokenizer. */
const basicValues: Readonly<Record<string, readonly string[]>> = {
  string: ['"x"', "'y z'"],
  'string-token': ['"x"'],
  ident: ['name'],
  'ident-token': ['name'],
  'custom-ident': ['name', 'other'],
  'dashed-ident': ['--name'],
  'custom-property-name': ['--name'],
  percentage: ['10%', '50%', '0%', '120%'],
  zero: ['0'],
  number: ['0', '1', '2.5', '-1', '.5'],
  'number-token': ['0', '1.5'],
  integer: ['0', '1', '3'],
  'hex-color': ['#abc', '#123456', '#12345678'],
  color: ['red', '#246', 'rgb(1 2 3 / 50%)', 'hsl(120deg 50% 50%)', 'currentcolor', 'transparent', ...systemColors],
  length: ['0', '3px', '1.5em', '2rem', '.5in', '4pt', '1ex', '2vw'],
  'length-percentage': ['4px', '10%', 'calc(10px + 5%)', '1em'],
  angle: ['45deg', '0.25turn'],
  time: ['1s', '200ms'],
  resolution: ['2dppx'],
  frequency: ['3Hz'],
  flex: ['1fr'],
  dimension: ['3px'],
  decibel: ['1dB'],
  semitones: ['1st'],
  url: ['url(data:,)', 'url("data:,")'],
  'url-token': ['url(data:,)'],
  image: ['url(data:,)', 'linear-gradient(red, blue)', 'none'],
  'id-selector': ['#i1'],
  'an-plus-b': ['2n+1'],
  urange: ['U+0-7F'],
  'declaration-value': ['x'],
  'any-value': ['x'],
};

/** Calls are drawn this deep; below, a simple value stands in. */
const DEEPEST = 6;

/** A value that fits the grammar of a property, or nearly; null where nothing short comes of it. */
export function grammarValue(property: string, random: Random): string | null {
  if (random.chance(0.12)) return random.pick(wideKeywords);
  const syntax = dictionary.properties[property]?.syntax;
  if (!syntax) return null;
  const text = draw(syntax, random, 0).replace(/\s+/g, ' ').trim();
  return text === '' || text.length > 120 ? null : text;
}

function draw(syntax: Syntax, random: Random, depth: number): string {
  switch (syntax.type) {
    case 'Group':
      return drawGroup(syntax, random, depth);
    case 'Multiplier': {
      const min = syntax.min ?? 0;
      const most = syntax.max === 0 || syntax.max === undefined ? min + 2 : Math.min(syntax.max, min + 2);
      const count = depth > DEEPEST ? min : random.between(min, most);
      const parts = Array.from({ length: count }, () => draw(syntax.term as Syntax, random, depth + 1));
      return parts.join(syntax.comma === true ? ', ' : ' ');
    }
    case 'Keyword':
      return syntax.name ?? '';
    case 'Type':
      return drawType(syntax.name ?? '', random, depth);
    case 'Property':
      return draw(dictionary.properties[syntax.name ?? '']?.syntax ?? noSyntax, random, depth + 1);
    case 'Function':
      return `${syntax.name ?? ''}(`;
    case 'Token':
    case 'Comma':
    case 'String':
      return syntax.type === 'Comma' ? ',' : (syntax.value ?? '').replace(/^'|'$/g, '');
    default:
      return '';
  }
}

const noSyntax: Syntax = { type: 'Group', terms: [], combinator: ' ' };

function drawGroup(syntax: Syntax, random: Random, depth: number): string {
  const terms = syntax.terms ?? [];
  const one = (term: Syntax): string => draw(term, random, depth + 1);
  switch (syntax.combinator) {
    case '|':
      return terms.length === 0 ? '' : one(random.pick(terms));
    case '||': {
      const chosen = terms.filter(() => random.chance(0.5));
      return shuffled(chosen.length === 0 ? [random.pick(terms)] : chosen, random)
        .map(one)
        .join(' ');
    }
    case '&&':
      return shuffled(terms, random).map(one).join(' ');
    default:
      return terms.map(one).join(' ');
  }
}

function drawType(name: string, random: Random, depth: number): string {
  const basic = basicValues[name];
  if (basic !== undefined) return random.pick(basic);
  const syntax = dictionary.types[name]?.syntax;
  if (!syntax || depth > DEEPEST + 4) return 'none';
  return draw(syntax, random, depth + 1);
}

function shuffled<T>(items: readonly T[], random: Random): T[] {
  const left = [...items];
  const result: T[] = [];
  while (left.length > 0) result.push(...left.splice(random.below(left.length), 1));
  return result;
}
