import type { TextNode, TreeNode } from '../../html/tree.js';
import { pushChildren } from '../../html/tree.js';
import type { Page } from '../page/page.js';
import { shownWords } from '../page/words.js';

/** What inboxes show beside the subject, as a page has it: a hidden text before everything else. */
export interface Preheader {
  readonly node: TextNode;
  readonly text: string;
  /** Whether characters without width fill it up, so that nothing of the body follows it. */
  readonly isFilled: boolean;
}

/** The preheader of finished HTML; null where the first text is one that shows. */
export function preheaderOf(page: Page): Preheader | null {
  const shown = new Set(page.texts('desk').map(({ node }) => node));
  const stack: TreeNode[] = page.body === null ? [] : [page.body];
  for (let node = stack.pop(); node !== undefined; node = stack.pop()) {
    if (node.kind === 'element' && !/^(?:style|script|title)$/.test(node.tag)) pushChildren(stack, node);
    if (node.kind !== 'text') continue;
    const text = shownWords(node.value);
    if (text === '') continue;
    return shown.has(node)
      ? null
      : { node, text, isFilled: /[\u034f\u200b-\u200f\u2007\u00ad\ufeff]/.test(node.value) };
  }
  return null;
}
