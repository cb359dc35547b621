import { selectorSetting } from '../css/syntax/tagged-values.js';
import type { Declared } from '../css/cascade/cascade.js';
import { indexElements, type ElementIndex } from '../css/selectors/element-index.js';
import { collectRules, type StyleRule } from '../css/cascade/rules.js';
import { finding, type Report } from '../findings/finding.js';
import { checkTags } from '../html/structure/tag-check.js';
import { withoutFiller } from '../html/mask.js';
import { findTags } from '../html/tags.js';
import { writtenValue, type Doc } from '../html/tree.js';
import { applyEdits, type Edit } from '../text/apply-edits.js';
import type { InlineEntry } from './element-styles.js';
import { headEdits } from './head.js';
import { legacyAttributesFor } from './legacy-attributes.js';
import { planImportance, type Plan, type StyledElement } from './plan.js';
import { restateContenders } from './restate.js';
import type { Sheet } from '../css/cascade/sheets.js';
import {
  attributeEdits,
  declarationsText,
  writtenEntries,
  type NewAttribute,
  type WrittenEntry,
} from './style-attribute.js';
import { readElements, type Reading, reportInexact } from './read-styles.js';
import { spanAt } from '../text/span.js';

/** A document to inline. */
export interface InlineInput {
  readonly doc: Doc;
  /** Its style sheets, in cascade order (see `readSheets`). */
  readonly sheets: readonly Sheet[];
  /** True to leave in the head what was inlined, too. */
  readonly keepHead: boolean;
}

/** A style attribute longer than this is worth a word, in characters. */
const LONG_STYLE = 2048;

/** Some webmail cuts HTML off at about this many bytes. */
const CLIPPING_SIZE = 100 * 1024;

/** Whether finished HTML is longer than some webmail shows. */
export function isClipped(html: string): boolean {
  return html.length > CLIPPING_SIZE;
}

/**
 * Moves what style sheets say into style attributes. In a browser the result computes to the same styles at every width,
 * scheme and state; without its style elements, to what the unconditional rules come to. Everything that has no part in
 * this stays byte for byte.
 */
export function inlineStyles(input: InlineInput, report: Report): string {
  const { doc, sheets } = input;
  const rules = collectRules(sheets, selectorSetting(doc), report);
  const index = indexElements(doc);
  const written = tagWriter(doc, sheets);
  const reading = readElements(index, rules, input.keepHead, written, report);
  const plan = planImportance(reading.styled, isFixed);
  let names: ReadonlySet<string> | null = null;
  const isFree = (name: string): boolean => !(names ??= usedNames(index, rules)).has(name);
  const restatement = restateContenders(plan.restated, isFree, written);
  reportUnsolved(plan, doc, report);
  const readAttributes = attributesReadBy(rules, reading);
  const work: ElementWork = { doc, plan, classes: restatement.classes, readAttributes, written: new Map() };
  const edits = [
    ...reading.styled.flatMap((element) => elementEdits(element, work, report)),
    ...headEdits({
      doc,
      sheets,
      rules,
      isInlined: (rule, selector) => reading.isInlined(rule, selector),
      isSpent: reading.isSpent,
      isDone: reading.isDone,
      important: plan.important,
      added: restatement.rules,
      keepHead: input.keepHead,
    }),
  ];
  return finish(doc, edits, report);
}

/** Puts template tags into a text in the place of the sentinels and fillers that stand for them. */
function tagWriter(doc: Doc, sheets: readonly Sheet[]): (text: string) => string {
  const inFiles = sheets.filter(({ source }) => source !== doc.source).map(({ source }) => source.text);
  const texts = [
    ...doc.tags.map((tag) => doc.source.slice(tag)),
    ...inFiles.flatMap((text) => findTags(text, doc.delimiters).map(({ start, end }) => text.slice(start, end))),
  ];
  return (text) => withoutFiller(writtenValue(doc, text), texts);
}

function finish(doc: Doc, edits: readonly Edit[], report: Report): string {
  const { text, rejected } = applyEdits(doc.source.text, edits);
  if (rejected.length > 0) throw new Error(`Inlining made ${rejected.length} edits that overlap.`);
  checkTags(doc, text, report);
  if (isClipped(text))
    report(
      finding(
        'html-clipped',
        { source: doc.source, span: spanAt(0, 0) },
        { size: `${Math.round(text.length / 1024)} KB` },
      ),
    );
  return text;
}

