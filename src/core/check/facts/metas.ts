import { attribute, elementsOf, type ElementNode, type TreeNode } from '../../html/tree.js';
import type { Span } from '../../text/span.js';
import type { Page } from '../page/page.js';

/** How a page says that its letters are encoded, and where; null where it does not. */
export function charsetOf(page: Page): { readonly element: ElementNode; readonly charset: string } | null {
  for (const element of page.withTag('meta')) {
    const own = attribute(element, 'charset');
    if (own !== null) return { element, charset: own.trim() };
    if (attribute(element, 'http-equiv')?.trim().toLowerCase() !== 'content-type') continue;
    const charset = /charset\s*=\s*["']?([^"';\s]+)/i.exec(attribute(element, 'content') ?? '')?.[1];
    if (charset !== undefined) return { element, charset };
  }
  return null;
}

/** A comment of a page. */
export interface Comment {
  readonly value: string;
  readonly span: Span;
}

/** The comments of a page, in order. */
export function commentsOf(page: Page): Comment[] {
  const comments: Comment[] = [];
  const look = (nodes: readonly TreeNode[]): void => {
    for (const node of nodes)
      if (node.kind === 'comment' && node.span !== null) comments.push({ value: node.value, span: node.span });
  };
  look(page.doc.outside);
  for (const { children } of elementsOf(page.doc.root)) look(children);
  return comments.sort((a, b) => a.span.start - b.span.start);
}
