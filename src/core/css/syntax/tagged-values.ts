import { FILLER } from '../../html/mask.js';
import { splitAtSentinels } from '../../html/tags.js';
import { elementsOf, maskedValue, type Doc, type ElementNode, type TreeNode } from '../../html/tree.js';

/** What a document says to selectors: its mode, and the attributes that a platform fills in. */
export interface SelectorSetting {
  readonly quirks: boolean;
  /** The values, masked, in which a template tag stands, by the name of their attribute in lower case. */
  readonly tagged: ReadonlyMap<string, readonly string[]>;
  /** Whether there are template tags at all. */
  readonly isFilledIn: boolean;
  /** Elements among whose children a block of a template begins or ends. */
  readonly openParents: ReadonlySet<ElementNode>;
  /** A value of the tree as selectors see it, with filler in place of template tags. */
  readonly masked: (value: string) => string;
}

/** A document without template tags. */
export const untagged: SelectorSetting = {
  quirks: false,
  tagged: new Map(),
  isFilledIn: false,
  openParents: new Set(),
  masked: (value) => value,
};

/** How the tags of blocks begin in the template languages that we know of, delimiters left out. */
const blockTag =
  /^\W{1,3}\s*[-~]?\s*(?:[#^/]|%|(?:if|else|elif|elsif|elseif|unless|each|for|case|when|switch|repeat|section|loop|with|end\w*|stop|done|otherwise)\b)|^\W{0,2}%/i;

/** Reads what a document says to selectors. */
export function selectorSetting(doc: Doc): SelectorSetting {
  if (doc.tags.length === 0) return { ...untagged, quirks: doc.quirks };
  const tagged = new Map<string, string[]>();
  const openParents = new Set<ElementNode>();
  const isBlock = doc.tags.map((tag) => blockTag.test(doc.source.slice(tag)));
  for (const element of elementsOf(doc.root)) {
    const holdsBlock = (child: TreeNode): boolean =>
      child.kind === 'text' &&
      splitAtSentinels(child.value).some((piece) => typeof piece === 'number' && isBlock[piece]);
    if (element.children.some(holdsBlock)) openParents.add(element);
    for (const { name, value } of element.attributes.values()) {
      const masked = maskedValue(doc, value);
      if (masked === value) continue;
      const key = name.toLowerCase();
      const values = tagged.get(key) ?? [];
      values.push(masked);
      tagged.set(key, values);
    }
  }
  return { quirks: doc.quirks, tagged, isFilledIn: true, openParents, masked: (value) => maskedValue(doc, value) };
}

/** Whether a text holds a template tag. */
export function holdsFiller(text: string): boolean {
  return text.search(FILLER) >= 0;
}

/** Whether some text that a platform may fill in for a masked one passes a test that is told by a pattern. */
export function mayBe(masked: string, wanted: string): boolean {
  return patternOf(masked, '[\\s\\S]*').test(wanted) || patternOf(wanted, '[\\s\\S]*').test(masked);
}

/** Whether a name (of a class, an id) that is filled in in part may come out as this one; one that is a tag alone tells nothing. */
export function mayBeName(masked: string, name: string): boolean {
  const isOpen = holdsFiller(masked) && masked.replace(FILLER, '') !== '';
  return isOpen && patternOf(masked, '\\S*').test(name);
}

function patternOf(masked: string, wild: string): RegExp {
  const parts = masked.split(FILLER).map((part) => part.replace(/[.*+?^${}()|[\]\\]/g, '\\$&'));
  return new RegExp(`^${parts.join(wild)}$`);
}
