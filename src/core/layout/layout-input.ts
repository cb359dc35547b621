import type { StyleRule } from '../css/cascade/rules.js';
import type { Doc } from '../html/tree.js';
import type { WebFont } from './boxes/fonts.js';
import type { PictureSize } from './content/room.js';

/** What the layout of a message needs. */
export interface LayoutInput {
  readonly doc: Doc;
  /** The author's rules, in order. */
  readonly rules: readonly StyleRule[];
  /** The width of the message in px, for pictures and the `word` engine, where no container bounds it. */
  readonly width: number;
  /** The natural size of a picture, by the path that the source gives. */
  readonly pictureSize: (path: string) => PictureSize | null;
  /** The web fonts that the message may use. */
  readonly fonts: readonly WebFont[];
  /** Whether pictures can be drawn from others: cropped, for `object-fit`. */
  readonly drawsPictures: boolean;
  /** Where the message is looked at through a window of one width alone, that width, in px: no other circumstances count. */
  readonly onlyViewport?: number | undefined;
}
