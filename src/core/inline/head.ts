import type { StyleRule } from '../css/cascade/rules.js';
import type { Selector } from '../css/selectors/part.js';
import { parseStyleSheet } from '../css/syntax/style-sheet.js';
import { wholeSheet, type AtRule, type CssItem, type Declaration, type RawRule } from '../css/syntax/css-items.js';
import { applyEdits, type Edit } from '../text/apply-edits.js';
import { writtenValue, type Doc } from '../html/tree.js';
import { SourceText } from '../text/source-text.js';
import type { Span } from '../text/span.js';
import { rebaseAddresses } from '../css/values/addresses.js';
import { isBlankSheet, type Sheet } from '../css/cascade/sheets.js';

/** What the head's style sheets are to become. */
export interface HeadPlan {
  readonly doc: Doc;
  readonly sheets: readonly Sheet[];
  readonly rules: readonly StyleRule[];
  /** Whether a selector's rule is done with: all it says went into style attributes. */
  readonly isInlined: (rule: StyleRule, selector: Selector) => boolean;
  /** Whether what a rule says is inlined wherever it matches, though the rule itself stays (for what is nested in it, or for custom properties). */
  readonly isSpent: (rule: StyleRule) => boolean;
  /** Whether what a rule says by a selector is inlined, though its custom properties may still be needed in the head. */
  readonly isDone: (rule: StyleRule, selector: Selector) => boolean;
  readonly important: ReadonlySet<Declaration>;
  /** Rules to be added at the end. */
  readonly added: readonly string[];
  readonly keepHead: boolean;
}

/** The edits of the document that carry the plan out. */
export function headEdits(plan: HeadPlan): Edit[] {
  const keepsLayers = plan.rules.some(
    (rule) => rule.layer !== null && rule.selectors.some((selector) => !plan.isInlined(rule, selector)),
  );
  const results = plan.sheets.map((sheet) => ({ sheet, text: sheetText(plan, sheet, keepsLayers) }));
  // A sheet with a condition of its own would make what is added conditional; one that ends in a broken rule, part of it.
  const last =
    plan.added.length === 0
      ? undefined
      : results.findLast(
          ({ sheet, text }) =>
            !sheet.kept &&
            sheet.element !== null &&
            sheet.conditions.length === 0 &&
            (sheet.kind === 'element' || text !== '') &&
            isClosed(text),
        );
  const edits: Edit[] = [];
  let pending = plan.added.length === 0 ? '' : plan.added.join('\n');
  for (const result of results) {
    const extra = result === last ? pending : '';
    if (result === last) pending = '';
    edits.push(...sheetEdits(plan, result.sheet, result.text, extra));
  }
  const loose = [...results.filter(({ sheet }) => sheet.kind === 'added').map(({ text }) => text), pending].filter(
    (text) => !isBlankSheet(text),
  );
  if (loose.length > 0) edits.push(newStyleElements(plan.doc, loose));
  return edits;
}

/** Whether a rule that is written behind a style sheet is one of its own, and not swallowed by what is never closed. */
function isClosed(css: string): boolean {
  const source = new SourceText('', `${css}\nx{}`);
  const behind = parseStyleSheet(wholeSheet(source), () => undefined).at(-1);
  return behind?.kind === 'rule' && source.slice(behind.prelude).trim() === 'x';
}

function sheetEdits(plan: HeadPlan, sheet: Sheet, text: string, extra: string): Edit[] {
  const { element } = sheet;
  if (element === null || element.span === null) return [];
  const original = sheet.source.slice(sheet.span);
  const full = extra === '' ? text : `${text.replace(/\s*$/, '')}\n${extra}\n`;
  if (sheet.kind === 'link') {
    const media =
      sheet.conditions.length === 0
        ? ''
        : ` media="${sheet.conditions.map((condition) => condition.text.replace(/"/g, '&quot;')).join('')}"`;
    return [{ span: element.span, text: isBlankSheet(full) ? '' : `<style${media}>\n${full.trim()}\n</style>` }];
  }
  if (full === original) return [];
  if (isBlankSheet(full) && !plan.keepHead) return [{ span: element.span, text: '' }];
  return [{ span: sheet.span, text: full }];
}

