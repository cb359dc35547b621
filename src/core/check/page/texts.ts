import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import { replaceSentinels } from '../../html/tags.js';
import type { ElementNode, TextNode, TreeNode } from '../../html/tree.js';
import { pushChildren } from '../../html/tree.js';
import { isReadable, isShown } from '../../plaintext/visible.js';
import type { StyledPage, ViewName } from './styled-page.js';

/** A stretch of text that a reader sees. */
export interface ShownText {
  readonly node: TextNode;
  readonly element: ElementNode;
  readonly style: ComputedStyle;
  /** Its words, with single spaces; a template tag stands in it as a sentinel. */
  readonly words: string;
}

/** The texts of a page that are shown in a view, in order. */
export function shownTexts(page: StyledPage, view: ViewName): ShownText[] {
  const styles = page.styles(view);
  const found: ShownText[] = [];
  const stack: TreeNode[] = page.body === null ? [] : [page.body];
  for (let node = stack.pop(); node !== undefined; node = stack.pop()) {
    if (node.kind === 'comment') continue;
    const element = node.kind === 'text' ? node.parent : node;
    const style = element === null ? undefined : styles[page.index.of.get(element)?.order ?? -1];
    if (style === undefined || element === null) continue;
    if (node.kind === 'element') {
      if (isShown(node, style)) pushChildren(stack, node);
      continue;
    }
    const words = page.words(node);
    if (words !== '' && isReadable(style)) found.push({ node, element, style, words });
  }
  return found;
}

/** Whether an element is one of some, or stands in one of them: what is told of the outer one is told. */
export function isWithin(element: ElementNode, told: ReadonlySet<ElementNode>): boolean {
  for (let around: ElementNode | null = element; around !== null; around = around.parent)
    if (told.has(around)) return true;
  return false;
}

/** A text without its template tags, for whoever counts its letters. */
export function plainWords(words: string): string {
  return replaceSentinels(words, () => '')
    .replace(/\s+/g, ' ')
    .trim();
}
