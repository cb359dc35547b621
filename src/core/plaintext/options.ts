import type { TagRole } from '../dialects/tag-role.js';

/** How links are written: as numbered notes at the end, beside their text, or not at all. */
export type LinkStyle = 'notes' | 'beside' | 'none';

export interface TextOptions {
  /** Columns that a line may take. */
  readonly width: number;
  readonly links: LinkStyle;
  /** How many terminal cells a text takes. */
  readonly measure: (text: string) => number;
  /** The role of a template tag, by its text; null for one that stands for a value. */
  readonly tagRole: (tag: string) => TagRole | null;
}
