import type { Finding } from '../../core/findings/finding.js';
import type { ShapeName } from '../../core/dialects/package-shapes.js';
import type { PictureSummary } from '../visit/place-pictures.js';
import type { VisitRequest } from '../visit/choose-messages.js';
import type { Written } from './write-outputs.js';

/** What to build. */
export interface BuildRequest extends VisitRequest {
  /** The folder that outputs go below. */
  readonly outFolder: string;
  /** How the package that the destination imports is made, too; null where none is wanted. */
  readonly pack: PackRequest | null;
  /** Whether what has not changed since it was built is built again, too. */
  readonly isFresh: boolean;
}

/** How packages are made. */
export interface PackRequest {
  /** The shape that is asked for; null for that of the dialect. */
  readonly shape: ShapeName | null;
}

/** One message, or one of its editions, at one destination. */
export interface BuildOutcome {
  readonly message: string;
  /** Null for a message without editions. */
  readonly edition: string | null;
  readonly destination: string;
  readonly findings: readonly Finding[];
  /** What was written, or null where errors kept everything as it was. */
  readonly written: Written | null;
  /** What became of its pictures; null where nothing was written. */
  readonly pictures: PictureSummary | null;
  /** The shape that it was packed in; null where it was not. */
  readonly shape: ShapeName | null;
  /** Whether it stood there already: nothing that it is made from has changed since. */
  readonly isUnchanged: boolean;
}
