import { checkFindings } from './areas/check.js';
import { cssFindings } from './areas/css.js';
import { htmlFindings } from './areas/html.js';
import { mailFindings } from './areas/mail.js';
import { mergeFindings } from './areas/merge.js';
import { pictureFindings } from './areas/pictures.js';
import { plainTextFindings } from './areas/plain-text.js';
import { proofFindings } from './areas/proofs.js';
import { regionFindings } from './areas/regions.js';
import { pushFindings } from './areas/push.js';
import { serviceFindings } from './areas/services.js';
import { sliceFindings } from './areas/slices.js';
import { templateFindings } from './areas/templates.js';
import { usageFindings } from './areas/usage.js';

export type { CatalogueEntry, Severity } from './areas/entry.js';

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
  ...pushFindings,
  ...sliceFindings,
  ...plainTextFindings,
  ...mailFindings,
  ...proofFindings,
  ...checkFindings,
};

export type FindingCode = keyof typeof catalogue;
