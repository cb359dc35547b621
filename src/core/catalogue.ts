import { cssFindings } from './findings/css.js';
import { htmlFindings } from './findings/html.js';
import { mailFindings } from './findings/mail.js';
import { mergeFindings } from './findings/merge.js';
import { pictureFindings } from './findings/pictures.js';
import { plainTextFindings } from './findings/plain-text.js';
import { regionFindings } from './findings/regions.js';
import { serviceFindings } from './findings/services.js';
import { sliceFindings } from './findings/slices.js';
import { templateFindings } from './findings/templates.js';
import { usageFindings } from './findings/usage.js';

export type { CatalogueEntry, Severity } from './findings/entry.js';

/**
 * Every finding that Inscriba can have: the files of `findings/` are the only place where their sentences are written.
 * Codes are stable; machines may rely on them.
 */
export const catalogue = {
  ...usageFindings,
  ...htmlFindings,
  ...pictureFindings,
  ...cssFindings,
  ...templateFindings,
  ...regionFindings,
  ...mergeFindings,
  ...serviceFindings,
  ...sliceFindings,
  ...plainTextFindings,
  ...mailFindings,
};

export type FindingCode = keyof typeof catalogue;
