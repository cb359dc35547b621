/** The properties that decide what a text version says, and how it is set. */
export const shownProperties = [
  'display',
  'font-size',
  'height',
  'list-style-type',
  'max-height',
  'max-width',
  'overflow',
  'text-align',
  'text-transform',
  'visibility',
  'white-space',
  'word-spacing',
] as const;

type ShownProperty = (typeof shownProperties)[number];

/** The style of an element, as far as a text version asks for it. */
export interface ShownStyle {
  readonly get: (property: ShownProperty) => string;
  /** A length in px; null where the value is none. */
  readonly pixels: (property: ShownProperty) => number | null;
}