/** Before the end of the head, or where the document's first tag begins; what is never closed ends with its element. */
function newStyleElements(doc: Doc, sheets: readonly string[]): Edit {
  const head = doc.root.children.find((child) => child.kind === 'element' && child.tag === 'head');
  const close = head?.kind === 'element' ? (head.endTag?.start ?? head.startTag?.end) : undefined;
  const at = close ?? doc.doctype?.span.end ?? 0;
  const css = sheets.map((sheet, place) => {
    const isLast = place === sheets.length - 1;
    return `${sheet.trim()}\n${isLast || isClosed(sheet) ? '' : '</style>\n<style>\n'}`;
  });
  return { span: { start: at, end: at }, text: `<style>\n${css.join('')}</style>\n` };
}

function sheetText(plan: HeadPlan, sheet: Sheet, keepsLayers: boolean): string {
  const original = sheet.source.slice(sheet.span);
  if (sheet.kept) return original;
  const editor = new SheetEditor(plan, sheet, keepsLayers);
  const edits = editor.edits().map(({ span, text }) => ({
    span: { start: span.start - sheet.span.start, end: span.end - sheet.span.start },
    text,
  }));
  return applyEdits(original, edits).text;
}

class SheetEditor {
  readonly #byRule = new Map<RawRule, StyleRule[]>();
  readonly #gone = new Set<Declaration>();

  constructor(
    private readonly plan: HeadPlan,
    private readonly sheet: Sheet,
    private readonly keepsLayers: boolean,
  ) {
    for (const rule of plan.rules) {
      if (rule.sheet !== sheet) continue;
      const list = this.#byRule.get(rule.outer) ?? [];
      list.push(rule);
      this.#byRule.set(rule.outer, list);
      if (plan.keepHead || !plan.isSpent(rule)) continue;
      for (const declaration of rule.declarations)
        if (!declaration.property.startsWith('--')) this.#gone.add(declaration);
    }
  }

  edits(): Edit[] {
    return this.sheet.items.flatMap((item) => this.item(item));
  }

  private item(item: CssItem): Edit[] {
    if (item.kind === 'rule') return this.rule(item);
    if (item.kind === 'at-rule') return this.atRule(item);
    return this.declaration(item);
  }

  private atRule(rule: AtRule): Edit[] {
    if (this.isSpent(rule)) return [this.removal(rule.place.span)];
    return (rule.items ?? []).flatMap((item) => this.item(item));
  }

  /** A layer or scope that holds nothing any more; layers stay while a rule that stays is in one, as their order counts. */
  private isSpent(rule: AtRule): boolean {
    if (this.plan.keepHead || (rule.name !== 'layer' && rule.name !== 'scope')) return false;
    if (rule.name === 'layer' && this.keepsLayers) return false;
    if (rule.items === null) return rule.name === 'layer';
    return rule.items.every((item) =>
      item.kind === 'rule' ? this.isRemovable(item) : item.kind === 'at-rule' && this.isSpent(item),
    );
  }

  private rule(rule: RawRule): Edit[] {
    if (this.isRemovable(rule)) return [this.removal(rule.place.span)];
    const split = this.splitOff(rule);
    return [
      ...split,
      ...this.trimmedSelectors(rule),
      ...this.spentDeclarations(rule),
      ...this.declarations(rule.items),
    ];
  }

  private isRemovable(rule: RawRule): boolean {
    const rules = this.#byRule.get(rule) ?? [];
    if (this.plan.keepHead || rules.length === 0) return false;
    return rules.every((own) => own.selectors.every((selector) => this.plan.isInlined(own, selector)));
  }

