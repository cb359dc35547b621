import { finding, type Report } from '../../findings/finding.js';
import { SourceText } from '../../text/source-text.js';
import { neutralDialect, type Dialect, type FooterTexts } from '../dialect.js';
import { systemValues, type MergeTag } from '../model.js';
import { convertRegions, type RegionLoss } from './convert-regions.js';
import { convertTags, type Conversion, type ConversionSetting } from './convert-tags.js';
import { readTags } from '../read/foreign-tags.js';
import { footerEdits, isHtml, missingSystemValues, usualFooter, type FooterMode } from './footer.js';
import { isTakenOut, type SourceEdit } from './source-edit.js';
import { spanAt } from '../../text/span.js';

/** How a finished document is converted. */
export interface DocumentConversion extends Omit<ConversionSetting, 'edits'> {
  readonly mode: FooterMode;
  /** The footer to put in, in the neutral notation, and what findings call it; null for the usual one. */
  readonly footer: { readonly texts: FooterTexts; readonly name: string } | null;
}

/**
 * Converts a finished document, or its text version, from one dialect to another: its footer as it is asked for, the marks
 * of its regions, the platform's own badge, and its tags. All other bytes stay.
 */
export function convertDocument(source: SourceText, setting: DocumentConversion, report: Report): Conversion {
  const { from, to, fields, mode } = setting;
  const isSame = from.name === to.name || (from.verbatim && to.verbatim);
  const tags = readTags(source, from, fields, () => undefined).map(({ tag }) => tag);
  const footer = (kind: keyof FooterTexts): string => footerIn(kind, setting, report);
  const footerChanges = isSame && mode === 'keep' ? [] : footerEdits(source, { mode, from, to, tags, footer });
  const edits = [...footerChanges, ...(isSame ? [] : regionEdits(source, setting, footerChanges, report))];
  const result = convertTags(source, { ...setting, edits }, report);
  if (mode === 'keep' && /<body\b/i.test(source.text) && isHtml(source.text)) reportMissing(source, tags, to, report);
  return result;
}

/** The changes of the marks of regions, but for those in a footer that goes. */
function regionEdits(
  source: SourceText,
  { from, to }: DocumentConversion,
  footerChanges: readonly SourceEdit[],
  report: Report,
): SourceEdit[] {
  const regions = convertRegions(source, from, to, from.delimiters);
  reportRegions(source, regions.losses, to, report);
  return regions.edits.filter(({ span }) => !isTakenOut(span, footerChanges));
}

/** What of the regions is lost: one finding where the target marks none at all, else one for each. */
function reportRegions(source: SourceText, losses: readonly RegionLoss[], to: Dialect, report: Report): void {
  const [first] = losses;
  if (first === undefined) return;
  if (Object.keys(to.regions).length === 0) {
    const names = losses.map(({ name }) => name).join(', ');
    report(finding('region-loss', { source, span: first.span }, { dialect: to.title, names }));
    return;
  }
  for (const { span, name, what } of losses)
    report(finding('region-mark-loss', { source, span }, { name, what, dialect: to.title }));
}

/** The new footer in the target's dialect. */
function footerIn(kind: keyof FooterTexts, setting: DocumentConversion, report: Report): string {
  const { to, fields, answers } = setting;
  const { texts, name } = setting.footer ?? { texts: usualFooter(to), name: 'the usual footer' };
  const source = new SourceText(name, texts[kind]);
  return convertTags(source, { from: neutralDialect, to, others: [], fields, answers }, report).text ?? '';
}

/** What the target refuses a document without. */
function reportMissing(source: SourceText, tags: readonly MergeTag[], to: Dialect, report: Report): void {
  for (const name of missingSystemValues(tags, to)) {
    const what = (systemValues.get(name) ?? name).replace(/^the /, '');
    report(finding('footer-missing-converted', { source, span: spanAt(0, 0) }, { what, dialect: to.title }));
  }
}
