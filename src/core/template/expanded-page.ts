import type { SourceText } from '../text/source-text.js';
import type { Span } from '../text/span.js';

/** A stretch of an expanded page that is for one version of the message alone. */
export interface VersionSpan {
  readonly version: 'html' | 'text';
  readonly span: Span;
  /** Where the comments stand that keep its texts apart from those around it. */
  readonly borders: readonly [before: number, after: number];
}

/** A page whose build values are filled in and whose parts are put in: of both versions of a message. */
export interface ExpandedPage {
  readonly source: SourceText;
  readonly only: readonly VersionSpan[];
}
