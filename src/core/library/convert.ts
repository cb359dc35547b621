import { chosenDialect, recognizedDialect } from '../dialects/convert/choose-dialect.js';
import { convertDocument } from '../dialects/convert/convert-document.js';
import type { Conversion } from '../dialects/convert/convert-tags.js';
import type { FooterMode } from '../dialects/convert/footer.js';
import type { Dialect, FooterTexts } from '../dialects/dialect.js';
import type { MergeFields } from '../dialects/model.js';
import type { LossAnswers } from '../dialects/write/tag-texts.js';
import type { Report } from '../findings/finding.js';
import type { SourceText } from '../text/source-text.js';
import { collected, sourceOf, type Result, type Text } from './result.js';

/** How finished HTML goes from one dialect to another. */
export interface ConvertOptions {
  /** The dialect to read: one, or the name of one of `dialects`; it is found by its tags where this is not said. */
  readonly from?: Dialect | string;
  readonly to: Dialect;
  /** All dialects that are known, by which tags of others are found. */
  readonly dialects?: readonly Dialect[];
  /** What is known of the recipient's fields. */
  readonly fields?: MergeFields;
  /** The footer: kept where this is not said, put in another's place, added where the target needs one, taken out. */
  readonly footer?: FooterMode;
  /** The footer to put in, in the neutral notation, and what findings call it. */
  readonly footerTexts?: { readonly texts: FooterTexts; readonly name: string } | null;
  /** What stands for what the target cannot say; where nobody answers, it is an error. */
  readonly answers?: LossAnswers | null;
}

/**
 * Converts the merge tags, the regions and the footer of finished HTML; every other byte stays. The value's `text` is null
 * where something cannot be said, or cannot be read; the value is null where the dialect to read is not known.
 * @example
 * const { value, findings } = convert('<p>Hi @{first_name ?? "you"}</p>', { from: neutralDialect, to: ferrywire });
 */
export function convert(html: Text | SourceText, options: ConvertOptions): Result<Conversion | null> {
  const { to, dialects = [], fields = new Map(), footer: mode = 'keep', footerTexts = null, answers = null } = options;
  const source = sourceOf(html, 'index.html');
  return collected((report) => {
    const from = dialectToRead(source, options, report);
    if (from === null) return null;
    return convertDocument(source, { from, to, others: dialects, fields, answers, mode, footer: footerTexts }, report);
  });
}

function dialectToRead(source: SourceText, { from, dialects = [] }: ConvertOptions, report: Report): Dialect | null {
  if (from === undefined) return recognizedDialect(source, dialects, report);
  return typeof from === 'string' ? chosenDialect(from, dialects, report) : from;
}