  /** Of a selector list, what was inlined goes; the rest stays as it is written. */
  private trimmedSelectors(rule: RawRule): Edit[] {
    const rules = this.#byRule.get(rule) ?? [];
    const [only] = rules;
    if (
      this.plan.keepHead ||
      rules.length !== 1 ||
      only === undefined ||
      rule.items.some((item) => item.kind !== 'declaration')
    )
      return [];
    const text = this.sheet.source.slice(rule.prelude);
    const written = (selectors: readonly Selector[]): string =>
      selectors.map((selector) => text.slice(selector.start, selector.end).trim()).join(',');
    const kept = only.selectors.filter((selector) => !this.plan.isDone(only, selector));
    if (kept.length === only.selectors.length || kept.length === 0) return [];
    const forVariables = only.selectors.filter(
      (selector) => this.plan.isDone(only, selector) && !this.plan.isInlined(only, selector),
    );
    const variables = only.declarations.filter(({ property }) => property.startsWith('--'));
    const before =
      forVariables.length === 0
        ? ''
        : `${written(forVariables)}{${variables.map(({ property, value, important }) => `${property}:${writtenValue(this.plan.doc, value)}${important ? '!important' : ''}`).join(';')}}`;
    return [{ span: rule.prelude, text: before + written(kept) }];
  }

  /**
   * Where rules are nested in one of which some selectors are inlined, what it says itself goes into a rule for the other
   * selectors, so that nothing important is left for those; what is nested still needs them all.
   */
  private splitOff(rule: RawRule): Edit[] {
    const [own, ...more] = (this.#byRule.get(rule) ?? []).filter(({ place }) => place === rule.place);
    const isLeading = rule.items[0]?.kind === 'declaration' && rule.items.some(({ kind }) => kind !== 'declaration');
    if (this.plan.keepHead || own === undefined || more.length > 0 || !isLeading) return [];
    const { selectors, declarations } = own;
    const kept = selectors.filter((selector) => !this.plan.isDone(own, selector));
    const hasVariables = declarations.some(({ property }) => property.startsWith('--'));
    if (kept.length === 0 || kept.length === selectors.length || hasVariables) return [];
    const said = declarations.map((declaration) => {
      this.#gone.add(declaration);
      const { property, value, important } = declaration;
      const text = writtenValue(this.plan.doc, rebaseAddresses(value, this.sheet.base));
      return `${property}:${text}${important || this.plan.important.has(declaration) ? '!important' : ''}`;
    });
    const prelude = this.sheet.source.slice(rule.prelude);
    const list = kept.map(({ start, end }) => prelude.slice(start, end).trim()).join(',');
    const { start } = rule.place.span;
    return [{ span: { start, end: start }, text: `${list}{${said.join(';')}}` }];
  }

  /** Declarations that are inlined everywhere; left here, an important one would beat what is inline. */
  private spentDeclarations(rule: RawRule): Edit[] {
    const declarations = (this.#byRule.get(rule) ?? []).flatMap((own) => own.declarations);
    return declarations
      .filter((declaration) => this.#gone.has(declaration))
      .map(({ place }) => {
        const after = /^\s*;?\s*/.exec(this.sheet.source.text.slice(place.span.end, this.sheet.span.end))?.[0] ?? '';
        return { span: { start: place.span.start, end: place.span.end + after.length }, text: '' };
      });
  }

  private declarations(items: readonly CssItem[]): Edit[] {
    return items.flatMap((item): Edit[] => {
      if (item.kind === 'declaration') return this.declaration(item);
      return item.items === null ? [] : this.declarations(item.items);
    });
  }

  private declaration(declaration: Declaration): Edit[] {
    if (this.#gone.has(declaration)) return [];
    const edits: Edit[] = [];
    const rebased = rebaseAddresses(declaration.value, this.sheet.base);
    if (rebased !== declaration.value) edits.push({ span: declaration.valueSpan, text: rebased });
    const { end } = declaration.valueSpan;
    if (this.plan.important.has(declaration)) edits.push({ span: { start: end, end }, text: '!important' });
    return edits;
  }

  /** A rule, and the white space behind it up to and with the end of its line. */
  private removal(span: Span): Edit {
    const { text } = this.sheet.source;
    const after = /[ \t]*(?:\r\n|\n|\r)?/y;
    after.lastIndex = span.end;
    const end = Math.min(span.end + (after.exec(text)?.[0].length ?? 0), this.sheet.span.end);
    let lineStart = span.start;
    while (lineStart > this.sheet.span.start && /[ \t]/.test(text[lineStart - 1] ?? '')) lineStart -= 1;
    const startsLine = lineStart === this.sheet.span.start || /[\r\n]/.test(text[lineStart - 1] ?? '');
    return { span: { start: span.start, end: startsLine ? end : span.end }, text: '' };
  }
}
