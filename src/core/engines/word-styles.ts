/** A declaration, without where it stands. */
export interface Said {
  readonly property: string;
  readonly value: string;
}

/** What of an element decides how the `word` engine reads its styles. */
export interface StyledElement {
  readonly tag: string;
  /** Whether an attribute says how wide it is. */
  readonly hasWidth: boolean;
}

const cells = /^t[dh]$/;
const withMargins = /^(?:p|h[1-6]|ul|ol|li|dl|dt|dd|blockquote|pre|hr|table|body)$/;

/**
 * A declaration as the `word` engine reads it on an element, where that depends on the element: it lays out text in paragraphs
 * and tables, and knows boxes in no other place. Null where it does not read it.
 */
export function wordSaid(said: Said, { tag, hasWidth }: StyledElement): Said | null {
  const { property, value } = said;
  if (property === 'mso-hide') return /^all$/i.test(value) ? { property: 'display', value: 'none' } : null;
  if (property === 'mso-padding-alt') return cells.test(tag) ? { property: 'padding', value } : null;
  if (/^padding(?:-|$)/.test(property)) return cells.test(tag) ? said : null;
  if (/^margin(?:-|$)/.test(property)) return withMargins.test(tag) ? said : null;
  if (property === 'display' && value === 'inline-block') return null;
  if (property === 'float') return tag === 'img' || tag === 'table' ? said : null;
  // The size of a picture is what its attributes say.
  if (tag === 'img' && hasWidth && /^(?:width|height)$/.test(property)) return null;
  return said;
}
