/** What is known of a picture's file. */
export interface PictureFile {
  /** Its own size, in pixels. */
  readonly width: number;
  readonly height: number;
  readonly bytes: number;
  /** Its kind, by what is in it: `png`, `webp`. */
  readonly format: string;
  /** Whether it is a drawing in dark colours on a transparent ground. */
  readonly isDark: boolean;
}
