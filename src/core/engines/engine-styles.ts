import type { AtRule, CssItem } from '../css/syntax/css-items.js';
import { wholeSheet } from '../css/syntax/css-items.js';
import { parseDeclarationList, parseStyleSheet } from '../css/syntax/style-sheet.js';
import { readColor } from '../css/values/mixed-color.js';
import { splitValue } from '../css/values/value.js';
import { SourceText } from '../text/source-text.js';
import type { EngineName, Feature, Support } from './engine.js';
import { wordSaid, type Said, type StyledElement } from './word-styles.js';
import { MOST_HEAD_BYTES } from './limits.js';
import { hasSelector, matchesAtRule, says } from './feature-match.js';
import type { SchemeName } from './scheme.js';
import { invertedValue, settledMedia, settledValue } from './scheme.js';

/** What styles become in an engine. */
export interface StyleSetting {
  readonly engine: EngineName;
  readonly scheme: SchemeName;
  readonly features: readonly Feature[];
  /** Whether pictures behind content show. */
  readonly showsPictures: boolean;
}

/** Web mail gives classes and ids of a message names of its own, so that they do not meet those of its page. */
export const WEBMAIL_PREFIX = 'm_';

const quiet = (): void => undefined;

/** A style attribute as an engine reads it on an element. */
export function styleIn(value: string, element: StyledElement, setting: StyleSetting): string {
  const source = new SourceText('style', value);
  const declarations = parseDeclarationList(wholeSheet(source), quiet);
  if (setting.engine !== 'word') return printDeclarations(declarations, setting);
  const read = declarations.flatMap(({ property, value, important }) => {
    const said = wordSaid({ property, value }, element);
    return said === null ? [] : [{ ...said, important }];
  });
  return printDeclarations(read, setting);
}

/** The text of a style element as an engine reads it; empty where it reads none of it. */
export function sheetIn(css: string, setting: StyleSetting): string {
  if (setting.engine === 'webmail' && new TextEncoder().encode(css).length > MOST_HEAD_BYTES) return '';
  const source = new SourceText('style', css);
  const items = parseStyleSheet(wholeSheet(source), quiet);
  const printer = new SheetPrinter(source, setting);
  const printed = printer.items(items, 0);
  return printer.isDropped ? '' : printed;
}

class SheetPrinter {
  isDropped = false;

  constructor(
    private readonly source: SourceText,
    private readonly setting: StyleSetting,
  ) {}

  items(items: readonly CssItem[], depth: number): string {
    return items.map((item) => this.item(item, depth)).join('');
  }

  private item(item: CssItem, depth: number): string {
    switch (item.kind) {
      case 'declaration':
        return `${printDeclarations([item], this.setting)};`;
      case 'at-rule':
        return this.atRule(item, depth);
      case 'rule': {
        const prelude = this.source.slice(item.prelude);
        const nests = depth > 0 && !this.takes('at-rules', (name) => name === 'nesting');
        if (nests || !this.takes('selectors', (name) => hasSelector(prelude, name))) return '';
        const named = this.setting.engine === 'webmail' ? withPrefix(prelude) : prelude;
        return `${named}{${this.items(item.items, depth + 1)}}\n`;
      }
    }
  }

  private atRule({ name, prelude, items, place }: AtRule, depth: number): string {
    const said = this.source.slice(prelude);
    if (!this.takes('at-rules', (feature) => matchesAtRule(name, said, feature))) return '';
    // Frames of animations and faces of fonts hold no rules of ours.
    if (items === null || !/^(?:media|supports|layer|container|scope)$/.test(name))
      return `${this.source.slice(place.span)}\n`;
    const condition = name === 'media' ? settledMedia(said, this.setting.scheme) : said;
    return `@${name} ${condition}{${this.items(items, depth)}}\n`;
  }

  /** Whether the engine reads what features of a kind are asked for; a sheet may fall with what it does not. */
  private takes(kind: Feature['kind'], isAsked: (name: string) => boolean): boolean {
    const supports = this.setting.features
      .filter((feature) => feature.kind === kind && isAsked(feature.name))
      .map(({ support }) => support[this.setting.engine]);
    if (supports.includes('drops-the-sheet')) this.isDropped = true;
    return supports.every(isRead);
  }
}

/** Whether an engine makes anything of what it supports so. */
export function isRead(support: Support): boolean {
  return support === 'yes' || support === 'partly';
}

function printDeclarations(
  declarations: readonly (Said & { readonly important: boolean })[],
  setting: StyleSetting,
): string {
  return declarations
    .flatMap(({ property, value, important }): string[] => {
      const kept = declarationIn({ property, value }, setting);
      return kept === null ? [] : [`${kept.property}:${kept.value}${important ? ' !important' : ''}`];
    })
    .join(';');
}

/** A declaration as an engine reads it; null where it does not. */
function declarationIn(said: Said, setting: StyleSetting): Said | null {
  const { engine, scheme, features, showsPictures } = setting;
  let kept: Said | null = said;
  for (const { kind, name, support } of features) {
    if (kept === null) return null;
    if (kind === 'properties' && !isRead(support[engine]) && says(kept.property, kept.value, name))
      kept = without(kept, name);
  }
  if (kept === null) return null;
  if (!showsPictures && /\burl\(/i.test(kept.value)) kept = without(kept, 'background-image');
  if (kept === null) return null;
  const settled = { ...kept, value: settledValue(kept.property, kept.value, scheme) };
  return scheme === 'inverted' ? { ...settled, value: invertedValue(settled.property, settled.value) } : settled;
}

/** What is left of a declaration whose value holds something that is not read. */
function without(said: Said, feature: string): Said | null {
  if (feature === 'margin: auto') return { ...said, value: said.value.replace(/\bauto\b/gi, '0') };
  if (said.property !== 'background') return null;
  // The colour of a background is read where its picture is not.
  const color = splitValue(said.value, ' ').find((part) => readColor(part) !== null);
  return color === undefined ? null : { property: 'background-color', value: color };
}

/** Selectors with the names that web mail gives to classes and ids. */
function withPrefix(prelude: string): string {
  return prelude.replace(
    /("[^"]*"|'[^']*'|\[[^\]]*\])|([.#])(?=-?[a-z_\u0080-\uffff\\])/gi,
    (whole, kept: string | undefined, mark: string) => (kept === undefined ? `${mark}${WEBMAIL_PREFIX}` : whole),
  );
}
