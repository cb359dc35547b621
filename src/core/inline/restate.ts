import type { Declared } from '../css/cascade/cascade.js';
import type { Selector } from '../css/selectors/part.js';
import type { AtRule } from '../css/syntax/css-items.js';
import type { Contender, StyledElement } from './plan.js';
import { rebaseAddresses } from '../css/values/addresses.js';
import type { Sheet } from '../css/cascade/sheets.js';
import { declarationsText, writtenEntries } from './style-attribute.js';

/** Rules for the head that restate what competes on some elements, and the classes that those elements get. */
export interface Restatement {
  readonly rules: readonly string[];
  readonly classes: ReadonlyMap<StyledElement, string>;
}

/** Ids, classes and types that a selector counts for. */
interface Specificity {
  readonly ids: number;
  readonly classes: number;
  readonly types: number;
}

const unpack = (packed: number): Specificity => ({
  ids: Math.floor(packed / (1 << 20)),
  classes: Math.floor(packed / (1 << 10)) % (1 << 10),
  types: packed % (1 << 10),
});

/**
 * Writes, for each element (or set of elements alike), all contenders as important rules of one specificity, weakest
 * first, so that their order alone decides. The specificity is above that of everything else that matches the element.
 * @param isFree whether no element and no selector uses a class name yet
 * @param written puts template tags into a text in the place of what stands for them
 */
export function restateContenders(
  restated: ReadonlyMap<StyledElement, readonly Contender[]>,
  isFree: (name: string) => boolean,
  written: (text: string) => string,
): Restatement {
  const names = new Map<string, string>();
  const classes = new Map<StyledElement, string>();
  const rules: string[] = [];
  let counter = 0;
  for (const [element, contenders] of restated) {
    const peak = element.head
      .map(({ specificity }) => unpack(specificity))
      .reduce(larger, { ids: 0, classes: 0, types: 0 });
    const write = (name: string): string[] =>
      contenders.map((contender) => writeContender(contender, name, { ...peak, classes: peak.classes + 1 }));
    const key = write('*').join('\n');
    let name = names.get(key);
    if (name === undefined) {
      do counter += 1;
      while (!isFree(`in-${counter}`));
      name = `in-${counter}`;
      names.set(key, name);
      rules.push(...write(name).map(written));
    }
    classes.set(element, name);
  }
  return { rules, classes };
}

function larger(a: Specificity, b: Specificity): Specificity {
  return { ids: Math.max(a.ids, b.ids), classes: Math.max(a.classes, b.classes), types: Math.max(a.types, b.types) };
}

function writeContender(contender: Contender, name: string, target: Specificity): string {
  if (contender.kind === 'inline') {
    const declarations = writtenEntries([contender.entry], new Set([contender.entry]), 'head');
    return `.${name}${boost(name, target, { ids: 0, classes: 1, types: 0 })}{${declarationsText(declarations)}}`;
  }
  const { declared } = contender;
  const own = unpack(declared.specificity);
  const selector = declared.match?.selector.flat() ?? '';
  const bounded = `${selector}.${name}${boost(name, target, { ...own, classes: own.classes + 1 })}`;
  const { property, value } = declared.declaration;
  const base = (declared.match?.rule.sheet as Sheet | undefined)?.base ?? '';
  return wrap(declared, `${bounded}{${property}:${rebaseAddresses(value, base)}!important}`);
}

/** Simple selectors that always hold here and only count. */
function boost(name: string, target: Specificity, own: Specificity): string {
  const times = (text: string, count: number): string => text.repeat(Math.max(0, count));
  return (
    times(`:not(#${name})`, target.ids - own.ids) +
    times(`.${name}`, target.classes - own.classes) +
    times(':not(in)', target.types - own.types)
  );
}

/**
 * Layers do not go with a copy, as it has its own rank; nor do scopes that depend on no state: the class stands within them, and
 * by its nearness to a scope a copy would beat those behind it.
 */
function isSettled(atRule: AtRule, selector: Selector | undefined): boolean {
  if (atRule.name === 'layer') return true;
  const prelude = atRule.place.source.slice(atRule.prelude);
  const isOfRoot = /^[>+~]|&|:scope/i.test(selector?.flat() ?? '&');
  return atRule.name === 'scope' && !isOfRoot && !prelude.includes(':');
}

/** Conditions around a rule, and scopes that may come and go, are written around its copy. */
function wrap(declared: Declared, rule: string): string {
  const atRules = declared.match?.rule.atRules.filter((atRule) => !isSettled(atRule, declared.match?.selector)) ?? [];
  const { source } = declared.declaration.place;
  const inner = atRules.reduceRight((text, atRule) => `@${atRule.name} ${source.slice(atRule.prelude)}{${text}}`, rule);
  const media = declared.match?.rule.sheet.conditions ?? [];
  return media.reduceRight((text, condition) => `@media ${condition.text}{${text}}`, inner);
}
