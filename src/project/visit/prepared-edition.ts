import type { MessageVersions } from '../../core/message/compile-message.js';
import type { BuildRecord } from '../../core/expressions/values.js';
import type { SourceText } from '../../core/text/source-text.js';
import type { AttachedFile } from '../load/message-files.js';
import type { CarriedPicture } from '../load/message-pictures.js';

/** One output of a message: the message itself, or one of its editions. */
export interface Edition {
  /** Null for a message without editions. */
  readonly name: string | null;
  readonly values: BuildRecord;
  readonly shared: BuildRecord;
}

/** An edition, compiled. */
export interface PreparedEdition {
  readonly edition: Edition;
  readonly versions: MessageVersions;
  /** Its pictures, ready for mail, by the paths that the message gives. */
  readonly pictures: ReadonlyMap<string, CarriedPicture>;
  readonly attachments: readonly AttachedFile[];
  /** The style sheets that it links, by the paths that the message gives. */
  readonly styleSheets: ReadonlyMap<string, SourceText>;
}
