import { RuleIndex } from '../css/cascade/cascade.js';
import { indexElements, type ElementIndex } from '../css/selectors/element-index.js';
import { collectRules, type StyleRule } from '../css/cascade/rules.js';
import type { Selector } from '../css/selectors/part.js';
import type { AtRule, CssItem, Declaration, RawRule } from '../css/syntax/css-items.js';
import { selectorSetting } from '../css/syntax/tagged-values.js';
import { variableNames } from '../css/values/variables.js';
import { finding, type Report } from '../findings/finding.js';
import { parseHtml } from '../html/parse.js';
import type { TagDelimiters } from '../html/tags.js';
import { attribute, firstElement, writtenValue, type Doc } from '../html/tree.js';
import { applyEdits, type Edit } from '../text/apply-edits.js';
import type { SourceText } from '../text/source-text.js';
import type { Span } from '../text/span.js';
import { isBlankSheet, readSheets, type Sheet } from '../css/cascade/sheets.js';
import { counted } from '../text/amounts.js';

/**
 * Leaves out of the style elements of a document what nothing in it uses: rules that match no element, custom properties
 * that nothing reads, fonts and keyframes that nothing names. Rules for what engines put around a message stay, and so
 * do style elements that are to be left alone.
 */
export function dropUnused(html: SourceText, delimiters: readonly TagDelimiters[], report: Report): string {
  const ignore = (): void => undefined;
  const { doc } = parseHtml(html, delimiters);
  const sheets = readSheets(doc, [], () => null, ignore).filter(({ kept }) => !kept);
  const rules = collectRules(sheets, selectorSetting(doc), ignore);
  const index = indexElements(doc);
  const dropper = new Dropper(doc, rules, usedSelectors(index, rules));
  const edits = sheets.flatMap((sheet) => dropper.editsOf(sheet));
  const { text } = applyEdits(html.text, edits);
  const bytes = html.text.length - text.length;
  if (bytes > 0)
    report(
      finding('unused-dropped', null, {
        file: html.name,
        rules: counted(dropper.count, 'rule'),
        size: `${(bytes / 1024).toFixed(1)} KB`,
      }),
    );
  return text;
}

/** The selectors that may match an element here, or belong to an engine. */
function usedSelectors(index: ElementIndex, rules: readonly StyleRule[]): ReadonlySet<Selector> {
  const used = new Set<Selector>();
  const matching = new RuleIndex(rules, 'may');
  for (const element of index.elements) for (const { selector } of matching.matching(element)) used.add(selector);
  const isEngines = engineTest(index);
  for (const { selectors } of rules)
    for (const selector of selectors) {
      if (used.has(selector)) continue;
      const isOfPart = selector.pseudoElement !== null && index.elements.some((element) => selector.may(element));
      if (isOfPart || selector.texts().some(isEngines)) used.add(selector);
    }
  return used;
}

/** Attributes of HTML that come and go without a value; other bare ones are put there by engines. */
const htmlAttributes: ReadonlySet<string> = new Set(
  'hidden disabled open checked selected required readonly multiple autofocus controls href src alt title lang dir'.split(
    ' ',
  ),
);

/**
 * Tells by its form whether a selector is about what an engine puts around a message: a sibling of the body, a bare
 * attribute that nobody writes here, a wrapper whose name is in capitals.
 */