/** Sheets that the author wants left alone cannot be changed; rules in layers change their rank when they become important. */
function isFixed(declared: Declared): boolean {
  const rule = declared.match?.rule;
  return rule !== undefined && ((rule.sheet as Sheet).kept || rule.layer !== null);
}

function usedNames(index: ElementIndex, rules: readonly StyleRule[]): ReadonlySet<string> {
  const names = new Set<string>();
  for (const element of index.elements) for (const name of element.classes) names.add(name);
  for (const rule of rules)
    for (const selector of rule.selectors)
      for (const match of selector
        .texts()
        .join(' ')
        .matchAll(/\.([\w-]+)/g))
        names.add(match[1] ?? '');
  return names;
}

/** The names of attributes that selectors read which stay in the head. */
function attributesReadBy(rules: readonly StyleRule[], reading: Reading): ReadonlySet<string> {
  const names = new Set<string>();
  for (const rule of rules) {
    for (const selector of rule.selectors) {
      if (reading.isInlined(rule, selector)) continue;
      for (const match of selector
        .texts()
        .join(' ')
        .matchAll(/\[\s*([\w-]+)/g))
        names.add((match[1] ?? '').toLowerCase());
    }
  }
  return names;
}

/** What is decided for all elements. */
interface ElementWork {
  readonly doc: Doc;
  readonly plan: Plan;
  /** The classes that elements get, for rules that are made for them. */
  readonly classes: ReadonlyMap<StyledElement, string>;
  /** Attributes that selectors ask for: they must not appear where they were not. */
  readonly readAttributes: ReadonlySet<string>;
  /** What the styles that elements share come to, once it is known. */
  readonly written: Map<StyledElement['inline'], WrittenStyle>;
}

/** What stands in a style attribute. */
interface WrittenStyle {
  readonly entries: readonly WrittenEntry[];
  readonly text: string;
}

const unmarked: ReadonlySet<InlineEntry> = new Set();

function writtenStyle(
  { doc, written }: ElementWork,
  inline: StyledElement['inline'],
  marked: ReadonlySet<InlineEntry>,
): WrittenStyle {
  const known = marked.size === 0 ? written.get(inline) : undefined;
  if (known !== undefined) return known;
  const entries = writtenEntries(inline, marked);
  const style = { entries, text: writtenValue(doc, declarationsText(entries)) };
  if (marked.size === 0) written.set(inline, style);
  return style;
}

function elementEdits(styled: StyledElement, work: ElementWork, report: Report): Edit[] {
  const { doc, plan, classes, readAttributes } = work;
  const { element, inline, hasTag } = styled;
  const className = classes.get(styled) ?? null;
  if (!hasTag) return [];
  const marked: ReadonlySet<InlineEntry> = plan.marked.get(styled) ?? unmarked;
  const isNew = (entry: InlineEntry): boolean =>
    entry.declared.match !== null || /var\(/i.test(entry.declared.declaration.value);
  const changes = inline.some(isNew);
  const attributes: NewAttribute[] = [];
  if (className !== null)
    attributes.push({
      name: 'class',
      value: [element.node.attributes.get('class')?.value ?? '', className].join(' ').trim(),
    });
  if (changes || marked.size > 0) {
    const { entries, text } = writtenStyle(work, inline, marked);
    if (text.length > LONG_STYLE && element.node.startTag !== null)
      report(finding('style-long', { source: doc.source, span: element.node.startTag }, { size: String(text.length) }));
    attributes.push(...legacyAttributesFor(element.node, entries, (name) => readAttributes.has(name)), {
      name: 'style',
      value: text,
    });
  }
  return attributes.length === 0
    ? []
    : attributeEdits(
        doc,
        element.node,
        attributes.map(({ name, value }) => ({ name, value: writtenValue(doc, value) })),
      );
}

function reportUnsolved(plan: Plan, doc: Doc, report: Report): void {
  for (const { element, cause } of plan.unsolved) reportInexact(doc, element.element, cause, report);
}
