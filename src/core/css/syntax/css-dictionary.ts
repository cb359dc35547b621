/**
 * The only file that knows the dictionary of the borrowed CSS library: which values each property takes. It is large, and is
 * taken in when it is first asked.
 */
import { definitionSyntax, lexer } from 'css-tree';
import { parseValue } from './css-tree.js';

/** The library's type definitions leave out its dictionary. */
const { properties: dictionary, types } = lexer as unknown as Readonly<
  Record<'properties' | 'types', Readonly<Record<string, Definition>>>
>;

interface Definition {
  readonly syntax: object | null;
}

/** True where the value fits the property's grammar; null where the library does not know the property, or gives up. */
export function matchesGrammar(property: string, value: string): boolean | null {
  if (!Object.hasOwn(dictionary, property)) return null;
  const node = parseValue(value);
  if (node === null) return false;
  try {
    const { error, iterations } = lexer.matchProperty(property, node) as unknown as GrammarMatch;
    return error === null ? true : iterations >= MOST_ITERATIONS ? null : false;
  } catch {
    // The matcher runs out of stack on some values.
    return null;
  }
}

/** The names of all properties that the dictionary knows, but for those of one engine. */
export const propertyNames: ReadonlySet<string> = new Set(
  Object.keys(dictionary).filter((name) => !name.startsWith('-')),
);

/** The keywords that may stand in a property's value, without those that any property takes. */
export function keywordsOf(property: string): string[] {
  const keywords = new Set<string>();
  const seen = new Set<object>();
  const collect = (definition: Definition | undefined): void => {
    const syntax = definition?.syntax ?? null;
    if (syntax === null || seen.has(syntax)) return;
    seen.add(syntax);
    definitionSyntax.walk(syntax as never, (node: { type: string; name?: string }) => {
      const { type, name = '' } = node;
      if (type === 'Keyword' && !name.startsWith('-')) keywords.add(name);
      if (type === 'Type') collect(types[name]);
      if (type === 'Property') collect(dictionary[name]);
    });
  };
  collect(Object.hasOwn(dictionary, property) ? dictionary[property] : undefined);
  return [...keywords];
}

interface GrammarMatch {
  readonly error: unknown;
  readonly iterations: number;
}

/** Where the library's matcher gives up; the value may fit all the same. */
const MOST_ITERATIONS = 15_000;