function engineTest({ doc, elements }: ElementIndex): (selector: string) => boolean {
  const body = firstElement(doc.root, 'body');
  const bodyNames = ['body', ...(attribute(body ?? doc.root, 'class') ?? '').split(/\s+/).map((name) => `.${name}`)];
  const names = new Set(elements.flatMap(({ id, classes }) => [...classes, ...(id === null ? [] : [id])]));
  const attributes = new Set(elements.flatMap(({ node }) => [...node.attributes.keys()]));
  return (selector) => {
    const beside = /[+~]\s*([.\w-]+)/.exec(selector)?.[1];
    if (beside !== undefined && bodyNames.includes(beside)) return true;
    const bare = [...selector.matchAll(/\[\s*([\w-]+)\s*\]/g)].map((match) => match[1] ?? '');
    if (bare.some((name) => !attributes.has(name) && !htmlAttributes.has(name))) return true;
    return [...selector.matchAll(/[.#]([A-Z][a-z]+[A-Z]\w*)/g)].some((match) => !names.has(match[1] ?? ''));
  };
}

class Dropper {
  /** How many rules are left out. */
  count = 0;
  readonly #byOuter = new Map<RawRule, StyleRule[]>();
  readonly #read: ReadonlySet<string>;
  readonly #values: string;

  constructor(
    doc: Doc,
    rules: readonly StyleRule[],
    private readonly used: ReadonlySet<Selector>,
  ) {
    for (const rule of rules) {
      const list = this.#byOuter.get(rule.outer) ?? [];
      list.push(rule);
      this.#byOuter.set(rule.outer, list);
    }
    const staying = rules.filter((rule) => this.isUsed(rule));
    const inAttributes = styleAttributes(doc);
    const declared = staying.flatMap(({ declarations }) => declarations);
    this.#read = readNames(declared, inAttributes);
    this.#values = [...declared.map(({ value }) => value), ...inAttributes].join('\n').toLowerCase();
  }

  editsOf(sheet: Sheet): Edit[] {
    const edits = sheet.items.flatMap((item) => this.item(item, sheet));
    const whole = sheet.element?.span ?? null;
    if (edits.length === 0 || whole === null) return edits;
    const { start } = sheet.span;
    const within = edits.map(({ span, text }) => ({
      span: { start: span.start - start, end: span.end - start },
      text,
    }));
    const left = applyEdits(sheet.source.slice(sheet.span), within).text;
    return isBlankSheet(left) ? [{ span: whole, text: '' }] : edits;
  }

  private isUsed({ selectors }: StyleRule): boolean {
    return selectors.some((selector) => this.used.has(selector));
  }

  private item(item: CssItem, sheet: Sheet): Edit[] {
    if (item.kind === 'at-rule') return this.atRule(item, sheet);
    if (item.kind === 'declaration') return [];
    const rules = this.#byOuter.get(item) ?? [];
    const stays = rules.some((rule) => this.isUsed(rule) && rule.declarations.some((one) => this.isNeeded(one)));
    if (stays) return this.declarations(item.items, sheet);
    // What no browser reads is not ours to judge.
    if (rules.length === 0 && item.items.length > 0) return [];
    this.count += 1;
    return [removal(sheet, item.place.span)];
  }

  private atRule(rule: AtRule, sheet: Sheet): Edit[] {
    if (/^(?:-\w+-)?keyframes$/.test(rule.name)) return this.unlessNamed(rule, sheet, prelude(rule));
    if (rule.name === 'font-face') return this.unlessNamed(rule, sheet, fontFamily(rule));
    if (rule.items === null) return [];
    const edits = rule.items.map((item) => this.item(item, sheet));
    const isEmptied =
      rule.name !== 'layer' &&
      rule.items.every((item, index) =>
        edits[index]?.some(({ span }) => span.start <= item.place.span.start && span.end >= item.place.span.end),
      );
    return isEmptied ? [removal(sheet, rule.place.span)] : edits.flat();
  }

  /** Fonts and keyframes stay where anything that stays names them. */
  private unlessNamed(rule: AtRule, sheet: Sheet, name: string): Edit[] {
    if (name === '' || this.#values.includes(name.toLowerCase())) return [];
    this.count += 1;
    return [removal(sheet, rule.place.span)];
  }

  private isNeeded({ property }: Declaration): boolean {
    return !property.startsWith('--') || this.#read.has(property);
  }

  private declarations(items: readonly CssItem[], sheet: Sheet): Edit[] {
    return items.flatMap((item): Edit[] => {
      if (item.kind !== 'declaration') return item.items === null ? [] : this.declarations(item.items, sheet);
      return this.isNeeded(item) ? [] : [removal(sheet, item.place.span, /^\s*;?[ \t]*/)];
    });
  }
}

function styleAttributes(doc: Doc): string[] {
  const values: string[] = [];
  for (const { node } of indexElements(doc).elements)
    for (const name of ['style', 'face']) {
      const value = attribute(node, name);
      if (value !== null) values.push(writtenValue(doc, value));
    }
  return values;
}

/** The custom properties that anything reads, directly or by way of others. */
function readNames(declarations: readonly Declaration[], attributes: readonly string[]): ReadonlySet<string> {
  const custom = declarations.filter(({ property }) => property.startsWith('--'));
  const plain = declarations.filter(({ property }) => !property.startsWith('--'));
  const open = [...plain.map(({ value }) => value), ...attributes].flatMap(variableNames);
  const read = new Set<string>();
  for (let name = open.pop(); name !== undefined; name = open.pop()) {
    if (read.has(name)) continue;
    read.add(name);
    for (const { property, value } of custom) if (property === name) open.push(...variableNames(value));
  }
  return read;
}

function prelude(rule: AtRule): string {
  return rule.place.source.slice(rule.prelude).replace(/["']/g, '').trim();
}

function fontFamily(rule: AtRule): string {
  const text = rule.place.source.slice(rule.place.span);
  return /font-family\s*:\s*["']?([^;"'}]+)/i.exec(text)?.[1]?.trim() ?? '';
}

/** A stretch of a sheet, and the end of its line where it has the line to itself. */
function removal(sheet: Sheet, span: Span, behind = /^[ \t]*(?:\r\n|\n|\r)?/): Edit {
  const text = sheet.source.text;
  const after = behind.exec(text.slice(span.end, sheet.span.end))?.[0].length ?? 0;
  return { span: { start: span.start, end: span.end + after }, text: '' };
}
